//! `font/line`: lines are no lower than their type.

use crate::check::{Check, Looks, Scope};
use crate::example::Example;
use crate::inspection::Inspection;
use crate::painted::visible::element_name;
use crate::relevance::reads::Reads;
use crate::sink::{Cause, Fault, MendKind, Sink};
use stilk_engine::cascade::{LonghandSet, Styled};
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::number;
use stilk_engine::css::value::Value;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "font/line",
    summary: "lines are no lower than the type in them",
    why: "A line height in px that was made for a smaller size cuts letters off, or lays lines over one another where a \
          label wraps.",
    source: "CSS Inline 3, line-height; WCAG 2.2, 1.4.12 Text Spacing",
    level: Level::Error,
    mend: "Write a line height without a unit, such as 1.4: it grows with the type.",
    fails: Example::sheet(
        "@control button {\n  color: {ink}; background: {paper}; font-size: 20px; line-height: 16px;\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  color: {ink}; background: {paper}; font-size: 20px; line-height: 1.4;\n}\n",
    ),
    scope: Scope::Looks(Looks::new(Reads::values(LonghandSet::of(&[L::LineHeight, L::FontSize])), run).by_option()),
};

fn run(inspection: &Inspection, sink: &mut Sink) {
    for shown in &inspection.looks {
        sink.decided(CHECK.id, shown.stands_for);
        for (_, node) in shown.look.mounted.elements() {
            let Some(style) = shown.look.styles.element(node) else { continue };
            if !shown.look.document.has_own_text(node) {
                continue;
            }
            let Ok(size) = style.px(L::FontSize) else { continue };
            let line = match style.get(L::LineHeight) {
                Ok(Value::Number(n)) => n * size,
                Ok(other) => other.as_px().unwrap_or(f64::INFINITY),
                Err(_) => continue,
            };
            if line >= size {
                continue;
            }
            // An inherited line height was declared further out.
            let mut declared = Some(style);
            while let Some(at) = declared.filter(|style| style.winner(L::LineHeight).is_none()) {
                declared = at.parent();
            }
            let place = declared.and_then(|style| inspection.tracer.origin(style, L::LineHeight).declaration);
            let control = &inspection.unit.control.name;
            let name = element_name(shown.look, Styled::element(node));
            let (line, size) = (number(line), number(size));
            let message = format!("lines of {name} in `{}` are {line}px high, its type is {size}px", control.value);
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, place.unwrap_or(control.span), message)
                .label("lower than the type")
                .mend("write a number without a unit, such as `line-height: 1.4`");
            let cause = Cause { spans: vec![place.or(Some(control.span))], words: String::new() };
            let figures = format!("{line}px for {size}px");
            sink.fail(
                inspection,
                shown,
                Fault { cause, score: 0.0, figures, diagnostic, mend: MendKind::AsSaid, choice: None },
            );
        }
    }
}
