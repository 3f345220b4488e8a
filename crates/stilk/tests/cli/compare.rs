//! `stilk compare`: folders and git revisions.

use crate::support::Project;
use serde_json::{Value, json};
use std::process::Command;

fn git(project: &Project, arguments: &[&str]) {
    let output = Command::new("git")
        // Whatever this machine has configured.
        .env("GIT_CONFIG_GLOBAL", "/dev/null")
        .env("GIT_CONFIG_NOSYSTEM", "1")
        .args(["-c", "user.name=Tern", "-c", "user.email=tern@example.org", "-c", "init.defaultBranch=main"])
        .args(arguments)
        .current_dir(project.path("."))
        .output()
        .expect("git runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
}

/// The small button in a repository with one commit.
fn committed() -> Project {
    let project = Project::pier();
    git(&project, &["init", "-q"]);
    git(&project, &["add", "."]);
    git(&project, &["commit", "-qm", "One"]);
    project
}

fn compared(project: &Project, arguments: &[&str]) -> Value {
    let said = project.run(&[&["compare"], arguments, &["--format", "json"]].concat());
    serde_json::from_str(&said.stdout).unwrap_or_else(|error| panic!("{error}: {}{}", said.stdout, said.stderr))
}

#[test]
fn nothing_differs_from_itself() {
    let project = committed();
    let said = project.run(&["compare", "HEAD"]).status(0).stdout;
    assert!(said.starts_with("HEAD → the project as it is\n\nnothing differs in "), "{said}");
    assert_eq!(compared(&project, &["HEAD"])["step"], "none");
}

#[test]
fn one_edit_of_a_token_is_one_change() {
    let project = committed().edit(
        "tokens/base.tokens.json",
        "\"control\": { \"$value\": { \"value\": 8",
        "\"control\": { \"$value\": { \"value\": 10",
    );
    let found = compared(&project, &["HEAD"]);
    let changes = found["changes"].as_array().expect("changes");
    assert_eq!(changes.len(), 1, "{found:#}");
    assert!(changes[0]["cause"].as_str().is_some_and(|cause| cause.starts_with("token ")), "{found:#}");
    assert!(changes[0]["cases"].as_u64().is_some_and(|cases| cases > 100), "{found:#}");
    assert_eq!(found["step"], "minor");
}

#[test]
fn names_that_are_gone_ask_for_a_major_step() {
    let project = committed();
    let project = project.edit("controls/button.stilk", "    kelp { --fill", "    weed { --fill");
    let found = compared(&project, &["HEAD"]);
    let names = found["names"].as_array().expect("names");
    assert_eq!(found["step"], "major", "{found:#}");
    assert!(
        names.iter().any(|name| name["old"] == "button.kelp" && name["written"] == ".tern-button-kelp"),
        "{found:#}"
    );
    let text = project.run(&["compare", "HEAD"]).status(1).stdout;
    assert!(text.contains("this asks for a major step"), "{text}");
}

#[test]
fn a_control_with_another_name_is_the_same_control() {
    let project = committed();
    let (sheet, template) = (project.read("controls/button.stilk"), project.read("controls/button.html"));
    let sheet = sheet.replace("@control button", "@control knob");
    let project = project
        .without("controls/button.stilk")
        .without("controls/button.html")
        .file("controls/knob.stilk", &sheet)
        .file("controls/knob.html", template);
    let found = compared(&project, &["HEAD"]);
    let names = found["names"].as_array().expect("names");
    assert_eq!(names.len(), 1, "its parts and options go with it: {names:#?}");
    assert_eq!(
        (&names[0]["kind"], &names[0]["old"], &names[0]["new"]),
        (&json!("control"), &json!("button"), &json!("knob"))
    );
    assert_eq!((&found["step"], found["changes"].as_array().map(Vec::len)), (&json!("major"), Some(0)), "{found:#}");
}

#[test]
fn what_a_control_keeps_to_itself_is_told_and_asks_for_less() {
    let project = committed().edit("controls/button.stilk", "@control button {", "@control button {\n  --spare: 0;");
    let found = compared(&project, &["HEAD"]);
    assert!(found["names"].to_string().contains("--tern-button-spare"), "{found:#}");
    assert_eq!(found["step"], "patch", "{found:#}");
}

#[test]
fn contrast_that_is_lost_is_told_with_its_figures() {
    let project = committed().edit(
        "tokens/day.tokens.json",
        "\"sea-label\": { \"$value\": \"{gull.white}\" }",
        "\"sea-label\": { \"$value\": \"{sea.open}\" }",
    );
    let found = compared(&project, &["HEAD"]);
    let contrast = found["contrast"].as_array().expect("contrast");
    assert!(contrast.iter().any(|one| one["lost"] == true), "{found:#}");
    assert_eq!(found["step"], "major");
    let page = project.run(&["compare", "HEAD", "--format", "html"]).status(1).stdout;
    assert!(page.starts_with("<!doctype html>") && page.contains("<figcaption>before</figcaption>"));
    assert!(!page.contains("http:") && !page.contains("https:"));
    let markdown = project.run(&["compare", "HEAD", "--format", "markdown"]).status(1).stdout;
    assert!(markdown.starts_with("## HEAD → the project as it is (major)\n"), "{markdown}");
    assert!(markdown.contains("### Accessibility"), "{markdown}");
}

#[test]
fn folders_are_compared_like_revisions() {
    let old = Project::pier();
    let new = Project::pier().edit(
        "tokens/base.tokens.json",
        "\"control\": { \"$value\": { \"value\": 8",
        "\"control\": { \"$value\": { \"value\": 10",
    );
    let path = old.path(".").display().to_string();
    let said = new.run(&["compare", &path, "."]).status(1).stdout;
    assert!(said.contains("token ") && said.contains("this asks for a minor step"), "{said}");
}

#[test]
fn what_is_neither_is_said() {
    let project = committed();
    let said = project.run(&["compare", "v9"]).status(2).stderr;
    assert_eq!(said, "error: `v9` is no folder, and no revision that git knows in `.`\n");
    let said = project.run(&["compare", "--help"]).status(0);
    assert!(said.stdout.contains("stilk compare HEAD~1"));
    let broken = project.edit("controls/button.stilk", "@control", "@contrl");
    let said = broken.run(&["compare", "HEAD"]).status(2).stderr;
    assert!(said.contains("cannot be compared: its sources hold errors"), "{said}");
}

#[test]
fn a_repository_cannot_have_its_programs_run() {
    let project = committed();
    // Whatever git could be told to run leaves a mark.
    let mark = project.path("ran");
    let program = project.path("program.sh");
    project.write("program.sh", &format!("#!/bin/sh\ntouch '{}'\ncat\n", mark.display()));
    project.write(".git/hooks/post-index-change", &project.read("program.sh"));
    for file in ["program.sh", ".git/hooks/post-index-change"] {
        use std::os::unix::fs::PermissionsExt;
        std::fs::set_permissions(project.path(file), std::fs::Permissions::from_mode(0o755)).expect("a mode");
    }
    let program = program.display().to_string();
    for key in ["core.fsmonitor", "core.pager", "diff.external", "core.sshCommand", "credential.helper", "core.editor"]
    {
        git(&project, &["config", key, &program]);
    }
    for key in ["filter.mark.smudge", "filter.mark.clean", "diff.mark.textconv", "diff.mark.command"] {
        git(&project, &["config", key, &program]);
    }
    git(&project, &["config", "pager.ls-tree", "true"]);
    project.write(".git/info/attributes", "* filter=mark diff=mark\n");
    std::fs::remove_file(&mark).ok();
    let before = project.read(".git/config");
    project.run(&["compare", "HEAD"]).status(0);
    assert!(!mark.exists(), "a program of the repository was run");
    assert_eq!(project.read(".git/config"), before);
}

#[test]
fn what_is_not_there_is_not_fetched() {
    let project = committed();
    let id = Command::new("git")
        .args(["rev-parse", "HEAD:controls/button.stilk"])
        .current_dir(project.path("."))
        .output()
        .expect("git runs");
    let id = String::from_utf8(id.stdout).expect("an id").trim().to_owned();
    // A partial clone: a blob is missing, and somebody promised it.
    let mark = project.path("fetched");
    project.write("helper.sh", &format!("#!/bin/sh\ntouch '{}'\n", mark.display()));
    git(&project, &["config", "core.repositoryformatversion", "1"]);
    git(&project, &["config", "extensions.partialClone", "origin"]);
    git(&project, &["config", "remote.origin.url", &project.path(".").display().to_string()]);
    // What git runs on the other side of a fetch.
    git(&project, &["config", "remote.origin.uploadpack", &format!("sh {}", project.path("helper.sh").display())]);
    git(&project, &["config", "remote.origin.promisor", "true"]);
    std::fs::remove_file(project.path(&format!(".git/objects/{}/{}", &id[..2], &id[2..]))).expect("the blob");
    let said = project.run(&["compare", "HEAD"]).status(2);
    assert!(said.stderr.contains("git cannot "), "{}", said.stderr);
    assert!(!mark.exists(), "it was fetched");
}

#[test]
fn a_file_of_a_revision_is_read_no_further_than_one_of_a_folder() {
    let project = Project::pier();
    let sheet = project.read("controls/button.stilk");
    let large = format!("{sheet}\n/*{}*/\n", " ".repeat(20 << 20));
    project.write("controls/button.stilk", &large);
    git(&project, &["init", "-q"]);
    git(&project, &["add", "."]);
    git(&project, &["commit", "-qm", "Large"]);
    project.write("controls/button.stilk", &sheet);
    let said = project.run(&["compare", "HEAD"]).status(2).stderr;
    assert!(said.contains("controls/button.stilk") && said.contains("MB"), "{said}");
}

#[test]
fn a_revision_is_no_option_and_no_other_name() {
    let project = committed();
    for name in ["--output=x", "-h", "HEAD:controls", "HEAD^{tree}", "HEAD..HEAD", "@{-9}", ""] {
        let said = project.run(&["compare", "--", name]).status(2).stderr;
        assert!(said.starts_with("error: "), "{name}: {said}");
    }
    assert!(!project.path("x").exists());
}

#[test]
fn what_moves_otherwise_is_told_though_nothing_looks_different() {
    let project = committed();
    let sheet = project.read("controls/button.stilk");
    let more = "\n@keyframes bob { to { translate: 0 -2px; } }\n";
    let begun = sheet.replacen('{', "{\n  @starting-style { opacity: 0; }\n", 1);
    project.write("controls/button.stilk", &format!("{begun}{more}"));
    let found = compared(&project, &["HEAD"]);
    assert_eq!((&found["changed"], &found["step"]), (&json!(0), &json!("minor")));
    assert_eq!(
        found["motions"],
        json!([
            { "what": "`button`", "old": null, "new": "`opacity: 0`" },
            { "what": "keyframes `bob`", "old": null, "new": "to { translate: 0 -2px; }" },
        ])
    );
    git(&project, &["commit", "-qam", "Two"]);
    let other = begun.replace("{ opacity: 0; }", "{ opacity: .5; }");
    project.write("controls/button.stilk", &format!("{other}{}", more.replace("-2px", "-3px")));
    let said = project.run(&["compare", "HEAD"]).status(1).stdout;
    assert!(said.contains("motion: `button` begins from `opacity: .5`, no longer from `opacity: 0`"), "{said}");
    assert!(said.contains("motion: keyframes `bob` are others"), "{said}");
    assert!(said.contains("minor: other motion: `button`, keyframes `bob`"), "{said}");
    let said = project.run(&["compare", "HEAD", "--format", "markdown"]).status(1).stdout;
    assert!(said.contains("### Motion\n\n- `button` begins from"), "{said}");
    // Another token in the same text.
    git(&project, &["checkout", "-q", "."]);
    let tokens = project.read("tokens/base.tokens.json");
    project.write("controls/button.stilk", &begun.replace("opacity: 0;", "border-radius: {corner.control};"));
    git(&project, &["commit", "-qam", "Three"]);
    let other = "\"control\": { \"$value\": { \"value\": 10";
    project.write("tokens/base.tokens.json", &tokens.replacen("\"control\": { \"$value\": { \"value\": 8", other, 1));
    let motion = json!({ "what": "`button`", "old": "`border-radius: 8px`", "new": "`border-radius: 10px`" });
    assert_eq!(compared(&project, &["HEAD"])["motions"], json!([motion]));
}
