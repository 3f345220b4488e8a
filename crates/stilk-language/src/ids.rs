//! What may be said while sources are read: every id, in one sentence. What checks say is in their own list.

/// An id and what it means.
pub type Said = (&'static str, &'static str);

/// Every id that reading gives, but for those of checks.
pub const READING: &[Said] = &[
    ("cascade/property", "a declaration names a property that CSS has not"),
    ("file/missing", "a file that something names is not there, or cannot be read"),
    ("file/outside", "a file lies outside of the project, in no folder that the manifest allows by `outside`"),
    ("html/syntax", "a template is no well-formed HTML: what a browser would repair is an error here"),
    ("manifest/key", "the manifest has a key that there is none of"),
    ("manifest/modifier", "the manifest names a modifier or a context that the resolver document has not"),
    ("manifest/state", "a state of the manifest has a name or a selector that cannot be"),
    ("manifest/value", "a value in the manifest is not what its key takes"),
    ("name/collision", "two things would be written by one name"),
    ("resolver/name", "a set, a modifier or a context has a name that cannot be written"),
    ("resolver/reference", "a resolver document refers to something that it has not"),
    ("resolver/shape", "a resolver document is not built as the standard says"),
    ("resolver/size", "a resolver document makes more themes or tokens than are read (docs/limits.md)"),
    ("resolver/version", "a resolver document is of another version of the standard"),
    ("sheet/attach", "`@attach` names markup, a control, an option or a part that cannot be attached"),
    ("sheet/descriptor", "a descriptor of `@font-face` or `@property` is missing or not what it takes"),
    ("sheet/from", "a control is a copy of one that there is none of, or of itself"),
    ("sheet/host", "`@host` names no host of the template"),
    ("sheet/important", "a declaration is `!important`: precedence is the language's own"),
    ("sheet/inside", "a control is to stand inside one that there is none of, or that does not place it"),
    ("sheet/local", "a local property is read that is not declared, or has no value at rest"),
    (
        "sheet/mark",
        "what marks a control, an option or a part is more than one class, attribute or id, or stands where it cannot",
    ),
    ("sheet/missing", "a template has no sheet, or a sheet no template"),
    ("sheet/name", "a control, an option, a part or a trait has a name that cannot be written"),
    ("sheet/old", "something is left out that no browser of today reads"),
    ("sheet/option", "an option is named that there is none of, or twice"),
    ("sheet/part", "a part is named that the template has not"),
    ("sheet/placed", "a placed control is given something that it does not take"),
    ("sheet/prelude", "a reference in a condition is not the same in every theme"),
    ("sheet/pseudo", "a pseudo-element is styled that no element of the control has"),
    ("sheet/rule", "an at-rule stands where there is none of this name"),
    ("sheet/semicolon", "a semicolon is missing"),
    ("sheet/size", "a sheet holds more than is read (docs/limits.md)"),
    ("sheet/state", "a state is named that there is none of, that can never hold here, or as a condition"),
    ("sheet/syntax", "something is neither a declaration nor a rule of the language"),
    ("sheet/trait", "a trait is used that there is none of, or uses itself"),
    ("sheet/twice", "something is declared twice that can be declared once"),
    ("sheet/waive", "a waiver names a check or cases that there are none of, or says no reason"),
    ("state/dead", "a set of states never holds: a busy or disabled control shows no hover and no active"),
    ("template/bearer", "the element that bears the state of a control cannot be told"),
    ("template/control", "a template places a control that there is none of, itself, or with options that it has not"),
    ("template/host", "a template has no host, or one that cannot be"),
    ("template/missing", "a control has no template"),
    ("template/part", "a part is named in a way that cannot be written"),
    ("template/size", "a template holds more than is read (docs/limits.md)"),
    ("token/extends", "a group extends one that there is none of, or itself"),
    ("token/name", "a token has a name that the standard does not allow"),
    ("token/old-form", "values are written as older drafts of the standard had them; they are read all the same"),
    ("token/reference", "a token refers to something that is no token, or to a part of it that it has not"),
    ("token/shape", "a token file is not built as the standard says"),
    ("token/size", "a token file holds more than is read (docs/limits.md)"),
    ("token/twice", "two tokens would be written by one name"),
    ("token/value", "a value is not what its type takes"),
    ("toml/syntax", "the manifest is no well-formed TOML"),
    ("waiver/ended", "a waiver's date is over"),
    ("waiver/unused", "a waiver accepts nothing that is found"),
];

/// What an id means.
pub fn find(id: &str) -> Option<&'static Said> {
    READING.iter().find(|(known, _)| *known == id)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;
    use std::path::{Path, PathBuf};

    fn sources(folder: &Path, found: &mut Vec<PathBuf>) {
        for entry in std::fs::read_dir(folder).expect("a folder").flatten() {
            match entry.path() {
                path if path.is_dir() => sources(&path, found),
                path if path.extension().is_some_and(|ending| ending == "rs") => found.push(path),
                _ => {}
            }
        }
    }

    #[test]
    fn every_id_that_reading_gives_is_explained() {
        let mut files = Vec::new();
        sources(&Path::new(env!("CARGO_MANIFEST_DIR")).join("src"), &mut files);
        let own = files.iter().position(|file| file.ends_with("ids.rs")).expect("this file");
        files.swap_remove(own);
        let groups: BTreeSet<&str> = READING.iter().filter_map(|(id, _)| Some(id.split_once('/')?.0)).collect();
        let mut used: BTreeSet<String> = BTreeSet::new();
        for file in files {
            let text = std::fs::read_to_string(&file).expect("a source");
            for word in text.split('"').skip(1).step_by(2) {
                let is_id = word.split_once('/').is_some_and(|(group, rest)| {
                    groups.contains(group) && rest.bytes().all(|byte| byte.is_ascii_lowercase() || byte == b'-')
                });
                if is_id {
                    used.insert(word.to_owned());
                }
            }
        }
        // What a check says while it reads is explained with the check.
        const OF_CHECKS: [&str; 9] = [
            "cascade/value",
            "token/unknown",
            "token/cycle",
            "token/type",
            "token/theme-gap",
            "contrast/text",
            "contrast/placeholder",
            "contrast/boundary",
            "state/leak",
        ];
        let unexplained: Vec<&String> =
            used.iter().filter(|id| find(id).is_none() && !OF_CHECKS.contains(&id.as_str())).collect();
        assert!(unexplained.is_empty(), "{unexplained:?}");
        assert!(READING.is_sorted(), "they are listed in order");
    }
}
