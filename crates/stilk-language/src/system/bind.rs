//! From syntax trees to the checked system.

mod attach;
mod checks;
mod choices;
mod collisions;
mod condition;
mod control;
mod descriptors;
mod locals;
mod marks;
mod parts;
mod placement;
mod pseudo;
mod written;

pub use pseudo::names as pseudo_elements;

use super::states::MAX_OWN_STATES;
use super::values::ValueChecker;
use super::{Control, Keyframes, States, System};
use crate::limits::{MAX_AXES, MAX_COPIES, MAX_ELEMENTS, MAX_TIED};
use crate::manifest::Manifest;
use crate::sheet::{ControlNode, DerivedNode, KeyframesNode, Sheet, TraitNode, Value, ValuePiece};
use crate::system::VariantSpace;
use crate::template::Template;
use crate::tokens::{Definition, Expression, Piece, Token, TokenId, TokenType, TokenValue, Tokens};
use std::collections::HashMap;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use stilk_text::loader::Loader;
use stilk_text::source::{Name, Sources, Span};

/// Binds everything that was read. What is wrong goes to the loader's diagnostics; `checks` are the ids that may be named.
pub fn bind(
    manifest: Manifest,
    mut tokens: Tokens,
    sheets: Vec<Sheet>,
    templates: Vec<Template>,
    checks: &[&str],
    loader: &mut Loader,
) -> System {
    let diagnostics = &mut loader.diagnostics;
    let derived: Vec<&DerivedNode> = sheets.iter().flat_map(|sheet| &sheet.derived).collect();
    add_derived(&derived, &mut tokens, diagnostics);
    check_modifiers(&manifest, &tokens, diagnostics);
    written::check(&manifest, &tokens, &sheets, &templates, diagnostics);
    let states = States::new(&manifest.states).as_written(manifest.stylesheet.as_written);
    check_states(&manifest, diagnostics);
    let surfaces = bind_surfaces(&manifest, &tokens, diagnostics);
    let mut traits: HashMap<&str, &TraitNode> = HashMap::new();
    for node in sheets.iter().flat_map(|sheet| &sheet.traits) {
        if let Some(first) = traits.insert(node.name.as_str(), node) {
            diagnostics.push(twice("trait", &node.name, &first.name));
        }
    }
    let keyframes = bind_keyframes(&sheets, &tokens, diagnostics);
    let animations: Vec<String> = keyframes.iter().map(|k| k.name.value.clone()).collect();
    let shared = control::Shared { manifest: &manifest, tokens: &tokens, states: &states, checks, traits, animations };

    let nodes: Vec<&ControlNode> = sheets.iter().flat_map(|sheet| &sheet.controls).collect();
    let controls = bind_controls(&nodes, &templates, &shared, &loader.sources, diagnostics);
    placement::check_inside(&controls, diagnostics);
    written::check_controls(&controls, diagnostics);
    let nodes = sheets.iter().flat_map(|sheet| &sheet.attachments);
    let attachments = nodes.filter_map(|node| attach::bind(node, &controls, diagnostics)).collect();
    let nodes = sheets.iter().flat_map(|sheet| &sheet.font_faces);
    let font_faces = nodes.map(|node| descriptors::font_face(node, &tokens, diagnostics)).collect();
    let nodes = sheets.iter().flat_map(|sheet| &sheet.properties);
    let registered = nodes.filter_map(|node| descriptors::registered(node, &tokens, diagnostics)).collect();
    let system =
        System { manifest, tokens, states, controls, keyframes, font_faces, registered, attachments, surfaces };
    collisions::check(&system, diagnostics);
    checks::check(&system, checks, diagnostics);
    system
}

