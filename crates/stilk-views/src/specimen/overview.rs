//! All controls at a glance: one card, mounted for each theme that is looked at.

use super::SpecimenPage;
use stilk_engine::dom::NodeId;
use stilk_language::markup::Request;
use stilk_language::system::{Control, OptionId, StateSet, Variant};

/// So many variants of one control are on a card at most.
const MOST: usize = 9;

/// A control of fewer axes is shown as it is by default.
const SEVERAL: usize = 3;

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

/// The default variant; of a control with several ways to vary also each of them once: the first other option of an axis, in the
/// plainest variant that has it.
fn shown(control: &Control) -> Vec<Variant> {
    let all = control.variants(0);
    let plainness = |variant: &&Variant| control.spoken_options(variant).count();
    let mut variants = vec![control.default_variant()];
    if control.axes.len() < SEVERAL {
        return variants;
    }
    for (axis, options) in control.axes.iter().enumerate() {
        let other = (0..options.options.len()).find(|option| options.default != Some(*option));
        let with = other.and_then(|option| {
            all.iter().filter(|variant| variant.has(OptionId { axis, option })).min_by_key(plainness)
        });
        variants.extend(with.filter(|variant| !variants.contains(variant)).cloned());
    }
    variants.truncate(MOST);
    variants
}
