//! `stilk survey`: the site of the ferry line as it was before it had a system, and two small sites in other habits.

use crate::support::Project;
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};

fn surveyed(project: &Project, arguments: &[&str]) -> Value {
    let said = project.run(&[&["survey", "--format", "json"], arguments].concat());
    serde_json::from_str(&said.stdout).unwrap_or_else(|error| panic!("{error}: {}{}", said.stdout, said.stderr))
}

/// Each finding as `check place: message`.
fn findings(report: &Value) -> Vec<String> {
    let findings = report["findings"].as_array().expect("findings").iter();
    let text = |value: &Value| value.as_str().unwrap_or_default().to_owned();
    findings
        .map(|finding| {
            let span = &finding["spans"][0];
            let place =
                span.as_object().map_or_else(String::new, |_| format!("{}:{}", text(&span["file"]), span["line"]));
            format!("{} {place}: {}", text(&finding["check"]), text(&finding["message"]))
        })
        .collect()
}

fn family<'v>(report: &'v Value, name: &str) -> &'v Value {
    let families = report["survey"]["families"].as_array().expect("families");
    families.iter().find(|family| family["name"] == name).unwrap_or_else(|| panic!("no family {name}: {families:#?}"))
}

fn words(list: &Value) -> Vec<&str> {
    list.as_array().into_iter().flatten().filter_map(Value::as_str).collect()
}

