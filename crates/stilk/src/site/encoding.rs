//! From bytes to text, as browsers do it.

use encoding_rs::{Encoding, UTF_8, UTF_16BE, UTF_16LE, WINDOWS_1252};
use stilk_engine::page::Page;

/// Bytes in which a page says its encoding (HTML, section 13.2.3.2).
const HEAD: usize = 1024;

/// A page's text.
///
/// # Errors
/// What it is in place of text.
pub fn html(bytes: &[u8]) -> Result<String, String> {
    let said = || {
        let head = &bytes[..bytes.len().min(HEAD)];
        Page::parse(&WINDOWS_1252.decode_without_bom_handling(head).0).charset()
    };
    decode(bytes, said)
}

/// A stylesheet's text (CSS Syntax 3, section 3.2).
///
/// # Errors
/// What it is in place of text.
pub fn css(bytes: &[u8]) -> Result<String, String> {
    let said = || {
        let rest = bytes.strip_prefix(b"@charset \"")?;
        let end = rest.iter().take(HEAD).position(|byte| *byte == b'"')?;
        rest[end..].starts_with(b"\";").then(|| String::from_utf8_lossy(&rest[..end]).into_owned())
    };
    decode(bytes, said)
}

fn decode(bytes: &[u8], said: impl Fn() -> Option<String>) -> Result<String, String> {
    if bytes.starts_with(&[0x1f, 0x8b]) {
        return Err("it is compressed".to_owned());
    }
    let encoding = match Encoding::for_bom(bytes) {
        Some((encoding, _)) => encoding,
        None => match said().and_then(|label| Encoding::for_label(label.as_bytes())) {
            // Who can read that it is UTF-16 reads no UTF-16.
            Some(encoding) if encoding == UTF_16LE || encoding == UTF_16BE => UTF_8,
            Some(encoding) => encoding,
            // Nothing is said: what is well-formed is meant so, all else is as old as the web.
            None if std::str::from_utf8(bytes).is_ok() => UTF_8,
            None => WINDOWS_1252,
        },
    };
    let (text, _, _) = encoding.decode(bytes);
    // A text may hold a stray one; a file of another kind is full of them.
    let zeros = text.chars().take(HEAD).filter(|c| *c == '\0').count();
    if zeros > 8 { Err("it is no text".to_owned()) } else { Ok(text.into_owned()) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bytes_are_read_as_a_browser_reads_them() {
        let utf_16 = |text: &str| [vec![0xff, 0xfe], text.encode_utf16().flat_map(u16::to_le_bytes).collect()].concat();
        for (bytes, text) in [
            ("<p>ä".as_bytes().to_vec(), Some("<p>ä")),
            ("\u{feff}<p>ä".as_bytes().to_vec(), Some("<p>ä")),
            (b"<p>\xe4".to_vec(), Some("<p>ä")),
            (b"<meta charset=iso-8859-2><p>\xb1".to_vec(), Some("<meta charset=iso-8859-2><p>ą")),
            (
                b"<meta http-equiv=Content-Type content='text/html; charset=koi8-r'>\xc1".to_vec(),
                Some("<meta http-equiv=Content-Type content='text/html; charset=koi8-r'>а"),
            ),
            (b"<!--<meta charset=koi8-r>-->\xe4".to_vec(), Some("<!--<meta charset=koi8-r>-->ä")),
            (utf_16("<p>ä"), Some("<p>ä")),
            (vec![0x1f, 0x8b, 8, 0], None),
            (vec![0; 64], None),
        ] {
            assert_eq!(html(&bytes).ok().as_deref(), text);
        }
        assert_eq!(css(b"@charset \"iso-8859-1\"; a { content: '\xe4' }").unwrap().matches('ä').count(), 1);
    }
}
