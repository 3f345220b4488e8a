//! State first, then place, then source order; conditions add nothing; class order never matters.

use crate::memory::{Memory, messages};
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_engine::css::property::Longhand;
use stilk_language::case::{LookEngine, Unit};
use stilk_language::stylesheet::{Purpose, write};
use stilk_language::system::{StateSet, Variant};

/// The `z-index` of a variant in states, on a host.
#[track_caller]
fn index(sheet: &str, host: usize, options: &[&str], states: &[&str]) -> String {
    let project = Memory::with_sheet(sheet).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, &written, &parsed, Media::default());
    let control = &system.controls[0];
    let mut variant = Variant { choices: control.axes.iter().map(|axis| axis.default).collect() };
    for option in options {
        let id = control.find_option(option).unwrap();
        variant.choices[id.axis] = Some(id.option);
    }
    let unit = Unit { control, host, variant, theme: system.tokens.default_theme() };
    let states = StateSet::of(states.iter().map(|name| system.states.find(name).unwrap()));
    let look = look_engine.look(&unit, &states);
    resolved(look.styles.element(look.mounted.host).unwrap(), Longhand::ZIndex).unwrap()
}

const SHEET: &str = "
    @trait t { z-index: 1; @state hover { z-index: 30; } @state focus { z-index: 40; } }
    @control x {
      @traits t;
      @combine big loud { z-index: 9; }
      z-index: 2;
      @state hover { z-index: 31; }
      @axis size { small { } big { z-index: 5; @state hover { z-index: 32; } } }
      @axis tone optional { loud { z-index: 6; } }
      @state disabled { z-index: 90; }
      @state selected and hover { z-index: 50; }
      @state busy { z-index: 80; }
      @host a { z-index: 3; }
      @state hover, focus { @host a { z-index: 41; } }
    }";

#[test]
fn what_must_not_hold_decides_between_sets_that_are_equal_but_for_that() {
    const NOT: &str = "
        @control x {
          z-index: 1;
          @state not checked { z-index: 2; }
          @option big { z-index: 3; }
          @state hover { z-index: 10; }
          @state hover and not checked { z-index: 11; }
          @state hover and not checked and not invalid { z-index: 12; }
          @state focus { z-index: 20; }
          @state not checked and not focus and not hover and not selected and not disabled and invalid { z-index: 30; }
          @state disabled { z-index: 90; }
        }";
    for (options, states, expected) in [
        (&[][..], &[][..], "2"),
        (&[], &["checked"], "1"),
        (&["big"], &[], "2"),
        (&["big"], &["checked"], "3"),
        (&[], &["hover"], "12"),
        (&[], &["hover", "checked"], "10"),
        (&[], &["hover", "invalid"], "11"),
        (&[], &["hover", "focus"], "20"),
        (&[], &["invalid"], "30"),
        (&[], &["invalid", "selected"], "2"),
        (&[], &["disabled"], "90"),
    ] {
        assert_eq!(index(NOT, 0, options, states), expected, "{options:?} {states:?}");
    }
}

#[test]
fn state_then_place_then_source_order() {
    for (options, states, expected) in [
        (&[][..], &[][..], "2"),
        (&["big"], &[], "5"),
        (&["big", "loud"], &[], "9"),
        (&["loud"], &[], "6"),
        // A trait's state beats the control's rest; the control's state beats the trait's.
        (&["loud"], &["focus"], "40"),
        (&[], &["hover"], "31"),
        (&["big"], &["hover"], "32"),
        (&["big", "loud"], &["hover"], "32"),
        (&[], &["hover", "focus"], "40"),
        (&[], &["hover", "selected"], "50"),
        (&[], &["hover", "focus", "selected"], "50"),
        (&[], &["busy", "selected"], "80"),
        (&[], &["disabled", "focus"], "90"),
    ] {
        assert_eq!(index(SHEET, 0, options, states), expected, "{options:?} {states:?}");
    }
    assert_eq!(index(SHEET, 1, &[], &[]), "3");
    assert_eq!(index(SHEET, 1, &[], &["hover"]), "41");
    assert_eq!(index(SHEET, 1, &[], &["focus"]), "41");
    assert_eq!(index(SHEET, 1, &["big"], &["hover"]), "32");
}

