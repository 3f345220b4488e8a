//! Pages of a web archive (WARC, ISO 28500:2017): of its records those that hold the answer to a request and in it HTML. Their
//! stylesheets are records of their own, which another machine may have: what pages link is not looked for.

use super::{LARGEST, StreamPage};
use crate::site::page_text;
use flate2::read::GzDecoder;
use httparse::{EMPTY_HEADER, Header, Response, Status};
use std::io::{self, BufRead, Read};

/// An archive.
pub struct Archive {
    stream: Box<dyn BufRead>,
}

/// The most fields of a record's head, and of an answer's.
const FIELDS: usize = 128;

/// The longest head of a record.
const HEAD: u64 = 1 << 16;

impl Archive {
    pub fn new(stream: Box<dyn BufRead>) -> Archive {
        Archive { stream }
    }

    /// The next record's head, as it stands; nothing at the end.
    fn head(&mut self) -> io::Result<Option<Vec<u8>>> {
        let mut head = Vec::new();
        loop {
            let start = head.len();
            let left = HEAD.saturating_sub(start as u64);
            if self.stream.by_ref().take(left).read_until(b'\n', &mut head)? == 0 {
                return match head.is_empty() {
                    true => Ok(None),
                    false => Err(wrong("a record's head does not end")),
                };
            }
            let is_blank = head[start..].trim_ascii().is_empty();
            // Records end in two blank lines.
            if is_blank && start == 0 {
                head.clear();
            } else if is_blank {
                return Ok(Some(head));
            }
        }
    }

    /// The next record: its page, where it holds one.
    fn record(&mut self) -> io::Result<Option<Option<StreamPage>>> {
        let Some(head) = self.head()? else { return Ok(None) };
        let (version, fields) = head.split_at(head.iter().position(|byte| *byte == b'\n').map_or(0, |at| at + 1));
        if !version.starts_with(b"WARC/") {
            return Err(wrong("what follows a record is none"));
        }
        let mut parsed = [EMPTY_HEADER; FIELDS];
        let fields = match httparse::parse_headers(fields, &mut parsed) {
            Ok(Status::Complete((_, fields))) => fields,
            _ => return Err(wrong("a record's head cannot be read")),
        };
        let length: u64 = field(fields, "content-length")
            .and_then(|length| length.parse().ok())
            .ok_or_else(|| wrong("a record does not say how long it is"))?;
        let is_answer = field(fields, "warc-type") == Some("response")
            && field(fields, "content-type").is_some_and(|kind| kind.starts_with("application/http"));
        let url = field(fields, "warc-target-uri").unwrap_or_default().trim_matches(['<', '>']).to_owned();
        let mut content = self.stream.by_ref().take(length);
        if !is_answer || length > LARGEST {
            io::copy(&mut content, &mut io::sink())?;
            let why = format!("the record is larger than {} MB", LARGEST >> 20);
            return Ok(Some(is_answer.then(|| StreamPage { url, html: Err(why), css: Vec::new() })));
        }
        let mut bytes = Vec::new();
        content.read_to_end(&mut bytes)?;
        if (bytes.len() as u64) < length {
            return Err(wrong("the last record is cut off"));
        }
        Ok(Some(html_in(&bytes).map(|html| StreamPage { url, html, css: Vec::new() })))
    }
}

impl Iterator for Archive {
    type Item = io::Result<StreamPage>;

    fn next(&mut self) -> Option<io::Result<StreamPage>> {
        loop {
            match self.record() {
                Ok(Some(Some(page))) => return Some(Ok(page)),
                Ok(Some(None)) => {}
                Ok(None) => return None,
                Err(why) => return Some(Err(why)),
            }
        }
    }
}

fn wrong(what: &str) -> io::Error {
    io::Error::new(io::ErrorKind::InvalidData, format!("no web archive that can be read: {what}"))
}

fn field<'f>(fields: &'f [Header], name: &str) -> Option<&'f str> {
    let found = fields.iter().find(|field| field.name.eq_ignore_ascii_case(name))?;
    std::str::from_utf8(found.value).ok().map(str::trim)
}

