//! What there is to say of names, in Markdown.

use crate::names::{Names, OwnKind, Role, Symbol};
use crate::snapshot::Snapshot;
use stilk_checks::mend::color::color_of;
use stilk_checks::painted::paint::{contrast, floor, hex, over};
use stilk_engine::css::color::Absolute;
use stilk_language::system::System;
use stilk_language::tokens::{Theme, Token, TokenId, TokenType, Tokens};

/// The type of a token in a word.
pub fn kind_of(token: &Token) -> &'static str {
    token.kind.map_or("computed", TokenType::name)
}

/// The colour of a token in a theme as `#rrggbb`, and its share of alpha where it is not opaque.
pub fn shown_color(color: &Absolute) -> String {
    let opaque = hex(color.srgb().map(|channel| channel.clamp(0.0, 1.0)));
    match color.alpha < 1.0 {
        true => format!("{opaque} at {}%", (color.alpha * 100.0).round()),
        false => opaque,
    }
}

/// A token's value in the default theme on one line, colours by their hex.
pub fn short_value(tokens: &Tokens, id: TokenId, theme: &Theme) -> String {
    let token = tokens.get(id);
    match color_of(tokens, token, theme).filter(|_| token.kind != Some(TokenType::Gradient)) {
        Some(color) => shown_color(&color),
        None => tokens.literal(id, theme).unwrap_or_else(|| "computed".to_owned()),
    }
}

/// A token with its value in every theme, and its contrast with what controls lie on.
pub fn token(tokens: &Tokens, system: Option<&System>, id: TokenId) -> String {
    let token = tokens.get(id);
    let mut text = format!("**{}** · {}\n", token.path, kind_of(token));
    if let Some(reason) = &token.deprecated {
        let colon = if reason.is_empty() { "" } else { ": " };
        text.push_str(&format!("\n*deprecated{colon}{reason}*\n"));
    }
    if let Some(description) = &token.description {
        text.push_str(&format!("\n{description}\n"));
    }
    let surfaces: Vec<(&str, TokenId)> = system
        .map(|system| system.surfaces.iter().map(|(name, id)| (name.as_str(), *id)).collect())
        .unwrap_or_default();
    let is_color = tokens.themes().iter().any(|theme| color_of(tokens, token, theme).is_some());
    let surfaces = if is_color { surfaces } else { Vec::new() };
    // Themes in which everything is the same are told in one row.
    let mut rows: Vec<(Vec<String>, Vec<String>)> = Vec::new();
    for theme in tokens.themes() {
        let literal = tokens.literal(id, &theme).unwrap_or_else(|| "no value".to_owned());
        let mut cells = vec![match color_of(tokens, token, &theme) {
            Some(color) => format!("`{literal}` {}", shown_color(&color)),
            None => format!("`{literal}`"),
        }];
        cells.extend(surfaces.iter().map(|(_, surface)| on_surface(tokens, token, *surface, &theme)));
        let name = tokens.theme_name(&theme);
        match rows.iter_mut().find(|(_, known)| *known == cells) {
            Some((themes, _)) => themes.push(name),
            None => rows.push((vec![name], cells)),
        }
    }
    let heads = surfaces.iter().map(|(name, _)| format!("on {name}"));
    let heads: Vec<String> = ["theme", "value"].map(str::to_owned).into_iter().chain(heads).collect();
    let all = tokens.themes().len();
    let rows = rows.into_iter().map(|(themes, cells)| {
        let themes = if themes.len() == all && all > 1 { "all".to_owned() } else { themes.join("; ") };
        std::iter::once(themes).chain(cells).collect::<Vec<_>>()
    });
    text.push_str(&table(&heads, &rows.collect::<Vec<_>>()));
    text
}

/// A table in Markdown that reads well where nobody draws it, too.
fn table(heads: &[String], rows: &[Vec<String>]) -> String {
    let width = |at: usize| {
        let cells = rows.iter().map(|row| row[at].chars().count());
        cells.chain([heads[at].chars().count()]).max().unwrap_or_default()
    };
    let line = |cells: &[String]| {
        let padded = cells.iter().enumerate().map(|(at, cell)| format!(" {cell:0$} |", width(at)));
        format!("|{}\n", padded.collect::<String>())
    };
    let rule: String = (0..heads.len()).map(|at| format!("{}|", "-".repeat(width(at) + 2))).collect();
    let rows: String = rows.iter().map(|row| line(row)).collect();
    format!("\n{}|{rule}\n{rows}", line(heads))
}

/// The contrast of a token's colour with a surface.
fn on_surface(tokens: &Tokens, token: &Token, surface: TokenId, theme: &Theme) -> String {
    let colors = color_of(tokens, token, theme).zip(color_of(tokens, tokens.get(surface), theme));
    match colors.filter(|(_, behind)| behind.alpha >= 1.0) {
        Some((color, behind)) => {
            format!("{:.2}:1", floor(contrast(over(&color, behind.srgb()), behind.srgb())))
        }
        None => "–".to_owned(),
    }
}

