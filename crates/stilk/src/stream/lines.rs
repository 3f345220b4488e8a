//! Pages as lines of JSON: `{"url", "html", "css": [TEXT or {"url", "text"}, …]}`.

use super::{LARGEST, StreamPage, StreamSheet};
use crate::site::not_too_deep;
use serde::Deserialize;
use std::io::{self, BufRead, Read};

/// A stream of lines.
pub struct Lines {
    stream: Box<dyn BufRead>,
    line: u64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Line {
    url: String,
    html: String,
    #[serde(default)]
    css: Vec<Css>,
}

#[derive(Deserialize)]
#[serde(untagged)]
enum Css {
    Text(String),
    Linked { url: String, text: String },
}

impl Lines {
    pub fn new(stream: Box<dyn BufRead>) -> Lines {
        Lines { stream, line: 0 }
    }

    fn page(&self, line: &[u8]) -> StreamPage {
        match serde_json::from_slice::<Line>(line) {
            Ok(Line { url, html, css }) => StreamPage {
                url,
                html: not_too_deep(html),
                css: css
                    .into_iter()
                    .map(|css| match css {
                        Css::Text(text) => StreamSheet { url: None, text },
                        Css::Linked { url, text } => StreamSheet { url: Some(url), text },
                    })
                    .collect(),
            },
            Err(why) => {
                #[derive(Deserialize)]
                struct Named {
                    url: String,
                }
                // What is wrong is told of the page where that much can be read.
                let url = serde_json::from_slice::<Named>(line)
                    .map_or_else(|_| format!("line {}", self.line), |named| named.url);
                let wanted = "a line is {\"url\": …, \"html\": …, \"css\": [TEXT or {\"url\": …, \"text\": …}]}";
                StreamPage { url, html: Err(format!("line {}: {why}; {wanted}", self.line)), css: Vec::new() }
            }
        }
    }
}

impl Iterator for Lines {
    type Item = io::Result<StreamPage>;

    fn next(&mut self) -> Option<io::Result<StreamPage>> {
        loop {
            let mut line = Vec::new();
            match self.stream.by_ref().take(LARGEST).read_until(b'\n', &mut line) {
                Ok(0) => return None,
                Ok(_) => self.line += 1,
                Err(why) => return Some(Err(why)),
            }
            if line.len() as u64 == LARGEST && !line.ends_with(b"\n") {
                let url = format!("line {}", self.line);
                let why = format!("the line is longer than {} MB", LARGEST >> 20);
                return Some(skip_line(&mut self.stream).map(|()| StreamPage { url, html: Err(why), css: Vec::new() }));
            }
            if !line.trim_ascii().is_empty() {
                return Some(Ok(self.page(line.trim_ascii())));
            }
        }
    }
}

/// Reads on to the end of a line and keeps nothing.
fn skip_line(stream: &mut dyn BufRead) -> io::Result<()> {
    loop {
        let buffer = stream.fill_buf()?;
        if buffer.is_empty() {
            return Ok(());
        }
        let end = buffer.iter().position(|byte| *byte == b'\n');
        let length = end.map_or(buffer.len(), |end| end + 1);
        stream.consume(length);
        if end.is_some() {
            return Ok(());
        }
    }
}
