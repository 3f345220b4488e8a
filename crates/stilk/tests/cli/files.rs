//! Files as they come, and edits that are never lost: what is read, what is refused, what is written and where.

use crate::support::Project;
use std::os::unix::fs::{PermissionsExt, symlink};
use std::process::Command;

fn fifo(project: &Project, name: &str) {
    let made = Command::new("mkfifo").arg(project.path(name)).status().expect("mkfifo");
    assert!(made.success());
}

#[test]
fn nothing_is_written_outside_of_the_project_but_where_the_command_line_says_so() {
    for folder in ["", "/tmp/elsewhere", "../elsewhere", "a/../../b", "a\\\\b"] {
        let project = Project::pier().edit("stilk.toml", "folder = \"dist\"", &format!("folder = \"{folder}\""));
        let said = project.run(&["build"]).status(2).stderr;
        assert!(said.contains("--out DIR"), "{folder}: {said}");
    }
    // A link that leads out.
    let elsewhere = Project::empty();
    let project = Project::pier();
    symlink(elsewhere.path(""), project.path("dist")).unwrap();
    let said = project.run(&["build"]).status(2).stderr;
    assert!(said.contains("leads out of the project"), "{said}");
    assert!(elsewhere.files("").is_empty());
    let out = elsewhere.path("here").display().to_string();
    project.run(&["build", "--out", &out]).status(0);
    project.run(&["specimen", "--out", &out]).status(0);
    assert!(elsewhere.read("here/ternhaven.css").contains("tern-button"));
    assert!(elsewhere.path("here/specimen.html").exists());
}

#[test]
fn names_that_become_files_are_names() {
    for name in ["../../../evil", "a/b", ".hidden", "a\\\\b", "\\u0007bell"] {
        let project = Project::pier().edit("ternhaven.resolver.json", "\"storm\":", &format!("\"{name}\":"));
        let project = project.edit("stilk.toml", ", [\"storm\", \"(prefers-contrast: more)\"]", "");
        let said = project.run(&["build"]).status(2).stderr;
        assert!(said.contains("is no name of a context"), "{name}: {said}");
    }
    // What a file name cannot have is written as what it can.
    let project = Project::pier().edit("ternhaven.resolver.json", "\"storm\":", "\"heavy storm\":").edit(
        "stilk.toml",
        ", [\"storm\", \"(prefers-contrast: more)\"]",
        "",
    );
    project.run(&["build"]).status(0);
    assert!(project.path("dist/tokens/heavy-storm.tokens.json").exists());
    // So is the name of a stylesheet, which another file gives as an address.
    let project = project.edit("stilk.toml", "folder = \"dist\"", "folder = \"dist\"\nsplit = \"theme\"\nmap = true");
    project.run(&["build"]).status(0);
    let split = project.read("dist/ternhaven.theme-heavy-storm.css");
    assert!(split.ends_with("/*# sourceMappingURL=ternhaven.theme-heavy-storm.css.map */\n"), "{split}");
    assert!(split.contains("[data-theme=\"heavy storm\"]"));
}