#[test]
fn a_state_of_a_part_reaches_the_control_and_the_part() {
    let sheet = "
        @control x {
          z-index: 1;
          @state hover { z-index: 2; }
          @state hover of label { z-index: 3; }
          @part label { z-index: 4; @state active of & { z-index: 5; } }
        }";
    let project = Memory::with_sheet(sheet).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let parsed = Stylesheet::parse(&written.text);
    let look_engine = LookEngine::new(system, &written, &parsed, Media::default());
    let control = &system.controls[0];
    let state = |name| system.states.find(name).unwrap();
    let unit = Unit { control, host: 0, variant: Variant { choices: vec![] }, theme: system.tokens.default_theme() };
    for (states, host, label) in [
        (StateSet::default(), "1", "4"),
        (StateSet::of([state("hover")]), "2", "4"),
        // A pointer over the part is over the control as well; the later of equals wins.
        (StateSet::default().with_part(state("hover"), "label"), "3", "4"),
        (StateSet::default().with_part(state("active"), "label"), "1", "5"),
        (StateSet::of([state("disabled")]).with_part(state("hover"), "label"), "1", "4"),
    ] {
        let look = look_engine.look(&unit, &states);
        let value = |node| resolved(look.styles.element(node).unwrap(), Longhand::ZIndex).unwrap();
        assert_eq!((&*value(look.mounted.host), &*value(look.mounted.parts[0].1)), (host, label), "{states:?}");
    }
    let said = |sheet: &str| messages(&Memory::with_sheet(sheet).load());
    assert_eq!(
        said("@control x { @state hover of lable { top: 0; } }"),
        ["sheet/part: there is no part `lable` in the template of `x`"]
    );
    assert!(said("@control x { @state hover of & { top: 0; } }")[0].contains("names the part it stands in"));
}

#[test]
fn what_is_blocked_shows_no_hover_and_no_active() {
    let sheet = "@control x { z-index: 1; @state hover { z-index: 2; } @state active { z-index: 3; } }";
    for (host, blocked) in [(0, "disabled"), (1, "disabled"), (0, "busy"), (1, "busy")] {
        assert_eq!(index(sheet, host, &[], &["hover", "active"]), "3");
        assert_eq!(index(sheet, host, &[], &["hover", "active", blocked]), "1", "host {host}, {blocked}");
    }
}

#[test]
fn a_copy_overrides_its_original_state_by_state() {
    // Controls are sorted by name: `w` is the copy, the first.
    let sheet = "
        @trait t { z-index: 1; }
        @control x {
          @traits t;
          z-index: 2; flex-grow: 7;
          @state hover { z-index: 30; }
          @axis size { small { } big { z-index: 5; } }
          @axis tone optional { loud { z-index: 6; } }
        }
        @control w from x {
          z-index: 3;
          @state focus { z-index: 40; }
          @axis size default huge { big { z-index: 50; } huge { z-index: 51; } }
          @axis shape optional { round { z-index: 60; } }
        }";
    for (options, states, expected) in [
        (&["small"][..], &[][..], "3"),
        (&[], &[], "51"),
        (&["big"], &[], "50"),
        (&["big", "loud"], &[], "6"),
        (&["loud", "round"], &[], "60"),
        (&["small"], &["hover"], "30"),
        (&["small"], &["focus"], "40"),
    ] {
        assert_eq!(index(sheet, 0, options, states), expected, "{options:?} {states:?}");
    }
}

#[test]
fn copies_that_cannot_be_are_refused() {
    let said = |sheet: &str| messages(&Memory::with_sheet(sheet).load());
    assert_eq!(said("@control x from y { }"), ["sheet/from: there is no control `y`"]);
    let circle = said("@control x from w { } @control w from x { }");
    assert!(circle.iter().all(|m| m == "sheet/from: controls are copies of each other in a circle"), "{circle:?}");
}

#[test]
fn a_set_that_never_holds_is_reported() {
    let project = Memory::with_sheet("@control x { @state disabled and hover { top: 0; } }").load();
    assert_eq!(messages(&project), ["state/dead: `hover and disabled` never holds"]);
    assert!(project.system.is_some(), "a warning stops nothing");
}

#[test]
fn a_state_that_must_not_hold_is_one_of_the_control_itself() {
    let said = |state: &str| {
        let sheet = format!("@control x {{ z-index: 1; {state} {{ z-index: 2; }} }}");
        messages(&Memory::with_sheet(&sheet).load()).join("\n")
    };
    assert!(said("@state not").contains("`not` names no state"));
    assert!(said("@state not gone").contains("no state `gone`"), "{}", said("@state not gone"));
    assert!(
        said("@state not hover of &").contains("only states of the control itself"),
        "{}",
        said("@state not hover of &")
    );
    assert!(said("@state checked and not checked").contains("never holds"));
    assert!(said("&:not(:disabled)").contains("`:disabled` is a state"), "{}", said("&:not(:disabled)"));
    // The state of what is around is none of the control's.
    assert_eq!(said("&:is(.row:hover *, .form:has(:disabled) *)"), "");
}
