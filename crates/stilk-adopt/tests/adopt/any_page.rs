//! Whatever is on pages: files that can be read again and a proof that is true, or a reason; never a panic.

use crate::random::sample;
use crate::support::{page, request};
use std::collections::BTreeMap;
use stilk_adopt::account::Adopted;
use stilk_adopt::adopt::adopt;
use stilk_checks::registry::CHECKS;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_engine::dom::Document;
use stilk_language::project;
use stilk_language::stylesheet::{Purpose, write};
use stilk_survey::site::Site;
use stilk_text::source::{FileError, FileText, Files};

struct Written<'w>(&'w BTreeMap<String, String>);

impl Files for Written<'_> {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).map(|text| FileText::own(text.as_bytes())).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let before = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&before)).map(str::to_owned).collect())
    }
}

/// How many values of a page differ at rest between its stylesheet and the files that were written.
fn differing(site: &Site, css: &str, adopted: &Adopted) -> usize {
    let mut sheets = vec![Stylesheet::parse(&adopted.kept[0].text)];
    if !adopted.became.is_empty() {
        let checks: Vec<&str> = CHECKS.iter().map(|check| check.id).collect();
        let project = project::load(&Written(&adopted.files), &checks);
        let system = project.system.unwrap_or_else(|| panic!("{:#?}", project.diagnostics));
        sheets.push(Stylesheet::parse(&write(&system, &project.sources, Purpose::Page).text));
    }
    let document = site.document(0);
    let old = Stylesheet::parse(css);
    let styles = |sheets: &[&Stylesheet]| {
        Engine::new(Browser::Chromium.sheet(), sheets, Media::default()).styles(&document, &Forced::default())
    };
    let (before, after) = (styles(&[&old]), styles(&sheets.iter().collect::<Vec<_>>()));
    let nodes = document.descendants(Document::ROOT).into_iter();
    nodes
        .filter_map(|node| before.element(node).zip(after.element(node)))
        .flat_map(|(before, after)| {
            Longhand::ALL.iter().map(move |longhand| (before.get(*longhand), after.get(*longhand)))
        })
        .filter(|pair| !matches!(pair, (Ok(a), Ok(b)) if a == b) && !matches!(pair, (Err(_), Err(_))))
        .count()
}

/// Random pages whose buttons are shaped by a class, so that there is something to adopt.
fn random(seed: u64) -> (String, String) {
    let sample = sample(seed);
    assert!(sample.forced.len() < 4);
    let css = format!(
        ".a {{ padding: 8px 12px; border: 2px solid #345; background: #9cf; color: #012; border-radius: 4px }}\n{}",
        sample.css
    );
    (css, sample.html)
}

#[test]
fn the_proof_agrees_with_what_the_written_files_give() {
    let mut became = 0;
    for seed in 0..120 {
        let (css, html) = random(seed);
        let site = page(&css, &html);
        let Ok(adopted) = adopt(&site, &request()) else { continue };
        assert_eq!(adopted.proof.differing, 0, "seed {seed}: {:#?}", adopted.proof.differences);
        assert_eq!(differing(&site, &css, &adopted), 0, "seed {seed}");
        became += adopted.became.len();
    }
    assert!(became >= 30, "only {became} families of random pages were adopted");
}
