//! The names of all properties that Chromium has, with what each of them sets.

use crate::webdriver::Browser;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::fmt::Write;

/// Every name, with the longhands that a declaration of it is stored as.
const SCRIPT: &str = "
    const names = new Set();
    const element = document.createElement('div');
    for (const key in element.style) {
        const name = key === 'cssFloat' ? 'float'
            : key.replace(/[A-Z]/g, c => '-' + c.toLowerCase()).replace(/^webkit-/, '-webkit-');
        if (CSS.supports(name, 'initial')) names.add(name);
    }
    for (const name of getComputedStyle(document.documentElement)) names.add(name);
    names.delete('all');
    return [...names].filter(name => !name.startsWith('-internal')).sort().map(name => {
        element.style.cssText = name + ': initial';
        return [name, [...element.style]];
    });";

/// The table as text: a name alone is a longhand; `name = other` is another name; `name: a b` sets these.
pub fn table(browser: &Browser) -> String {
    let answer = browser.run(SCRIPT, json!([]));
    let names: BTreeMap<String, Vec<String>> = answer
        .as_array()
        .expect("names")
        .iter()
        .map(|row| {
            let text = |value: &Value| value.as_str().unwrap_or_default().to_owned();
            (text(&row[0]), row[1].as_array().into_iter().flatten().map(text).collect())
        })
        .collect();
    let mut table = format!("# Properties of {}, read by `scripts/measure-defaults names`.\n", browser.version());
    for (name, sets) in &names {
        let same = |(other, theirs): &(&String, &Vec<String>)| {
            *other != name
                && *theirs == sets
                && (sets.len() > 1 && name.starts_with("-webkit-") && !other.starts_with("-webkit-"))
        };
        match sets.as_slice() {
            [one] if one == name => drop(writeln!(table, "{name}")),
            [one] => drop(writeln!(table, "{name} = {one}")),
            _ => match names.iter().find(same) {
                Some((other, _)) => drop(writeln!(table, "{name} = {other}")),
                None => drop(writeln!(table, "{name}: {}", sets.join(" "))),
            },
        }
    }
    table
}
