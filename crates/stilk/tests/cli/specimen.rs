//! `stilk specimen`.

use crate::support::Project;
use serde_json::Value;

fn page_of(project: &Project) -> String {
    project.run(&["specimen"]).status(0);
    project.read("dist/specimen.html")
}

/// What the page's script gets to know.
fn data(page: &str) -> Value {
    let (_, rest) = page.split_once("id=\"data\">").expect("the data");
    let (json, _) = rest.split_once("</script>").expect("its end");
    serde_json::from_str(json).expect("JSON")
}

#[test]
fn one_page_that_needs_nothing_else() {
    let project = Project::pier();
    let said = project.run(&["specimen"]).status(0);
    assert_eq!(said.stdout, "dist/specimen.html\n");
    let page = project.read("dist/specimen.html");
    for foreign in ["http:", "https:", " src=", "<link", "@import", "url(\"", "url(/"] {
        assert!(!page.contains(foreign), "the page holds {foreign}");
    }
    assert_eq!(page_of(&project), page);
}

#[test]
fn every_option_and_state_with_its_figure_in_every_theme() {
    let page = page_of(&Project::pier());
    // The default, six options that need a class and the three other hosts; rest and four states; three themes.
    let cells = (1 + 6 + 3) * 5;
    assert_eq!(page.matches("<td><div class=\"mount\"").count(), cells);
    assert_eq!(page.matches("data-shown=\"hover\"").count(), cells / 5);
    let data = data(&page);
    assert_eq!(data["themes"].as_array().map(Vec::len), Some(3));
    let figures = data["controls"][0]["figures"].as_array().expect("figures");
    let figures: Vec<Vec<&str>> = figures.iter().map(|f| f.as_str().expect("text").split('|').collect()).collect();
    assert!(figures.iter().all(|of_theme| of_theme.len() == cells));
    // The fault shows in its cells: one row in one theme, four states that are not exempt.
    let failing = |of_theme: &Vec<&str>| of_theme.iter().filter(|figure| figure.starts_with('!')).count();
    assert_eq!(figures.iter().map(failing).collect::<Vec<_>>(), [0, 4, 0]);
    assert!(figures[1].contains(&"!1.64/4.5"), "{:?}", figures[1]);
    // What a picture shows must not wait for a pointer; what is to be tried must.
    let (_, pictures) = page.split_once("id=\"css-pictures\">").expect("the pictures' stylesheet");
    let (pictures, rest) = pictures.split_once("</template>").expect("its end");
    assert!(!pictures.contains("(hover: hover)") && !pictures.contains(":hover"));
    assert!(rest.contains("@media (hover: hover)"));
}

#[test]
fn notes_tokens_and_findings_stand_where_they_belong() {
    let project = Project::pier().edit(
        "controls/button.stilk",
        "@control button {",
        "/* Goes `somewhere`.\n\n   And <b>back</b>. */\n@control button {",
    );
    let page = page_of(&project);
    assert!(page.contains(
        "<p class=\"notes\">Goes <code>somewhere</code>.</p><p class=\"notes\">And &lt;b&gt;back&lt;/b&gt;.</p>"
    ));
    // The finding stands in the list of all and with its control, each time with its mend.
    assert_eq!(page.matches("class=\"mend\"").count(), 2);
    assert!(page.contains("id=\"token-ink.buoy-label\""));
    assert!(page.contains("href=\"#token-ink.buoy-label\""));
    // A colour in both notations, with what it is worth on the surfaces.
    assert!(page.contains("<code>oklch(0.5 0.11 232) #006d97</code>"), "no such colour");
    assert!(page.contains("on page: "));
}

#[test]
fn text_of_the_sources_cannot_become_markup() {
    let project = Project::pier().edit("stilk.toml", "name = \"Ternhaven\"", "name = \"<b>T</b>&\"").edit(
        "controls/button.html",
        "<slot>Book passage</slot>",
        "<slot>&lt;/script>&lt;script&gt;</slot>",
    );
    let page = page_of(&project);
    assert!(page.contains("<h1>&lt;b&gt;T&lt;/b&gt;&amp;</h1>"));
    assert!(page.contains("&lt;script&gt;"));
    assert_eq!(page.matches("<script").count(), 2);
    assert_eq!(page.matches("</script").count(), 2);
    data(&page);
}

#[test]
fn a_matrix_for_the_terminal() {
    let project = Project::pier();
    let said = project.run(&["specimen", "--terminal", "button"]).status(0);
    assert!(said.stdout.lines().all(|line| line.chars().count() <= 80), "{}", said.stdout);
    let line = |start: &str| said.stdout.lines().filter(|line| line.starts_with(start)).collect::<Vec<_>>();
    assert_eq!(line("button in").len(), 3);
    assert_eq!(line("buoy")[1].split_whitespace().take(5).collect::<Vec<_>>(), ["buoy", "Aa", "✗1.64", "Aa", "✗1.51"]);
    assert!(!said.stdout.contains('\u{1b}'), "colours where there is no terminal");
    let colored = project.command(&["specimen", "--terminal", "button"]).env("CLICOLOR_FORCE", "1").output().unwrap();
    assert!(String::from_utf8(colored.stdout).unwrap().contains("\u{1b}[48;2;0;109;151m"), "no swatch of the fill");
    let wrong = project.run(&["specimen", "--terminal", "buton"]).status(2);
    assert_eq!(wrong.stderr, "error: there is no control `buton`: write `button`\n");
}

#[test]
fn the_matrix_counts_what_it_does_not_know() {
    let shadow = Project::demo().edit(
        "controls/button.stilk",
        "shaded { background-image",
        "shaded { text-shadow: 0 1px {ink.strong}; background-image",
    );
    let said = shadow.run(&["specimen", "--terminal", "button"]).status(0).stdout;
    let cells: usize = said.lines().filter(|line| !line.starts_with('?')).map(|line| line.matches('?').count()).sum();
    assert!(cells > 0);
    let line = format!("? unknown in {cells} cells: a text shadow is painted behind the text");
    assert!(said.lines().any(|known| known == line), "{line}: {said}");
}

#[test]
fn the_matrix_shows_every_theme_that_looks_another_way() {
    let project = Project::skerry();
    let said = project.run(&["specimen", "--terminal", "action"]).status(0).stdout;
    let headings: Vec<&str> = said.lines().filter(|line| line.starts_with("action in ")).collect();
    assert_eq!(headings.len(), 4, "two brands in two themes: {said}");
    let said = project.run(&["specimen", "--terminal", "action", "--theme", "coral night"]).status(0).stdout;
    assert_eq!(said.matches("action in ").count(), 1, "{said}");
    assert!(said.starts_with("action in coral night\n"), "{said}");
    // Densities change no colour: they are drawn together.
    let said = Project::demo().run(&["specimen", "--terminal", "switch"]).status(0).stdout;
    assert!(said.contains("switch in day roomy; day tight"), "{said}");
}