/// The text of an answer (RFC 9112), where it is a page that was found.
fn html_in(answer: &[u8]) -> Option<Result<String, String>> {
    let mut parsed = [EMPTY_HEADER; FIELDS];
    let mut response = Response::new(&mut parsed);
    let Ok(Status::Complete(start)) = response.parse(answer) else { return None };
    let is_html = field(response.headers, "content-type").is_some_and(|kind| {
        let kind = kind.split(';').next().unwrap_or_default().trim();
        kind.eq_ignore_ascii_case("text/html") || kind.eq_ignore_ascii_case("application/xhtml+xml")
    });
    if response.code != Some(200) || !is_html {
        return None;
    }
    let body = &answer[start..];
    let is_chunked =
        field(response.headers, "transfer-encoding").is_some_and(|how| how.eq_ignore_ascii_case("chunked"));
    // Some archives keep the head as it was and the body without its chunks.
    let body = if is_chunked { dechunked(body).unwrap_or_else(|| body.to_vec()) } else { body.to_vec() };
    let body = match field(response.headers, "content-encoding") {
        None => Ok(body),
        Some(how) if how.eq_ignore_ascii_case("identity") => Ok(body),
        Some(how) if how.eq_ignore_ascii_case("gzip") && body.starts_with(&[0x1f, 0x8b]) => {
            let mut plain = Vec::new();
            let read = GzDecoder::new(&body[..]).take(LARGEST).read_to_end(&mut plain);
            read.map(|_| plain).map_err(|why| format!("its compressed text cannot be read: {why}"))
        }
        Some(how) if how.eq_ignore_ascii_case("gzip") => Ok(body),
        Some(how) => Err(format!("its text is compressed by `{how}`, which is not read")),
    };
    Some(body.and_then(|body| page_text(&body)))
}

/// What chunks hold together; nothing where these are none.
fn dechunked(mut body: &[u8]) -> Option<Vec<u8>> {
    let mut whole = Vec::new();
    loop {
        let Ok(Status::Complete((start, size))) = httparse::parse_chunk_size(body) else { return None };
        let size = usize::try_from(size).ok()?;
        if size == 0 {
            return Some(whole);
        }
        whole.extend_from_slice(body.get(start..start.checked_add(size)?)?);
        body = body.get(start + size + 2..)?;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_answer_is_read_as_it_was_sent() {
        let page = |head: &str, body: &[u8]| {
            let head = format!("HTTP/1.1 200 OK\r\nContent-Type: text/html; charset=utf-8\r\n{head}\r\n");
            html_in(&[head.as_bytes(), body].concat())
        };
        assert_eq!(page("", b"<p>x"), Some(Ok("<p>x".to_owned())));
        let chunked = page("Transfer-Encoding: chunked\r\n", b"3\r\n<p>\r\n1\r\nx\r\n0\r\n\r\n");
        assert_eq!(chunked, Some(Ok("<p>x".to_owned())));
        assert_eq!(page("Transfer-Encoding: chunked\r\n", b"<p>x"), Some(Ok("<p>x".to_owned())));
        let squeezed = {
            let mut encoder = flate2::write::GzEncoder::new(Vec::new(), flate2::Compression::fast());
            io::Write::write_all(&mut encoder, b"<p>x").expect("memory");
            encoder.finish().expect("memory")
        };
        assert_eq!(page("Content-Encoding: gzip\r\n", &squeezed), Some(Ok("<p>x".to_owned())));
        assert!(page("Content-Encoding: br\r\n", b"x").is_some_and(|read| read.is_err()));
        assert_eq!(html_in(b"HTTP/1.1 404 Not Found\r\nContent-Type: text/html\r\n\r\n<p>x"), None);
        assert_eq!(html_in(b"HTTP/1.1 200 OK\r\nContent-Type: text/css\r\n\r\nx"), None);
        assert_eq!(html_in(b"nonsense"), None);
    }
}
