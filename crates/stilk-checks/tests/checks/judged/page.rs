//! Pages with controls of the small system of the examples: what is wrong with their markup, and with what they do to it.

use crate::memory::{Memory, messages};
use stilk_checks::registry::find;
use stilk_checks::scan::{Scanner, Worker};
use stilk_language::stylesheet::{Purpose, write};

/// A button of the system.
const BUTTON: &str = "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></button>";

/// What a check says of pages with these bodies, each with how often it decided.
fn said(check: &'static str, bodies: &[&str]) -> Vec<(Vec<String>, u64)> {
    let example = find(check).expect("a check").passes;
    let files = example.files().into_iter().filter(|(path, _)| path != "page.html");
    let project = Memory(files.map(|(path, text)| (path, text.into_bytes())).collect()).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let scanner = Scanner::new(system, &written, vec!["example.css".into()]);
    let mut worker = Worker::new(&scanner);
    let mut of = |body: &str| {
        let page = format!(
            "<!doctype html><html lang=\"en\"><title>Ferries</title><link rel=\"stylesheet\" href=\"dist/example.css\"><body>{}",
            body.replace("BUTTON", BUTTON)
        );
        let report = worker.scan("page.html", &page, &mut |_| None);
        let found = report.found.iter().filter(|(_, finding)| finding.id == check);
        let decided = report.decided.get(check).copied().unwrap_or_default();
        (found.map(|(_, finding)| finding.message.clone()).collect(), decided)
    };
    bodies.iter().map(|body| of(body)).collect()
}

/// The check tells nothing of these pages, and looked at something in each.
#[track_caller]
fn passes(check: &'static str, bodies: &[&str]) {
    let verdicts = bodies.iter().zip(said(check, bodies));
    super::all_hold(verdicts.map(|(body, verdict)| match verdict {
        (said, decided) if said.is_empty() && decided > 0 => (*body, Ok(())),
        verdict => (*body, Err(format!("{verdict:?}"))),
    }));
}

/// The check tells one thing of each of these pages, in these words.
#[track_caller]
fn fails(check: &'static str, cases: &[(&str, &str)]) {
    let bodies: Vec<&str> = cases.iter().map(|(body, _)| *body).collect();
    let verdicts = cases.iter().zip(said(check, &bodies));
    super::all_hold(verdicts.map(|((body, words), (said, _))| match said.as_slice() {
        [one] if one.contains(words) => (*body, Ok(())),
        _ => (*body, Err(format!("{said:?} instead of one with `{words}`"))),
    }));
}

#[test]
fn classes_are_the_systems() {
    passes(
        "markup/class",
        &[
            "BUTTON",
            "<a href=\"/\" class=\"ex-button ex-button-quiet mine\"><span class=\"ex-button_label\">Book</span></a>",
            // Others may begin alike.
            "BUTTON<p class=\"exhibit extra\">North</p>",
        ],
    );
    fails(
        "markup/class",
        &[
            ("<button type=\"button\" class=\"ex-button ex-button-quite\">Book</button>", "ex-button-quite"),
            ("<button type=\"button\" class=\"ex-buton\">Book</button>", "ex-buton"),
            (
                "<button type=\"button\" class=\"ex-button\"><span class=\"ex-button_lable\">Book</span></button>",
                "ex-button_lable",
            ),
            // An option without its control.
            ("<button type=\"button\" class=\"ex-button-quiet\">Book</button>", "ex-button-quiet"),
        ],
    );
}

#[test]
fn forms_keep_secrets_and_entries() {
    passes(
        "markup/form",
        &[
            "<form method=\"POST\"><label>Password <input type=\"password\"></label></form>",
            "<form><label>From <input></label><button>Search</button></form>",
            "<form method=\"dialog\"><button>Close</button></form>",
            "<form method=\"post\"><button type=\"reset\">Clear</button></form>",
        ],
    );
    fails(
        "markup/form",
        &[
            ("<form method=\"get\"><label>Password <input type=\"password\"></label></form>", "password"),
            ("<form><div><label>Password <input type=\"password\"></label></div></form>", "password"),
            ("<form method=\"post\"><input type=\"reset\"><button>Send</button></form>", "reset"),
        ],
    );
}

