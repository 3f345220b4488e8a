//! `stilk scan`, and `stilk tokens PATH` on pages.

use crate::support::Project;
use serde_json::Value;

const HEAD: &str = "<!doctype html>\n<html lang=\"en\">\n<title>Ferries</title>\n<link rel=\"stylesheet\" href=\"dist/ternhaven.css\">\n<body>\n";

fn button(class: &str, words: &str) -> String {
    format!(
        "<button class=\"tern-button{class}\" type=\"button\"><span class=\"tern-button_label\">{words}</span> <span class=\"tern-button_spinner\" aria-hidden=\"true\"></span></button>\n"
    )
}

fn scanned(project: &Project, arguments: &[&str]) -> Value {
    let said = project.run(&[&["scan", "--format", "json"], arguments].concat());
    serde_json::from_str(&said.stdout).unwrap_or_else(|error| panic!("{error}: {}{}", said.stdout, said.stderr))
}

fn messages(report: &Value) -> Vec<String> {
    let findings = report["findings"].as_array().expect("findings");
    let text = |finding: &Value, key: &str| finding[key].as_str().unwrap_or_default().to_owned();
    findings.iter().map(|finding| format!("{}: {}", text(finding, "check"), text(finding, "message"))).collect()
}

#[test]
fn each_mistake_on_the_sample_pages_is_found_where_it_stands() {
    let project = Project::demo();
    let said = project.run(&["scan"]).status(1);
    for (id, words, place) in [
        ("markup/label", "the label `Your name` beside this field is not paired with it", "pages/booking.html:24"),
        ("markup/id", "the id `mail` stands here for the second time", "pages/booking.html:36"),
        ("markup/group", "2 radio buttons have no name", "pages/booking.html:41"),
        ("markup/type", "a link stands where the form is to be sent", "pages/booking.html:61"),
        ("markup/class", "the system has no class `tern-button-outlined`", "pages/booking.html:62"),
        ("markup/form", "a reset stands beside submit", "pages/booking.html:62"),
        (
            "page/override",
            "A style attribute changes button: background-color #006d97 → #e0b93c",
            "pages/booking.html:63",
        ),
        ("markup/nesting", "`<div>` stands in a `<button>`", "pages/booking.html:64"),
        ("markup/count", "the page has 4 of `button.strong`, the system allows 2", "pages/booking.html:63"),
        ("markup/form", "the form sends a password by GET", "pages/boarding.html:19"),
        ("page/override", "`#send` changes button", "pages/site.css:17"),
        ("page/override", "`*` changes", "pages/site.css:3"),
        ("page/outline", "`a:focus` takes the outline away", "pages/site.css:5"),
        ("page/hover-only", "`.lines:hover ul` reveals on hover", "pages/site.css:14"),
        ("page/lasting-focus", "`.day:focus` marks one of 3", "pages/site.css:15"),
        ("page/transition", "`.banner` animates all", "pages/site.css:12"),
        ("page/collision", "names the system's class `tern-field_label`", "pages/site.css:18"),
        ("page/bypass", "this `<button>` uses no class of the system", "pages/boarding.html"),
    ] {
        let text = said.stdout.split_whitespace().collect::<Vec<_>>().join(" ");
        let is_it = |part: &&str| part.starts_with(id) && part.contains(words) && part.contains(place);
        assert!(text.split('[').any(|part| is_it(&part)), "{id}: {words} at {place} is not in\n{}", said.stdout);
    }
    let last = said.stdout.lines().last().expect("a summary");
    assert!(last.starts_with("3 pages, "), "{last}");
    // The one that is right stays out of it.
    assert!(!said.stdout.contains("timetable.html"), "{}", said.stdout);
}

#[test]
fn what_is_used_is_counted_and_what_is_not_is_named() {
    let page =
        format!("{HEAD}{}{}{}", button("", "Book"), button(" tern-button-small", "Change"), button("", "Cancel"));
    let project = Project::demo().file("page.html", page);
    let report = scanned(&project, &["page.html"]);
    assert_eq!(messages(&report), ["markup/count: the page has 3 of `button.strong`, the system allows 2"]);
    let scan = &report["scan"];
    assert_eq!((&scan["pages"], &scan["controls"][0]["used"]), (&1.into(), &3.into()));
    assert_eq!(scan["controls"][0]["options"]["small"], 1);
    assert_eq!(scan["variants"]["button"], 2);
    let unused = scan["unused"].as_array().expect("a list");
    assert!(unused.contains(&"switch".into()) && !unused.contains(&"button.small".into()));
}

