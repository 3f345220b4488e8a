//! `stilk format`.

use crate::support::Project;

#[test]
fn sheets_come_into_the_plain_layout_and_stay_the_same_system() {
    let project = Project::pier();
    project.run(&["build", "--quiet"]).status(0);
    // Comments name lines, and lines stay.
    let before = project.read("dist/ternhaven.css");
    let said = project.run(&["format", "--check"]).status(1);
    assert_eq!(said.stdout, "controls/button.stilk is not in the plain layout\n");
    let said = project.run(&["format"]).status(0);
    assert_eq!(said.stdout, "controls/button.stilk\n2 sheets: 1 written\n");
    assert_eq!(project.run(&["format"]).status(0).stdout, "2 sheets: all are in the plain layout\n");
    project.run(&["format", "--check"]).status(0);
    project.run(&["build", "--quiet"]).status(0);
    assert_eq!(project.read("dist/ternhaven.css"), before);
}

#[test]
fn the_sample_the_starter_and_what_is_adopted_are_in_it() {
    Project::demo().run(&["format", "--check"]).status(0);
    let project = Project::empty();
    project.run(&["new", "."]).status(0);
    project.run(&["format", "--check"]).status(0);
    let site = Project::site("orchard");
    site.run(&["adopt", ".", "--to", "system", "--name", "Orchard", "--quiet"]);
    site.run(&["format", "--check", "--project", "system"]).status(0);
}

#[test]
fn a_sheet_that_cannot_be_read_leaves_all_of_them_as_they_were() {
    let project = Project::pier().edit("controls/shared.stilk", "@trait ring {", "@trait ring { {");
    let before = project.read("controls/button.stilk");
    let said = project.run(&["format"]).status(2);
    assert!(said.stderr.contains("controls/shared.stilk:"), "{}", said.stderr);
    assert!(said.stderr.ends_with("nothing was written: mend these first\n"), "{}", said.stderr);
    assert_eq!(project.read("controls/button.stilk"), before);
    let said = project.run(&["format", "nothing.stilk"]).status(2);
    assert_eq!(said.stderr, "error: cannot read `nothing.stilk`: there is no such file\n");
    // One that is named is formatted for itself.
    project.run(&["format", "controls/button.stilk"]).status(0);
    assert_ne!(project.read("controls/button.stilk"), before);
}

#[test]
fn line_ends_and_the_mark_of_a_file_stay() {
    let project =
        Project::pier().file("controls/shared.stilk", "\u{feff}@trait ring {\r\n@state focus{color:red}\r\n}\r\n");
    project.run(&["format", "controls/shared.stilk", "--quiet"]).status(0);
    let wanted = "\u{feff}@trait ring {\r\n  @state focus { color: red; }\r\n}\r\n";
    assert_eq!(project.read("controls/shared.stilk"), wanted);
}
