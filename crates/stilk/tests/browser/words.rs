//! Pages of a project in which every name and text that may hold it holds what would end what it stands in: in a real browser
//! they have the scripts and elements of the same pages without, and nothing is run.

use crate::folder::Folder;
use crate::injection::{WORDS, notations, places};
use crate::specimen::serve;
use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::path::Path;
use std::process::Command;
use stilk_checks::registry;

/// What is run leaves a mark; what is added is counted.
const ASKED: &str = "
    const roots = [document];
    for (let at = 0; at < roots.length; at++) {
        roots.push(...[...roots[at].querySelectorAll('*')].map((e) => e.shadowRoot).filter(Boolean));
    }
    const all = roots.flatMap((root) => [...root.querySelectorAll('*')]);
    return {
        injected: all.filter((e) => e.id === 'injected' || e.localName === 'injected').length,
        handlers: all.filter((e) => [...e.attributes].some((a) => a.name.startsWith('on'))).length,
        scripts: document.scripts.length,
        styled: all.filter((e) => e.matches('.injected')).length,
        title: document.title.length > 0,
    };";

/// Looks at the pages; returns how much does not hold.
pub fn run(browser: &Browser) -> usize {
    let quay = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/projects/quay");
    let (plain, worded) = (tempfile::tempdir().expect("a folder"), tempfile::tempdir().expect("a folder"));
    crate::copy(&quay, plain.path());
    crate::copy(&quay, worded.path());
    let count = put_words(worded.path());
    let mut failed = usize::from(count < 20);
    let pages = |folder: &Path| {
        let old = plain.path().display().to_string();
        for (arguments, page) in [
            (&["specimen"][..], "said.txt"),
            (&["contrast", "--format", "html"], "contrast.html"),
            (&["compare", &old, "--format", "html"], "compare.html"),
        ] {
            let output = Command::new(env!("CARGO_BIN_EXE_stilk")).args(arguments).current_dir(folder).output();
            let output = output.expect("the program runs");
            assert!(matches!(output.status.code(), Some(0 | 1)), "{}", String::from_utf8_lossy(&output.stderr));
            std::fs::write(folder.join(page), output.stdout).expect("a page");
        }
        let (live, address) = serve(folder);
        let files = ["dist/specimen.html", "contrast.html", "compare.html"]
            .map(|page| format!("file://{}", folder.join(page).display()));
        let found: Vec<Value> = files
            .iter()
            .chain([&address])
            .map(|url| {
                browser.open(url);
                browser.run(ASKED, json!([]))
            })
            .collect();
        drop(live);
        found
    };
    for (index, (plain, worded)) in pages(plain.path()).iter().zip(pages(worded.path())).enumerate() {
        let is_same = plain["scripts"] == worded["scripts"] && worded["title"] == true;
        let is_well = ["injected", "handlers", "styled"].iter().all(|what| worded[*what] == 0);
        if !is_same || !is_well {
            failed += 1;
            println!("words: page {index} has {worded}, without them {plain}");
        }
    }
    println!("words: {count} places hold them; {failed} pages differ");
    failed
}

/// Puts every word into every place that may hold it; returns how many places do.
fn put_words(folder: &Path) -> usize {
    let all: &str = &WORDS.concat();
    let mut count = 0;
    let files = ["stilk.toml", "base.tokens.json", "quay.resolver.json"].map(str::to_owned);
    let controls = ["slip.html", "lever.html", "dock.html", "slip.stilk", "lever.stilk", "dock.stilk"];
    for file in files.into_iter().chain(controls.map(|name| format!("controls/{name}"))) {
        let path = folder.join(&file);
        let Ok(text) = std::fs::read_to_string(&path) else { continue };
        // From the end, so that the places before stay where they are.
        let mut places = places(&file, &text);
        places.retain(|place| !file.ends_with(".stilk") || text[..place.start].ends_with(['"', '\'']));
        let mut written = text.clone();
        for (index, place) in places.into_iter().enumerate().rev() {
            // Where all of them are refused, two others at every place.
            let tries = [all, WORDS[index % WORDS.len()], WORDS[(index * 5 + 3) % WORDS.len()]];
            for notation in tries.into_iter().map(|word| notations(&file, word).swap_remove(0)) {
                let tried = format!("{}{notation}{}", &written[..place.end], &written[place.end..]);
                std::fs::write(&path, &tried).expect("a source");
                if registry::load(&Folder(folder.to_owned())).system.is_some() {
                    written = tried;
                    count += 1;
                    break;
                }
            }
        }
        std::fs::write(&path, written).expect("a source");
    }
    count
}