/// What there is to say of a name.
pub fn symbol(snapshot: &Snapshot, symbol: &Symbol) -> Option<String> {
    let names = &snapshot.names;
    if let Symbol::Token(path) = symbol {
        let tokens = snapshot.tokens()?;
        let id = tokens.find_path(path)?;
        return Some(token(tokens, snapshot.any_system(), id));
    }
    let of = match symbol {
        Symbol::Own(_, owner, _) => match owner.strip_prefix('@') {
            Some(of_trait) => format!(" of trait {of_trait}"),
            None => format!(" of {owner}"),
        },
        _ => String::new(),
    };
    let mut text = format!("**{}** · {}{of}\n", symbol.name(), symbol.noun());
    match symbol {
        Symbol::Own(OwnKind::Local, ..) => text.push_str(&values_of_local(snapshot, symbol)),
        Symbol::Control(name) => text.push_str(&control(snapshot, name)?),
        Symbol::State(name) => text.push_str(&state(snapshot, name)?),
        Symbol::Own(OwnKind::Option, owner, name) => text.push_str(&option(snapshot, owner, name)),
        _ => {}
    }
    text.push_str(&format!("\n{}", uses(names, symbol)));
    Some(text)
}

/// How often a name is used.
fn uses(names: &Names, symbol: &Symbol) -> String {
    let uses = names.of(symbol).filter(|one| one.role != Role::Definition).count() as u64;
    match uses {
        0 => "used nowhere".to_owned(),
        1 => "used once".to_owned(),
        uses => format!("used {uses} times"),
    }
}

/// Each place that gives a local a value.
fn values_of_local(snapshot: &Snapshot, symbol: &Symbol) -> String {
    let mut text = String::new();
    let set = snapshot.names.of(symbol).filter(|one| one.role != Role::Read);
    for one in set.take(12) {
        let source = snapshot.sources.file(one.span.file);
        let rest = &source.text[one.span.end as usize..];
        let Some(value) = rest.trim_start().strip_prefix(':') else { continue };
        let end = value.find([';', '}', '\n']).map_or(value.len(), |end| {
            // A reference's brace ends no value.
            let mut end = end;
            while value[end..].starts_with('}') && value[..end].rfind('{') > value[..end].rfind('}') {
                end = value[end + 1..].find([';', '}', '\n']).map_or(value.len(), |more| end + 1 + more);
            }
            end
        });
        let rest = if one.role == Role::Definition { "at rest" } else { "set" };
        text.push_str(&format!("\n- {rest}: `{}` ({})", value[..end].trim(), snapshot.sources.place(one.span)));
    }
    if !text.is_empty() {
        text.push('\n');
    }
    text
}

/// A control: its hosts, axes and parts.
fn control(snapshot: &Snapshot, name: &str) -> Option<String> {
    let control = snapshot.any_system()?.control(name)?;
    let hosts: Vec<&str> = control.template.hosts.iter().map(|host| host.name.as_str()).collect();
    let mut text = format!("\nhosts: {}\n", hosts.join(", "));
    let parts = control.template.part_names();
    if !parts.is_empty() {
        text.push_str(&format!("\nparts: {}\n", parts.join(", ")));
    }
    for axis in &control.axes {
        let options: Vec<String> = axis
            .options
            .iter()
            .enumerate()
            .map(|(at, option)| match axis.default == Some(at) {
                true => format!("*{}*", option.value),
                false => option.value.clone(),
            })
            .collect();
        text.push_str(&format!("\n{}: {}\n", axis.name.value, options.join(", ")));
    }
    Some(text)
}

/// The axis of an option.
fn option(snapshot: &Snapshot, owner: &str, name: &str) -> String {
    let control = snapshot.any_system().and_then(|system| system.control(owner));
    let axis = control
        .and_then(|control| control.axes.iter().find(|axis| axis.options.iter().any(|option| option.value == name)));
    axis.map(|axis| format!("\naxis {}\n", axis.name.value)).unwrap_or_default()
}

/// What a state matches, and where it ranks.
pub fn state(snapshot: &Snapshot, name: &str) -> Option<String> {
    let states = &snapshot.any_system()?.states;
    let state = states.get(states.find(name)?);
    let selectors: Vec<String> = state.selectors.iter().map(|selector| format!("`{selector}`")).collect();
    let order: Vec<String> =
        states.names().map(|known| if known == name { format!("**{known}**") } else { known.to_owned() }).collect();
    Some(format!("\nmatches {}\n\nranks, lowest first: {}\n", selectors.join(" or "), order.join(", ")))
}

/// The row of the language's reference about an at-rule.
pub fn at_rule(name: &str) -> Option<String> {
    const LANGUAGE: &str = include_str!("../../../../docs/language.md");
    let rows = LANGUAGE.lines().filter_map(|line| line.strip_prefix("| ")?.strip_suffix(" |"));
    let mut found = Vec::new();
    for row in rows {
        // Bars in code are written with a backslash.
        let Some(split) = row.match_indices(" | ").map(|(at, _)| at).find(|at| !row[..*at].ends_with('\\')) else {
            continue;
        };
        let (head, meaning) = (&row[..split], &row[split + 3..]);
        let sign = if name == "&" { "`&".to_owned() } else { format!("@{name}") };
        let is_of = head
            .match_indices(&sign)
            .any(|(at, _)| !head[at + sign.len()..].starts_with(|c: char| c.is_alphanumeric() || c == '-'));
        if is_of {
            found.push(format!("{}\n\n{}", head.replace("\\|", "|"), meaning.replace("\\|", "|")));
        }
    }
    (!found.is_empty()).then(|| format!("{}\n\nMore in docs/language.md.", found.join("\n\n")))
}
