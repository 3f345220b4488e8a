//! Completion as a shell asks for it, and manual pages.

use crate::support::Project;
use std::process::Command;

/// What Bash offers where a line ends, by the script that `stilk completions bash` prints.
fn offered(project: &Project, line: &str) -> Vec<String> {
    // Bash breaks words at these as well as at spaces.
    let mut words = vec![String::new()];
    for c in line.chars() {
        let last = words.last_mut().expect("one at least");
        match c {
            ' ' => words.push(String::new()),
            ':' | '@' if last.is_empty() => last.push(c),
            ':' | '@' => words.push(c.to_string()),
            _ if last == ":" || last == "@" => words.push(c.to_string()),
            _ => last.push(c),
        }
    }
    let quoted: Vec<String> = words.iter().map(|word| format!("'{word}'")).collect();
    let script = format!(
        "compopt() {{ :; }}; COMP_WORDBREAKS=$' \\t\\n\"\\'@><=;|&(:'; source <(stilk completions bash) 2>/dev/null; \
         COMP_LINE='{line}'; COMP_POINT={}; COMP_WORDS=({}); COMP_CWORD={}; _stilk_complete; printf '%s\\n' \"${{COMPREPLY[@]}}\"",
        line.len(),
        quoted.join(" "),
        words.len() - 1
    );
    lines(project, "bash", &["-c", &script])
}

/// The same of Zsh, with what it describes candidates by taken away; an escaped colon is one of the candidate.
fn offered_by_zsh(project: &Project, line: &str) -> Vec<String> {
    let script = format!(
        "compdef() {{ :; }}; _describe() {{ print -rl -- ${{(P)3}}; }}; source <(stilk completions zsh); \
         words=(\"${{(@s: :):-{line}}}\"); CURRENT=${{#words}}; _clap_dynamic_completer_stilk; true"
    );
    let bare = |candidate: String| {
        let whole = candidate.replace("\\:", "\0");
        whole.split(':').next().unwrap_or_default().replace('\0', ":")
    };
    lines(project, "zsh", &["-f", "-c", &script]).into_iter().map(bare).collect()
}

/// The same of fish.
fn offered_by_fish(project: &Project, line: &str) -> Vec<String> {
    let script = format!("stilk completions fish | source; complete -C '{line}'");
    let bare = |candidate: String| candidate.split('\t').next().unwrap_or_default().to_owned();
    lines(project, "fish", &["--no-config", "-c", &script]).into_iter().map(bare).collect()
}

/// What a shell prints that finds the program, line by line.
fn lines(project: &Project, shell: &str, arguments: &[&str]) -> Vec<String> {
    let program = std::path::Path::new(env!("CARGO_BIN_EXE_stilk")).parent().expect("a folder");
    let path = format!("{}:{}", program.display(), std::env::var("PATH").unwrap_or_default());
    let output = Command::new(shell).args(arguments).current_dir(project.path("")).env("PATH", path).output();
    let output = output.unwrap_or_else(|why| panic!("{shell}: {why}; scripts/install-tools.sh installs it"));
    assert!(output.status.success(), "{shell}: {}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8_lossy(&output.stdout).lines().filter(|line| !line.is_empty()).map(str::to_owned).collect()
}

#[test]
fn a_shell_completes_commands_and_what_the_project_has() {
    let project = Project::pier();
    for (line, expected) in [
        ("stilk mar", &["markup"][..]),
        ("stilk markup b", &["button", "button@", "button.", "button:"]),
        ("stilk markup button@su", &["submit", "submit.", "submit:"]),
        ("stilk markup button@a.out", &["a.outline", "a.outline.", "a.outline:"]),
        ("stilk markup button.outline:ho", &["hover", "hover:"]),
        ("stilk markup button.outline.o", &[]),
        ("stilk why button/la", &["button/label"]),
        ("stilk tokens ink.s", &["ink.strong", "ink.sea-label"]),
        ("stilk check --only contrast/t", &["contrast/text"]),
        ("stilk why button color --theme n", &["night"]),
        ("stilk specimen --terminal b", &["button"]),
        ("stilk completions f", &["fish"]),
    ] {
        let found = offered(&project, line);
        assert_eq!(found, expected, "{line}");
    }
    // A project elsewhere is looked up there; one that is broken, and none at all, offer nothing.
    let away = Project::empty();
    let place = project.path("").display().to_string();
    assert_eq!(offered(&away, &format!("stilk tokens --project {place} ink.str")), ["ink.strong"]);
    assert!(offered(&away, "stilk tokens ink.str").is_empty());
    let broken = Project::pier().edit("stilk.toml", "[system]", "[sistem]");
    assert!(offered(&broken, "stilk tokens ink.str").is_empty());
}

#[test]
fn other_shells_offer_the_same() {
    let project = Project::pier();
    for (line, expected) in [
        ("stilk mar", &["markup"][..]),
        ("stilk markup button@su", &["button@submit", "button@submit.", "button@submit:"]),
        ("stilk markup button.outline:ho", &["button.outline:hover", "button.outline:hover:"]),
        ("stilk tokens ink.s", &["ink.strong", "ink.sea-label"]),
        ("stilk check --only contrast/t", &["contrast/text"]),
    ] {
        assert_eq!(offered_by_zsh(&project, line), expected, "Zsh: {line}");
        assert_eq!(offered_by_fish(&project, line), expected, "fish: {line}");
    }
}

#[test]
fn every_shell_gets_a_script_and_every_command_a_page() {
    let project = Project::empty();
    for shell in ["bash", "zsh", "fish", "elvish", "powershell"] {
        let script = project.run(&["completions", shell]).status(0).stdout;
        assert!(script.contains("STILK_COMPLETE") && script.contains("stilk"), "{script}");
    }
    project.run(&["manual", "man"]).status(0);
    let help = project.run(&["--help"]).status(0).stdout;
    let (_, commands) = help.split_once("Commands:\n").expect("commands");
    let (commands, _) = commands.split_once("\n\n").expect("an end");
    let names =
        commands.lines().filter_map(|line| line.strip_prefix("  ")?.split(' ').next().filter(|n| !n.is_empty()));
    for name in names.filter(|name| *name != "help") {
        let page = project.read(&format!("man/stilk-{name}.1"));
        assert!(page.contains(&format!(".TH stilk-{name} 1")) && page.contains("SYNOPSIS"), "{page}");
    }
    assert!(project.read("man/stilk.1").contains("stilk\\-check(1)"));
}
