//! Variants that are counted and not listed: held against writing all of them down.

use crate::memory::Memory;
use stilk_language::system::{Control, Variant, VariantSpace};

/// A control with these axes and exclusions.
fn control(body: &str) -> Control {
    let project = Memory::with_sheet(&format!("@control x {{ color: {{a}}; {body} }}")).load();
    let system = project.system.unwrap_or_else(|| panic!("{:#?}", project.diagnostics));
    system.controls.into_iter().next().expect("a control")
}

/// Every variant, by trying every combination of options.
fn by_trying(control: &Control, host: usize) -> Vec<Variant> {
    let mut all = vec![control.default_variant()];
    for (index, axis) in control.axes.iter().enumerate() {
        let none = axis.default.is_none().then_some(None);
        let options: Vec<Option<usize>> = none.into_iter().chain((0..axis.options.len()).map(Some)).collect();
        all = all
            .iter()
            .flat_map(|before| {
                options.iter().map(move |option| {
                    let mut variant = before.clone();
                    variant.choices[index] = *option;
                    variant
                })
            })
            .collect();
    }
    all.retain(|variant| !control.excludes.iter().any(|exclude| exclude.covers(variant, host)));
    all
}

const BODIES: [&str; 6] = [
    "",
    "@axis size { small { order: 1; } large { order: 2; } }",
    "@axis size default small { small { } large { order: 2; } } @option wide { order: 3; } @option round { order: 4; }",
    "@axis size default small { small { } large { order: 2; } } @option wide { order: 3; } @exclude wide with small;",
    "@axis hue { red { order: 1; } blue { order: 2; } } @axis size { small { order: 3; } large { order: 4; } }
     @option wide { order: 5; } @option round { order: 6; } @option flat { order: 7; }
     @exclude wide with small; @exclude round with red flat;",
    "@axis hue { red { order: 1; } blue { order: 2; } } @option wide { order: 5; } @option round { order: 6; }
     @exclude wide on a; @exclude round with blue on a;",
];

#[test]
fn as_many_as_there_are_are_counted() {
    for body in BODIES {
        let control = control(body);
        for host in 0..control.template.hosts.len() {
            let (space, all) = (VariantSpace::new(&control, host), by_trying(&control, host));
            assert_eq!(space.count(), all.len() as u64, "{body}");
            assert_eq!(space.all().expect("few enough to be listed"), all, "{body}");
            assert!(all.iter().all(|variant| space.has(variant)), "{body}");
            for axis in 0..control.axes.len() {
                for option in [None, Some(0), Some(1)] {
                    let with = all.iter().filter(|variant| variant.choices[axis] == option).count();
                    assert_eq!(space.count_with(&[(axis, option)]), with as u64, "{body}: {axis} {option:?}");
                    let nearest = space.nearest(&[(axis, option)]);
                    assert_eq!(nearest.is_some(), with > 0, "{body}: {axis} {option:?}");
                    assert!(nearest.is_none_or(|nearest| all.contains(&nearest) && nearest.choices[axis] == option));
                }
            }
        }
    }
}

#[test]
fn combinations_of_some_axes_are_those_that_occur() {
    for body in BODIES {
        let control = control(body);
        let (space, all) = (VariantSpace::new(&control, 1), by_trying(&control, 1));
        let axes: Vec<usize> = (0..control.axes.len()).step_by(2).collect();
        let mut occur: Vec<Vec<(usize, Option<usize>)>> =
            all.iter().map(|variant| axes.iter().map(|axis| (*axis, variant.choices[*axis])).collect()).collect();
        occur.sort();
        occur.dedup();
        let (mut found, are_all) = space.combinations(&axes, &[]);
        found.sort();
        assert!(are_all);
        assert_eq!(found, occur, "{body}");
    }
}

#[test]
fn of_too_many_those_near_the_default_are_looked_at() {
    let options: String = (0..40).map(|at| format!("@option o{at} {{ order: {at}; }} ")).collect();
    let control = control(&format!("{options} @exclude o0 with o1;"));
    let space = VariantSpace::new(&control, 0);
    assert_eq!(space.count(), 3 << 38, "of two of them one combination is out");
    assert_eq!(space.all(), None);
    let axes: Vec<usize> = (0..40).collect();
    let (found, are_all) = space.combinations(&axes, &[]);
    assert!(!are_all);
    // No option, one, two or three of forty, without those that hold both of the first two.
    let with_both = 1 + 38;
    assert_eq!(found.len(), 1 + 40 + 40 * 39 / 2 + 40 * 39 * 38 / 6 - with_both);
    assert!(found.iter().all(|choice| space.count_with(choice) > 0));
}

#[test]
fn what_exclusions_tie_beyond_counting_is_refused() {
    let options: String = (0..30).map(|at| format!("@option o{at} {{ order: {at}; }} ")).collect();
    let excludes: String = (1..30).map(|at| format!("@exclude o{at} with o{}; ", at - 1)).collect();
    let project = Memory::with_sheet(&format!("@control x {{ color: {{a}}; {options} {excludes} }}")).load();
    assert!(project.system.is_none());
    let said = format!("{:?}", project.diagnostics);
    assert!(said.contains("tie"), "{said}");
}
