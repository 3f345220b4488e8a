//! `stilk check --mend`.

use crate::support::Project;

#[test]
fn what_can_be_mended_is_shown_and_written_and_nothing_else_changes() {
    let demo = Project::demo();
    let before = demo.read("tokens/night.tokens.json");
    let sheet = demo.read("controls/old-tag.stilk");
    let said = demo.run(&["check", "--mend", "--yes"]).status(1).stdout;
    assert!(said.starts_with("tokens/night.tokens.json:13\n- \"buoy-label\": { \"$value\": \"{gull.mist}\" }\n+ \"buoy-label\": { \"$value\": \"{"), "{said}");
    // Lengths go into the sheet that has them; what stands beside them stays.
    let mended = sheet
        .replace("border-radius: 50px;", "border-radius: calc(infinity * 1px);")
        .replace("outline: 1px solid", "outline: 2px solid");
    assert_eq!(demo.read("controls/old-tag.stilk"), mended);
    assert!(said.contains("2 files written: 4 findings cleared, none broken, 7 left"), "{said}");
    let after = demo.read("tokens/night.tokens.json");
    let changed = before.lines().zip(after.lines()).filter(|(a, b)| a != b).count();
    assert_eq!((changed, before.lines().count()), (1, after.lines().count()));
    assert!(!demo.run(&["check"]).stdout.contains("contrast/text"));
    let again = demo.run(&["check", "--mend", "--yes"]).status(1).stdout;
    assert!(again.starts_with("nothing that can be mended without a decision"), "{again}");
    assert_eq!(demo.read("tokens/night.tokens.json"), after);
}

#[test]
fn a_colour_of_its_own_gets_another_lightness() {
    let pale = "{ \"colorSpace\": \"oklch\", \"components\": [0.75, 0.1, 230] }";
    let project = Project::pier().edit(
        "tokens/night.tokens.json",
        "\"buoy-label\": { \"$value\": \"{gull.mist}\" }",
        &format!("\"buoy-label\": {{ \"$value\": {pale} }}"),
    );
    let said = project.run(&["check", "--mend", "--yes"]).status(0).stdout;
    assert!(
        said.contains("+ \"buoy-label\": { \"$value\": { \"colorSpace\": \"oklch\", \"components\": [0."),
        "{said}"
    );
    assert!(said.contains("none broken, 0 left"), "{said}");
}

#[test]
fn what_would_break_something_else_is_told_and_not_written() {
    // A dot that stands too far left in small: the base's number serves the other size, where it is right.
    let sheet = "@control x {
  display: inline-flex; padding: 8px; background: {fill.sea}; color: {ink.sea-label}; border: 0;
  @part label { position: relative; display: block; box-sizing: border-box; inline-size: 20px; block-size: 20px; border: 2px solid {ink.sea-label}; }
  @part label::after { content: \"\"; position: absolute; top: 4px; left: 4px; inline-size: 8px; block-size: 8px; background: {ink.sea-label}; }
  @axis size default medium { medium { } small { @part label { inline-size: 22px; } } }
  @state hover { background: {ink.strong}; color: {surface.page}; }
  @state focus { outline: {focus.ring}; outline-offset: {focus.gap}; }
  @state active { opacity: .9; }
  @state disabled { opacity: .5; }
}
";
    let project = Project::pier().file("controls/x.stilk", sheet).file(
        "controls/x.html",
        "<button type=\"button\" aria-label=\"Anchor\"><span part=\"label\"></span></button>\n",
    );
    let said = project.run(&["check", "--only", "geometry/centered"]).status(1).stdout;
    let words: String = said.split_whitespace().filter(|word| *word != "|").collect::<Vec<_>>().join(" ");
    assert!(words.contains("; but then x in day is wrong: 7px and 5px"), "{said}");
    project.run(&["check", "--mend", "--yes"]).status(1);
    assert_eq!(project.read("controls/x.stilk"), sheet);
}

#[test]
fn a_proposal_writes_nothing() {
    let project = Project::pier();
    let before = project.read("tokens/night.tokens.json");
    let said = project.run(&["contrast", "--mend"]).status(1).stdout;
    assert!(said.contains("+ \"buoy-label\": { \"$value\": \"{gull.night}\" }"), "{said}");
    assert!(said.contains("clears 1 finding, breaks none") && said.contains("nothing was written"), "{said}");
    assert_eq!(project.read("tokens/night.tokens.json"), before);
    project.run(&["check", "--mend", "--yes"]).status(0);
    let said = project.run(&["contrast", "--mend"]).status(0).stdout;
    assert_eq!(said, "all contrast is as it should be: nothing to propose\n");
}

