//! Pages that people wrote, and the stylesheets they link, as they are on this disk: read as browsers read them, each file once,
//! and no more than was agreed.

mod address;
mod encoding;

use crate::disk::{self, plain};
use address::{Address, resolve};
use encoding::{css, html};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use stilk_checks::scan::Linked;
use stilk_engine::cascade::Stylesheet;
use stilk_text::source::FileError;

/// Bytes of a page.
const LARGEST_PAGE: u64 = 16 << 20;
/// Bytes of a stylesheet.
const LARGEST_SHEET: u64 = 8 << 20;
/// Bytes of all stylesheets of a run.
const ALL_SHEETS: u64 = 64 << 20;

/// Elements in each other; browsers stop nesting long before.
const DEEPEST: usize = 5_000;

/// How deep elements are nested at most, of those that have to be closed: parsing takes the square of it.
fn depth(text: &str) -> usize {
    const UNCLOSED: [&str; 40] = [
        "area", "base", "body", "br", "caption", "col", "colgroup", "dd", "dt", "embed", "head", "hr", "html", "image",
        "img", "input", "keygen", "li", "link", "meta", "optgroup", "option", "p", "param", "rb", "rp", "rt", "rtc",
        "source", "tbody", "td", "tfoot", "th", "thead", "tr", "track", "wbr", "path", "circle", "rect",
    ];
    let (mut depth, mut deepest) = (0_usize, 0);
    for piece in text.split('<').skip(1) {
        let (is_end, name) = match piece.strip_prefix('/') {
            Some(name) => (true, name),
            None => (false, piece),
        };
        let end = name.find(|c: char| !c.is_ascii_alphanumeric()).unwrap_or(name.len());
        let name = name[..end].to_ascii_lowercase();
        if name.is_empty()
            || UNCLOSED.contains(&name.as_str())
            || piece.split('>').next().is_some_and(|tag| tag.ends_with('/'))
        {
            continue;
        }
        depth = if is_end { depth.saturating_sub(1) } else { depth + 1 };
        deepest = deepest.max(depth);
    }
    deepest
}

/// Reads a page as text, in the encoding that a browser would take it for.
///
/// # Errors
/// It cannot be read, or is no text.
pub fn read_page(path: &Path) -> Result<String, String> {
    page_text(&disk::read(path, LARGEST_PAGE).map_err(|error| said(&error, LARGEST_PAGE))?)
}

/// The text of a page, in the encoding that a browser would take it for.
///
/// # Errors
/// It is no text, or no page that is looked at.
pub fn page_text(bytes: &[u8]) -> Result<String, String> {
    not_too_deep(html(bytes)?)
}

/// A page's text, where its elements are not nested so deeply that reading it would take for ever.
///
/// # Errors
/// They are.
pub fn not_too_deep(text: String) -> Result<String, String> {
    match depth(&text) > DEEPEST {
        true => Err(format!("its elements are nested more than {DEEPEST} deep")),
        false => Ok(text),
    }
}

/// Reads a stylesheet as text.
///
/// # Errors
/// It cannot be read, or is no text.
pub fn read_sheet(path: &Path) -> Result<String, String> {
    css(&disk::read(path, LARGEST_SHEET).map_err(|error| said(&error, LARGEST_SHEET))?)
}

fn said(error: &FileError, most: u64) -> String {
    match error {
        FileError::TooLarge => format!("it is larger than {} MB", most >> 20),
        other => other.to_string(),
    }
}

/// A stylesheet that was read.
#[derive(Clone)]
pub struct Sheet {
    /// What it says.
    pub linked: Linked,
    /// What it imports and cannot be had, and why.
    pub missing: Arc<[(String, String)]>,
}

/// Stylesheets that pages link, each read once.
#[derive(Default)]
pub struct Sheets {
    known: Mutex<HashMap<PathBuf, Result<Sheet, String>>>,
    bytes: AtomicU64,
}

impl Sheets {
    /// The stylesheet behind an address on a page.
    ///
    /// # Errors
    /// Why it cannot be had.
    pub fn find(&self, page: &Path, base: Option<&str>, address: &str) -> Result<Sheet, String> {
        match resolve(page, base, address)? {
            Address::File(path) => {
                let path = plain(&path);
                let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
                if let Some(sheet) = known.get(&path) {
                    return sheet.clone();
                }
                let sheet = self.text(&path).map(|text| self.parse(&path, &text));
                known.insert(path, sheet.clone());
                sheet
            }
            Address::Text(text) => Ok(self.parse(Path::new(&address.chars().take(32).collect::<String>()), &text)),
        }
    }

    fn text(&self, path: &Path) -> Result<String, String> {
        let text = read_sheet(path)?;
        let all = self.bytes.fetch_add(text.len() as u64, Ordering::Relaxed) + text.len() as u64;
        match all > ALL_SHEETS {
            true => Err(format!("with it all stylesheets are larger than {} MB together", ALL_SHEETS >> 20)),
            false => Ok(text),
        }
    }

    /// Parses a stylesheet with what it imports.
    pub fn parse(&self, path: &Path, text: &str) -> Sheet {
        let mut missing = Vec::new();
        let mut importer = |address: &str| {
            let text = resolve(path, None, address).and_then(|address| match address {
                Address::File(path) => self.text(&path),
                Address::Text(text) => Ok(text),
            });
            text.map_err(|why| missing.push((address.to_owned(), why))).ok()
        };
        let parsed = Arc::new(Stylesheet::parse_importing(text, &mut importer));
        // Whether what is for paper is there changes nothing on a screen.
        missing.retain(|(address, _)| !parsed.unneeded.contains(address));
        let shown = path.to_string_lossy().replace('\\', "/");
        let path = shown.strip_prefix("./").unwrap_or(&shown).to_owned();
        Sheet { linked: Linked { path, text: text.into(), parsed }, missing: missing.into() }
    }
}
