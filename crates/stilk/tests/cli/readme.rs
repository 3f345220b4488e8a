//! Commands in the README run and print what the README says.

use crate::support::Project;

#[test]
fn console_blocks_hold() {
    let readme = include_str!("../../../../README.md");
    let mut blocks = 0;
    for block in readme.split("```console\n").skip(1) {
        let block = block.split("```").next().unwrap();
        let mut lines = block.lines();
        let command = lines.next().unwrap().strip_prefix("$ stilk ").expect("a stilk command");
        let expected: String = lines.map(|line| format!("{line}\n")).collect();
        let project = Project::demo();
        let arguments: Vec<&str> = command.split(' ').collect();
        let said = project.run(&arguments);
        assert_eq!(said.stdout.trim_end(), expected.trim_end(), "stilk {command}");
        blocks += 1;
    }
    assert!(blocks > 0, "the README shows no command at work");
}
