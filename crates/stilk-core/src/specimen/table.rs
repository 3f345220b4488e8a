//! One control: a sheet per theme, options as rows, states as columns, the contrast in each cell.

use super::{Page, View};
use crate::case::{Unit, state_sets};
use crate::check::{Figure, contrast_figure};
use crate::dom::{Element, NodeId};
use crate::markup::Request;
use crate::system::{Control, OptionId, StateSet, System, Variant};
use crate::tokens::Theme;

impl Page<'_> {
    pub(super) fn control(&mut self, main: NodeId, control: &Control, themes: &[Theme]) {
        let id = format!("control-{}", control.name.value);
        let section = self.add(main, "section", &[("class", "control"), ("aria-labelledby", &id)]);
        let label = self.add(section, "div", &[("class", "label")]);
        self.add_text(label, "h2", &[("id", &id)], &control.name.value);
        let hosts: Vec<&str> = control.template.hosts.iter().map(|host| host.name.as_str()).collect();
        let axes: Vec<&str> = control.axes.iter().map(|axis| axis.name.as_str()).collect();
        let figures = self.add(label, "dl", &[]);
        let variants = crate::diagnostic::grouped(control.variant_count(0) as u64);
        let place = self.sources.place(control.name.span);
        let axes = if axes.is_empty() { "none".to_owned() } else { axes.join(" × ") };
        for (term, text) in [("hosts", hosts.join(", ")), ("axes", axes), ("variants", variants), ("place", place)] {
            self.add_text(figures, "dt", &[], term);
            self.add_text(figures, "dd", &[], &text);
        }
        // Every focusable scroll area needs a name.
        let name = format!("{} in every theme", control.name.value);
        let attributes = [("class", "sheet"), ("role", "region"), ("aria-label", name.as_str()), ("tabindex", "0")];
        let sheet = self.add(section, "div", &attributes);
        let shadow = self.shadow(sheet);
        for theme in themes {
            let name = self.system.tokens.theme_name(theme);
            let view = View { name, theme: theme.clone(), rtl: false, is_main: true };
            self.theme(shadow, control, &view);
        }
    }

    fn theme(&mut self, shadow: NodeId, control: &Control, view: &View) {
        let ground = self.ground(shadow, view, "ground");
        let table = self.add(ground, "table", &[]);
        let sets = shown_sets(self.system, control);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        self.add_text(row, "th", &[("scope", "col"), ("class", "theme")], &view.name);
        for set in &sets {
            let title = self.system.states.set_name(set).replace('+', " + ");
            self.add_text(row, "th", &[("scope", "col")], &title);
        }
        let body = self.add(table, "tbody", &[]);
        for (name, host, variant) in shown_rows(control) {
            let row = self.add(body, "tr", &[]);
            self.add_text(row, "th", &[("scope", "row")], &name);
            let unit = Unit { control, host, variant, theme: view.theme.clone() };
            for states in &sets {
                let cell = self.add(row, "td", &[]);
                let figure = contrast_figure(self.system, &self.stage.look(&unit, states), states);
                self.picture(cell, Request { control, host, variant: &unit.variant, states, plain: false });
                self.figure(cell, &figure);
            }
        }
    }

    fn figure(&mut self, cell: NodeId, figure: &Figure) {
        let (class, text, title) = match figure {
            Figure::Passes { ratio, needed } => ("figure", ratio.clone(), format!("contrast {ratio}, needs {needed}")),
            Figure::Fails { ratio, needed } => {
                ("figure fails", format!("✗ {ratio}"), format!("contrast {ratio} is too low: needs {needed}"))
            }
            Figure::Exempt { ratio } => {
                ("figure exempt", format!("({ratio})"), "WCAG asks no contrast of what cannot be used".to_owned())
            }
            Figure::Unknown(reason) => ("figure exempt", "unknown".to_owned(), (*reason).to_owned()),
            Figure::NoText => ("figure exempt", "no text".to_owned(), "no text is painted".to_owned()),
        };
        self.add_text(cell, "span", &[("class", class), ("title", &title)], &text);
    }
}

/// The rows: the default, then every option once, in the plainest variant that has it; then the other hosts.
fn shown_rows(control: &Control) -> Vec<(String, usize, Variant)> {
    let all = control.variants(0);
    let plainness = |variant: &&Variant| control.spoken_options(variant).count();
    let mut rows = vec![("default".to_owned(), 0, control.default_variant())];
    for (axis, a) in control.axes.iter().enumerate() {
        for option in (0..a.options.len()).filter(|option| a.default != Some(*option)) {
            let with = all.iter().filter(|variant| variant.has(OptionId { axis, option }));
            let Some(variant) = with.min_by_key(plainness) else { continue };
            let words: Vec<&str> = control.spoken_options(variant).map(|id| control.option_name(id)).collect();
            rows.push((words.join(" "), 0, variant.clone()));
        }
    }
    for host in 1..control.template.hosts.len() {
        let own = control.variants(host);
        let Some(variant) = own.iter().min_by_key(plainness) else { continue };
        let template = &control.template.hosts[host];
        let name = match control.template.document.element(template.node).map(Element::local) {
            Some("input") => format!("as input {}", template.name),
            _ => format!("as {}", template.name),
        };
        rows.push((name, host, variant.clone()));
    }
    rows
}

/// The columns: rest, each state alone, and the states of parts that a sheet names. A state that only a part answers to
/// is shown on the part alone.
fn shown_sets(system: &System, control: &Control) -> Vec<StateSet> {
    let sets: Vec<StateSet> = state_sets(system, control).into_iter().filter(|set| set.len() < 2).collect();
    let only_of_part = |set: &StateSet| {
        let [id] = set.ids() else { return false };
        let of_part = sets.iter().any(|other| other.of_parts().iter().any(|(state, _)| state == id));
        of_part && !control.rules.iter().any(|rule| rule.states.ids().contains(id))
    };
    sets.iter().filter(|set| !only_of_part(set)).cloned().collect()
}
