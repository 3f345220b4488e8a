//! Gathers names from the trees of all files.

use super::scope::Scopes;
use super::tokens::{definitions, reference, references};
use super::{Form, Names, Occurrence, OwnKind, Role, Symbol, css};
use crate::trees::Trees;
use std::collections::{BTreeSet, HashMap, HashSet};
use stilk_language::sheet::{AxisDefault, DerivedNode, Item, OptionNode, PartTarget, Sheet, Value, ValuePiece};
use stilk_language::template::{Template, attribute_words};
use stilk_text::json::Node;
use stilk_text::source::{Name, Sources, Span};

/// All names in the files of a project.
pub fn gather(sources: &Sources, trees: &Trees) -> Names {
    let mut paths: Vec<Name> = Vec::new();
    for (file, root) in &trees.documents {
        match sources.file(*file).path.ends_with(".resolver.json") {
            true => inline_sources(root).into_iter().for_each(|node| definitions(node, &mut paths)),
            false => definitions(root, &mut paths),
        }
    }
    let derived = trees.sheets.iter().flat_map(|sheet| &sheet.derived);
    paths.extend(derived.map(|node| node.path.clone()));
    let known: HashSet<String> = paths.iter().map(|name| name.value.clone()).collect();
    let mut gathering = Gathering {
        sources,
        trees,
        keyframes: trees.sheets.iter().flat_map(|s| &s.keyframes).map(|k| k.name.value.clone()).collect(),
        own_states: trees
            .manifest
            .iter()
            .flat_map(|manifest| &manifest.states)
            .map(|state| state.name.value.clone())
            .collect(),
        placed: placed(trees),
        declared: declared(trees),
        paths: known,
        scopes: Scopes::default(),
        own: Vec::new(),
        list: Vec::new(),
    };
    for name in paths {
        // A derived token's path stands there as a whole; a key is its last segment.
        let is_key = sources.file(name.span.file).path.ends_with(".json");
        let form = if is_key { Form::Segment } else { Form::Plain };
        gathering.list.push(Occurrence {
            symbol: Symbol::Token(name.value),
            role: Role::Definition,
            form,
            span: name.span,
        });
    }
    for (_, root) in &trees.documents {
        references(root, sources, &gathering.paths, &mut gathering.list);
    }
    gathering.manifest();
    trees.sheets.iter().for_each(|sheet| gathering.sheet(sheet));
    trees.templates.iter().for_each(|template| gathering.template(template));
    gathering.finish()
}

/// Groups of tokens that a resolver document holds itself.
fn inline_sources(root: &Node) -> Vec<&Node> {
    let of = |key: &str| root.get(key).map(Node::entries).unwrap_or_default();
    let sets = of("sets").iter().filter_map(|(_, set)| set.get("sources"));
    let contexts = of("modifiers").iter().filter_map(|(_, modifier)| modifier.get("contexts"));
    let contexts = contexts.flat_map(|contexts| contexts.entries().iter().map(|(_, sources)| sources));
    sets.chain(contexts).flat_map(Node::items).filter(|source| source.get("$ref").is_none()).collect()
}

/// Which control each part of each control is, by the templates.
fn placed(trees: &Trees) -> HashMap<(String, String), String> {
    let mut found = HashMap::new();
    for template in &trees.templates {
        for host in &template.hosts {
            for (part, node) in &host.parts {
                if let Some(placed) = host.placed.iter().find(|placed| placed.node == *node) {
                    let key = (template.control.clone(), part.value.clone());
                    found.insert(key, placed.control.value.clone());
                }
            }
        }
    }
    found
}

/// The locals that each control has at rest.
fn declared(trees: &Trees) -> HashMap<String, HashSet<String>> {
    let mut found: HashMap<String, HashSet<String>> = HashMap::new();
    for control in trees.sheets.iter().flat_map(|sheet| &sheet.controls) {
        let names = control.body.iter().filter_map(|item| match item {
            Item::Declaration(declaration) if declaration.name.value.starts_with("--") => {
                Some(declaration.name.value.clone())
            }
            _ => None,
        });
        found.entry(control.name.value.clone()).or_default().extend(names);
    }
    found
}

/// Something that a control has of its own, before it is known who shares it.
struct OwnName {
    kind: OwnKind,
    owner: String,
    role: Role,
    name: Name,
}

struct Gathering<'g> {
    sources: &'g Sources,
    trees: &'g Trees,
    keyframes: HashSet<String>,
    own_states: HashSet<String>,
    placed: HashMap<(String, String), String>,
    declared: HashMap<String, HashSet<String>>,
    paths: HashSet<String>,
    scopes: Scopes,
    own: Vec<OwnName>,
    list: Vec<Occurrence>,
}

/// Where an item stands.
#[derive(Clone, Copy)]
struct Inside<'i> {
    /// The control, or the trait by `@NAME`.
    owner: &'i str,
    /// The parts that the block is for.
    parts: &'i [PartTarget],
    /// Whether it holds at rest.
    at_rest: bool,
}

