//! Bad input: file, line, column, caret, what to write instead; exit code 2; what was built before stays.

use crate::support::{Project, Said};

const SHEET: &str = "controls/button.stilk";

#[track_caller]
fn refused(project: &Project, name: &str) -> Said {
    let said = project.run(&["build"]).status(2).stderr(name);
    assert!(!project.path("dist").exists(), "something was written");
    said
}

#[test]
fn several_mistakes_of_a_sheet_in_one_run() {
    let project = Project::pier()
        .edit(SHEET, "{fill.sea}", "{fill.see}")
        .edit(SHEET, "justify-content", "justify-contant")
        .edit(SHEET, "margin: 0;", "margin: 8;")
        .edit(SHEET, "color: var(--text);", "color: {space.near};")
        .edit(SHEET, "text-align: center;", "text-align: center")
        .edit(SHEET, "@part label", "@part lable")
        .edit(SHEET, "@state hover    {", "@state hovr {")
        .edit(SHEET, "--sunk: 1px", "--sunk: 1")
        .edit(SHEET, "    medium { }", "    medium { } small { }");
    refused(&project, "sheet.txt");
}

#[test]
fn more_mistakes_of_a_sheet() {
    let project = Project::pier()
        .edit(SHEET, "@traits ring;", "@traits rind;")
        .edit(SHEET, "default sea {", "default see {")
        .edit(SHEET, "@state hover    {", "@state hover    { @option tall { top: 0; } @exclude kelp with small;")
        .edit(SHEET, "--shade: 24%;", "--shad: 24%;")
        .edit(SHEET, "padding: var(--block)", "padding: var(--blok)")
        .edit(SHEET, "cursor: not-allowed;", "cursor: not-allowd; opacity: -{faded}; &:hover { top: 0; }")
        .edit(
            SHEET,
            "  @axis size",
            "  @exclude kelp on select;\n  @combine kelp buoy { top: 0; }\n  @stat hover { }\n  @axis size",
        );
    refused(&project, "sheet-more.txt");
}

#[test]
fn tokens_in_a_circle_and_values_out_of_shape() {
    let project = Project::pier()
        .edit("tokens/day.tokens.json", "{sea.foam}", "{surface.panel}")
        .edit(
            "tokens/day.tokens.json",
            "\"panel\": { \"$value\": \"{gull.white}\"",
            "\"panel\": { \"$value\": \"{surface.page}\"",
        )
        .edit("tokens/night.tokens.json", "{sea.abyss}", "{space.near}")
        .edit("tokens/storm.tokens.json", "{gull.white}", "{gull.wite}")
        .edit("tokens/base.tokens.json", "0.11, 232", "11, 432")
        .edit("tokens/base.tokens.json", "{ \"value\": 8, \"unit\": \"px\" }", "8")
        .edit("tokens/base.tokens.json", "\"unit\": \"ms\"", "\"unit\": \"min\"")
        .edit("tokens/base.tokens.json", "semi-bold", "semibold");
    refused(&project, "tokens.txt");
}

#[test]
fn a_token_without_a_value_in_one_theme() {
    let project = Project::pier().edit("tokens/night.tokens.json", "\"strong\": { \"$value\": \"{gull.mist}\" },", "");
    refused(&project, "theme-gap.txt");
}

#[test]
fn malformed_json_html_and_toml() {
    let project = Project::pier()
        .edit("tokens/storm.tokens.json", "},", "}")
        .edit("tokens/night.tokens.json", "\"fill\": {", "fill: {")
        .edit("controls/button.html", "</span></button>", "</button>");
    refused(&project, "malformed.txt");
    let project = Project::pier().edit("stilk.toml", "prefix = \"tern\"", "prefix = tern").edit(
        "stilk.toml",
        "[checks]",
        "[checks",
    );
    refused(&project, "malformed-toml.txt");
}

#[test]
fn a_manifest_with_wrong_keys_and_values() {
    let project = Project::pier()
        .edit("stilk.toml", "prefix", "prefx")
        .edit("stilk.toml", "folder", "foldr")
        .edit("stilk.toml", "\"AA\"", "\"A\"")
        .edit("stilk.toml", "{surface.page}", "{surface.pag}")
        .edit("stilk.toml", "\"storm\"", "\"strom\"")
        .edit("stilk.toml", "(prefers-color-scheme: dark)", "prefers dark )")
        .edit("stilk.toml", "[modifiers.theme]", "[modifiers.them]");
    refused(&project, "manifest.txt");
}

#[test]
fn missing_files_and_files_that_are_no_text() {
    let project = Project::pier()
        .without("tokens/storm.tokens.json")
        .edit("ternhaven.resolver.json", "night.tokens.json", "nigth.tokens.json")
        .file("controls/field.stilk", b"@control field { color: \xff\xfe; }")
        .file("controls/select.html", "<select></select>");
    refused(&project, "files.txt");
}

#[test]
fn names_that_would_meet() {
    // The option `row` of `button` and a control `button-row` would share a class.
    let project = Project::pier()
        .edit(SHEET, "  @axis size", "  @option row { flex-wrap: wrap; }\n  @axis size")
        .file("controls/button-row.html", "<div></div>")
        .file("controls/button-row.stilk", "@control button-row { display: flex; }");
    refused(&project, "collision.txt");
}

#[test]
fn a_failed_build_leaves_the_last_one() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let before = project.files("dist");
    let project = project.edit(SHEET, "{fill.sea}", "{fill.see}");
    project.run(&["build"]).status(2);
    assert_eq!(project.files("dist"), before);
}

#[test]
fn no_project_and_no_folder() {
    let project = Project::empty();
    project.run(&["check"]).status(2).stderr("no-project.txt");
    let said = project.run(&["check", "--project", "nowhere"]).status(2);
    assert_eq!(said.stderr, "error: there is no folder `nowhere`\n");
}
