//! Pages that come in a stream, one after the other, from whatever engine spreads them over machines: lines of JSON, or
//! records of a web archive. Nothing is kept from one page to the next but what makes the next one faster.

mod lines;
mod page;
mod warc;

pub use page::{ParsedSheets, answer, scanned, surveyed};

use flate2::bufread::MultiGzDecoder;
use std::io::{self, BufRead, BufReader, Read};

/// A record is read no further than this, in bytes.
const LARGEST: u64 = 64 << 20;

/// A page of a stream.
#[derive(Debug)]
pub struct StreamPage {
    /// Its address, by which it is told.
    pub url: String,
    /// Its text, or why there is none.
    pub html: Result<String, String>,
    /// Stylesheets that come with it.
    pub css: Vec<StreamSheet>,
}

/// A stylesheet that comes with a page.
#[derive(Debug)]
pub struct StreamSheet {
    /// Its address, where the page links it by that; otherwise the page uses it after its own.
    pub url: Option<String>,
    /// Its text.
    pub text: String,
}

/// The pages of a stream.
pub enum Pages {
    /// A line of JSON each.
    Lines(lines::Lines),
    /// Records of a web archive.
    Archive(warc::Archive),
}

impl Pages {
    /// Looks at how a stream begins: as lines of JSON, or as a web archive (ISO 28500), each compressed or not.
    ///
    /// # Errors
    /// It cannot be read.
    pub fn new(stream: impl Read + 'static) -> io::Result<Pages> {
        let mut stream: Box<dyn BufRead> = Box::new(BufReader::with_capacity(1 << 16, stream));
        if stream.fill_buf()?.starts_with(&[0x1f, 0x8b]) {
            // Each record of an archive is compressed by itself.
            stream = Box::new(BufReader::with_capacity(1 << 16, MultiGzDecoder::new(stream)));
        }
        Ok(match stream.fill_buf()?.starts_with(b"WARC/") {
            true => Pages::Archive(warc::Archive::new(stream)),
            false => Pages::Lines(lines::Lines::new(stream)),
        })
    }
}

impl Iterator for Pages {
    type Item = io::Result<StreamPage>;

    fn next(&mut self) -> Option<io::Result<StreamPage>> {
        match self {
            Pages::Lines(lines) => lines.next(),
            Pages::Archive(archive) => archive.next(),
        }
    }
}
