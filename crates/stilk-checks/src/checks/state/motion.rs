//! `state/motion`: transitions move what they mean to, and can be done without.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Style};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "state/motion",
    summary: "transitions name their properties, and can be done without",
    why: "`all` also moves what nobody thought of: sizes when the page is laid out, colours when the theme changes, and \
          whatever is added later. Stilk itself writes every transition under `prefers-reduced-motion: no-preference`.",
    source: "WCAG 2.2, 2.3.3 Animation from Interactions; CSS Transitions 1, transition-property",
    level: Level::Warning,
    mend: "Name what should move: `transition: background-color {motion.quick}, translate {motion.quick}`.",
    fails: Example::sheet("@control button {\n  background: {sea}; color: {paper};\n  transition: all 120ms;\n}\n"),
    passes: Example::sheet(
        "@control button {\n  background: {sea}; color: {paper};\n  transition: background-color 120ms;\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(READS), run).by_option()),
};

const READS: LonghandSet = LonghandSet::of(&[L::TransitionProperty, L::TransitionDuration]);

/// The properties that a style moves, with the seconds that each takes.
pub(super) fn moved(style: &Style) -> Vec<(String, f64)> {
    let list = |longhand: L| match style.get(longhand) {
        Ok(Value::List(items)) => items.clone(),
        Ok(other) => vec![other.clone()],
        Err(_) => Vec::new(),
    };
    let (names, times) = (list(L::TransitionProperty), list(L::TransitionDuration));
    if times.is_empty() {
        return Vec::new();
    }
    let time = |index: usize| if let Value::Seconds(seconds) = times[index % times.len()] { seconds } else { 0.0 };
    names.iter().enumerate().map(|(index, name)| (to_css(name), time(index))).filter(|(_, time)| *time > 0.0).collect()
}

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        sink.decided(CHECK.id, shown.stands_for);
        for (_, node) in shown.look.mounted.elements() {
            for at in shown.look.styles.boxes(node) {
                let Some(style) = shown.look.styles.of(at) else { continue };
                if !moved(style).iter().any(|(name, _)| name == "all") {
                    continue;
                }
                let place = inspection.tracer.origin(style, L::TransitionProperty).declaration;
                let control = &inspection.unit.control.name;
                let name = element_name(shown.look, at);
                let message = format!("{name} of `{}` moves `all` of its properties", control.value);
                let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                    .label("moves whatever changes, also by accident")
                    .mend("name the properties that should move, such as `background-color`");
                let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
                sink.fail(
                    inspection,
                    shown,
                    Fault {
                        cause,
                        score: 0.0,
                        figures: "`all`".into(),
                        diagnostic,
                        mend: MendKind::AsSaid,
                        choice: None,
                    },
                );
            }
        }
    }
}