fn bind_controls(
    nodes: &[&ControlNode],
    templates: &[Template],
    shared: &control::Shared,
    sources: &Sources,
    diagnostics: &mut Diagnostics,
) -> Vec<Control> {
    let folder = &shared.manifest.controls.value;
    let mut found: Vec<(Vec<&ControlNode>, &Template)> = Vec::new();
    for node in nodes {
        if let Some((first, _)) = found.iter().find(|(c, _)| c.last().is_some_and(|n| n.name.value == node.name.value))
        {
            diagnostics.push(twice("control", &node.name, &first[first.len() - 1].name));
            continue;
        }
        let Some(chain) = chain(node, nodes, diagnostics) else { continue };
        // A copy without a template of its own has that of the original.
        let template = chain.iter().rev().find_map(|n| templates.iter().find(|t| t.control == n.name.value));
        if let Some(template) = template {
            found.push((chain, template));
            continue;
        }
        let path = format!("{folder}/{}.html", node.name.value);
        // A template that was there but could not be read has its own diagnostic.
        if sources.find(&path).is_none() {
            let message = format!("the control `{}` has no template", node.name.value);
            diagnostics.push(
                Diagnostic::error("template/missing", node.name.span, message)
                    .label(format!("no `{path}`"))
                    .mend(format!("write the control's markup into `{path}`")),
            );
        }
    }
    let mut controls: Vec<Control> = Vec::new();
    let mut declared = Vec::new();
    let mut elements: HashMap<String, usize> = HashMap::new();
    // Placed controls before those that place them: whatever waits for a control that is still to come, waits.
    while !found.is_empty() {
        let waits = |template: &Template| {
            let placed = template.hosts.iter().flat_map(|host| &host.placed);
            placed.into_iter().any(|p| found.iter().any(|(c, _)| c[c.len() - 1].name.value == p.control.value))
        };
        let Some(next) = found.iter().position(|(_, template)| !waits(template)) else {
            let (chain, template) = &found[0];
            let span = template.hosts.iter().flat_map(|h| &h.placed).next().map(|p| p.control.span);
            let message =
                format!("`{}` stands in itself, by way of what is placed in it", chain[chain.len() - 1].name.value);
            diagnostics.push(
                Diagnostic::error("template/control", span, message)
                    .label("here")
                    .mend("let one of them place no other"),
            );
            break;
        };
        let (chain, template) = found.remove(next);
        let name = chain[chain.len() - 1].name.value.clone();
        let template = Template { control: name, ..template.clone() };
        let (mut control, declarations) = control::bind(&chain, template, &controls, shared, diagnostics);
        refuse_too_large(&mut control, &mut elements, diagnostics);
        controls.push(control);
        declared.push(declarations);
    }
    if !shared.tokens.incomplete {
        locals::check_all(&controls, &declared, &ValueChecker::new(shared.tokens), diagnostics);
    }
    for template in templates.iter().filter(|t| !nodes.iter().any(|node| node.name.value == t.control)) {
        let path = format!("{folder}/{}.stilk", template.control);
        // A sheet that was there but holds no such control is shown to be so by what else was said of it.
        if !diagnostics.has_errors() || sources.find(&path).is_none() {
            let message = format!("the template `{}` has no control sheet", template.control);
            diagnostics.push(
                Diagnostic::error("sheet/missing", Span::new(template.file, 0, 0), message)
                    .mend(format!("write `@control {} {{ … }}` into `{path}`", template.control)),
            );
        }
    }
    controls.sort_by(|a, b| a.name.value.cmp(&b.name.value));
    controls
}

/// Elements and variants are multiplied: what has too many is refused before anybody asks for all of them.
fn refuse_too_large(control: &mut Control, elements: &mut HashMap<String, usize>, diagnostics: &mut Diagnostics) {
    let name = &control.name;
    let own = control.template.document.len();
    let inner = |placement: &super::Placement| elements.get(&placement.control).copied().unwrap_or_default();
    let all = control.placements.iter().map(inner).fold(own, usize::saturating_add);
    elements.insert(name.value.clone(), all);
    if all > MAX_ELEMENTS {
        let message = format!("`{}` comes to {all} elements with all that is placed in it", name.value);
        diagnostics.push(
            Diagnostic::error("template/size", name.span, message)
                .label(format!("more than {MAX_ELEMENTS}"))
                .mend("place fewer controls in each other"),
        );
        control.placements.clear();
    }
    if (0..control.template.hosts.len()).any(|host| VariantSpace::is_too_tied(control, host)) {
        let message =
            format!("the exclusions of `{}` tie more than {MAX_TIED} combinations of options together", name.value);
        diagnostics.push(
            Diagnostic::error("sheet/size", name.span, message)
                .label("each exclusion ties the axes together that it names")
                .mend("exclude fewer, or make two controls of it"),
        );
    }
    if control.axes.len() > MAX_AXES {
        let message = format!("`{}` has {} axes, more than {MAX_AXES}", name.value, control.axes.len());
        diagnostics.push(
            Diagnostic::error("sheet/size", name.span, message)
                .label("each multiplies its variants")
                .mend("let one axis choose what several do, or make two controls of it"),
        );
    }
}

