//! Tokens as custom properties, right in nested islands of several modifiers and under overrides in a page.
//!
//! For a token t: D(t) is the set of modifiers that define it, R(t) = D(t) ∪ R(of everything its texts refer to).
//! Where R is empty, t is declared on the root; where D = R = {m}, in m's scopes. Everything else is a *dependant*: an
//! expression over switches and constants, declared on the hosts behind a hook, so that an override of whatever it
//! depends on reaches it wherever it is made. Declaring dependants in each scope was measured wrong.

use super::{Purpose, SheetWriter};
use crate::system::{Control, System};
use crate::tokens::{Definition, Expression, TokenId, Tokens};
use stilk_text::source::Span;

/// How each token is declared.
#[derive(Debug)]
pub struct Plan {
    kinds: Vec<DeclaredAs>,
    /// Tokens that something uses.
    used: Vec<bool>,
    /// By control and token: whether a host has it computed. What only states read is written where they do: else it would be
    /// computed for each control that is in none of them.
    declared: Vec<Vec<bool>>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum DeclaredAs {
    /// The same in every theme.
    Fixed,
    /// Declared in the scopes of one modifier.
    Scoped(usize),
    /// A constant that several modifiers define: expression over `--t--m`.
    Constants,
    /// An expression over switches.
    Switched,
    /// Defined once, in terms of tokens that depend on modifiers.
    Derived,
}

impl DeclaredAs {
    fn is_dependant(self) -> bool {
        matches!(self, DeclaredAs::Constants | DeclaredAs::Switched | DeclaredAs::Derived)
    }
}

impl Plan {
    /// Plans the tokens of a system.
    pub fn new(system: &System) -> Plan {
        let tokens = &system.tokens;
        let reach = reach(tokens);
        let mut kinds: Vec<Option<DeclaredAs>> = vec![None; tokens.list.len()];
        for id in 0..tokens.list.len() {
            plan_kind(tokens, &reach, TokenId(id), &mut kinds);
        }
        let kinds = kinds.into_iter().map(|kind| kind.unwrap_or(DeclaredAs::Fixed)).collect();
        let mut used = used(system);
        if system.manifest.stylesheet.all_tokens {
            used.iter_mut().zip(&tokens.list).for_each(|(used, token)| *used |= !token.is_member);
        }
        let declared = system.controls.iter().map(|control| read_at_rest(system, control)).collect();
        Plan { kinds, used, declared }
    }

    /// How many tokens are computed on each host of a control, by its index.
    pub(super) fn computed_on(&self, control: usize) -> usize {
        let all = self.kinds.iter().zip(&self.declared[control]);
        all.filter(|(kind, declared)| kind.is_dependant() && **declared).count()
    }

    fn kind(&self, id: TokenId) -> DeclaredAs {
        self.kinds[id.0]
    }

    /// How something reads a token that any control may be around: an animation.
    pub(super) fn read(&self, system: &System, id: TokenId) -> String {
        self.read_where(system, id, &|_| true)
    }

    /// How a rule of a control reads a token.
    pub(super) fn read_in(&self, system: &System, control: usize, id: TokenId) -> String {
        self.read_where(system, id, &|id| self.declared[control][id.0])
    }

    fn read_where(&self, system: &System, id: TokenId, is_declared: &dyn Fn(TokenId) -> bool) -> String {
        let path = &system.tokens.get(id).path;
        let names = system.names();
        match self.kind(id).is_dependant() {
            false => format!("var({})", names.token(path)),
            true if is_declared(id) => format!("var({})", names.private_token(path)),
            true => {
                let text = self.expression(system, id, &mut |id| self.read_where(system, id, is_declared));
                format!("var({}, {text})", names.token(path))
            }
        }
    }

    /// How anything outside a host reads a token: dependants are written out.
    pub fn read_anywhere(&self, system: &System, id: TokenId) -> String {
        self.read_where(system, id, &|_| false)
    }

