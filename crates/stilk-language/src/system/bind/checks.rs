//! What the manifest says of checks names checks, controls and options that there are.

use crate::manifest::{Counted, counted};
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
        // The key may stand in quotes, which are no part of the name.
        let start = name.span.end as usize - name.span.start as usize - name.value.len();
        let start = name.span.start as usize + start / 2;
        let place = |word: &str| {
            let from = start + (word.as_ptr() as usize - name.value.as_ptr() as usize);
            Name { value: word.to_owned(), span: Span::new(name.span.file, from, from + word.len()) }
        };
        for Counted { control, options } in counted(&name.value) {
            let Some(known) = system.control(control) else {
                let controls = system.controls.iter().map(|control| control.name.as_str());
                diagnostics.push(unknown_name("manifest/value", "control", &place(control), controls));
                continue;
            };
            for option in options.into_iter().filter(|option| *option != "plain" && known.find_option(option).is_none())
            {
                let options = known.axes.iter().flat_map(|axis| &axis.options).map(Name::as_str);
                let what = format!("option {{}} in `{control}`");
                diagnostics.push(unknown_name("manifest/value", &what, &place(option), options));
            }
        }
    }
}