/// What a careful person finds in the old site by hand: the check, where it stands, words of what is said.
const BY_HAND: &[(&str, &str, &str)] = &[
    // Text, by the ratio that a meter shows.
    ("contrast/text", "css/site.css:37", "`#b3472f` on `#14536b` is 1.55:1"),
    ("contrast/text", "css/site.css:196", "`#1a6a8a` on `#14536b` is 1.40:1"),
    ("contrast/text", "css/site.css:208", "`#8a8272` on `#e9e4d8` is 3.00:1"),
    ("contrast/text", "css/site.css:208", "`#8a8272` on `#14536b` is 2.22:1"),
    ("contrast/text", "css/site.css:237", "`#efece4` on `#c9c4b8` is 1.47:1"),
    ("contrast/text", "css/site.css:228", "`#9cc3d2` on `#2a86ab` is 2.18:1"),
    ("contrast/text", "css/site.css:309", "`#7d8f97` on `#fff` is 3.36:1"),
    ("contrast/text", "css/site.css:351", "`#4d7f8f` on `#e6f0f2` is 3.81:1"),
    ("contrast/text", "css/site.css:358", "`#e6f0f2` on `#4d7f8f` is 3.81:1"),
    ("contrast/text", "css/site.css:358", "`#e6f0f2` on `#d5e6ea` is 1.10:1"),
    ("contrast/text", "css/booking.css:177", "`#fff` on `#5d8f9f` is 3.56:1"),
    ("contrast/text", "css/booking.css:240", "`#7ba7b5` on `#fff` is 2.61:1"),
    ("contrast/text", "css/booking.css:277", "`#cfc9bb` on `#fff` is 1.65:1"),
    ("contrast/text", "css/account.css:177", "`#d9c9a3` on `--paper` is 1.63:1"),
    ("contrast/text", "css/site.css:33", "`#1a5f7a` on `--sea` is 1.21:1"),
    // The evening theme.
    ("contrast/text", "css/site.css:179", "`#fff` on `#2a86ab` is 4.12:1 in theme-evening"),
    ("contrast/text", "css/site.css:385", "`#8fc7da` on `#2a86ab` is 2.22:1 in theme-evening"),
    ("contrast/text", "css/site.css:208", "`#8a8272` on `#2a3f4a` is 2.89:1 in theme-evening"),
    ("contrast/boundary", "css/site.css:389", "`#35505d`, is 1.66:1 beside the page in theme-evening"),
    // Dark devices, and the theme for the dusk.
    ("contrast/text", "css/account.css:43", "`--paper` on `--sea` is 2.72:1"),
    ("contrast/placeholder", "css/account.css:9", "`--ink-soft` on `--paper` is 1.99:1"),
    ("contrast/boundary", "css/account.css:24", "`--line`, is 1.79:1 beside the page in dusk"),
    // Placeholders, edges, marks, rings.
    ("contrast/placeholder", "css/site.css:289", "`#b9c6cb` on `#fff` is 1.74:1"),
    ("contrast/placeholder", "css/account.css:9", "`--ink-soft` on `--paper` is 2.34:1"),
    ("contrast/boundary", "css/booking.css:40", "`#d5dcdf`, is 1.38:1 beside the page"),
    ("contrast/boundary", "css/booking.css:101", "`#e2a79d`, is 2.04:1 beside the page"),
    ("contrast/boundary", "css/booking.css:128", "`#d0d7da`, is 1.45:1 beside the page"),
    ("contrast/boundary", "css/site.css:282", "`#c9d4d8`, is 1.51:1 beside the page"),
    ("contrast/boundary", "css/account.css:10", "`--line`, is 1.57:1 beside the page"),
    ("contrast/indicator", "css/booking.css:145", "`box::after` of `.check`, `#2a86ab`, is 1.46:1"),
    ("contrast/indicator", "css/booking.css:211", "`thumb` of `.switch`, `#fff`, is 1.51:1"),
    ("contrast/focus", "css/site.css:302", "`#2a7fa0`, is 1.33:1 with what is beside it"),
    ("contrast/focus", "css/account.css:13", "`--ring`, is 1.84:1 with what is beside it"),
    // States.
    ("state/missing", "index.html", "`.more-link` looks the same in focus as at rest"),
    ("state/missing", "index.html", "`.icon-button` looks the same in focus as at rest"),
    ("state/missing", "timetable.html:16", "`.tab` looks the same in focus as at rest"),
    ("state/missing", "booking.html", "`.booking button, …` looks the same in disabled as at rest"),
    ("state/indistinct", "css/site.css:301", "`.search button` looks almost the same in hover"),
    ("state/indistinct", "css/booking.css:253", "looks almost the same in hover as at rest"),
    ("state/shift", "css/site.css:335", "in hover, the control of `.tab` grows by 1px at the top"),
    ("state/shift", "css/site.css:246", "in hover, `arrow` of `.cta` grows by 4px at the left"),
    ("state/slips", "css/account.css:189", "pressed, `.pill` moves 3px away"),
    ("state/snap", "css/account.css:83", "moves its `background-color` but jumps in translate"),
    ("state/edge-split", "css/booking.css:135", "the border of `box` in `.check`"),
    // Boxes.
    ("geometry/target", "css/site.css:305", "`.icon-button` is 20px high"),
    ("geometry/travel", "css/booking.css:220", "stands 2px from one end of its track and 4px from the other"),
    ("geometry/inline", "css/booking.css:168", "`span` of `.radio` is inline"),
    ("reset/unreachable", "css/booking.css:119", "the keyboard cannot reach `.check`"),
    // What beats what.
    ("foreign/stray", "css/site.css:37", "`a:hover` reaches `.cta` in hover: its `color`"),
    ("foreign/stray", "css/site.css:39", "takes the focus ring away from `.cta`"),
    ("foreign/stray", "css/site.css:140", "`.footer a` reaches `.cta`: its `color`"),
    ("foreign/stray", "css/site.css:33", "`a` reaches `.pill`: its `color`"),
    ("foreign/leak", "css/site.css:187", "in hover the `background-color` of `.cta.cta-ghost"),
    ("foreign/leak", "css/account.css:185", "in hover the `background-color` of `.pill"),
    ("foreign/never-wins", "css/site.css:187", "`.cta:hover` loses to `body.theme-evening .cta`"),
    ("foreign/never-wins", "css/account.css:202", "`.pill[aria-busy=\"true\"]` loses to `a`"),
    ("foreign/never-wins", "css/booking.css:74", "`.narrow` never wins"),
    ("foreign/wiped", "css/booking.css:100", "`select.has-error` takes the picture of `select` away"),
    ("foreign/dropped-rule", "css/site.css:253", "they cannot read `.reserve-button:hovr`"),
    ("foreign/dropped-declaration", "css/site.css:372", "there is no property `colour`"),
    ("foreign/dropped-declaration", "css/booking.css:76", "`width` does not take `120`"),
    ("foreign/theme-gap", "css/account.css:29", "the theme `contrast` forgets `--line`"),
    ("foreign/hosts-differ", "css/site.css:173", "`font-family` is `Georgia"),
    ("foreign/lacks-class", "index.html:33", "has `cta-ghost` without `cta`"),
    ("foreign/near-looks", "index.html:32", "`.cta` and `.more-link` are nearly one look"),
];

