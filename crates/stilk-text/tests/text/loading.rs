//! Files that are read once, and what cannot be read.

use std::cell::RefCell;
use std::collections::BTreeMap;
use stilk_text::loader::Loader;
use stilk_text::source::{FileError, FileText, Files, MAX_FILE_BYTES};

/// Files in memory; what is asked for is noted.
#[derive(Default)]
struct Memory {
    files: BTreeMap<&'static str, Result<FileText, FileError>>,
    asked: RefCell<Vec<String>>,
}

impl Files for Memory {
    fn read(&self, path: &str, _allowed: &[String]) -> Result<FileText, FileError> {
        self.asked.borrow_mut().push(path.to_owned());
        self.files.get(path).cloned().unwrap_or(Err(FileError::Missing))
    }

    fn list(&self, folder: &str, _allowed: &[String]) -> Result<Vec<String>, FileError> {
        let inside = self.files.keys().filter_map(|path| match (folder, path.rsplit_once('/')) {
            ("", None) => Some(*path),
            (folder, Some((own, name))) if own == folder => Some(name),
            _ => None,
        });
        Ok(inside.map(str::to_owned).collect())
    }
}

fn memory(files: &[(&'static str, &[u8])]) -> Memory {
    let own = files.iter().map(|(path, bytes)| (*path, Ok(FileText::own(bytes.to_vec())))).collect();
    Memory { files: own, ..Memory::default() }
}

/// What is said of a path, with its mend.
fn said(files: &Memory, path: &str) -> (String, String, String) {
    let mut loader = Loader::new(files);
    assert!(loader.read(path, None).is_none(), "{path}");
    let all = loader.diagnostics.into_sorted();
    let [one] = all.as_slice() else { panic!("{all:?}") };
    (one.id.to_owned(), one.message.clone(), one.mend.clone().unwrap_or_default())
}

#[test]
fn a_file_is_read_once_without_its_mark() {
    let files = memory(&[("a.css", b"\xef\xbb\xbfx { }")]);
    let mut loader = Loader::new(&files);
    let first = loader.read("a.css", None).expect("a file");
    assert_eq!(loader.read("a.css", None), Some(first));
    assert_eq!(loader.sources.file(first).text, "x { }");
    assert_eq!(*files.asked.borrow(), ["a.css"]);
}

#[test]
fn a_name_that_is_nearly_one_is_offered() {
    let files = memory(&[("controls/button.stilk", b""), ("controls/field.stilk", b""), ("stilk.toml", b"")]);
    let (id, message, mend) = said(&files, "controls/buton.stilk");
    assert_eq!(
        (id.as_str(), message.as_str()),
        ("file/missing", "cannot read `controls/buton.stilk`: there is no such file")
    );
    assert_eq!(mend, "write `controls/button.stilk`, or make the file");
    // A common ending makes no two names alike.
    let (_, _, mend) = said(&files, "controls/zzz.stilk");
    assert_eq!(mend, "make the file, or name another");
    let (_, _, mend) = said(&files, "stilkk.toml");
    assert_eq!(mend, "write `stilk.toml`, or make the file");
}

#[test]
fn what_cannot_be_read_is_said_by_its_cause() {
    let mut files = memory(&[]);
    files.files.insert("../x/t.json", Err(FileError::Outside));
    files.files.insert("pipe", Err(FileError::NotRegular));
    files.files.insert("big.json", Ok(FileText::own(vec![b' '; MAX_FILE_BYTES + 1])));
    files.files.insert("odd", Err(FileError::Other("the disk is on fire".into())));
    for (path, id, words, mend) in [
        ("../x/t.json", "file/outside", "is outside of the project", "outside = [\"../x\"]"),
        ("pipe", "file/kind", "is a folder, a device or a pipe", "name a regular file"),
        ("big.json", "file/size", "is larger than 8 MB", "split the file"),
        ("odd", "file/missing", "the disk is on fire", "make the file, or name another"),
    ] {
        let found = said(&files, path);
        assert!(found.0 == id && found.1.contains(words) && found.2.contains(mend), "{path}: {found:?}");
    }
}

#[test]
fn a_byte_that_is_no_text_is_shown_where_it_stands() {
    let files = memory(&[("a.css", b"ab\n c\xff d")]);
    let mut loader = Loader::new(&files);
    assert!(loader.read("a.css", None).is_none());
    let Loader { sources, diagnostics, .. } = loader;
    let all = diagnostics.into_sorted();
    let place = sources.position(all[0].span.expect("a place"));
    assert_eq!((all[0].id, place.line, place.column), ("file/encoding", 2, 3));
}

#[test]
fn a_project_that_is_too_large_is_told_once() {
    let most = vec![b' '; MAX_FILE_BYTES];
    let names = ["1", "2", "3", "4", "5", "6"];
    let files = Memory {
        files: names.iter().map(|name| (*name, Ok(FileText::own(most.clone())))).collect(),
        ..Memory::default()
    };
    let mut loader = Loader::new(&files);
    let read = names.iter().filter(|name| loader.read(name, None).is_some()).count();
    assert_eq!(read, 4);
    let all = loader.diagnostics.into_sorted();
    assert_eq!(all.len(), 1);
    assert!(
        all[0].message.contains("with `5` the project's files are larger than 32 MB together"),
        "{}",
        all[0].message
    );
}

#[test]
fn what_is_outside_is_known_as_that() {
    let mut files = memory(&[]);
    files.files.insert("../t.json", Ok(FileText { is_outside: true, ..FileText::own(b"{}".to_vec()) }));
    let mut loader = Loader::new(&files);
    let file = loader.read("../t.json", None).expect("a file");
    assert!(loader.sources.file(file).is_outside);
}
