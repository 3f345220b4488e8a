//! TypeScript declarations: class names, options of controls, contexts of modifiers and paths of tokens, as types.

use super::listed;
use crate::system::{Control, Mark, OptionId, System};
use std::fmt::Write;

/// The declarations as a `.d.ts` module.
pub fn describe(system: &System) -> String {
    let mut text =
        format!("// {}. Written by Stilk; change the sources, not this file.\n\n", system.manifest.name.value);
    write_all(system, &mut text);
    text
}

fn write_all(system: &System, text: &mut String) {
    let mut classes: Vec<String> = Vec::new();
    text.push_str(
        "/** The options of each control, by axis. An axis that may be left out has a default, or is optional. */\n",
    );
    text.push_str("export interface Controls {\n");
    for control in &system.controls {
        write_control(control, text);
        classes.extend(class_names(system, control));
    }
    text.push_str("}\n\n/** The name of a control. */\nexport type Control = keyof Controls;\n\n");
    write_union("Every class of the system.", "ClassName", &classes, text);
    text.push_str("/** The contexts of each modifier. */\nexport interface Theme {\n");
    for modifier in &system.tokens.modifiers {
        let contexts: Vec<String> = modifier.contexts.iter().map(|c| quote(&c.value)).collect();
        // Writing to a String does not fail.
        let _ = writeln!(text, "  {}: {};", quote(&modifier.name.value), contexts.join(" | "));
    }
    text.push_str("}\n\n");
    let properties: Vec<String> = listed(system).map(|id| system.names().token(&system.tokens.get(id).path)).collect();
    let paths: Vec<String> = listed(system).map(|id| system.tokens.get(id).path.clone()).collect();
    write_union("The path of a token.", "TokenPath", &paths, text);
    write_union("The custom property of a token.", "TokenProperty", &properties, text);
}

fn write_control(control: &Control, text: &mut String) {
    let hosts: Vec<String> = control.template.hosts.iter().map(|host| quote(&host.name)).collect();
    let _ = writeln!(text, "  {}: {{", quote(&control.name.value));
    let _ = writeln!(text, "    host: {};", hosts.join(" | "));
    for axis in &control.axes {
        let options: Vec<String> = axis.options.iter().map(|option| quote(&option.value)).collect();
        let _ = writeln!(text, "    {}?: {};", quote(&axis.name.value), options.join(" | "));
    }
    text.push_str("  };\n");
}

fn class_names(system: &System, control: &Control) -> Vec<String> {
    let names = system.names();
    let mut classes = vec![names.control(&control.name.value)];
    for (i, axis) in control.axes.iter().enumerate() {
        let spoken = (0..axis.options.len()).filter(|option| axis.default != Some(*option));
        classes.extend(spoken.map(|option| names.option(control, OptionId { axis: i, option })));
    }
    classes.extend(control.template.part_names().into_iter().map(|part| names.part(&control.name.value, part)));
    classes.iter().filter_map(Mark::class).map(str::to_owned).collect()
}

fn write_union(what: &str, name: &str, members: &[String], text: &mut String) {
    let _ = write!(text, "/** {what} */\nexport type {name} =");
    if members.is_empty() {
        text.push_str(" never");
    }
    for member in members {
        let _ = write!(text, "\n  | {}", quote(member));
    }
    text.push_str(";\n\n");
}

/// A string literal; JSON's are JavaScript's.
fn quote(text: &str) -> String {
    serde_json::to_string(text).unwrap_or_default()
}