#[test]
fn choices_of_one_question_belong_together() {
    let radio = |name: &str, value: &str| {
        format!("<label><input type=\"radio\" name=\"{name}\" value=\"{value}\">{value}</label>")
    };
    let group = |inner: String| format!("<fieldset><legend>Deck</legend>{inner}</fieldset>");
    let good = [
        group(radio("deck", "sun") + &radio("deck", "car")),
        format!("<div role=\"radiogroup\" aria-label=\"Deck\">{}{}</div>", radio("deck", "sun"), radio("deck", "car")),
    ];
    passes("markup/group", &good.each_ref().map(String::as_str));
    let bad = [
        (group(radio("deck", "sun")), "deck"),
        (group(radio("deck", "sun") + &radio("deck", "sun")), "sun"),
        (radio("deck", "sun") + &radio("deck", "car"), "group"),
    ];
    fails("markup/group", &bad.each_ref().map(|(body, words)| (body.as_str(), *words)));
}

#[test]
fn ids_stand_once_and_are_there() {
    passes(
        "markup/id",
        &[
            "<label for=\"a\">From</label><input id=\"a\">",
            "<p id=\"hint\">Piers are listed.</p><input aria-describedby=\"hint\" aria-label=\"From\" id=\"from\">",
            "<ul id=\"list\"></ul><input list=\"list\" id=\"b\" aria-label=\"From\" aria-controls=\"list\">",
        ],
    );
    fails(
        "markup/id",
        &[
            ("<input id=\"a\"><input id=\"a\">", "`a`"),
            ("<label for=\"b\">From</label><input id=\"a\">", "`b`"),
            ("<input id=\"a\" aria-labelledby=\"a gone\">", "`gone`"),
            ("<input id=\"a\" aria-describedby=\"hint\">", "`hint`"),
        ],
    );
}

#[test]
fn fields_have_labels_and_buttons_names() {
    passes(
        "markup/label",
        &[
            "<label>From <input></label>",
            "<label for=\"a\">From</label><input id=\"a\">",
            "<input aria-label=\"From\">",
            "<span id=\"word\">From</span><input aria-labelledby=\"word\">",
            "<button type=\"button\" aria-label=\"Close\"><svg></svg></button>",
            "<button type=\"button\"><img src=\"x.svg\" alt=\"Close\"></button>",
            "<input title=\"From\"><input type=\"hidden\">",
        ],
    );
    fails(
        "markup/label",
        &[
            ("<input placeholder=\"From\">", ""),
            ("<label>From</label><input id=\"a\">", ""),
            ("<button type=\"button\"><svg></svg></button>", ""),
            ("<button type=\"button\"><img src=\"x.svg\" alt=\"\"></button>", ""),
            ("<select><option>North</select>", ""),
            ("<textarea></textarea>", ""),
        ],
    );
}

#[test]
fn what_stands_in_a_button_is_words_and_pictures() {
    passes(
        "markup/nesting",
        &[
            "BUTTON",
            "<button type=\"button\" class=\"ex-button\"><svg></svg><span class=\"ex-button_label\"><b>Book</b></span></button>",
            "<a href=\"/\" class=\"ex-button\"><span class=\"ex-button_label\">Book</span></a>",
        ],
    );
    fails(
        "markup/nesting",
        &[
            ("<button type=\"button\" class=\"ex-button\"><h2 class=\"ex-button_label\">Book</h2></button>", "h2"),
            ("<button type=\"button\" class=\"ex-button\"><ul class=\"ex-button_label\"><li>Book</ul></button>", "ul"),
            ("<a href=\"/\" class=\"ex-button\"><input class=\"ex-button_label\"></a>", "a control stands in a `<a>`"),
        ],
    );
}

