//! What the manifest says of checks names checks, controls and options that there are.

use crate::system::System;
use stilk_text::diagnostic::{Diagnostics, unknown_name};
use stilk_text::source::{Name, Span};

/// Reports names under `[checks]` that nothing has.
pub fn check(system: &System, checks: &[&str], diagnostics: &mut Diagnostics) {
    for (id, _) in &system.manifest.levels {
        if !checks.contains(&id.value.as_str()) {
            diagnostics.push(unknown_name("manifest/value", "check", id, checks.iter().copied()));
        }
    }
    for (name, _) in &system.manifest.counts {
        let (control, option) = match name.value.split_once('.') {
            Some((control, option)) => (control, Some(option)),
            None => (name.value.as_str(), None),
        };
        let part = |value: &str, from: usize| {
            // The key may stand in quotes, which are no part of the name.
            let start = name.span.end as usize - name.span.start as usize - name.value.len();
            let start = name.span.start as usize + start / 2 + from;
            Name { value: value.to_owned(), span: Span::new(name.span.file, start, start + value.len()) }
        };
        let Some(known) = system.control(control) else {
            let controls = system.controls.iter().map(|control| control.name.as_str());
            diagnostics.push(unknown_name("manifest/value", "control", &part(control, 0), controls));
            continue;
        };
        if let Some(option) = option.filter(|option| *option != "plain" && known.find_option(option).is_none()) {
            let options = known.axes.iter().flat_map(|axis| &axis.options).map(Name::as_str);
            let what = format!("option {{}} in `{control}`");
            diagnostics.push(unknown_name("manifest/value", &what, &part(option, control.len() + 1), options));
        }
    }
}