impl Gathering<'_> {
    fn push(&mut self, symbol: Symbol, role: Role, span: Span) {
        self.list.push(Occurrence { symbol, role, form: Form::Plain, span });
    }

    fn own(&mut self, kind: OwnKind, owner: &str, role: Role, name: &Name) {
        self.scopes.mention(kind, owner, &name.value);
        self.own.push(OwnName { kind, owner: owner.to_owned(), role, name: name.clone() });
    }

    fn finish(mut self) -> Names {
        let shared = self.scopes.shared();
        for OwnName { kind, owner, role, name } in self.own {
            let stands = shared.stands_for(kind, &owner, &name.value);
            let symbol = Symbol::Own(kind, stands, name.value);
            self.list.push(Occurrence { symbol, role, form: Form::Plain, span: name.span });
        }
        Names::new(self.list, shared)
    }

    fn manifest(&mut self) {
        let Some(manifest) = &self.trees.manifest else { return };
        for surface in &manifest.surfaces {
            reference(&surface.token, &self.paths, &mut self.list);
        }
        for state in &manifest.states {
            self.push(Symbol::State(state.name.value.clone()), Role::Definition, state.name.span);
        }
        for (key, _) in &manifest.counts {
            // `button.strong.large, link.strong`, perhaps in quotes.
            let text = self.sources.text(key.span);
            let mut start = key.span.start as usize;
            for one in text.split(',') {
                let mut words = css::identifiers(one).map(|(range, word)| {
                    let start = start + range.start;
                    Name { value: word.to_owned(), span: Span::new(key.span.file, start, start + word.len()) }
                });
                if let Some(control) = words.next() {
                    let options: Vec<Name> = words.filter(|word| word.value != "plain").collect();
                    self.push(Symbol::Control(control.value.clone()), Role::Read, control.span);
                    for option in options {
                        self.own(OwnKind::Option, &control.value, Role::Read, &option);
                    }
                }
                start += one.len() + 1;
            }
        }
    }

    fn sheet(&mut self, sheet: &Sheet) {
        for DerivedNode { value, .. } in &sheet.derived {
            self.value(value, None, "");
        }
        for node in &sheet.keyframes {
            self.push(Symbol::Keyframes(node.name.value.clone()), Role::Definition, node.name.span);
            self.value(&node.body, None, "");
        }
        for node in sheet.font_faces.iter().chain(&sheet.properties) {
            node.descriptors.iter().for_each(|descriptor| self.value(&descriptor.value, None, ""));
        }
        for node in &sheet.traits {
            self.push(Symbol::Trait(node.name.value.clone()), Role::Definition, node.name.span);
            let owner = format!("@{}", node.name.value);
            self.items(&node.body, Inside { owner: &owner, parts: &[], at_rest: true });
        }
        for node in &sheet.controls {
            let owner = &node.name.value;
            self.push(Symbol::Control(owner.clone()), Role::Definition, node.name.span);
            for outer in &node.inside {
                self.push(Symbol::Control(outer.value.clone()), Role::Read, outer.span);
            }
            if let Some(from) = &node.from {
                self.push(Symbol::Control(from.value.clone()), Role::Read, from.span);
                self.scopes.from.insert(owner.clone(), from.value.clone());
            }
            self.items(&node.body, Inside { owner, parts: &[], at_rest: true });
        }
        for node in &sheet.attachments {
            self.push(Symbol::Control(node.control.value.clone()), Role::Read, node.control.span);
            for option in &node.options {
                self.own(OwnKind::Option, &node.control.value, Role::Read, option);
            }
            for (part, _) in &node.parts {
                self.own(OwnKind::Part, &node.control.value, Role::Read, part);
            }
        }
    }

    fn template(&mut self, template: &Template) {
        let owner = &template.control;
        for host in &template.hosts {
            for (part, _) in &host.parts {
                self.own(OwnKind::Part, owner, Role::Definition, part);
            }
            for placed in &host.placed {
                self.push(Symbol::Control(placed.control.value.clone()), Role::Read, placed.control.span);
                for option in &placed.options {
                    self.own(OwnKind::Option, &placed.control.value, Role::Read, option);
                }
            }
            for node in template.document.descendants(host.node) {
                let Some(span) = template.document.node(node).span else { continue };
                for (range, word) in attribute_words(self.sources.text(span), "data-when") {
                    let start = span.start as usize + range.start;
                    let span = Span::new(span.file, start, start + range.len());
                    self.own(OwnKind::Option, owner, Role::Read, &Name { value: word.to_owned(), span });
                }
            }
        }
    }

    fn items(&mut self, items: &[Item], inside: Inside) {
        let conditional = Inside { at_rest: false, ..inside };
        for item in items {
            match item {
                Item::Declaration(declaration) => {
                    if declaration.name.value.starts_with("--") {
                        let owner = self.owner_of(&declaration.name.value, inside);
                        let is_definition = inside.at_rest && inside.parts.is_empty();
                        let role = if is_definition { Role::Definition } else { Role::Write };
                        self.own(OwnKind::Local, &owner, role, &declaration.name);
                    }
                    self.value(&declaration.value, Some(inside.owner), &declaration.name.value);
                }
                Item::Traits(names) => {
                    for name in names {
                        self.push(Symbol::Trait(name.value.clone()), Role::Read, name.span);
                        let used: &mut BTreeSet<String> =
                            self.scopes.traits.entry(inside.owner.to_owned()).or_default();
                        used.insert(format!("@{}", name.value));
                    }
                }
                Item::Part(targets, _, body) => {
                    for part in targets.iter().filter_map(|target| target.part.as_ref()) {
                        self.own(OwnKind::Part, inside.owner, Role::Write, part);
                    }
                    for (other, _) in targets.iter().filter_map(|target| target.after.as_ref()) {
                        self.own(OwnKind::Part, inside.owner, Role::Read, other);
                    }
                    self.items(body, Inside { parts: targets, ..inside });
                }
                Item::State(alternatives, body) => {
                    for state in alternatives.iter().flat_map(|alternative| &alternative.states) {
                        if self.own_states.contains(&state.name.value) {
                            self.push(Symbol::State(state.name.value.clone()), Role::Read, state.name.span);
                        }
                        if let Some(part) = state.of.as_ref().filter(|part| part.value != "&") {
                            self.own(OwnKind::Part, inside.owner, Role::Read, part);
                        }
                    }
                    self.items(body, conditional);
                }
                Item::Host(_, body) | Item::Nested(_, body) => self.items(body, conditional),
                Item::Condition(condition, body) => {
                    self.value(&condition.prelude, Some(inside.owner), "");
                    self.items(body, conditional);
                }
                Item::Axis(axis) => {
                    self.own(OwnKind::Axis, inside.owner, Role::Definition, &axis.name);
                    if let AxisDefault::Named(option) = &axis.default {
                        self.own(OwnKind::Option, inside.owner, Role::Read, option);
                    }
                    axis.options.iter().for_each(|option| self.option(option, conditional));
                }
                Item::Option(option) => self.option(option, conditional),
                Item::Combine(names, body) => {
                    names.iter().for_each(|name| self.own(OwnKind::Option, inside.owner, Role::Read, name));
                    self.items(body, conditional);
                }
                Item::Exclude(node) => {
                    for name in node.options.iter().chain(&node.with).chain(&node.without) {
                        self.own(OwnKind::Option, inside.owner, Role::Read, name);
                    }
                }
                Item::Waive(node) => {
                    if let Some(cases) = &node.cases {
                        self.cases(cases, inside.owner);
                    }
                }
                Item::Property(node) => self.own(OwnKind::Local, inside.owner, Role::Write, &node.name),
            }
        }
    }

    fn option(&mut self, option: &OptionNode, inside: Inside) {
        self.own(OwnKind::Option, inside.owner, Role::Definition, &option.name);
        self.items(&option.body, inside);
    }

    /// Whose local it is that a block sets: on a part that is another control, that control's, where it has it.
    fn owner_of(&self, local: &str, inside: Inside) -> String {
        let placed = inside.parts.iter().filter_map(|target| {
            let mut owner = inside.owner.to_owned();
            // A copy may have the template of what it is a copy of.
            for _ in 0..16 {
                let key = (owner.clone(), target.part.as_ref()?.value.clone());
                if let Some(placed) = self.placed.get(&key) {
                    return Some(placed);
                }
                owner = self.scopes.from.get(&owner)?.clone();
            }
            None
        });
        let mut having = placed.filter(|placed| self.has_local(placed, local));
        having.next().cloned().unwrap_or_else(|| inside.owner.to_owned())
    }

    fn has_local(&self, control: &str, local: &str) -> bool {
        let mut control = control;
        for _ in 0..16 {
            if self.declared.get(control).is_some_and(|names| names.contains(local)) {
                return true;
            }
            let Some(from) = self.scopes.from.get(control) else { return false };
            control = from;
        }
        false
    }

    fn value(&mut self, value: &Value, owner: Option<&str>, property: &str) {
        for piece in &value.pieces {
            match piece {
                ValuePiece::Reference(name) => reference(name, &self.paths, &mut self.list),
                ValuePiece::Local(name) => {
                    if let Some(owner) = owner {
                        self.own(OwnKind::Local, owner, Role::Read, name);
                    }
                }
                ValuePiece::Text(_, span) if property.starts_with("animation") => {
                    for (range, word) in css::identifiers(self.sources.text(*span)) {
                        if self.keyframes.contains(word) {
                            let start = span.start as usize + range.start;
                            let place = Span::new(span.file, start, start + range.len());
                            self.push(Symbol::Keyframes(word.to_owned()), Role::Read, place);
                        }
                    }
                }
                ValuePiece::Text(..) => {}
            }
        }
    }

    /// Options in the notation of cases, `@a.small:hover`.
    fn cases(&mut self, cases: &Name, owner: &str) {
        for (range, word) in css::identifiers(&cases.value) {
            if cases.value[..range.start].ends_with('.') {
                let start = cases.span.start as usize + range.start;
                let span = Span::new(cases.span.file, start, start + range.len());
                self.own(OwnKind::Option, owner, Role::Read, &Name { value: word.to_owned(), span });
            }
        }
    }
}