/// A control with everything it was copied from, the furthest first. `None` when the chain is broken, which is reported.
fn chain<'n>(
    node: &'n ControlNode,
    nodes: &[&'n ControlNode],
    diagnostics: &mut Diagnostics,
) -> Option<Vec<&'n ControlNode>> {
    let mut chain = vec![node];
    while let Some(from) = &chain[0].from {
        let Some(base) = nodes.iter().find(|n| n.name.value == from.value) else {
            let known = nodes.iter().map(|n| n.name.as_str()).filter(|name| *name != node.name.value);
            diagnostics.push(unknown_name("sheet/from", "control", from, known));
            return None;
        };
        if chain.iter().any(|n| n.name.value == base.name.value) {
            diagnostics.push(
                Diagnostic::error("sheet/from", from.span, "controls are copies of each other in a circle")
                    .label("here")
                    .mend("let one of them stand alone"),
            );
            return None;
        }
        if chain.len() > MAX_COPIES {
            let message = format!("`{}` is a copy of a copy, more than {MAX_COPIES} times over", node.name.value);
            diagnostics.push(
                Diagnostic::error("sheet/from", node.name.span, message)
                    .label("here")
                    .mend("copy a control that stands alone"),
            );
            return None;
        }
        chain.insert(0, base);
    }
    Some(chain)
}

fn twice(what: &str, again: &Name, first: &Name) -> Diagnostic {
    Diagnostic::error("sheet/twice", again.span, format!("the {what} `{}` stands here twice", again.value))
        .label("again")
        .related(first.span, "first here")
        .mend("take one away, or give it another name")
}

/// Binds a value's references. `None` when a token is not known (which is reported).
fn bind_value(value: &Value, tokens: &Tokens, diagnostics: &mut Diagnostics) -> Option<Expression> {
    let mut expression = Expression::default();
    let mut complete = true;
    for piece in &value.pieces {
        expression.pieces.push(match piece {
            ValuePiece::Text(css, _) => Piece::Text(css.clone()),
            ValuePiece::Local(name) => Piece::Local(name.value.clone()),
            ValuePiece::Reference(name) => match find_token(name, tokens, diagnostics) {
                Some(id) => Piece::Token(id, name.span),
                None => {
                    complete = false;
                    continue;
                }
            },
        });
    }
    complete.then_some(expression)
}

fn find_token(name: &Name, tokens: &Tokens, diagnostics: &mut Diagnostics) -> Option<TokenId> {
    let found = tokens.find_path(&name.value);
    if let Some(id) = found.filter(|id| tokens.get(*id).is_member)
        && let Some(theme) = tokens.themes().iter().find(|theme| tokens.get(id).in_theme(theme).is_none())
    {
        diagnostics.push(tokens.gap(name.span, &tokens.get(id).path, theme));
    }
    if found.is_none() && !tokens.incomplete {
        let message = format!("there is no token `{}`", name.value);
        let diagnostic = Diagnostic::error("token/unknown", name.span, message).label("not known");
        diagnostics.push_place(match tokens.meant(&name.value) {
            // As sheets write it.
            Some(meant) => diagnostic.mend(in_braces(&meant)),
            None => diagnostic.mend("define it in a token file, or write another name"),
        });
    }
    found
}

/// Names between backticks as references.
fn in_braces(text: &str) -> String {
    let pieces = text.split('`').enumerate();
    pieces.map(|(at, piece)| if at % 2 == 1 { format!("`{{{piece}}}`") } else { piece.to_owned() }).collect()
}

