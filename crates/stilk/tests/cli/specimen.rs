//! `stilk specimen`.

use crate::support::Project;

#[test]
fn one_page_that_needs_nothing_else() {
    let project = Project::pier();
    let said = project.run(&["specimen"]).status(0);
    assert_eq!(said.stdout, "dist/specimen.html\n");
    let page = project.read("dist/specimen.html");
    for foreign in ["http:", "https:", " src=", "<link", "@import", "url("] {
        assert!(!page.contains(foreign), "the page holds {foreign}");
    }
    project.run(&["specimen"]).status(0);
    assert_eq!(project.read("dist/specimen.html"), page);
}

#[test]
fn every_option_and_state_in_every_theme_with_its_figure() {
    let project = Project::pier();
    project.run(&["specimen"]).status(0);
    let page = project.read("dist/specimen.html");
    // The default, six options that need a class and the three other hosts; rest and four states; three themes.
    let rows = 1 + 6 + 3;
    assert_eq!(page.matches("<td>").count(), rows * 5 * 3);
    assert_eq!(page.matches("<span class=\"figure").count(), rows * 5 * 3);
    // The fault shows in its cells: one row in one theme, four states that are not exempt.
    assert_eq!(page.matches("class=\"figure fails\"").count(), 4);
    assert_eq!(page.matches("data-shown=\"hover\"").count(), rows * 3);
    // What a specimen shows must not wait for a pointer.
    assert!(!page.contains("@media (hover: hover)"));
}

#[test]
fn text_of_the_sources_cannot_become_markup() {
    let project = Project::pier().edit("stilk.toml", "name = \"Ternhaven\"", "name = \"<b>T</b>&\"").edit(
        "controls/button.html",
        "<slot>Book passage</slot>",
        "<slot>&lt;script&gt;</slot>",
    );
    project.run(&["specimen"]).status(0);
    let page = project.read("dist/specimen.html");
    assert!(page.contains("<h1>&lt;b&gt;T&lt;/b&gt;&amp;</h1>"));
    assert!(page.contains("&lt;script&gt;"));
    assert_eq!(page.matches("<script").count(), 1);
}
