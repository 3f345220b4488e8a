//! What marks controls, options and parts on pages, as sheets write it.

use super::control::{Flattener, Scope};
use crate::mark::Mark;
use crate::sheet::PartTarget;
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::source::Name;

/// What a sheet writes between the brackets of `marked`.
pub(super) fn read_mark(written: &Name, diagnostics: &mut Diagnostics) -> Option<Mark> {
    let mark = Mark::read(&written.value);
    if mark.is_none() {
        let message = match written.value.as_str() {
            "" => "`marked` names nothing".to_owned(),
            other => format!("`{other}` is no mark: it is one class, one attribute or one id"),
        };
        let mend = "write `marked (.name)`, `marked ([data-name=\"value\"])` or `marked (#name)`; what else is asked of \
                    markup is attached: `@attach (SELECTOR) as CONTROL;`";
        diagnostics.push(Diagnostic::error("sheet/mark", written.span, message).label("here").mend(mend));
    }
    mark
}

impl Flattener<'_, '_> {
    /// Notes what marks a part on pages.
    pub(super) fn mark_part(&mut self, mark: &Name, targets: &[PartTarget], scope: &Scope) {
        let [PartTarget { after: None, part: Some(part), condition: None, pseudo: None }] = targets else {
            let mend = "write `@part NAME marked (.class) { … }` once, and its conditions without a mark";
            return self.error("sheet/mark", mark.span, "a mark belongs to one part", mend);
        };
        // What a copy starts from has names of its own.
        if self.is_original {
            return;
        }
        if !scope.is_top() {
            let mend = "write it directly in `@control`";
            return self.error("sheet/mark", mark.span, "a mark stands under no condition and in no trait", mend);
        }
        let of_element = Mark::read_part(&mark.value).filter(|mark| matches!(mark, Mark::Element(_)));
        let Some(read) = of_element.or_else(|| read_mark(mark, self.diagnostics)) else { return };
        match self.control.part_marks.iter().find(|(name, _)| *name == part.value) {
            Some((_, known)) if *known != read => {
                let message = format!("the part `{}` has the mark `{}` already", part.value, known.text());
                self.error("sheet/mark", mark.span, message, "mark a part once");
            }
            Some(_) => {}
            None => self.control.part_marks.push((part.value.clone(), read)),
        }
    }
}