#[test]
fn sources_outside_are_read_where_the_manifest_allows_it_and_never_shown() {
    let home = Project::empty();
    for (name, text) in Project::pier().files("") {
        home.write(&format!("pier/{name}"), &text);
    }
    home.write("shared/more.tokens.json", "{ \"secret\" }");
    let resolver = home.read("pier/ternhaven.resolver.json");
    let more = resolver.replacen("\"sources\": [", "\"sources\": [{ \"$ref\": \"../shared/more.tokens.json\" }, ", 1);
    home.write("pier/ternhaven.resolver.json", &more);
    let said = home.run(&["build", "--project", "pier"]).status(2).stderr;
    assert!(said.contains("`../shared/more.tokens.json` is outside of the project"), "{said}");
    assert!(said.contains("[\"../shared\"]"), "{said}");
    let manifest = home.read("pier/stilk.toml");
    home.write("pier/stilk.toml", &manifest.replace("[system]", "[system]\noutside = [\"../shared\"]"));
    let said = home.run(&["build", "--project", "pier"]).status(2).stderr;
    assert!(said.contains("more.tokens.json:1:") && !said.contains("secret"), "{said}");
    home.write("shared/more.tokens.json", r#"{ "kept": { "$type": "number", "$value": 1 } }"#);
    home.run(&["build", "--project", "pier"]).status(0);
    // Whatever a link of the project's own leads to is where it is.
    std::fs::remove_file(home.path("pier/tokens/day.tokens.json")).unwrap();
    symlink("/proc/self/environ", home.path("pier/tokens/day.tokens.json")).unwrap();
    let said = home.run(&["build", "--project", "pier"]).status(2).stderr;
    assert!(said.contains("is outside of the project") && !said.contains("PATH="), "{said}");
}

#[test]
fn what_is_no_regular_file_or_too_large_is_refused_at_once() {
    let project = Project::pier();
    fifo(&project, "controls/pipe.stilk");
    assert!(project.run(&["build"]).status(2).stderr.contains("is a folder, a device or a pipe"));
    std::fs::remove_file(project.path("controls/pipe.stilk")).unwrap();
    // Three gigabytes of nothing.
    let hole = std::fs::File::create(project.path("controls/hole.stilk")).unwrap();
    hole.set_len(3 << 30).unwrap();
    assert!(project.run(&["build"]).status(2).stderr.contains("is larger than 8 MB"));
    std::fs::remove_file(project.path("controls/hole.stilk")).unwrap();
    project.run(&["build"]).status(0);

    fifo(&project, "pipe.html");
    fifo(&project, "pipe.css");
    symlink("/dev/zero", project.path("zero.css")).unwrap();
    project.write(
        "page.html",
        "<!doctype html><link rel=stylesheet href=dist/ternhaven.css><link rel=stylesheet href=pipe.css>
         <link rel=stylesheet href=zero.css><style>@import 'pipe.css';</style><button type=button class=tern-button>x</button>",
    );
    let said = project.run(&["scan", "pipe.html", "page.html"]).status(2);
    assert!(said.stderr.contains("`pipe.html` cannot be read: it is no regular file"), "{}", said.stderr);
    assert!(said.stderr.contains("warning: `zero.css` cannot be had"), "{}", said.stderr);
    assert!(!said.stdout.contains("nothing to mend"), "{}", said.stdout);
    assert!(said.stdout.contains("1 page, 1 not read"), "{}", said.stdout);
}

#[test]
fn pages_are_read_in_their_encoding_and_what_is_no_text_is_an_error() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let page = "<!doctype html><meta charset=iso-8859-1><link rel=stylesheet href=dist/ternhaven.css>\
                <button type=button class='tern-button tern-button-\u{e9}'>x</button>";
    let latin: Vec<u8> = page.chars().map(|c| c as u8).collect();
    let utf_16: Vec<u8> = [0xfe, 0xff].into_iter().chain(page.encode_utf16().flat_map(u16::to_be_bytes)).collect();
    for bytes in [latin, utf_16] {
        std::fs::write(project.path("page.html"), bytes).unwrap();
        let said = project.run(&["scan", "page.html"]).status(1);
        assert!(said.stdout.contains("the system has no class `tern-button-\u{e9}`"), "{}", said.stdout);
    }
    for (bytes, why) in [(&[0x1f, 0x8b, 8, 0][..], "it is compressed"), (&[0; 300][..], "it is no text")] {
        std::fs::write(project.path("page.html"), bytes).unwrap();
        let said = project.run(&["scan", "page.html"]).status(2);
        assert!(said.stderr.contains(why), "{}", said.stderr);
        project.run(&["why", "--page", "page.html", "p", "color"]).status(2);
    }
}