#[test]
fn what_a_careful_person_finds_in_the_old_site_is_found() {
    let project = Project::before();
    let report = surveyed(&project, &["."]);
    let found = findings(&report);
    let mut lacking = Vec::new();
    for (check, place, words) in BY_HAND {
        let is_it = |one: &&String| one.starts_with(&format!("{check} {place}")) && one.contains(words);
        if !found.iter().any(|one| is_it(&one)) {
            lacking.push(format!("{check} {place}: {words}"));
        }
    }
    assert!(lacking.is_empty(), "not found:\n{}\nfound:\n{}", lacking.join("\n"), found.join("\n"));
}

#[test]
fn families_axes_states_and_themes_of_the_old_site_are_those_that_people_see() {
    let project = Project::before();
    let report = surveyed(&project, &["."]);
    let cta = family(&report, ".cta");
    assert_eq!((&cta["controls"], &cta["kind"]), (&26.into(), &"button".into()));
    assert_eq!(cta["base"], serde_json::json!({ "file": "css/site.css", "line": 173, "column": 1 }));
    let axes: BTreeMap<&str, Vec<&str>> = cta["axes"]
        .as_array()
        .expect("axes")
        .iter()
        .map(|axis| {
            let options = axis["options"].as_array().expect("options").iter();
            (axis["name"].as_str().unwrap(), options.map(|option| option["chosenBy"].as_str().unwrap()).collect())
        })
        .collect();
    assert_eq!(axes["size"], [".cta-small", ".cta-large"]);
    assert_eq!(axes["colour"], [".cta-ghost", ".cta-calm", ".cta-alarm", "#send"]);
    assert_eq!(words(&cta["statesWritten"]), ["hover", "focus", "active", "cta--loading", "is-disabled", "disabled"]);
    for (name, kind, controls) in [
        (".pill", "button", 7),
        (".chip", "button", 3),
        (".tab", "button", 3),
        (".calendar .day", "button", 4),
        (".booking button, .booking input[type=\"submit\"]", "button", 3),
        (".search input", "field", 2),
        ("select", "select", 2),
        (".check", "checkbox", 2),
        (".radio", "radio", 2),
        (".switch", "switch", 1),
        (".toggle", "switch", 1),
        (".more > summary", "disclosure", 1),
    ] {
        let family = family(&report, name);
        assert_eq!((&family["kind"], &family["controls"]), (&kind.into(), &controls.into()), "{name}");
    }
    let pill = family(&report, ".pill");
    assert!(pill["axes"].to_string().contains("[data-tone=\\\"line\\\"]"), "{}", pill["axes"]);
    let themes: Vec<&str> = report["survey"]["themes"]
        .as_array()
        .unwrap()
        .iter()
        .map(|theme| theme["chosenBy"].as_str().unwrap())
        .collect();
    assert_eq!(themes, ["[data-theme=\"contrast\"]", "[data-theme=\"dusk\"]", "body.theme-evening"]);
    assert_eq!(words(&report["survey"]["devices"]), ["width: 640px", "prefers-color-scheme: dark"]);
    let twins = report["survey"]["values"].to_string();
    assert!(twins.contains("#1a6a8a") && twins.contains("#1b6b8a"), "{twins}");
    let unused = report["survey"]["unused"].to_string();
    assert!(
        unused.contains(".old-banner") && unused.contains(".button-old") && !unused.contains("\".cta\""),
        "{unused}"
    );
}

