//! `stilk check --mend`.

use crate::support::Project;

#[test]
fn what_can_be_mended_is_shown_and_written_and_nothing_else_changes() {
    let demo = Project::demo();
    let before = demo.read("tokens/night.tokens.json");
    let said = demo.run(&["check", "--mend"]).status(1).stdout;
    assert!(said.starts_with("tokens/night.tokens.json:13\n- \"on-buoy\": { \"$value\": \"{slate.mist}\" }\n+ \"on-buoy\": { \"$value\": \"{"), "{said}");
    assert!(said.contains("1 file written: 2 findings cleared, none broken"), "{said}");
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
