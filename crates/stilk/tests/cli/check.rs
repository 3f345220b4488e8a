//! `stilk check`: findings, formats, exit codes.

use crate::support::Project;
use serde_json::Value;

const SHEET: &str = "controls/button.stilk";

fn mended() -> Project {
    Project::pier().edit(
        "tokens/night.tokens.json",
        "\"buoy-label\": { \"$value\": \"{gull.mist}\" }",
        "\"buoy-label\": { \"$value\": \"{sea.abyss}\" }",
    )
}

fn json(project: &Project, status: i32) -> Value {
    let said = project.run(&["check", "--format", "json"]).status(status);
    serde_json::from_str(&said.stdout).unwrap()
}

#[test]
fn the_fault_of_the_sample_is_found_with_its_mend() {
    Project::pier().run(&["check"]).status(1).stdout("check.txt");
}

#[test]
fn json_has_the_agreed_shape() {
    let report = json(&Project::pier(), 1);
    assert_eq!(report["cases"], 4 * 27 * 5 * 3);
    assert_eq!(report["unknown"], 0);
    let finding = &report["findings"][0];
    assert_eq!(finding["check"], "contrast/text");
    assert_eq!(finding["level"], "error");
    // Every host, three sizes, one colour and voice, four states that are not disabled, one theme.
    assert_eq!(finding["cases"], 4 * 3 * 4);
    assert!(finding["worst"].as_str().unwrap().contains(":1, needs 4.5:1"));
    assert_eq!(finding["spans"][0]["file"], "tokens/night.tokens.json");
    assert_eq!(finding["spans"][0]["line"], 12);
    assert_eq!(finding["spans"][0]["column"], 31);
    assert!(finding["mend"].as_str().unwrap().starts_with("write `{"));
}

#[test]
fn the_mend_that_is_offered_holds() {
    let finding = &json(&Project::pier(), 1)["findings"][0];
    let mend = finding["mend"].as_str().unwrap();
    let token = mend.split('`').nth(1).unwrap();
    let project = Project::pier().edit(
        "tokens/night.tokens.json",
        "\"buoy-label\": { \"$value\": \"{gull.mist}\" }",
        &format!("\"buoy-label\": {{ \"$value\": \"{token}\" }}"),
    );
    assert_eq!(json(&project, 0)["findings"].as_array().unwrap().len(), 0);
}

#[test]
fn a_clean_system_exits_with_0() {
    let said = mended().run(&["check"]).status(0);
    assert_eq!(said.stdout, "1,620 cases looked at, none unknown: nothing to mend\n");
}

#[test]
fn a_state_without_a_look_is_found() {
    let project = mended().edit("controls/shared.stilk", "@state focus", "@state selected");
    project.run(&["check"]).status(1).stdout("state-missing.txt");
}

#[test]
fn each_surface_counts() {
    // Readable on the page, not on a panel of nearly the same colour.
    let project = mended().edit(
        "tokens/day.tokens.json",
        "\"panel\": { \"$value\": \"{gull.white}\"",
        "\"panel\": { \"$value\": \"{sea.open}\"",
    );
    let report = json(&project, 1);
    let messages: Vec<_> =
        report["findings"].as_array().unwrap().iter().map(|f| f["message"].as_str().unwrap()).collect();
    assert!(
        messages.iter().any(|m| m.starts_with("`fill.sea` on `ink.strong` mixed with `surface.panel`")),
        "{messages:?}"
    );
}

#[test]
fn a_waiver_accepts_what_it_names_and_no_more() {
    let waive = |rule: &str| Project::pier().edit(SHEET, "  @axis size", &format!("  {rule}\n  @axis size"));
    let whole = waive("@waive contrast/text on .buoy \"The night watch knows this one.\";");
    assert_eq!(json(&whole, 0)["findings"].as_array().unwrap().len(), 0);
    let other = waive("@waive contrast/text on .kelp \"Another one.\";");
    assert_eq!(json(&other, 1)["findings"][0]["cases"], 48);
    // In the notation of cases: on a host, in a state.
    let cases = |rule: &str| json(&waive(rule), 1)["findings"][0]["cases"].as_u64().unwrap();
    let hovered = cases("@waive contrast/text on .buoy:hover \"Seen for a moment only.\";");
    let on_link = cases("@waive contrast/text on @a.buoy \"Printed as a link.\";");
    assert!(hovered > 0 && hovered < 48 && on_link > 0 && on_link < 48, "{hovered} {on_link}");
    let wrong = waive("@waive contrast/text on .buoy:hovr \"Misspelt.\";").run(&["check"]).status(2);
    assert!(wrong.stderr.contains("there is no state `hovr`") && wrong.stderr.contains("mend: write `hover`"));
    let wrong = waive("@waive contrast/txt \"Misspelt.\";").run(&["check"]).status(2);
    assert!(wrong.stderr.contains("mend: write `contrast/text`"), "{}", wrong.stderr);
}

