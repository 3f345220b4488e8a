//! `stilk check --mend`.

use crate::support::Project;

#[test]
fn what_can_be_mended_is_shown_and_written_and_nothing_else_changes() {
    let demo = Project::demo();
    let before = demo.read("tokens/night.tokens.json");
    let sheet = demo.read("controls/old-tag.stilk");
    let said = demo.run(&["check", "--mend"]).status(1).stdout;
    assert!(said.starts_with("tokens/night.tokens.json:13\n- \"on-buoy\": { \"$value\": \"{slate.mist}\" }\n+ \"on-buoy\": { \"$value\": \"{"), "{said}");
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
    let again = demo.run(&["check", "--mend"]).status(1).stdout;
    assert!(again.starts_with("nothing that can be mended without a decision"), "{again}");
    assert_eq!(demo.read("tokens/night.tokens.json"), after);
}

#[test]
fn a_colour_of_its_own_gets_another_lightness() {
    let pale = "{ \"colorSpace\": \"oklch\", \"components\": [0.75, 0.1, 230] }";
    let project = Project::pier().edit(
        "tokens/night.tokens.json",
        "\"on-buoy\": { \"$value\": \"{slate.mist}\" }",
        &format!("\"on-buoy\": {{ \"$value\": {pale} }}"),
    );
    let said = project.run(&["check", "--mend"]).status(0).stdout;
    assert!(said.contains("+ \"on-buoy\": { \"$value\": { \"colorSpace\": \"oklch\", \"components\": [0."), "{said}");
    assert!(said.contains("none broken, 0 left"), "{said}");
}

#[test]
fn what_would_break_something_else_is_told_and_not_written() {
    // A dot that stands too far left in small: the base's number serves the other size, where it is right.
    let sheet = "@control x {
  display: inline-flex; padding: 8px; background: {fill.sea}; color: {ink.on-sea}; border: 0;
  @part label { position: relative; display: block; box-sizing: border-box; inline-size: 20px; block-size: 20px; border: 2px solid {ink.on-sea}; }
  @part label::after { content: \"\"; position: absolute; top: 4px; left: 4px; inline-size: 8px; block-size: 8px; background: {ink.on-sea}; }
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
    project.run(&["check", "--mend"]).status(1);
    assert_eq!(project.read("controls/x.stilk"), sheet);
}

#[test]
fn a_proposal_writes_nothing() {
    let project = Project::pier();
    let before = project.read("tokens/night.tokens.json");
    let said = project.run(&["contrast", "--mend"]).status(1).stdout;
    assert!(said.contains("+ \"on-buoy\": { \"$value\": \"{buoy.rust}\" }"), "{said}");
    assert!(said.contains("clears 1 finding, breaks none") && said.contains("nothing was written"), "{said}");
    assert_eq!(project.read("tokens/night.tokens.json"), before);
    project.run(&["check", "--mend"]).status(0);
    let said = project.run(&["contrast", "--mend"]).status(0).stdout;
    assert_eq!(said, "all contrast is as it should be: nothing to propose\n");
}
