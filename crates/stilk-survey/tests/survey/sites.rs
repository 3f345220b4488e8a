//! Pages together: what they share, what is missing, what does not depend on how it is asked.

use crate::support::{findings, linked, site};
use std::sync::Arc;
use stilk_survey::control::Kind;
use stilk_survey::survey::{Only, Request, survey};

const SHEET: &str =
    ".act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #5d8ca0; font-size: 16px }";

fn page(link: &str, body: &str) -> String {
    format!("<!doctype html><html lang=en><meta charset=utf-8><title>x</title>{link}<body>\n{body}\n")
}

const LINK: &str = "<link rel=stylesheet href=site.css>";

#[test]
fn one_cause_on_many_pages_is_one_finding() {
    let pages: Vec<(String, String)> =
        (0..5).map(|n| (format!("{n}.html"), page(LINK, "<button class=act>Book</button>"))).collect();
    let pages: Vec<(&str, &str)> = pages.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let mut site = site(&pages, &[("site.css", SHEET)]);
    assert_eq!(site.lists.len(), 1);
    let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
    let of_text: Vec<String> =
        findings(&site, &found).into_iter().filter(|said| said.starts_with("contrast/text")).collect();
    assert_eq!(of_text.len(), 1, "{of_text:?}");
    assert_eq!((found.pages, found.with_controls, found.controls(), found.looks()), (5, 5, 5, 1));
}

#[test]
fn threads_change_nothing() {
    let pages: Vec<(String, String)> = (0..7)
        .map(|n| {
            let body =
                format!("<button class=act id=b{n}>Book</button><input aria-label=x><a class=act href=/{n}>x</a>");
            (format!("{n}.html"), page(LINK, &body))
        })
        .collect();
    let pages: Vec<(&str, &str)> = pages.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let told = |threads: usize| {
        let mut site = site(&pages, &[("site.css", SHEET)]);
        let found = survey(&mut site, &Request { threads, ..Request::default() });
        let looks: Vec<String> = found.families.iter().flat_map(|f| &f.looks).map(|look| format!("{look:?}")).collect();
        (findings(&site, &found), looks)
    };
    let alone = told(1);
    for threads in [2, 3, 8] {
        assert_eq!(told(threads), alone, "{threads} threads");
    }
}

#[test]
fn of_a_page_whose_stylesheet_is_missing_nothing_is_claimed() {
    let text = page("<link rel=stylesheet href=gone.css>", "<button class=act>Book</button>");
    let mut site = site(&[("a.html", &text)], &[]);
    assert!(!site.pages[0].is_whole);
    assert_eq!(site.missing.len(), 1);
    let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
    assert_eq!(findings(&site, &found), Vec::<String>::new());
    // What is for paper says nothing of a screen.
    let text = page("<link rel=stylesheet href=gone.css media=print>", "<button class=act>Book</button>");
    assert!(crate::support::site(&[("a.html", &text)], &[]).pages[0].is_whole);
}

#[test]
fn stylesheets_are_for_the_media_that_their_links_name() {
    let text =
        page("<link rel=stylesheet href=site.css media='(min-width: 90000px)'>", "<button class=act>Book</button>");
    let mut site = site(&[("a.html", &text)], &[("site.css", SHEET)]);
    let found = survey(&mut site, &Request { threads: 1, ..Request::default() });
    let values = &found.families[0].looks[0].own;
    assert!(!values.iter().any(|(_, text, _)| text == "rgb(20, 83, 107)"), "{values:?}");
}

#[test]
fn only_what_is_asked_for_is_looked_at() {
    let text = page(LINK, "<button class=act>Book</button><button id=b>x</button><input aria-label=x>");
    let asked = |only: &str| {
        let mut site = site(&[("a.html", &text)], &[("site.css", SHEET)]);
        let only = vec![Only::read(only).expect("a kind or a selector")];
        survey(&mut site, &Request { only, threads: 1, ..Request::default() })
    };
    assert_eq!((asked("buttons").of_kind(Kind::Button).0, asked("buttons").controls()), (2, 2));
    assert_eq!(asked("field").of_kind(Kind::Field), (1, 1));
    assert_eq!(asked(".act, #b").controls(), 2);
    assert_eq!(asked("input").controls(), 1);
    assert!(Only::read(".a:hovr ..").is_none());
    // Some checks alone.
    let mut site = site(&[("a.html", &text)], &[("site.css", SHEET)]);
    let request = Request { checks: vec!["contrast/text"], threads: 1, ..Request::default() };
    let found = survey(&mut site, &request);
    let said = findings(&site, &found);
    assert!(!said.is_empty() && said.iter().all(|said| said.starts_with("contrast/text")), "{said:?}");
}

#[test]
fn of_some_controls_alone_no_rule_is_said_never_to_win() {
    let sheet = ".act { padding: 8px; border: 1px solid; background: #14536b; color: #fff; font-size: 16px } \
                 #send.act { background: #1d6b3a } .bar button:hover { background: #0b3a4c }";
    let body = "<div class=bar><button class=act id=send>a</button><button class=go>b</button></div>";
    let text = page(LINK, body);
    let said = |only: Vec<Only>| {
        let mut site = site(&[("a.html", &text)], &[("site.css", sheet)]);
        let found = survey(&mut site, &Request { only, threads: 1, ..Request::default() });
        findings(&site, &found).into_iter().filter(|said| said.contains("` never wins")).count()
    };
    // `.go` shows it, whether it is looked at or not.
    assert_eq!((said(Vec::new()), said(vec![Only::Selector(".act".into())])), (0, 0));
}

#[test]
fn pages_that_nothing_is_said_of_are_not_kept_and_are_read_again() {
    let text = page(LINK, "<p>nothing to press</p>");
    let with_button = page(LINK, "<button class=act>Book</button>");
    let mut site = stilk_survey::site::Site::default();
    let again = text.clone();
    site.again = Some(Box::new(move |_| Some(again.clone())));
    for n in 0..300 {
        let text = if n == 0 { &with_button } else { &text };
        site.add(&format!("{n}.html"), text, &[], &mut |_, _, _| Ok(linked("site.css", SHEET)));
    }
    let kept = site.pages.iter().filter(|page| !site.sources.file(page.file).text.is_empty()).count();
    assert_eq!(kept, 256);
    // Its document is there all the same; one that changed since is empty.
    assert!(site.document(299).descendants(stilk_engine::dom::Document::ROOT).len() > 4);
    site.again = Some(Box::new(|_| Some("<p>another text</p>".to_owned())));
    assert!(site.document(299).descendants(stilk_engine::dom::Document::ROOT).len() <= 1);
}

#[test]
fn a_stylesheet_that_many_pages_link_is_parsed_once() {
    let text = page(LINK, "<button class=act>Book</button>");
    let site = site(&[("a.html", &text), ("b.html", &text)], &[("site.css", SHEET)]);
    let [list] = site.lists.as_slice() else { panic!("{} lists", site.lists.len()) };
    assert!(Arc::strong_count(&list.sheets[0].parsed) >= 2);
    // In quirks mode it says something else.
    let quirky = text.replace("<!doctype html>", "");
    let both = crate::support::site(&[("a.html", &text), ("b.html", &quirky)], &[("site.css", SHEET)]);
    assert_eq!(both.lists.len(), 2);
}
