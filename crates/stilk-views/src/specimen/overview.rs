//! All controls at a glance: one card, mounted for each theme that is looked at.

use super::SpecimenPage;
use stilk_engine::dom::NodeId;
use stilk_language::markup::Request;
use stilk_language::system::{Control, StateSet, Variant};

/// So many variants of one control are on a card at most.
const MOST: usize = 6;

impl SpecimenPage<'_> {
    pub(super) fn overview(&mut self, main: NodeId) {
        let section = self.add(main, "section", &[("aria-labelledby", "overview"), ("class", "overview")]);
        self.add_text(section, "h2", &[("id", "overview")], "At a glance");
        self.add(section, "div", &[("class", "cards"), ("data-sheet", "glance")]);
        let template = self.add(section, "template", &[("id", "sheet-glance")]);
        let placed: Vec<&str> =
            self.system.controls.iter().flat_map(|c| &c.placements).map(|p| p.control.as_str()).collect();
        // What only ever stands in others is seen there.
        let system = self.system;
        let alone = |control: &&Control| !placed.contains(&control.name.as_str()) || control.axes.len() > 1;
        for control in system.controls.iter().filter(alone) {
            let item = self.add(template, "div", &[("class", "item"), ("data-name", &control.name.value)]);
            let row = self.add(item, "div", &[("class", "row")]);
            for variant in shown(control) {
                let states = &StateSet::default();
                self.picture(row, Request { control, host: 0, variant: &variant, states, plain: true });
            }
            self.add_text(item, "p", &[("class", "name"), ("dir", "ltr")], &control.name.value);
        }
    }
}

/// The default variant; of a control with many ways to vary, also those of its first two axes.
fn shown(control: &Control) -> Vec<Variant> {
    let default = control.default_variant();
    let mut variants = vec![default.clone()];
    if control.axes.len() < 5 {
        return variants;
    }
    for (i, axis) in control.axes.iter().enumerate().take(2) {
        for option in (0..axis.options.len()).filter(|option| axis.default != Some(*option)) {
            let mut variant = default.clone();
            variant.choices[i] = Some(option);
            variants.push(variant);
        }
    }
    variants.retain(|variant| !control.excludes.iter().any(|exclude| exclude.covers(variant, 0)));
    variants.truncate(MOST);
    variants
}