#[test]
fn nothing_is_written_that_nobody_named() {
    let demo = Project::demo();
    let before = demo.files("");
    let said = demo.run(&["check", "--mend"]).status(1).stdout;
    assert!(
        said.contains("write `2px` for its width") && said.contains("nothing was written: name what to mend"),
        "{said}"
    );
    assert_eq!(demo.files(""), before);
    // A check, and a place.
    let said = demo.run(&["check", "--mend", "geometry/corner", "controls/old-tag.stilk:19"]).status(1).stdout;
    assert!(said.contains("1 file written: 2 findings cleared, none broken"), "{said}");
    let sheet = demo.read("controls/old-tag.stilk");
    assert!(sheet.contains("border-radius: calc(infinity * 1px)") && sheet.contains("outline: 2px solid {focus.ring}"));
    assert!(demo.read("tokens/night.tokens.json").contains("\"buoy-label\": { \"$value\": \"{gull.mist}\" }"));
    let said = demo.run(&["check", "--mend", "contrast/txt"]).status(2).stderr;
    assert_eq!(said, "error: `contrast/txt` has nothing that can be mended\n  write `contrast/text`\n");
}

/// What is said on a terminal on which this is typed.
fn on_a_terminal(project: &Project, typed: &str) -> String {
    use std::io::Write;
    use std::process::{Command, Stdio};
    let mut terminal = Command::new("script")
        .args(["-qec", &format!("{} check --mend", env!("CARGO_BIN_EXE_stilk")), "/dev/null"])
        .current_dir(project.path("."))
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .expect("a terminal");
    let mut input = terminal.stdin.take().expect("its input");
    input.write_all(typed.as_bytes()).expect("an answer");
    let output = terminal.wait_with_output().expect("its output");
    drop(input);
    String::from_utf8_lossy(&output.stdout).into_owned()
}

#[test]
fn a_terminal_is_asked_for_each() {
    let demo = Project::demo();
    let said = on_a_terminal(&demo, "no\nperhaps\nyes\nno\n");
    assert!(said.contains("write this? (yes, no, all)") && said.contains("write `yes`, `no` or `all`"), "{said}");
    assert!(said.contains("1 file written"), "{said}");
    assert!(demo.read("tokens/night.tokens.json").contains("\"buoy-label\": { \"$value\": \"{gull.night}\" }"));
    assert!(demo.read("controls/old-tag.stilk").contains("border-radius: 50px"), "no was said");
    let said = on_a_terminal(&demo, "all\n");
    assert!(said.contains("2 findings cleared, none broken"), "{said}");
}

#[test]
fn another_token_of_the_same_role_comes_first() {
    // The hint is a grey of the scale that is too light for text; its neighbour is not.
    let grey = |name: &str, lightness: f64| {
        format!(
            "\"{name}\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"oklch\", \"components\": [{lightness}, 0.01, 230] }} }}"
        )
    };
    let tokens = format!(
        "{{ \"paper\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"srgb\", \"components\": [1, 1, 1] }} }},
            \"danger\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"oklch\", \"components\": [0.5, 0.2, 25] }} }},
            \"ink\": {{ {}, {}, {} }} }}",
        grey("faint", 0.8),
        grey("soft", 0.5),
        grey("strong", 0.2)
    );
    let sheet = "@control x {
  padding: 12px; background: {paper}; color: {ink.faint}; border: 1px solid {danger}; font: 16px/24px sans-serif;
  @state hover { color: {ink.strong}; }
  @state focus { outline: 2px solid {ink.strong}; outline-offset: 2px; }
  @state active { text-decoration: underline; }
  @state disabled { opacity: .5; }
}
";
    let project = Project::empty()
        .file(
            "stilk.toml",
            "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{paper}\"\n",
        )
        .file("t.tokens.json", tokens)
        .file("controls/x.html", "<button type=\"button\"><span part=\"label\">Book</span></button>\n")
        .file("controls/x.stilk", sheet);
    let said = project.run(&["check", "--only", "contrast/text"]).status(1).stdout;
    let words: String = said.split_whitespace().filter(|word| *word != "|").collect::<Vec<_>>().join(" ");
    assert!(words.contains("--> controls/x.stilk:2:"), "{said}");
    assert!(words.contains("= mend: write `{ink.soft}` for `{ink.faint}`; clears 1 finding, breaks none"), "{said}");
    assert!(words.contains("or: ") && !words.contains("{danger}` for"), "{said}");
    let said = project.run(&["check", "--mend", "contrast/text"]).stdout;
    assert!(said.contains("+ padding: 12px; background: {paper}; color: {ink.soft};"), "{said}");
}