fn add_derived(nodes: &[&DerivedNode], tokens: &mut Tokens, diagnostics: &mut Diagnostics) {
    let mut added: Vec<(TokenId, &DerivedNode)> = Vec::new();
    for node in nodes {
        let token = Token::new(&node.path.value, None);
        match tokens.add(token) {
            Ok(id) => added.push((id, node)),
            Err(first) => {
                let message = format!("the token `{}` is defined already", node.path.value);
                let mut diagnostic = Diagnostic::error("token/twice", node.path.span, message)
                    .label("again")
                    .mend("give it another name");
                if let Some(definition) = tokens.get(first).definitions().next() {
                    diagnostic = diagnostic.related(definition.span, "first here");
                }
                diagnostics.push(diagnostic);
            }
        }
    }
    // References bind after all are known: derived tokens may build on each other.
    for (id, node) in added {
        if let Some(expression) = bind_value(&node.value, tokens, diagnostics) {
            let token = &mut tokens.list[id.0];
            token.kind = derived_type(&node.value);
            token.base = Some(Definition { value: TokenValue::Derived, expression, span: node.value.span });
        } else {
            tokens.incomplete = true;
        }
    }
    tokens.check_cycles(diagnostics);
    tokens.check_sizes(diagnostics);
}

/// What a derived token is, where its outermost function says so.
fn derived_type(value: &Value) -> Option<TokenType> {
    let Some(ValuePiece::Text(css, _)) = value.pieces.first() else { return None };
    let name = css.split('(').next().unwrap_or_default().trim();
    let colors = ["color-mix", "oklch", "oklab", "lch", "lab", "rgb", "hsl", "hwb", "color", "light-dark"];
    colors.contains(&name).then_some(TokenType::Color)
}

fn check_modifiers(manifest: &Manifest, tokens: &Tokens, diagnostics: &mut Diagnostics) {
    if tokens.incomplete && tokens.modifiers.is_empty() {
        return;
    }
    for settings in &manifest.modifiers {
        let Some(modifier) = tokens.modifiers.iter().find(|m| m.name.value == settings.name.value) else {
            let known = tokens.modifiers.iter().map(|m| m.name.as_str());
            diagnostics.push(unknown_name("manifest/modifier", "modifier", &settings.name, known));
            continue;
        };
        for context in settings
            .follow
            .iter()
            .map(|f| &f.context)
            .chain(&settings.dark)
            .chain(settings.marks.iter().map(|(name, _)| name))
        {
            if !modifier.contexts.iter().any(|known| known.value == context.value) {
                let known = modifier.contexts.iter().map(Name::as_str);
                let what = format!("context {{}} of `{}`", settings.name.value);
                diagnostics.push(unknown_name("manifest/modifier", &what, context, known));
            }
        }
    }
}

fn check_states(manifest: &Manifest, diagnostics: &mut Diagnostics) {
    let standard = States::new(&[]);
    if let Some(own) = manifest.states.get(MAX_OWN_STATES) {
        let message = format!("`{}` is one state too many: {MAX_OWN_STATES} are read", own.name.value);
        diagnostics.push(Diagnostic::error("manifest/state", own.name.span, message).mend("take states out"));
    }
    for own in &manifest.states {
        if standard.find(&own.name.value).is_some() {
            let message = format!("`{}` is a state already", own.name.value);
            diagnostics.push(Diagnostic::error("manifest/state", own.name.span, message).mend("give it another name"));
        }
    }
}

fn bind_surfaces(manifest: &Manifest, tokens: &Tokens, diagnostics: &mut Diagnostics) -> Vec<(String, TokenId)> {
    let mut surfaces = Vec::new();
    for surface in &manifest.surfaces {
        let Some(id) = find_token(&surface.token, tokens, diagnostics) else { continue };
        match tokens.get(id).kind {
            Some(TokenType::Color) | None => surfaces.push((surface.name.value.clone(), id)),
            Some(other) => {
                let message =
                    format!("`{}` is of type {}, but a surface is a color", surface.token.value, other.name());
                diagnostics.push(
                    Diagnostic::error("token/type", surface.token.span, message)
                        .label("not a color")
                        .mend("name a colour token"),
                );
            }
        }
    }
    surfaces
}

fn bind_keyframes(sheets: &[Sheet], tokens: &Tokens, diagnostics: &mut Diagnostics) -> Vec<Keyframes> {
    let nodes: Vec<&KeyframesNode> = sheets.iter().flat_map(|sheet| &sheet.keyframes).collect();
    let mut keyframes: Vec<Keyframes> = Vec::new();
    for node in nodes {
        if let Some(first) = keyframes.iter().find(|k| k.name.value == node.name.value) {
            diagnostics.push(twice("animation", &node.name, &first.name));
        } else if let Some(body) = bind_value(&node.body, tokens, diagnostics) {
            keyframes.push(Keyframes { name: node.name.clone(), body });
        }
    }
    keyframes
}
