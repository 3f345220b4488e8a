//! Texts that the program carries with it, packed: the sample, the systems to start from, the scripts of the live page.

use flate2::read::ZlibDecoder;
use std::collections::BTreeMap;
use std::io::Read;
use std::path::PathBuf;
use std::sync::OnceLock;
use stilk_text::source::{FileError, FileText, Files};

/// What the build script packs: each file as its name, its length and its text.
static PACKED: &[u8] = include_bytes!(concat!(env!("OUT_DIR"), "/embedded"));

fn unpacked() -> &'static BTreeMap<String, String> {
    static UNPACKED: OnceLock<BTreeMap<String, String>> = OnceLock::new();
    UNPACKED.get_or_init(|| {
        let mut all = String::new();
        ZlibDecoder::new(PACKED).read_to_string(&mut all).expect("what was packed as text");
        let mut files = BTreeMap::new();
        let mut rest = all.as_str();
        while let Some((name, (length, after))) =
            rest.split_once('\n').and_then(|(name, after)| Some((name, after.split_once('\n')?)))
        {
            let (text, after) = after.split_at(length.parse().expect("a length"));
            files.insert(name.to_owned(), text.to_owned());
            rest = after;
        }
        files
    })
}

/// The text of one file that the program carries.
pub fn text(name: &str) -> &'static str {
    unpacked().get(name).map_or_else(|| panic!("`{name}` is packed"), String::as_str)
}

/// The sources in a folder of those, with their texts; outputs are not among them.
pub fn sources(folder: &str) -> Vec<(PathBuf, &'static str)> {
    let within = |(name, text): (&'static String, &'static String)| {
        let path = name.strip_prefix(folder)?.strip_prefix('/')?;
        Some((PathBuf::from(path), text.as_str()))
    };
    unpacked().iter().filter_map(within).collect()
}

/// A project that is nowhere yet, by path.
pub struct Embedded<'e>(pub &'e BTreeMap<String, String>);

impl Files for Embedded<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.as_bytes())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&before)).map(str::to_owned).collect())
    }
}
