//! `token/unused`: every token is of use.

use crate::check::{Check, Scope};
use crate::checks::token::used;
use crate::example::Example;
use crate::sink::Sink;
use crate::survey::Survey;
use std::collections::HashSet;
use stilk_language::tokens::TokenId;
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "token/unused",
    summary: "every token is used by a sheet, a surface or another token in use",
    why: "Tokens that nothing uses are read, reviewed and kept in step for nothing; often they are the leftovers of a name \
          that was changed.",
    source: "what maintainers of tokens do by hand",
    level: Level::Note,
    mend: "Take it out, or use it. Tokens that pages use themselves are written with `all-tokens = true`.",
    fails: Example::with_tokens(
        "\n  \"foam\": { \"$type\": \"color\", \"$value\": { \"colorSpace\": \"srgb\", \"components\": [0.9, 1, 1] } }",
        "@control button {\n  color: {ink}; background: {paper}; border: 1px solid {sea}; padding: {gap};\n  @state hover { color: {rust}; border-color: {mist}; }\n}\n",
    ),
    passes: Example::sheet(
        "@control button {\n  color: {ink}; background: {paper}; border: 1px solid {sea}; padding: {gap};\n  @state hover { color: {rust}; border-color: {mist}; }\n}\n",
    ),
    scope: Scope::System(run),
};

fn run(survey: &Survey, sink: &mut Sink) {
    if survey.system.manifest.stylesheet.all_tokens {
        return;
    }
    let used = used(survey.system);
    // What a prelude names is written out there.
    let sheets: Vec<&str> = survey
        .sources
        .all()
        .filter(|source| source.path.ends_with(".stilk"))
        .map(|source| source.text.as_str())
        .collect();
    let named: HashSet<&str> = sheets.iter().flat_map(|text| in_braces(text)).collect();
    for (index, token) in survey.system.tokens.list.iter().enumerate() {
        if token.is_member {
            continue;
        }
        sink.decided(CHECK.id, 1);
        let Some(span) = token.definitions().next().map(|definition| definition.span) else { continue };
        if !used.contains(&TokenId(index)) && !named.contains(token.path.as_str()) && token.deprecated.is_none() {
            let diagnostic = Diagnostic::new(CHECK.level, CHECK.id, span, format!("nothing uses `{}`", token.path))
                .label("not used")
                .mend("take it out, or use it");
            sink.find(None, diagnostic);
        }
    }
}

/// What stands in braces within a line.
fn in_braces(text: &str) -> impl Iterator<Item = &str> {
    text.split('{').skip(1).filter_map(|rest| rest.split_once('}').map(|(inner, _)| inner))
}