#[test]
fn a_site_that_is_right_in_habits_of_its_own_has_nothing_to_mend() {
    let project = Project::site("library");
    let said = project.run(&["survey", "."]).status(0);
    assert!(said.stdout.ends_with("nothing to mend\n"), "{}", said.stdout);
    let report = surveyed(&project, &["."]);
    assert_eq!(family(&report, ".action")["controls"], 3);
    assert_eq!(words(&family(&report, ".tick")["statesWritten"]), ["hover", "focus", "checked", "disabled"]);
}

#[test]
fn an_old_page_without_a_doctype_is_read_as_browsers_read_it() {
    let project = Project::site("allotments");
    let report = surveyed(&project, &["."]);
    // Classes in any case, lengths without a unit, colours without `#`.
    assert_eq!(family(&report, ".go")["controls"], 3);
    let found = findings(&report);
    for words in [
        "`#99bb99` on `336633` is 3.21:1",
        "`#779977` on `#cfe3cf` is 2.35:1",
        "`background` does not take `eeffee`",
        "`INPUT:focus` reaches `.go` in focus",
    ] {
        assert!(found.iter().any(|one| one.contains(words)), "{words}: {found:#?}");
    }
    assert!(!found.iter().any(|one| one.contains("`padding` does not take")), "{found:#?}");
}

#[test]
fn only_what_is_asked_for_is_looked_at() {
    let project = Project::before();
    let report = surveyed(&project, &["--only", "switch", "--only", ".pill", "."]);
    let mut names: Vec<&str> = report["survey"]["families"]
        .as_array()
        .unwrap()
        .iter()
        .map(|family| family["name"].as_str().unwrap())
        .collect();
    names.sort_unstable();
    assert_eq!(names, [".pill", ".switch", ".toggle"]);
    let said = project.run(&["survey", "--only", "::nonsense(", "."]).status(2);
    assert!(
        said.stderr.contains("`::nonsense(` is no selector a browser would read, no kind of control and no check"),
        "{}",
        said.stderr
    );
    let said = project.run(&["survey"]).status(2);
    assert!(said.stderr.contains("name pages, as in `stilk survey 'site/**/*.html'`"), "{}", said.stderr);
}

#[test]
fn much_is_folded_and_unfolded_when_asked_for() {
    let project = Project::before();
    let folded = project.run(&["survey", "."]).stdout;
    assert!(folded.contains("more: --only contrast/text"), "{folded}");
    assert!(folded.lines().count() < 500, "{}", folded.lines().count());
    let whole = project.run(&["survey", "--all", "."]).stdout;
    let report = surveyed(&project, &["."]);
    assert_eq!(whole.matches("  = mend: ").count(), findings(&report).len(), "{whole}");
    // One check alone is whole, and nothing else is asked.
    let one = project.run(&["survey", "--only", "contrast/placeholder", "--only", "foreign/leak", "."]).stdout;
    let ids: BTreeSet<&str> =
        one.lines().filter_map(|line| line.split_once('[')?.1.split_once("]:")).map(|(id, _)| id).collect();
    assert_eq!(
        ids.into_iter().filter(|id| id.contains('/')).collect::<Vec<_>>(),
        ["contrast/placeholder", "foreign/leak"]
    );
}

#[test]
fn its_report_is_as_the_schema_says() {
    let schema = serde_json::from_str(include_str!("../../../../docs/schema/report.schema.json")).expect("JSON");
    let schema = jsonschema::validator_for(&schema).expect("a schema");
    for project in [Project::before(), Project::site("library"), Project::site("allotments")] {
        let report = surveyed(&project, &["."]);
        let errors: Vec<String> =
            schema.iter_errors(&report).map(|error| format!("{}: {error}", error.instance_path())).collect();
        assert!(errors.is_empty(), "{errors:#?}");
    }
}

