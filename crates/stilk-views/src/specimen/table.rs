//! One control's pictures: options as rows, states as columns. Kept once; figures are of each theme.

use super::SpecimenPage;
use stilk_checks::painted::text::{Figure, figure as contrast_figure};
use stilk_engine::dom::NodeId;
use stilk_language::case::{Look, LookEngine, Unit, UnthemedLook, state_sets};
use stilk_language::markup::Request;
use stilk_language::system::{Control, OptionId, StateSet, System, Variant};

impl SpecimenPage<'_> {
    /// Keeps the table of a control where the page's script finds it.
    pub(super) fn table(&mut self, section: NodeId, control: &Control) {
        let id = format!("sheet-{}", control.name.value);
        let template = self.add(section, "template", &[("id", &id)]);
        let table = self.add(template, "table", &[]);
        let sets = shown_sets(self.system, control);
        let head = self.add(table, "thead", &[]);
        let row = self.add(head, "tr", &[]);
        self.add(row, "th", &[("scope", "col"), ("class", "theme")]);
        for set in &sets {
            let title = self.system.states.set_name(set).replace('+', " + ");
            self.add_text(row, "th", &[("scope", "col")], &title);
        }
        let body = self.add(table, "tbody", &[]);
        for (name, host, variant) in shown_rows(control) {
            let row = self.add(body, "tr", &[]);
            self.add_text(row, "th", &[("scope", "row")], &name);
            for states in &sets {
                let cell = self.add(row, "td", &[]);
                self.picture(cell, Request { control, host, variant: &variant, states, plain: false });
            }
        }
    }

    /// The contrast in each cell of a control's table, row by row, for each theme.
    pub(super) fn figures(&self, control: &Control) -> Vec<Vec<Figure>> {
        let mut figures: Vec<Vec<Figure>> = vec![Vec::new(); self.system.tokens.themes().len()];
        each_cell(self.system, &self.look_engine, control, &mut |cell| {
            figures[cell.theme].push(contrast_figure(self.system, cell.look, cell.states));
        });
        figures
    }
}

/// One picture of a control in a theme.
pub struct Cell<'c> {
    /// The row, by place.
    pub row: usize,
    /// The column, by place.
    pub column: usize,
    /// The theme, by its place among all themes.
    pub theme: usize,
    /// The states.
    pub states: &'c StateSet,
    /// The look.
    pub look: &'c Look,
}

/// Names of a table's rows and columns.
pub fn headings(system: &System, control: &Control) -> (Vec<String>, Vec<String>) {
    let rows = shown_rows(control).into_iter().map(|(name, ..)| name).collect();
    let name = |set: &StateSet| system.states.set_name(set).replace('+', " + ");
    (rows, shown_sets(system, control).iter().map(name).collect())
}

/// The case of a picture: its host, its variant and its states; nothing where there is no such row or column.
pub fn case_at(system: &System, control: &Control, row: usize, column: usize) -> Option<(usize, Variant, StateSet)> {
    let (_, host, variant) = shown_rows(control).into_iter().nth(row)?;
    Some((host, variant, shown_sets(system, control).into_iter().nth(column)?))
}

/// Visits every picture of a control in every theme: by rows, columns, themes.
pub fn each_cell(system: &System, look_engine: &LookEngine, control: &Control, visit: &mut dyn FnMut(Cell)) {
    let themes = system.tokens.themes();
    let sets = shown_sets(system, control);
    for (row, (_, host, variant)) in shown_rows(control).into_iter().enumerate() {
        for (column, states) in sets.iter().enumerate() {
            let mut unthemed: Option<UnthemedLook> = None;
            for (index, theme) in themes.iter().enumerate() {
                if unthemed.is_none() || !look_engine.serves_all_themes() {
                    let unit = Unit { control, host, variant: variant.clone(), theme: theme.clone() };
                    unthemed = Some(look_engine.unthemed(&unit, states));
                }
                let Some(unthemed) = &unthemed else { continue };
                visit(Cell { row, column, theme: index, states, look: &look_engine.look_in(unthemed, theme) });
            }
        }
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
        rows.push((format!("as {}", control.host_name(host)), host, variant.clone()));
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
