//! Which parts a block of a sheet asks for, and which pseudo-elements of them.

use super::control::{Flattener, Scope};
use super::pseudo::{NOWHERE, problem as problem_of_pseudo};
use crate::sheet::{Item, PartTarget};
use stilk_engine::cascade::selector;
use stilk_text::diagnostic::unknown_name;
use stilk_text::source::Name;

impl Flattener<'_, '_> {
    /// Whether the template has a part; says so where it has not.
    fn has_part(&mut self, name: &Name) -> bool {
        if self.control.template.has_part(&name.value) {
            return true;
        }
        // A copy with a template of its own may leave parts out.
        if !self.is_original {
            let place = format!("part {{}} in the template of `{}`", self.control.name.value);
            let known = self.control.template.part_names();
            let mut diagnostic = unknown_name("sheet/part", &place, name, known.iter().copied());
            if name.value.contains(['+', '~', '>', ' ']) {
                diagnostic = diagnostic.mend("write one part, or `PART + PART` for one right behind another");
            }
            self.diagnostics.push(diagnostic);
        }
        false
    }

    pub(super) fn part(&mut self, target: &PartTarget, body: &[Item], scope: &Scope) {
        let mut scope = scope.clone();
        if let Some(name) = &target.part {
            if scope.target.part.is_some() {
                let mend = "write the parts side by side";
                self.error("sheet/part", name.span, "a part inside a part", mend);
                return;
            }
            if !self.has_part(name) {
                return;
            }
            scope.target.part = Some(name.value.clone());
        }
        if let Some((other, combinator)) = &target.after {
            if !self.has_part(other) {
                return;
            }
            let Some(name) = &target.part else {
                let message = format!("nothing stands behind `{} {combinator}`", other.value);
                let mend = format!("write the part that is styled: `{} {combinator} PART`", other.value);
                return self.error("sheet/part", other.span, message, mend);
            };
            if !self.control.template.may_follow(&other.value, &name.value, *combinator == '+') {
                let how = if *combinator == '+' { "right behind" } else { "behind" };
                let message = format!("`{}` never stands {how} `{}`", name.value, other.value);
                let mend = "change the order in the template, or use `~` for a part that stands further on";
                return self.error("sheet/part", name.span, message, mend);
            }
            scope.target.after = Some((other.value.clone(), *combinator));
        }
        if let Some(condition) = &target.condition {
            let is_compound = || !selector::is_complex(&condition.value);
            if !selector::is_valid(&condition.value) || !is_compound() {
                let mend = "write a pseudo-class such as `:first-child`";
                self.error("sheet/part", condition.span, format!("`{}` is no selector", condition.value), mend);
                return;
            }
            scope.target.condition = condition.value.clone();
        }
        if let Some(pseudo) = &target.pseudo {
            if !self.check_pseudo(pseudo, &scope) {
                return;
            }
            scope.target.pseudo = pseudo.value.clone();
        }
        self.items(body, &scope);
    }

    fn check_pseudo(&mut self, pseudo: &Name, scope: &Scope) -> bool {
        let problem = problem_of_pseudo(&self.control.template, scope.target.part.as_deref(), pseudo, self.draws_lists);
        let is_none = problem.is_none();
        // A copy may leave out what the original has.
        problem
            .filter(|problem| !self.is_original || problem.id != NOWHERE)
            .into_iter()
            .for_each(|problem| self.diagnostics.push(problem));
        is_none
    }
}