#[test]
fn a_former_report_hides_what_it_knows() {
    let project = Project::before();
    let before = project.run(&["survey", "--format", "json", "."]).stdout;
    project.write("known.json", &before);
    let said = project.run(&["survey", "--against", "known.json", "--quiet", "."]).status(0);
    assert!(said.stdout.contains("known from the former report, not shown"), "{}", said.stdout);
    project.write("css/extra.css", ".pill { color: #146c94 }");
    let page = project.read("account.html").replace("</head>", "<link rel=stylesheet href=css/extra.css></head>");
    project.write("account.html", &page);
    let said = project.run(&["survey", "--against", "known.json", "--quiet", "."]).status(1);
    assert!(said.stdout.contains("css/extra.css:1"), "{}", said.stdout);
}

#[test]
fn what_a_missing_stylesheet_might_say_is_not_guessed() {
    let project = Project::empty()
        .file("a.html", "<!doctype html><link rel=stylesheet href=gone.css><style>.x { color: #ccc; background: #fff; padding: 9px; border: 0 }</style><button class=x>a</button>");
    let said = project.run(&["survey", "a.html"]).status(0);
    assert!(said.stderr.contains("`gone.css` cannot be had"), "{}", said.stderr);
    assert!(said.stdout.contains("a stylesheet that the page links cannot be had"), "{}", said.stdout);
}

#[test]
fn what_is_for_paper_alone_may_be_missing() {
    let css = "@import url(paper.css) print; @import 'voice.css' speech; .x { color: #ccc; background: #fff; padding: 9px; border: 0 }";
    let page = "<!doctype html><meta charset=utf-8><link rel=stylesheet href=p.css media=print><link rel=stylesheet href=a.css><button class=x>a</button>";
    let project = Project::empty().file("a.css", css).file("a.html", page);
    let said = project.run(&["survey", "--only", "contrast/text", "a.html"]).status(1);
    assert!(
        said.stdout.contains("`#ccc` on `#fff` is 1.60:1") && !said.stderr.contains("cannot be had"),
        "{} {}",
        said.stdout,
        said.stderr
    );
    // What is for screens too is needed.
    let project = Project::empty().file("a.css", css.replace(") print", ") print, screen")).file("a.html", page);
    let said = project.run(&["survey", "--only", "contrast/text", "a.html"]).status(0);
    assert!(said.stderr.contains("`paper.css` cannot be had"), "{}", said.stderr);
}

#[test]
fn threads_change_nothing_and_every_format_is_well_formed() {
    let project = Project::before();
    let first = project.run(&["survey", "."]).stdout;
    assert_eq!(first, project.run(&["survey", "."]).stdout);
    let lines =
        first.lines().filter(|line| line.chars().count() > 100 && !line.contains(" | ") && !line.contains(".css:"));
    // Names of families and lines of sources are as long as they are.
    let long: Vec<&str> = lines
        .filter(|line| !line.contains("input[type=") && !line.trim_start().starts_with(|c: char| c.is_ascii_digit()))
        .collect();
    assert!(long.iter().all(|line| line.contains("^") || line.contains("|")), "{long:#?}");
    let html = project.run(&["survey", "--format", "html", "."]).stdout;
    assert!(
        html.starts_with("<!doctype html>") && html.contains("data-stilk-shown") && !html.contains("<script src"),
        "{}",
        &html[..400]
    );
    let sarif: Value = serde_json::from_str(&project.run(&["survey", "--format", "sarif", "."]).stdout).expect("SARIF");
    let run = &sarif["runs"][0];
    let rules = run["tool"]["driver"]["rules"].as_array().expect("rules");
    for result in run["results"].as_array().expect("results") {
        let index = result["ruleIndex"].as_u64().expect("an index") as usize;
        assert_eq!(rules[index]["id"], result["ruleId"]);
    }
    let markdown = project.run(&["survey", "--format", "markdown", "."]).stdout;
    assert!(markdown.contains("| `.cta` | button | 26 |"), "{markdown}");
}

