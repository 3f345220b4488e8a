//! The README's own walk: what it writes is written, what it runs is run, and must print what the README says.

use crate::support::Project;

#[test]
fn the_walk_through_the_readme_holds() {
    let readme = include_str!("../../../../README.md");
    let project = Project::empty();
    let mut inside = "";
    let mut commands = 0;
    let mut rest = readme;
    while let Some((before, after)) = rest.split_once("```") {
        let (block, after) = after.split_once("```").expect("a block that ends");
        rest = after;
        if before.contains("Write `@traits ring;`") {
            let sheet = project.read("harbour/controls/chip.stilk");
            let sheet = sheet.replace("@control chip {", "@control chip {\n  @traits ring;");
            std::fs::write(project.path("harbour/controls/chip.stilk"), sheet).unwrap();
        }
        let (language, text) = block.split_once('\n').expect("a language");
        match language {
            "html" | "css" => {
                let first = text.lines().next().unwrap_or_default();
                let name =
                    first.trim_start_matches(['<', '!', '-', '/', '*', ' ']).split(' ').next().unwrap_or_default();
                if name.starts_with("controls/") {
                    std::fs::write(project.path(&format!("harbour/{name}")), text).unwrap();
                }
            }
            "console" => {
                for run in text.split("$ stilk ").skip(1) {
                    let (command, expected) = run.split_once('\n').expect("a command");
                    let arguments: Vec<&str> = command.split(' ').collect();
                    let said = project.run_in(inside, &arguments);
                    assert_eq!(said.stdout.trim_end(), expected.trim_end(), "stilk {command}");
                    commands += 1;
                    if command.starts_with("new ") {
                        inside = "harbour";
                    }
                }
            }
            _ => {}
        }
    }
    assert!(commands > 4, "the README shows few commands at work: {commands}");
}