#[test]
fn what_depends_on_a_missing_stylesheet_is_unknown() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    project.write("my sheets/own.css", ".tern-button { color: white !important; background: white !important }");
    let page = |links: &str| {
        format!(
            "<!doctype html><html lang=en><base href='my%20sheets/'><title>x</title>\
             <link rel=stylesheet href=../dist/ternhaven.css>{links}\
             <button type=button class=tern-button><span class=tern-button_label>x</span></button>"
        )
    };
    // Where the base of the page leads, with what is escaped in it.
    project.write("page.html", &page("<link rel=stylesheet href=own.css>"));
    let said = project.run(&["scan", "page.html"]).status(1).stdout;
    assert!(said.contains("page/contrast"), "{said}");
    let missing = "<link rel=stylesheet href=own.css><link rel=stylesheet href=gone.css>\
                   <link rel=stylesheet href=https://ternhaven.example/x.css>";
    project.write("page.html", &page(missing));
    let said = project.run(&["scan", "page.html", "--format", "json"]);
    let report: serde_json::Value = serde_json::from_str(&said.stdout).unwrap();
    let findings = report["findings"].as_array().unwrap();
    assert!(findings.iter().all(|finding| !finding["check"].as_str().unwrap().starts_with("page/")), "{findings:?}");
    let reasons = report["reasons"].as_object().unwrap();
    assert!(reasons.keys().any(|reason| reason.contains("a stylesheet that the page links cannot be had")));
    assert_eq!(report["scan"]["missing"].as_array().unwrap().len(), 2);
    let said = project.run(&["why", "--page", "page.html", ".tern-button", "color"]).status(0);
    assert!(said.stdout.contains("not certain: 2 stylesheets"), "{}", said.stdout);
}

/// A project whose mend changes two files.
fn with_mends() -> Project {
    Project::demo()
}

#[test]
fn a_mend_keeps_links_modes_and_marks_and_refuses_what_is_read_only() {
    let project = with_mends();
    let night = project.path("tokens/night.tokens.json");
    let marked = format!("\u{feff}{}", project.read("tokens/night.tokens.json"));
    std::fs::write(&night, &marked).unwrap();
    std::fs::set_permissions(&night, std::fs::Permissions::from_mode(0o444)).unwrap();
    let said = project.run(&["check", "--mend", "--yes"]).status(2).stderr;
    assert!(said.contains("it is read-only") && said.contains("nothing was written"), "{said}");
    assert_eq!(project.read("tokens/night.tokens.json"), marked);
    std::fs::set_permissions(&night, std::fs::Permissions::from_mode(0o640)).unwrap();
    // The file is elsewhere in the project, and linked.
    std::fs::rename(&night, project.path("tokens/kept.json")).unwrap();
    symlink("kept.json", &night).unwrap();
    project.run(&["check", "--mend", "--yes"]);
    assert!(std::fs::symlink_metadata(&night).unwrap().file_type().is_symlink(), "the link was replaced");
    let mended = project.read("tokens/kept.json");
    assert!(mended.starts_with('\u{feff}') && mended != marked, "{mended}");
    let mode = std::fs::metadata(project.path("tokens/kept.json")).unwrap().permissions().mode();
    assert_eq!(mode & 0o777, 0o640);
}

