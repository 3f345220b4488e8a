//! `stilk tokens`: what tokens there are, their values per theme, and what an edit of one would reach.

use super::Loaded;
use crate::output::{count, grouped};
use crate::site::read_page;
use crate::{Failure, Outcome};
use std::ffi::OsString;
use std::path::Path;
use stilk_checks::visit::classes::Classes;
use stilk_checks::visit::instance::instances;
use stilk_checks::visit::usage::touches;
use stilk_engine::page::Page;
use stilk_language::dependents::{Dependents, dependents};
use stilk_language::system::Control;
use stilk_language::tokens::{Token, TokenId};
use stilk_text::diagnostic::list;

/// Lists all tokens, or tells everything about one.
/// An edit is followed to pages too: those that are named, or that the manifest names.
pub fn run(root: &Path, path: Option<&str>, pages: &[OsString]) -> Result<Outcome, Failure> {
    let loaded = Loaded::read(root)?;
    match path {
        None => print_all(&loaded),
        Some(path) => print_one(&loaded, path, pages)?,
    }
    Ok(Outcome::Clean)
}

fn type_name(token: &Token) -> &'static str {
    token.kind.map_or("computed", stilk_language::tokens::TokenType::name)
}

fn is_listed(token: &Token) -> bool {
    !token.is_member
}

fn print_all(loaded: &Loaded) {
    let tokens = &loaded.system.tokens;
    let default = tokens.default_theme();
    let listed: Vec<(usize, &Token)> = tokens.list.iter().enumerate().filter(|(_, t)| is_listed(t)).collect();
    let width = listed.iter().map(|(_, t)| t.path.chars().count()).max().unwrap_or(0);
    let kinds = listed.iter().map(|(_, t)| type_name(t).len()).max().unwrap_or(0);
    for (index, token) in &listed {
        let value = tokens.literal(TokenId(*index), &default).unwrap_or_default();
        // A token that refers to a themed one differs as well.
        let differs =
            tokens.themes().iter().any(|theme| tokens.literal(TokenId(*index), theme).as_ref() != Some(&value));
        let themed = if differs { "  *" } else { "" };
        say!("{:width$}  {:kinds$}  {value}{themed}", token.path, type_name(token));
    }
    let name = tokens.theme_name(&default);
    say!("\n{} in `{name}`; * differs between themes", count(listed.len() as u64, "token"));
}

fn print_one(loaded: &Loaded, path: &str, pages: &[OsString]) -> Result<(), Failure> {
    let tokens = &loaded.system.tokens;
    let path = path.trim_start_matches('{').trim_end_matches('}');
    let Some(id) = tokens.find_path(path) else {
        let near = tokens.meant(path).map_or_else(String::new, |meant| format!(": {meant}"));
        return Err(Failure::Message(format!("error: there is no token `{path}`{near}")));
    };
    let token = tokens.get(id);
    say!("{} ({})", token.path, type_name(token));
    if let Some(description) = &token.description {
        say!("{description}");
    }
    if let Some(reason) = &token.deprecated {
        say!("deprecated{}{reason}", if reason.is_empty() { "" } else { ": " });
    }
    say!("");
    for theme in tokens.themes() {
        let value = tokens.literal(id, &theme).unwrap_or_default();
        let place = token.in_theme(&theme).map(|d| loaded.place(d.span)).unwrap_or_default();
        say!("{:>8}  {value}  {place}", tokens.theme_name(&theme));
    }
    let reach = dependents(&loaded.system, id);
    if !reach.tokens.is_empty() {
        let names: Vec<&str> = reach.tokens.iter().map(|id| tokens.get(*id).path.as_str()).collect();
        say!("\nbuilt on it: {}", list(&names));
    }
    say!("");
    for use_ in &reach.uses {
        let mut when: Vec<String> = use_.rule.options.iter().map(|o| use_.control.option_name(*o).to_owned()).collect();
        if !use_.rule.states.is_rest() {
            when.push(loaded.system.states.set_name(&use_.rule.states));
        }
        let part = use_.rule.target.part.as_ref().map_or_else(String::new, |part| format!("/{part}"));
        let when = if when.is_empty() { String::new() } else { format!(" ({})", when.join(", ")) };
        say!("{}  {}{part}{when}: {}", loaded.place(use_.span), use_.control.name.value, use_.property);
    }
    let themes = tokens.themes().len() as u64;
    let of_control = |control: &Control| -> u64 {
        let variants: u64 = (0..control.template.hosts.len()).map(|host| control.variant_count(host)).sum();
        variants * stilk_language::case::state_sets(&loaded.system, control).len() as u64 * themes
    };
    let total: u64 = loaded.system.controls.iter().map(of_control).sum();
    say!(
        "{}, in {}{} of {}",
        count(reach.uses.len() as u64, "declaration"),
        if reach.is_exact { "" } else { "at least " },
        grouped(reach.cases),
        count(total, "case")
    );
    print_pages(loaded, &reach, pages)
}

/// What pages show of it: how many of their controls.
fn print_pages(loaded: &Loaded, reach: &Dependents, pages: &[OsString]) -> Result<(), Failure> {
    let is_named = !pages.is_empty();
    if !is_named && loaded.system.manifest.pages.is_empty() {
        return Ok(());
    }
    let found = match super::scan::pages(loaded, pages) {
        Ok(found) => found,
        // Pages that the manifest names and that are not there are a matter of `scan`.
        Err(_) if !is_named => return Ok(()),
        Err(failure) => return Err(failure),
    };
    let classes = Classes::new(&loaded.system);
    let mut shown = Vec::new();
    let mut unreadable = false;
    for path in &found {
        let text = match read_page(path) {
            Ok(text) => text,
            Err(why) => {
                unreadable = true;
                tell!("error: `{}` cannot be read: {why}", path.display());
                continue;
            }
        };
        let page = Page::parse(&text);
        let all = instances(&loaded.system, &classes, &page.document);
        let touched = all.iter().filter(|instance| touches(&loaded.system, &reach.uses, instance)).count() as u64;
        if touched > 0 {
            shown.push((touched, path));
        }
    }
    shown.sort_by(|a, b| b.0.cmp(&a.0).then(a.1.cmp(b.1)));
    let controls: u64 = shown.iter().map(|(touched, _)| touched).sum();
    let (on, of) = (grouped(shown.len() as u64), count(found.len() as u64, "page"));
    say!("{} on {on} of {of}", count(controls, "control"));
    const SHOWN: usize = 10;
    for (touched, path) in shown.iter().take(SHOWN) {
        say!("  {:>6}  {}", grouped(*touched), path.display());
    }
    if shown.len() > SHOWN {
        say!("          and {} more pages", shown.len() - SHOWN);
    }
    if unreadable { Err(Failure::Said) } else { Ok(()) }
}