#[test]
fn broken_pages_are_read_as_browsers_read_them() {
    let broken = "<p>One<div><b>two</p><table><tr><td><button class=tern-button>Go</table></b>\u{fffd}<style>.x{color:red;;}}}</style><script>if (a < b) {}</script><textarea>";
    let project = Project::demo()
        .file("a.html", broken)
        .file("b.html", [b"<!doctype html><body class=\"\xff\xfe\">".as_slice(), &[0, 1, 2]].concat())
        .file("c.htm", "")
        .file("sub/d.html", format!("{HEAD}{}", "<div>".repeat(3000)))
        .file("crlf.html", format!("{HEAD}{}", button(" tern-button-smal", "Go")).replace('\n', "\r\n"));
    let report = scanned(&project, &["a.html", "b.html", "c.htm", "sub", "crlf.html"]);
    assert_eq!(report["scan"]["pages"], 5);
    let misspelt = report["findings"].as_array().expect("findings").iter().find(|f| f["check"] == "markup/class");
    let span = &misspelt.expect("the misspelt class")["spans"][0];
    assert_eq!((&span["file"], &span["line"], &span["column"]), (&"crlf.html".into(), &6.into(), &28.into()));
}

#[test]
fn one_cause_on_many_pages_is_one_finding_and_threads_change_nothing() {
    let mut project = Project::demo();
    for i in 0..60 {
        let page = format!("{HEAD}{}<p>{i}</p>{}", "\n".repeat(i), button(" tern-button-smal", "Go"));
        project = project.file(&format!("site/{i:02}.html"), page);
    }
    let first = project.run(&["scan", "site"]).status(1);
    assert!(first.stdout.contains("= note: 60 places on 60 pages, the first is site/00.html:6"), "{}", first.stdout);
    assert!(first.stdout.ends_with("60 pages, 60 controls looked at, none unknown: 1 finding\n"), "{}", first.stdout);
    for _ in 0..3 {
        assert_eq!(project.run(&["scan", "site/*.html"]).status(1).stdout, first.stdout);
    }
    // Against a former report only what is new counts.
    let report = project.run(&["scan", "site", "--format", "json"]).status(1).stdout;
    let project = project.file("before.json", report);
    project.run(&["scan", "site", "--against", "before.json"]).status(0);
}

#[test]
fn the_place_decides_contrast_and_the_page_s_rules_count() {
    let dark = "<div style=\"background: #16324a\"><a class=\"tern-button tern-button-bare\" href=\"/x\"><span class=\"tern-button_label\">Terms</span> <span class=\"tern-button_spinner\" aria-hidden=\"true\"></span></a></div>";
    let project = Project::demo().file("page.html", format!("{HEAD}{dark}"));
    let found = messages(&scanned(&project, &["page.html"]));
    assert!(found.iter().any(|m| m.starts_with("page/contrast: `button@a.bare` is")), "{found:?}");
    // On the surface of its theme it can be read, and in a layer the page's rules do no harm.
    let layered = "<style>@layer page { * { padding: 0 } a { color: red } }</style>";
    let light = dark.replace("background: #16324a", "background: white");
    let page = HEAD.replace("<link", &format!("{layered}<link"));
    let project = project.file("page.html", format!("{page}{light}"));
    assert_eq!(messages(&scanned(&project, &["page.html"])), [""; 0]);
}

#[test]
fn what_cannot_be_read_is_said_with_what_to_write() {
    let project = Project::pier();
    let said = project.run(&["scan"]).status(2);
    assert!(said.stderr.contains("error: name pages") && said.stderr.contains("stilk.toml"), "{}", said.stderr);
    let said = project.run(&["scan", "nowhere.html", "no/*.html"]).status(2);
    assert_eq!(said.stderr, "error: there is no page `nowhere.html`\nerror: there is no page `no/*.html`\n");
}

#[test]
fn an_edit_of_a_token_is_followed_to_pages() {
    let project = Project::demo();
    let said = project.run(&["tokens", "fill.sea"]).status(0).stdout;
    assert!(said.contains(" on 3 of 3 pages\n") && said.contains("pages/booking.html"), "{said}");
    let page = format!("{HEAD}<p>No control</p>");
    let said = project.file("page.html", page).run(&["tokens", "fill.sea", "--page", "page.html"]).status(0).stdout;
    assert!(said.contains("0 controls on 0 of 1 page\n"), "{said}");
}

#[test]
fn names_in_the_manifest_that_nothing_has_are_errors() {
    let project = Project::demo().edit("stilk.toml", "\"button.strong\" = 2", "\"button.stron\" = 2, buton = 1").edit(
        "stilk.toml",
        "conformance = \"AA\"",
        "conformance = \"AA\"\nlevels = { \"page/bypas\" = \"off\" }",
    );
    let said = project.run(&["scan"]).status(2).stderr;
    for words in [
        "there is no check `page/bypas`",
        "write `page/bypass`",
        "there is no option `stron` in `button`",
        "write `strong`",
        "there is no control `buton`",
        "3 errors; nothing was written",
    ] {
        assert!(said.contains(words), "{words} is not in\n{said}");
    }
}
