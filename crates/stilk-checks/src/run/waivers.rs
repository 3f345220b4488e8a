//! Waivers that accept nothing any more.

use crate::settings::{Settings, is_off};
use std::collections::BTreeSet;
use stilk_language::system::System;
use stilk_text::diagnostic::{Diagnostic, Level};
use stilk_text::source::Span;

/// Waivers that say something no longer true: their day has passed, or there is nothing to accept.
pub fn findings(system: &System, settings: &Settings, used: &BTreeSet<Span>) -> Vec<Diagnostic> {
    let waivers = system.controls.iter().flat_map(|control| &control.waivers);
    let unlike = waivers.filter(|waiver| !used.contains(&waiver.span) && !is_off(system, &waiver.check.value));
    let mut found: Vec<Diagnostic> = unlike
        .map(|waiver| {
            let check = &waiver.check.value;
            match (&waiver.until, settings.is_over(waiver)) {
                (Some(until), true) => {
                    let message = format!("the waiver of `{check}` ended on {until}");
                    Diagnostic::new(Level::Warning, "waiver/ended", waiver.span, message)
                        .label("no longer counts")
                        .mend("mend what it accepts, or decide anew and write a later day")
                }
                _ => {
                    let message = format!("the waiver of `{check}` accepts nothing");
                    Diagnostic::new(Level::Warning, "waiver/unused", waiver.span, message)
                        .label("nothing fails here")
                        .mend("take it out, so that it cannot hide what fails later")
                }
            }
        })
        .collect();
    // A control that is copied brings its waivers along.
    found.dedup_by_key(|diagnostic| diagnostic.span);
    found
}
