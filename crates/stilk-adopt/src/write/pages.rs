//! Pages that link what stays of their stylesheets, and the system's.

use stilk_engine::page::{Page, SheetSource};
use stilk_text::source::Sources;

/// A page's text with other stylesheets: for each that it has, in order, the address of what stands for it (nothing where it
/// stays as it is), and the system's last. All else stays as it was.
pub fn linked(text: &str, instead: &[Option<String>], system: &str) -> String {
    let mut sources = Sources::default();
    let file = sources.add("page", text);
    let page = Page::parse_in(file, text);
    let mut edits: Vec<(usize, usize, String)> = Vec::new();
    let mut last = None;
    for (at, sheet) in page.sheets.iter().enumerate() {
        let Some(span) = page.document.node(sheet.node).span else { continue };
        let (start, mut end) = (span.start as usize, span.end as usize);
        if matches!(sheet.source, SheetSource::Inline(_)) {
            let close = text[end..].to_ascii_lowercase().find("</style");
            let close = close.map(|at| end + at);
            end = close.and_then(|at| text[at..].find('>').map(|more| at + more + 1)).unwrap_or(text.len());
        }
        last = Some(end);
        if let Some(address) = instead.get(at).and_then(Option::as_ref) {
            let media = match sheet.media.as_str() {
                "" => String::new(),
                media => format!(" media=\"{media}\""),
            };
            edits.push((start, end, format!("<link rel=\"stylesheet\" href=\"{address}\"{media}>")));
        }
    }
    let Some(last) = last else { return text.to_owned() };
    let link = format!("<link rel=\"stylesheet\" href=\"{system}\">");
    match edits.iter_mut().find(|(_, end, _)| *end == last) {
        Some((_, _, written)) => written.push_str(&format!("\n{link}")),
        None => edits.push((last, last, format!("\n{link}"))),
    }
    let (mut written, mut at) = (String::with_capacity(text.len()), 0);
    for (start, end, instead) in edits {
        written.push_str(&text[at..start]);
        written.push_str(&instead);
        at = end;
    }
    written + &text[at..]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn links_change_and_nothing_else_does() {
        let page =
            "<!doctype html><title>x</title>\n<link rel=stylesheet href=a.css>\n<style>p { top: 0 }</style>\n<p>Text";
        let instead = [Some("kept/a.css".to_owned()), Some("kept/p.css".to_owned())];
        assert_eq!(
            linked(page, &instead, "dist/x.css"),
            "<!doctype html><title>x</title>\n<link rel=\"stylesheet\" href=\"kept/a.css\">\n\
             <link rel=\"stylesheet\" href=\"kept/p.css\">\n<link rel=\"stylesheet\" href=\"dist/x.css\">\n<p>Text"
        );
        let print = "<link rel=stylesheet href=a.css media=print><p>Text";
        assert_eq!(
            linked(print, &[None], "dist/x.css"),
            "<link rel=stylesheet href=a.css media=print>\n<link rel=\"stylesheet\" href=\"dist/x.css\"><p>Text"
        );
    }
}