#[test]
fn an_interrupted_mend_is_completed_or_undone_by_the_next_run() {
    let journal = |project: &Project, names: [&str; 2]| {
        let entries: Vec<serde_json::Value> = names
            .iter()
            .map(|name| {
                let before = project.read(name);
                let path = project.path(name).canonicalize().unwrap();
                serde_json::json!({ "path": path, "before": before, "after": before.replace("  ", "   ") })
            })
            .collect();
        project.write(".stilk-journal", &serde_json::Value::from(entries.clone()).to_string());
        entries
    };
    let names = ["tokens/night.tokens.json", "tokens/day.tokens.json"];
    let project = Project::pier();
    let entries = journal(&project, names);
    // The first was written when the run was killed.
    project.write(names[0], entries[0]["after"].as_str().unwrap());
    let said = project.run(&["build"]).status(0).stderr;
    assert!(said.contains("note: an interrupted `check --mend` was completed: 2 files"), "{said}");
    assert_eq!(project.read(names[1]), entries[1]["after"].as_str().unwrap());
    assert!(!project.path(".stilk-journal").exists());

    let project = Project::pier();
    let entries = journal(&project, names);
    project.write(names[0], entries[0]["after"].as_str().unwrap());
    // Somebody wrote the second since.
    let own = project.read(names[1]) + "\n";
    project.write(names[1], &own);
    let said = project.run(&["build"]).status(0).stderr;
    assert!(said.contains("note: an interrupted `check --mend` was undone"), "{said}");
    assert_eq!(project.read(names[0]), entries[0]["before"].as_str().unwrap());
    assert_eq!(project.read(names[1]), own, "what somebody wrote was lost");
}

#[test]
fn what_a_killed_run_left_behind_is_removed() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    // No process has this number.
    for folder in ["", "dist/", "dist/tokens/"] {
        project.write(&format!("{folder}.stilk-4194305-abcdef"), "half");
    }
    // This one runs.
    let own = format!("dist/.stilk-{}-abcdef", std::process::id());
    project.write(&own, "half");
    let sheet = project.read("controls/button.stilk");
    project
        .write("controls/button.stilk", &sheet.replace("@control button {", "@control button { letter-spacing: 3px;"));
    project.run(&["build"]).status(0);
    let left: Vec<String> =
        project.files("").into_iter().map(|(name, _)| name).filter(|name| name.contains(".stilk-")).collect();
    assert_eq!(left.iter().filter(|name| !name.ends_with(&own)).count(), 0, "{left:?}");
    assert!(project.path(&own).exists());
}

#[test]
fn a_sample_that_cannot_be_read_is_not_overwritten() {
    let project = Project::demo();
    // A folder where a file is expected cannot be read as one.
    std::fs::remove_file(project.path("tokens/day.tokens.json")).unwrap();
    std::fs::create_dir(project.path("tokens/day.tokens.json")).unwrap();
    let folder = project.path("").display().to_string();
    let said = project.run(&["demo", &folder]).status(2).stderr;
    assert!(said.contains("tokens/day.tokens.json"), "{said}");
}

#[test]
fn names_of_any_bytes_are_taken_and_words_for_a_shell_are_quoted() {
    use std::os::unix::ffi::OsStrExt;
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let name = std::ffi::OsStr::from_bytes(b"p\xff.html");
    std::fs::write(
        project.path("").join(name),
        "<!doctype html><link rel=stylesheet href=dist/ternhaven.css><p class=tern-x>",
    )
    .unwrap();
    let output = project.command(&["scan"]).arg(name).output().unwrap();
    assert_eq!(output.status.code(), Some(1), "{}", String::from_utf8_lossy(&output.stderr));
    let empty = Project::empty();
    let said = empty.run(&["new", "my system"]).status(0).stdout;
    assert!(said.contains("stilk build --project 'my system'"), "{said}");
    // Letters of every script are letters.
    for (folder, prefix) in [("north", "ø"), ("under", "x_y"), ("kana", "かもめ")] {
        empty.run(&["new", folder, "--prefix", prefix]).status(0);
        let said = empty.run(&["check", "--project", folder]).status(0).stdout;
        assert!(said.contains("nothing to mend"), "{said}");
    }
    // What will not do leaves nothing behind.
    let said = empty.run(&["new", "other", "--prefix", "1x"]).status(2).stderr;
    assert!(said.contains("`1x` cannot begin a class name") && said.contains("nothing was written"), "{said}");
    assert!(!empty.path("other").exists());
}