#[test]
fn scripts_of_pages_stay_out_of_the_inventory() {
    let project = Project::empty().file(
        "a.html",
        "<!doctype html><style>.x { padding: 9px } .x::after { content: \"</style><script>alert(1)</script>\" }</style><button class=x onclick=\"alert(2)\" title=\"</script><script>alert(3)</script>\">a<script>alert(4)</script></button>",
    );
    let html = project.run(&["survey", "--format", "html", "a.html"]).stdout;
    assert!(!html.contains("onclick") && !html.contains("alert(4)"), "{html}");
    // The page's own script is the only one that is not data.
    let scripts = html.matches("<script").count();
    assert_eq!(scripts, 2, "{html}");
}

#[test]
fn every_example_of_what_only_foreign_stylesheets_do_is_right() {
    for kind in stilk_survey::fault::KINDS {
        for (page, is_fault) in [(kind.fails, true), (kind.passes, false)] {
            let project = Project::empty()
                .file("a.html", format!("<!doctype html>\n<meta charset=utf-8>\n{page}"))
                .file("arrow.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='8' height='8'/>");
            let found = findings(&surveyed(&project, &["a.html"]));
            let is_found = found.iter().any(|one| one.starts_with(kind.id));
            assert_eq!(is_found, is_fault, "{}: {page}\n{found:#?}", kind.id);
        }
        let said = Project::empty().run(&["explain", kind.id]).status(0);
        assert!(said.stdout.contains(kind.source.split(' ').next().unwrap_or_default()), "{}", said.stdout);
    }
}

/// What one page with these styles and this body is said of by one check.
fn said_of(check: &str, css: &str, body: &str) -> Vec<String> {
    let page = format!("<!doctype html>\n<meta charset=utf-8>\n<style>\n{css}\n</style>\n{body}\n");
    findings(&surveyed(&Project::empty().file("a.html", &page), &["--only", check, "a.html"]))
}

#[test]
fn a_colour_written_out_where_themes_change_it_is_found() {
    let themes = ":root { --line: #5d7480; --ground: #ffffff } [data-theme=\"dusk\"] { --line: #9db4bf; --ground: #16242b }\nbody { background: var(--ground) }\n";
    let body = "<input class=field aria-label=a> <input class=wide aria-label=b>";
    let css = |wide: &str| {
        format!(
            "{themes}.field {{ border: 1px solid var(--line); background: var(--ground) }}\n.wide {{ border: 1px solid {wide}; background: #fff }}"
        )
    };
    let found = said_of("foreign/theme-gap", &css("#5d7480"), body);
    assert_eq!(
        found,
        [
            "foreign/theme-gap a.html:7: `rgb(93, 116, 128)` of `.wide` is `--line` written out: it stays in every theme, where `--line` changes"
        ]
    );
    // Another colour, and white, of which there is much, are nobody's.
    assert_eq!(said_of("foreign/theme-gap", &css("#5d7481"), body), [""; 0]);
    assert_eq!(said_of("foreign/theme-gap", &css("#ffffff"), body), [""; 0]);
}