    /// A dependant's expression.
    fn expression(&self, system: &System, id: TokenId, read: &mut dyn FnMut(TokenId) -> String) -> String {
        let token = system.tokens.get(id);
        let names = system.names();
        let mut write = |definition: Option<&Definition>| match definition {
            Some(definition) => text(&definition.expression, read),
            None => "initial".to_owned(),
        };
        let mut expression = write(token.base.as_ref());
        for o in &token.overrides {
            let modifier = &system.tokens.modifiers[o.modifier];
            if self.kind(id) == DeclaredAs::Constants {
                let name = names.constant(&token.path, &modifier.name.value);
                expression = if token.base.is_none() && expression == "initial" {
                    format!("var({name})")
                } else {
                    format!("var({name}, {expression})")
                };
            } else {
                let switched: Vec<String> = modifier
                    .contexts
                    .iter()
                    .zip(&o.contexts)
                    .map(|(context, definition)| {
                        let switch = names.switch(&modifier.name.value, &context.value);
                        let value = definition.as_ref().map_or_else(|| expression.clone(), |d| write(Some(d)));
                        format!("var({switch}, {value})")
                    })
                    .collect();
                expression = switched.join(" ");
            }
        }
        expression
    }
}

fn text(expression: &Expression, read: &mut dyn FnMut(TokenId) -> String) -> String {
    expression.write(read, &mut |local| local.to_owned())
}

/// R(t) for every token, as a set of modifier indices; a fixpoint, so references may go any way.
fn reach(tokens: &Tokens) -> Vec<Vec<usize>> {
    let mut reach: Vec<Vec<usize>> =
        tokens.list.iter().map(|token| token.overrides.iter().map(|o| o.modifier).collect()).collect();
    loop {
        let mut changed = false;
        for (id, token) in tokens.list.iter().enumerate() {
            for definition in token.definitions() {
                for other in definition.expression.tokens() {
                    for modifier in reach[other.0].clone() {
                        if !reach[id].contains(&modifier) {
                            reach[id].push(modifier);
                            changed = true;
                        }
                    }
                }
            }
        }
        if !changed {
            reach.iter_mut().for_each(|set| set.sort_unstable());
            return reach;
        }
    }
}

/// References first: a token that refers to a dependant is one itself. Tokens hold no cycles by now.
fn plan_kind(tokens: &Tokens, reach: &[Vec<usize>], id: TokenId, kinds: &mut [Option<DeclaredAs>]) -> DeclaredAs {
    if let Some(kind) = kinds[id.0] {
        return kind;
    }
    // Guards against a cycle through contexts that never meet in one theme.
    kinds[id.0] = Some(DeclaredAs::Derived);
    let token = tokens.get(id);
    let references: Vec<TokenId> = token.definitions().flat_map(|d| d.expression.tokens()).collect();
    let on_dependants = references.iter().any(|other| plan_kind(tokens, reach, *other, kinds).is_dependant());
    let mut defined: Vec<usize> = token.overrides.iter().map(|o| o.modifier).collect();
    defined.sort_unstable();
    let kind = match (defined.as_slice(), reach[id.0].as_slice()) {
        (_, []) => DeclaredAs::Fixed,
        ([], _) => DeclaredAs::Derived,
        ([m], [r]) if m == r && !on_dependants => DeclaredAs::Scoped(*m),
        // A text with references would be computed in its scope, and miss an override further in.
        (d, _) if references.is_empty() && d.len() > 1 => DeclaredAs::Constants,
        _ => DeclaredAs::Switched,
    };
    kinds[id.0] = Some(kind);
    kind
}

/// Tokens that rules, animations and surfaces use, with everything those refer to.
fn used(system: &System) -> Vec<bool> {
    let declarations = system.controls.iter().flat_map(|c| &c.rules).flat_map(|r| &r.declarations).map(|d| &d.value);
    let expressions = declarations.chain(system.keyframes.iter().map(|k| &k.body));
    let surfaces = system.surfaces.iter().map(|(_, id)| *id);
    with_what_they_read(&system.tokens, expressions.flat_map(Expression::tokens).chain(surfaces))
}

/// By token: whether it is one of some, or one of these is made of it.
fn with_what_they_read(tokens: &Tokens, some: impl Iterator<Item = TokenId>) -> Vec<bool> {
    let mut read = vec![false; tokens.list.len()];
    let mut open: Vec<TokenId> = some.collect();
    while let Some(id) = open.pop() {
        if !std::mem::replace(&mut read[id.0], true) {
            open.extend(tokens.get(id).definitions().flat_map(|definition| definition.expression.tokens()));
        }
    }
    read
}

/// Writes the token layer.
pub(super) fn write(sheet: &mut SheetWriter) {
    let system = sheet.system;
    let ids: Vec<TokenId> = (0..system.tokens.list.len()).map(TokenId).filter(|id| sheet.plan.used[id.0]).collect();
    let root = if sheet.purpose == Purpose::Page { ":root" } else { ":host" };
    if sheet.extent.has_common() {
        write_fixed(sheet, &ids, root);
    }
    for modifier in 0..system.tokens.modifiers.len() {
        write_modifier(sheet, &ids, modifier, root);
    }
    if sheet.extent.has_common() {
        write_dependants(sheet, &ids);
    }
}

/// The tokens that the stylesheet has, in order.
pub fn written(system: &System) -> Vec<TokenId> {
    let plan = Plan::new(system);
    (0..system.tokens.list.len()).map(TokenId).filter(|id| plan.used[id.0]).collect()
}

fn read_public(sheet: &SheetWriter, id: TokenId) -> String {
    format!("var({})", sheet.names.token(&sheet.system.tokens.get(id).path))
}

fn write_fixed(sheet: &mut SheetWriter, ids: &[TokenId], root: &str) {
    let fixed: Vec<TokenId> = ids.iter().copied().filter(|id| sheet.plan.kind(*id) == DeclaredAs::Fixed).collect();
    if fixed.is_empty() {
        return;
    }
    sheet.writer.comment("the same in every theme");
    sheet.writer.open(&format!(":where({root})"));
    for id in fixed {
        let token = sheet.system.tokens.get(id);
        if let Some(definition) = &token.base {
            let value = text(&definition.expression, &mut |other| read_public(sheet, other));
            sheet.writer.declaration(&sheet.names.token(&token.path), &value, Some(definition.span));
        }
    }
    sheet.writer.close();
}

/// One declaration of a context: name, value, where it came from.
type Line = (String, String, Option<Span>);

fn write_modifier(sheet: &mut SheetWriter, ids: &[TokenId], m: usize, root: &str) {
    let system = sheet.system;
    let modifier = &system.tokens.modifiers[m];
    let settings = system.manifest.modifier(&modifier.name.value);
    let attribute = system.manifest.attribute_of(&modifier.name.value);
    let blocks: Vec<Vec<Line>> = (0..modifier.contexts.len()).map(|c| context_lines(sheet, ids, m, c)).collect();
    if blocks.iter().all(Vec::is_empty) {
        return;
    }
    let chosen = |context: usize| {
        let name = &modifier.contexts[context].value;
        let own = format!("[{attribute}={}]", quote(name));
        // What pages had already chooses it as well.
        match settings.and_then(|settings| settings.mark_of(name)) {
            Some(mark) => format!("{own}, {}", mark.selector()),
            None => own,
        }
    };
    // The default first: its scope is the root too, and a nested choice must win over it by order alone.
    let mut order: Vec<usize> = (0..modifier.contexts.len()).collect();
    order.sort_by_key(|c| *c != modifier.default);
    order.retain(|context| sheet.extent.has_context(m, *context, modifier.default));
    for context in order {
        sheet.writer.comment(&format!("{}: {}", modifier.name.value, modifier.contexts[context].value));
        let scope = match context == modifier.default {
            true => format!(":where({root}, {})", chosen(context)),
            false => format!(":where({})", chosen(context)),
        };
        write_lines(sheet, &scope, &blocks[context]);
    }
    let Some(settings) = settings.filter(|_| sheet.purpose == Purpose::Page) else { return };
    // Naming the known contexts lets any other value, such as `auto`, follow the media.
    let known: Vec<String> = (0..modifier.contexts.len()).map(chosen).collect();
    for follow in &settings.follow {
        let Some(context) = modifier.contexts.iter().position(|c| c.value == follow.context.value) else { continue };
        if !sheet.extent.has_context(m, context, modifier.default) {
            continue;
        }
        sheet
            .writer
            .comment(&format!("{}: {}, where the page chooses none", modifier.name.value, follow.context.value));
        sheet.writer.open(&format!("@media {}", follow.query.value));
        write_lines(sheet, &format!(":where(:root:not({}))", known.join(", ")), &blocks[context]);
        sheet.writer.close();
    }
}

fn quote(text: &str) -> String {
    let mut quoted = String::new();
    // Writing to a String does not fail.
    let _ = cssparser::serialize_string(text, &mut quoted);
    quoted
}

fn write_lines(sheet: &mut SheetWriter, scope: &str, lines: &[Line]) {
    sheet.writer.open(scope);
    for (name, value, span) in lines {
        sheet.writer.declaration(name, value, *span);
    }
    sheet.writer.close();
}

/// Everything one context sets: each block sets *all* of its modifier's tokens and switches.
fn context_lines(sheet: &SheetWriter, ids: &[TokenId], m: usize, context: usize) -> Vec<Line> {
    let system = sheet.system;
    let modifier = &system.tokens.modifiers[m];
    let mut lines = Vec::new();
    let settings = system.manifest.modifier(&modifier.name.value);
    if let Some(settings) = settings.filter(|s| s.sets_scheme) {
        let name = &modifier.contexts[context].value;
        let dark = settings.dark.iter().any(|c| c.value == *name);
        lines.push(("color-scheme".to_owned(), if dark { "dark" } else { "light" }.to_owned(), None));
    }
    let switched = |id: &TokenId| {
        sheet.plan.kind(*id) == DeclaredAs::Switched && system.tokens.get(*id).overrides.iter().any(|o| o.modifier == m)
    };
    if ids.iter().any(switched) {
        for (i, other) in modifier.contexts.iter().enumerate() {
            let value = if i == context { "initial" } else { "" };
            lines.push((sheet.names.switch(&modifier.name.value, &other.value), value.to_owned(), None));
        }
    }
    for id in ids {
        let token = system.tokens.get(*id);
        let own = token.overrides.iter().find(|o| o.modifier == m).and_then(|o| o.contexts[context].as_ref());
        match sheet.plan.kind(*id) {
            DeclaredAs::Scoped(modifier) if modifier == m => {
                if let Some(definition) = own.or(token.base.as_ref()) {
                    let value = text(&definition.expression, &mut |other| read_public(sheet, other));
                    lines.push((sheet.names.token(&token.path), value, Some(definition.span)));
                }
            }
            DeclaredAs::Constants if token.overrides.iter().any(|o| o.modifier == m) => {
                let name = sheet.names.constant(&token.path, &modifier.name.value);
                let value = own.map_or_else(
                    || "initial".to_owned(),
                    |definition| text(&definition.expression, &mut |other| read_public(sheet, other)),
                );
                lines.push((name, value, own.map(|d| d.span)));
            }
            _ => {}
        }
    }
    lines
}

fn write_dependants(sheet: &mut SheetWriter, ids: &[TokenId]) {
    let system = sheet.system;
    let dependants: Vec<TokenId> = ids.iter().copied().filter(|id| sheet.plan.kind(*id).is_dependant()).collect();
    if dependants.is_empty() || system.controls.is_empty() {
        return;
    }
    // A control has those that its rules read: each one more is computed for every element that has its class.
    let mut groups: Vec<(Vec<usize>, Vec<TokenId>)> = Vec::new();
    let plan = sheet.plan;
    for id in dependants {
        let readers: Vec<usize> = (0..system.controls.len()).filter(|at| plan.declared[*at][id.0]).collect();
        match groups.iter_mut().find(|(known, _)| *known == readers) {
            Some((_, tokens)) => tokens.push(id),
            None if readers.is_empty() => {}
            None => groups.push((readers, vec![id])),
        }
    }
    if groups.is_empty() {
        return;
    }
    sheet.writer.comment("computed on each control, so that an override reaches what depends on it");
    for (readers, tokens) in groups {
        let names = readers.iter().map(|control| &system.controls[*control].name.value);
        let mut hosts: Vec<String> = names.clone().map(|name| sheet.names.control(name).selector()).collect();
        if sheet.purpose == Purpose::Page {
            let attachments = system.attachments.iter().filter(|one| names.clone().any(|name| *name == one.control));
            let attached: Vec<String> = attachments.flat_map(|attachment| attachment.selectors.clone()).collect();
            if !attached.is_empty() {
                hosts.push(format!(":where({})", attached.join(", ")));
            }
        }
        // By their classes alone: within `:where()` browsers would ask every element of a page.
        sheet.writer.open(&hosts.join(", "));
        for id in tokens {
            let path = &system.tokens.get(id).path;
            let span = system.tokens.get(id).definitions().next().map(|d| d.span);
            let expression = plan.expression(system, id, &mut |other| plan.read(system, other));
            let value = format!("var({}, {expression})", sheet.names.token(path));
            sheet.writer.declaration(&sheet.names.private_token(path), &value, span);
        }
        sheet.writer.close();
    }
}

/// By token: whether a control reads it at rest or in an animation, or what is read there is made of it.
fn read_at_rest(system: &System, control: &Control) -> Vec<bool> {
    let at_rest = control.rules.iter().filter(|rule| rule.states.is_rest());
    let declarations = at_rest.flat_map(|rule| &rule.declarations).map(|declaration| &declaration.value);
    let expressions = declarations.chain(system.keyframes.iter().map(|keyframes| &keyframes.body));
    with_what_they_read(&system.tokens, expressions.flat_map(Expression::tokens))
}