#[test]
fn levels_of_the_manifest_replace_those_of_checks() {
    let with = |level: &str| {
        let levels = format!("levels = {{ \"contrast/text\" = \"{level}\", ");
        Project::pier().edit("stilk.toml", "levels = { ", &levels)
    };
    assert_eq!(json(&with("note"), 0)["findings"][0]["level"], "note");
    assert_eq!(json(&with("off"), 0)["findings"].as_array().unwrap().len(), 0);
}

#[test]
fn aaa_asks_for_more() {
    let project = mended().edit("stilk.toml", "\"AA\"", "\"AAA\"");
    let report = json(&project, 1);
    assert!(report["findings"][0]["worst"].as_str().unwrap().ends_with("needs 7:1"));
}

#[test]
fn what_cannot_be_known_is_counted_and_named() {
    let project = mended().edit(SHEET, "strong  { }", "strong  { text-shadow: 0 1px {ink.strong}; }");
    let said = project.run(&["check"]).status(0);
    assert_eq!(
        said.stdout,
        "unknown in 432 cases: contrast/text: a text shadow is painted behind the text\n\
         1,620 cases looked at, 432 verdicts unknown: nothing to mend\n"
    );
}

#[test]
fn reasons_break_where_a_terminal_ends() {
    let said = Project::demo().run(&["check", "--only", "geometry/target"]);
    let reasons: Vec<&str> = said.stdout.lines().skip_while(|line| !line.starts_with("unknown in ")).collect();
    let wide: Vec<&&str> = reasons.iter().filter(|line| line.chars().count() > 80).collect();
    assert_eq!(wide, Vec::<&&str>::new());
    assert!(reasons.get(1).is_some_and(|line| line.starts_with("  ")), "what goes on is indented: {}", said.stdout);
}

#[test]
fn paths_are_those_of_where_the_user_stands() {
    let project = Project::pier();
    let name = project.path("").file_name().unwrap().to_str().unwrap().to_owned();
    let said = std::process::Command::new(env!("CARGO_BIN_EXE_stilk"))
        .args(["check", "--project", &name])
        .current_dir(project.path("").parent().unwrap())
        .output()
        .unwrap();
    assert!(String::from_utf8(said.stdout).unwrap().contains(&format!("--> {name}/tokens/night.tokens.json:12:31")));
}

#[test]
fn the_other_side_of_a_condition_is_looked_at_and_named() {
    let project = Project::pier();
    let before = project.run(&["check", "--format", "json"]);
    let sheet = project.read("controls/button.stilk");
    let at = sheet.rfind('}').expect("an end");
    let narrow = "@media (width < 40rem) { color: {surface.page}; background: {surface.page}; }\n";
    project.write("controls/button.stilk", &format!("{}  {narrow}{}", &sheet[..at], &sheet[at..]));
    let said = project.run(&["check", "--only", "contrast/text"]).status(1).stdout;
    assert!(said.contains("(width: 639px)"), "{said}");
    // What holds on an ordinary screen is as before, and so is the number of cases.
    let after: serde_json::Value = serde_json::from_str(&project.run(&["check", "--format", "json"]).stdout).unwrap();
    let before: serde_json::Value = serde_json::from_str(&before.stdout).unwrap();
    assert_eq!(before["cases"], after["cases"]);
}

#[test]
fn a_token_that_is_unknown_in_many_places_is_one_finding() {
    let project = Project::pier();
    let sheet = project.read("controls/button.stilk");
    let at = sheet.rfind('}').expect("an end");
    let lines =
        "  @state hover { color: {ink.stron}; border-color: {ink.stron}; }\n  @state active { color: {ink.stron}; }\n";
    project.write("controls/button.stilk", &format!("{}{lines}{}", &sheet[..at], &sheet[at..]));
    let said = project.run(&["check"]).status(2).stderr;
    assert_eq!(said.matches("error[token/unknown]").count(), 1, "{said}");
    assert_eq!(said.matches("and here").count(), 2, "{said}");
}

#[test]
fn every_save_is_checked_anew_while_it_is_watched() {
    use std::io::{BufRead, BufReader};
    let project = Project::pier();
    let mut child = project.command(&["check", "--watch"]).stdout(std::process::Stdio::piped()).spawn().unwrap();
    let mut lines = BufReader::new(child.stdout.take().unwrap()).lines().map_while(Result::ok);
    let mut next = |words: &str| {
        let mut said = Vec::new();
        for line in lines.by_ref() {
            let is_last = line.contains("looked at") || line.contains("nothing was written");
            said.push(line);
            if is_last {
                break;
            }
        }
        assert!(said.join("\n").contains(words), "{words}: {said:#?}");
    };
    next("1,620 cases looked at, none unknown: 1 finding");
    let sheet = project.read("controls/button.stilk");
    project.write("controls/button.stilk", &sheet.replace("  @traits ring;\n", ""));
    next("looks the same in focus as at rest");
    project.write("controls/button.stilk", &sheet.replace("@traits ring;", "@traits rinq;"));
    next("1 error");
    project.write("controls/button.stilk", &sheet);
    next("1,620 cases looked at, none unknown: 1 finding");
    child.kill().unwrap();
    child.wait().unwrap();
}