#[test]
fn a_control_that_stays_light_on_a_page_that_turns_dark_is_found() {
    let css = |rest: &str| {
        format!(
            "body {{ background: #fff }} body.theme-night {{ background: #10181c; color: #eee }}\n\
             .a {{ padding: 6px; border: 1px solid #456; background: #f4f8fa; color: #123; font: 16px serif }}\n\
             .b {{ padding: 8px; border: 2px solid #567; background: #f4f8fa; color: #234; font: 18px serif }}\n\
             .go {{ padding: 6px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px serif }}\n\
             body.theme-night .b {{ background: #1c2d36; color: #eee }} body.theme-night .go {{ border-color: #fff }}\n\
             body.theme-night .field {{ background: #1c2d36; color: #eee }} .field {{ padding: 4px; border: 1px solid #456; background: #fff; color: #123; font-size: 16px }}\n{rest}"
        )
    };
    let body = "<button class=a>a</button> <button class=b>b</button> <button class=go>g</button> <input class=field aria-label=f>";
    let found = said_of("foreign/theme-gap", &css(""), body);
    assert_eq!(found.len(), 1, "{found:#?}");
    assert!(found[0].contains("the theme `theme-night` forgets `.a"), "{found:#?}");
    assert!(found[0].contains("its ground stays `#f4f8fa` on a page of `#10181c`"), "{found:#?}");
    // A fill that stands out from the usual page as well is meant to stay: `.go` was not named. Nor is one that turns.
    assert_eq!(said_of("foreign/theme-gap", &css("body.theme-night .a { background: #1c2d36 }"), body), [""; 0]);
}

#[test]
fn a_state_that_a_script_sets_as_a_class_is_looked_at_where_no_page_shows_it() {
    let css = |more: &str| {
        format!(
            ".tab {{ padding: 6px 9px; border: 1px solid #14536b; background: #fff; color: #14536b; font: 16px serif }}\n{more}"
        )
    };
    let body = "<button class=tab>a</button><div class=box><button class=tab>b</button></div>";
    let found = said_of("contrast/text", &css(".tab.is-open { color: #bbb }"), body);
    assert_eq!(found, ["contrast/text a.html:5: `#bbb` on `#fff` is 1.91:1, text needs 4.5:1"]);
    let found = said_of("contrast/text", &css(".tab--open { color: #bbb }"), body);
    assert_eq!(found.len(), 1, "{found:#?}");
    // Whose state it is, where it stands on something around the control, or what is switched off, is not guessed.
    for rule in [".is-open { color: #bbb }", ".box.is-open .tab { color: #bbb }", ".tab.is-disabled { color: #bbb }"] {
        assert_eq!(said_of("contrast/text", &css(rule), body), [""; 0], "{rule}");
    }
    // None of these is called unused: a script may set the class, and each page may be in a theme.
    let rules = ".tab.is-open { color: #123 } body.theme-night { background: #123; color: #eee } body.theme-night .tab { color: #eee } .gone { color: red }";
    let page = format!("<!doctype html><meta charset=utf-8><style>{}</style>{body}", css(rules));
    let report = surveyed(&Project::empty().file("a.html", &page), &["a.html"]);
    let unused: Vec<&str> =
        report["survey"]["unused"].as_array().unwrap().iter().filter_map(|one| one["selector"].as_str()).collect();
    assert_eq!(unused, [".gone"]);
}

#[test]
fn of_many_pages_those_are_shown_of_which_something_is_said() {
    let mut project = Project::empty()
        .file("a.css", ".act { padding: 8px 16px; border: 1px solid #14536b; background: #14536b; color: #fff; font: 16px serif }\n.act:focus { outline: 3px solid #000 }\n.act-calm { background: #fff; color: #14536b }\n");
    let head = "<!doctype html>\n<meta charset=utf-8>\n<link rel=stylesheet href=a.css>\n";
    for page in 0..270 {
        let body = match page {
            262 => "<p>late</p>\n<button class=act-calm>calm</button>",
            266 => {
                "<style>\n.late { color: #ccc; background: #fff; padding: 8px; border: 0; font: 16px serif }\n</style>\n<button class=late>late</button>"
            }
            _ => "<button class=act>a</button> <button class='act act-calm'>b</button>",
        };
        project = project.file(&format!("p{page:03}.html"), format!("{head}{body}\n"));
    }
    let only = ["--only", "foreign/lacks-class", "--only", "contrast/text", "."];
    let report = surveyed(&project, &only);
    assert_eq!(family(&report, ".act")["controls"], 536);
    let mut found = findings(&report);
    found.sort();
    assert_eq!(
        found,
        [
            "contrast/text p266.html:5: `#ccc` on `#fff` is 1.60:1, text needs 4.5:1",
            "foreign/lacks-class p262.html:5: button.act-calm has `act-calm` without `act`",
        ]
    );
    let said = project.run(&[&["survey", "--quiet"], &only[..]].concat()).stdout;
    assert!(said.contains("5 | <button class=act-calm>calm</button>"), "{said}");
}

