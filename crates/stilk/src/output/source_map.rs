//! Source maps (ECMA-426) of written stylesheets: each declaration leads to the sheet or token file it came from.

use sourcemap::SourceMapBuilder;
use stilk_language::stylesheet::Written;
use stilk_text::source::Sources;

/// The map of a stylesheet. `file` is its name; `to_root` leads from its folder to the project's.
pub fn render(written: &Written, sources: &Sources, file: &str, to_root: &str) -> String {
    let mut builder = SourceMapBuilder::new(Some(file));
    let mut line = 0;
    let mut line_start = 0;
    let mut at = 0;
    for (offset, span) in written.origins() {
        let offset = offset as usize;
        for (i, byte) in written.text.as_bytes()[at..offset].iter().enumerate() {
            if *byte == b'\n' {
                line += 1;
                line_start = at + i + 1;
            }
        }
        at = offset;
        let source = sources.file(span.file);
        let place = sources.position(span);
        let before = &source.text[source.line_start(place.line)..span.start as usize];
        let path = format!("{to_root}{}", source.path);
        let id = builder.add_source(&path);
        // Lines and columns count from 0; columns are UTF-16 code units.
        let column = utf16(&written.text[line_start..offset]);
        builder.add_raw(line, column, place.line as u32 - 1, utf16(before), Some(id), None, false);
        if builder.get_source_contents(id).is_none() {
            builder.set_source_contents(id, Some(&source.text));
        }
    }
    let mut text = Vec::new();
    // Writing to memory does not fail.
    let _ = builder.into_sourcemap().to_writer(&mut text);
    text.push(b'\n');
    String::from_utf8(text).unwrap_or_default()
}

fn utf16(text: &str) -> u32 {
    text.encode_utf16().count() as u32
}
