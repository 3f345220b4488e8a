//! Sites of a few lines.

use std::sync::Arc;
use stilk_adopt::account::Adopted;
use stilk_adopt::adopt::{Request, adopt};
use stilk_checks::registry::CHECKS;
use stilk_checks::scan::Linked;
use stilk_engine::cascade::Stylesheet;
use stilk_survey::site::Site;

/// Pages with the stylesheets that they link: `(page, html)` and `(address, css)`.
pub fn site(pages: &[(&str, &str)], sheets: &[(&str, &str)]) -> Site {
    let linked: Vec<Linked> = sheets
        .iter()
        .map(|(path, text)| Linked {
            path: (*path).to_owned(),
            text: (*text).into(),
            parsed: Arc::new(Stylesheet::parse(text)),
        })
        .collect();
    let mut site = Site::default();
    for (path, html) in pages {
        site.add(path, html, &[], &mut |_, address, _| {
            linked.iter().find(|sheet| sheet.path == address).cloned().ok_or_else(|| "is not there".to_owned())
        });
    }
    site
}

/// One page with one stylesheet.
pub fn page(css: &str, body: &str) -> Site {
    let html = format!("<!doctype html><link rel=stylesheet href=s.css><body>{body}");
    site(&[("p.html", &html)], &[("s.css", css)])
}

/// What is asked in most tests.
pub fn request() -> Request {
    Request {
        name: "old".to_owned(),
        only: Vec::new(),
        earlier: Vec::new(),
        only_earlier: false,
        layers: false,
        force: false,
        merge: false,
        checks: CHECKS.iter().map(|check| check.id).collect(),
        threads: 1,
        rebase: Box::new(|_, _| None),
    }
}

/// Adopts a site of which everything can be.
pub fn adopted(site: &Site) -> Adopted {
    let adopted = adopt(site, &request()).expect("adopted");
    let left: Vec<_> = adopted.left.iter().map(|left| (&left.family, &left.why, &left.differences)).collect();
    assert!(left.is_empty(), "left: {left:#?}\n{:#?}", adopted.files);
    assert_eq!(adopted.proof.differing, 0);
    assert!(adopted.proof.compared > 0);
    adopted
}

/// The sheet of a control, without indents and empty lines.
pub fn sheet(adopted: &Adopted, control: &str) -> String {
    let path = format!("controls/{control}.stilk");
    let text = adopted.files.get(&path).unwrap_or_else(|| panic!("no {path}: {:#?}", adopted.files.keys()));
    text.lines().map(str::trim).filter(|line| !line.is_empty()).collect::<Vec<_>>().join("\n")
}

/// Whether a text has all of some lines, in this order.
#[track_caller]
pub fn has(text: &str, lines: &[&str]) {
    let mut rest = text;
    for line in lines {
        let at = rest.find(line).unwrap_or_else(|| panic!("`{line}` is not there, or not in its place:\n{text}"));
        rest = &rest[at + line.len()..];
    }
}