/// All findings of a site, each as `check line: message`, in order.
fn all_of(site: &str) -> Vec<String> {
    let mut found = findings(&surveyed(&Project::site(site), &["."]));
    found.sort();
    found
}

#[test]
fn of_an_old_page_everything_is_found_and_nothing_that_is_not_so() {
    // A colour without `#` counts in `background-color`, not in `background`; `:focus` of fields reaches the buttons among them.
    assert_eq!(
        all_of("allotments"),
        [
            "contrast/boundary index.html:6: the border of `input, select, textarea`, `#b5c9b5`, is 1.75:1 beside the page, an edge needs 3:1",
            "contrast/text index.html:11: `white` on `#ffffcc` is 1.02:1, text needs 4.5:1",
            "contrast/text index.html:12: `#779977` on `#cfe3cf` is 2.35:1, text needs 4.5:1",
            "contrast/text index.html:13: `#779977` on `#88aa88` is 1.23:1, text needs 4.5:1",
            "contrast/text index.html:8: `#99bb99` on `#335533` is 3.98:1, text needs 4.5:1",
            "contrast/text index.html:8: `#99bb99` on `#ffffcc` is 2.05:1, text needs 4.5:1",
            "contrast/text index.html:8: `#99bb99` on `336633` is 3.21:1, text needs 4.5:1",
            "foreign/dropped-declaration index.html:4: `background` does not take `eeffee`: browsers drop it",
            "foreign/stray index.html:7: `INPUT:focus` reaches `.go` in focus: its `background-color` is `rgb(255, 255, 204)` there, over what `.Go` says",
            "geometry/inline index.html:8: the control of `.go` is inline: padding-top, padding-bottom take no room there",
            "geometry/target index.html:6: the control of `input, select, textarea` is 18px high, a target needs 24px",
            "state/missing index.html:25: `.go` looks the same in disabled as at rest; a button needs it",
        ]
    );
}

#[test]
fn of_a_site_of_today_everything_is_found_and_nothing_that_is_not_so() {
    // Nested rules, layers, `light-dark()`: a field whose ground is written out cannot be read where the device is dark.
    assert_eq!(
        all_of("orchard"),
        [
            "contrast/focus orchard.css:6: the focus border of `.field__control`, `--leaf`, is 1.53:1 with what is before, it needs 3:1",
            "contrast/placeholder orchard.css:78: `#c9c0b4` on `#fffdf8` is 1.76:1, text needs 4.5:1",
            "contrast/text orchard.css:75: a colour on `#fffdf8` is 1.18:1, text needs 4.5:1",
            "foreign/leak orchard.css:47: in hover the `background-color` of `.button.button_danger` is what `.button:hover` says of every `.button`: `rgb(31, 74, 41)`, at rest `rgb(179, 56, 44)`",
            "foreign/leak orchard.css:48: in active the `background-color` of `.button.button_danger` is what `.button:active` says of every `.button`: `oklab(0.276541 -0.0476136 0.0284343)`, at rest `rgb(179, 56, 44)`",
            "state/missing index.html:25: `.field__control` looks the same in disabled as at rest; a field needs it",
        ]
    );
    let report = surveyed(&Project::site("orchard"), &["."]);
    let button = family(&report, ".button");
    assert_eq!(
        (&button["controls"], words(&button["statesWritten"])),
        (&7.into(), vec!["hover", "focus", "active", "disabled"])
    );
    assert!(button["axes"].to_string().contains(".button_danger"), "{}", button["axes"]);
    assert_eq!(words(&report["survey"]["devices"]), ["prefers-color-scheme: dark"]);
}
