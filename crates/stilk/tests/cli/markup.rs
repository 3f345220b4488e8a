//! `stilk markup`.

use crate::support::Project;

#[track_caller]
fn markup(project: &Project, arguments: &[&str], expected: &str) {
    let said = project.run(&[&["markup"], arguments].concat()).status(0);
    assert_eq!(said.stdout, format!("{expected}\n"));
}

#[test]
fn a_variant_is_ready_to_paste() {
    let project = Project::pier();
    let label = "<span class=\"tern-button_label\">Book passage</span>";
    markup(&project, &["button"], &format!("<button class=\"tern-button\" type=\"button\">{label}</button>"));
    // A default option needs no class; the order of options does not matter.
    markup(
        &project,
        &["button@a.small.sea.outline"],
        &format!("<a class=\"tern-button tern-button-outline tern-button-small\" href=\"#booking\">{label}</a>"),
    );
    // A link has no `disabled`.
    markup(
        &project,
        &["button@a:disabled"],
        &format!("<a class=\"tern-button\" href=\"#booking\" aria-disabled=\"true\">{label}</a>"),
    );
    markup(
        &project,
        &["button@reset.kelp"],
        "<input class=\"tern-button tern-button-kelp\" type=\"reset\" value=\"Clear booking\">",
    );
}

#[test]
fn ids_and_what_refers_to_them_are_made_its_own() {
    let project = Project::pier()
        .file(
            "controls/field.html",
            "<div><label part=\"caption\" for=\"native\">Vessel</label>\
             <input part=\"native\" id=\"native\" aria-describedby=\"hint outside\"><p part=\"hint\" id=\"hint\">MV</p></div>",
        )
        .file("controls/field.stilk", "@control field { display: grid; }");
    let field = |id: &str| {
        format!(
            "<div class=\"tern-field\"><label class=\"tern-field_caption\" for=\"{id}-native\">Vessel</label>\
             <input class=\"tern-field_native\" id=\"{id}-native\" aria-describedby=\"{id}-hint outside\">\
             <p class=\"tern-field_hint\" id=\"{id}-hint\">MV</p></div>"
        )
    };
    markup(&project, &["field"], &field("field"));
    markup(&project, &["field", "--id", "vessel"], &field("vessel"));
}

#[test]
fn names_that_do_not_exist_are_mended() {
    let project = Project::pier().edit("controls/button.stilk", "  @axis size", "  @exclude kelp on a;\n  @axis size");
    for (case, words) in [
        ("buton", "there is no control `buton`: write `button`"),
        ("button@link", "there is no host `link`: write one of button, a, submit, reset"),
        ("button.smal", "there is no option `smal`: write `small`"),
        ("button.small.large", "`small` and `large` are both of the axis `size`: write one of them"),
        ("button:hovr", "there is no state `hovr`: write `hover`"),
        ("button@a.kelp", "`button@a.kelp` does not exist: the sheet excludes this variant"),
    ] {
        assert_eq!(project.run(&["markup", case]).status(2).stderr, format!("error: {words}\n"), "{case}");
    }
}