#[test]
fn pages_leave_the_systems_look_alone() {
    passes(
        "page/override",
        &[
            "BUTTON",
            "<style>main a { color: red }</style>BUTTON",
            // Where it stands is the page's affair.
            "<style>.ex-button { margin-top: 20px }</style>BUTTON",
        ],
    );
    fails(
        "page/override",
        &[
            ("<style>button { color: red }</style>BUTTON", "color"),
            ("<style>* { padding: 0 }</style>BUTTON", "padding"),
            // A layer that comes after the system's wins over all of its layers.
            ("<style>@layer page { button { padding: 0 } }</style>BUTTON", "padding"),
            ("<style>#here button { background: none }</style><div id=\"here\">BUTTON</div>", "background"),
        ],
    );
    passes(
        "page/collision",
        &["<style>.booking { color: red }</style>BUTTON", "<style>button { color: red }</style>BUTTON"],
    );
    fails(
        "page/collision",
        &[
            ("<style>.ex-button { color: red }</style>BUTTON", "ex-button"),
            ("<style>main .ex-button_label { color: red }</style>BUTTON", "ex-button_label"),
            ("<style>:is(.card, .ex-button-quiet) { color: red }</style>BUTTON", "ex-button-quiet"),
        ],
    );
}

#[test]
fn text_is_judged_on_what_is_behind_it_on_the_page() {
    let quiet = "<button type=\"button\" class=\"ex-button ex-button-quiet\"><span class=\"ex-button_label\">Book</span></button>";
    let on = |style: &str| format!("<div style=\"{style}\">{quiet}</div>");
    let good = [on(""), on("background: #eee"), on("color: white"), on("background: rgb(0 0 0 / 10%)")];
    passes("page/contrast", &good.each_ref().map(String::as_str));
    let bad = [
        on("background: #222"),
        on("background: rgb(0 0 0 / 80%)"),
        on("background: linear-gradient(#222, #333)"),
        on("opacity: .3"),
    ];
    fails("page/contrast", &bad.each_ref().map(|body| (body.as_str(), "")));
}

#[test]
fn the_keyboard_keeps_its_place_on_the_page() {
    passes(
        "page/outline",
        &[
            "<style>a:focus { outline: none } a:focus-visible { outline: 2px solid }</style>",
            "<style>a:focus { outline: none; box-shadow: 0 0 0 2px }</style>",
            "<style>a:focus-visible { outline: 3px solid red }</style>",
            "<style>a:focus:not(:focus-visible) { outline: none }</style>",
        ],
    );
    fails(
        "page/outline",
        &[
            ("<style>a:focus { outline: none }</style>", "a:focus"),
            ("<style>:focus { outline: 0 }</style>", ":focus"),
            ("<style>* { outline: none }</style>", ""),
        ],
    );
    passes(
        "page/hover-only",
        &[
            "<style>.m ul { display: none } .m:hover ul, .m:focus-within ul { display: block }</style><div class=\"m\"><ul></ul></div>",
        ],
    );
    fails(
        "page/hover-only",
        &[
            (
                "<style>.m ul { visibility: hidden } .m:hover ul { visibility: visible }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
            (
                "<style>.m ul { opacity: 0 } .m:hover ul { opacity: 1 }</style><div class=\"m\"><a href=\"/\">x</a><ul></ul></div>",
                ".m:hover ul",
            ),
        ],
    );
    passes(
        "page/transition",
        &["<style>.c { transition: color 1s }</style>", "<style>.c { transition: none }</style>"],
    );
    fails(
        "page/transition",
        &[
            ("<style>.c { transition: 1s }</style>", ".c"),
            ("<style>@media (width > 1px) { .c { transition: color 1s, all 2s } }</style>", ".c"),
        ],
    );
}
