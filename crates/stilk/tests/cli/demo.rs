//! `stilk demo`.

use crate::support::Project;

#[test]
fn the_sample_is_written_built_checked_and_drawn() {
    let project = Project::empty();
    let said = project.run(&["demo"]).status(0);
    for words in ["error[contrast/text]", "ternhaven/dist/ternhaven.css", "ternhaven/dist/specimen.html", "11 findings"]
    {
        assert!(said.stdout.contains(words), "{words} is not in\n{}", said.stdout);
    }
    assert!(project.path("ternhaven/dist/ternhaven.css").is_file());
    assert!(project.read("ternhaven/dist/specimen.html").starts_with("<!doctype html>"));
    assert!(project.path("ternhaven/controls/button.stilk").is_file());
}

#[test]
fn files_that_were_edited_are_kept_unless_told_otherwise() {
    let project = Project::empty();
    project.run(&["demo", "here"]).status(0);
    project.run(&["demo", "here"]).status(0);
    let project = project.edit("here/stilk.toml", "Ternhaven", "My harbour");
    let before = project.files("here");
    let said = project.run(&["demo", "here"]).status(2);
    assert_eq!(
        said.stderr,
        "error: these files differ from the sample's, and nothing was written:\n  here/stilk.toml\n\
         mend: name another folder, `stilk demo DIR`, or replace them with `--overwrite`\n"
    );
    assert_eq!(project.files("here"), before);
    project.run(&["demo", "here", "--overwrite"]).status(0);
    assert!(!project.read("here/stilk.toml").contains("My harbour"));
}

#[test]
fn the_old_site_goes_the_whole_way() {
    let project = Project::empty();
    let said = project.run(&["demo", "x", "--before"]);
    assert_eq!(said.status, 0, "{}{}", said.stdout, said.stderr);
    for words in
        ["190 findings", "75 controls in 19 sheets", "none differs.", "The same pages with their new links: x/after"]
    {
        assert!(said.stdout.contains(words), "{words}: {}", said.stdout);
    }
    let page = project.read("x/after/timetable.html");
    let links = "<link rel=\"stylesheet\" href=\"../system/kept/site.css\">\n\
                 <link rel=\"stylesheet\" href=\"../system/kept/timetable.css\">\n\
                 <link rel=\"stylesheet\" href=\"../system/dist/ternhaven.css\">";
    assert!(page.contains(links), "{page}");
    assert_eq!(project.read("x/before/timetable.html").matches("<link").count(), 1);
    let said = project.run(&["demo", "x", "--before"]);
    assert_eq!(said.status, 2);
    assert!(said.stderr.contains("these folders are there already, and nothing was written"), "{}", said.stderr);
}
