//! One control: its blocks flattened into rules, its names bound.

use super::super::rule::{BoundDeclaration, Condition};
use super::super::{Axis, Control, Mark, OptionId, Place, Rule, RuleTarget, StateSet, States, Waiver};
use super::descriptors::{literal, registered};
use super::locals::{Declared, check_locals};
use super::marks::read_mark;
use super::{bind_value, condition, placement, twice};
use crate::limits::{MAX_RULES, MAX_STEPS};
use crate::manifest::Manifest;
use crate::sheet::{
    AxisDefault, AxisNode, ControlNode, Declaration, DescriptorsNode, ExcludeNode, Item, OptionNode, StateAlternative,
    StateRef, TraitNode, ValuePiece, WaiveNode,
};
use crate::system::names::Names;
use crate::system::notation::parse_cases;
use crate::template::Template;
use crate::tokens::{Expression, Piece, Tokens};
use std::collections::{BTreeSet, HashMap};
use stilk_engine::cascade::selector;
use stilk_text::diagnostic::{Diagnostic, Diagnostics, Level, unknown_name};
use stilk_text::source::{Name, Span};

/// What all controls share.
pub struct Shared<'s> {
    pub manifest: &'s Manifest,
    pub tokens: &'s Tokens,
    pub states: &'s States,
    pub checks: &'s [&'s str],
    pub traits: HashMap<&'s str, &'s TraitNode>,
    pub animations: Vec<String>,
}

/// Traits may use traits, not without end.
const MAX_TRAIT_DEPTH: usize = 8;

/// Binds one control. `chain` begins with what it was copied from, the furthest first, and ends with the control.
/// `bound` are the controls that may stand in it. Gives what it declares as well, whose values are still to be judged.
pub fn bind(
    chain: &[&ControlNode],
    template: Template,
    bound: &[Control],
    shared: &Shared,
    diagnostics: &mut Diagnostics,
) -> (Control, Declared) {
    let (node, bases) = chain.split_last().expect("a chain ends with the control itself");
    let mark = node.mark.as_ref().and_then(|mark| read_mark(mark, diagnostics));
    let mut control =
        Control { mark, inside: node.inside.clone(), ..Control::found(node.name.clone(), template, Vec::new()) };
    check_bearer(&control, diagnostics);
    placement::bind(&mut control, bound, diagnostics);
    // Axes first: combinations and exclusions may stand before them.
    for (i, node) in chain.iter().enumerate() {
        let inherited = if i == 0 { 0 } else { control.axes.len() };
        // What marks the original marks no copy.
        control.axes.iter_mut().for_each(|axis| axis.marks.iter_mut().for_each(|mark| *mark = None));
        node.body.iter().for_each(|item| bind_axis(item, inherited, &mut control, diagnostics));
    }
    drop_idle_axes(chain, &mut control);
    let mut flattener = Flattener {
        shared,
        bound,
        control: &mut control,
        diagnostics,
        trait_depth: 0,
        is_original: false,
        draws_lists: chain.iter().any(|node| draws_lists(&node.body)),
        declarations: Vec::new(),
        steps: 0,
        is_refused: false,
    };
    for base in bases {
        flattener.is_original = true;
        flattener.items(&base.body, &Scope { place: Place::From, ..Scope::default() });
    }
    flattener.is_original = false;
    flattener.items(&node.body, &Scope::default());
    let declarations = std::mem::take(&mut flattener.declarations);
    let token_of = |written: &str| {
        let names = Names::of_properties(shared.manifest);
        let token = shared.tokens.list.iter().find(|token| names.token(&token.path) == written);
        token.map(|token| token.path.clone())
    };
    check_locals(&control, &declarations, &token_of, diagnostics);
    (control, declarations)
}

/// Whether a block says that lists are drawn by the page, wherever it stands in it.
fn draws_lists(items: &[Item]) -> bool {
    let is_said = |declaration: &Declaration| {
        let says = |piece: &ValuePiece| matches!(piece, ValuePiece::Text(text, _) if text.contains("base-select"));
        declaration.name.value == "appearance" && declaration.value.pieces.iter().any(says)
    };
    items.iter().any(|item| match item {
        Item::Declaration(declaration) => is_said(declaration),
        item => item.bodies().into_iter().any(draws_lists),
    })
}

fn check_bearer(control: &Control, diagnostics: &mut Diagnostics) {
    if control.template.bearer_is_host().is_none() {
        let span = Span::new(control.template.file, 0, 0);
        diagnostics.push(
            Diagnostic::error("template/bearer", span, "some hosts have a part `native` and some have none")
                .mend("give every host a `part=\"native\"`, or none"),
        );
    }
    if control.template.bearer_is_host() == Some(false) {
        let document = &control.template.document;
        for host in &control.template.hosts {
            if document.node(host.bearer).parent.is_none() {
                diagnostics.push(Diagnostic::error(
                    "template/bearer",
                    document.node(host.bearer).span,
                    "the native part stands nowhere",
                ));
            }
        }
    }
}

/// Leaves out axes of the original that do nothing in a copy: no option sets anything or is named by a rule, and the
/// copy's own template has no element for one.
fn drop_idle_axes(chain: &[&ControlNode], control: &mut Control) {
    let Some((node, bases)) = chain.split_last() else { return };
    let is_named = |option: &Name| {
        let document = &control.template.document;
        let mut nodes = control.template.hosts.iter().flat_map(|host| document.descendants(host.node));
        let in_template = nodes.any(|id| {
            let list = document.element(id).and_then(|e| e.attribute("data-when"));
            list.is_some_and(|list| list.split_ascii_whitespace().any(|word| word == option.value))
        });
        let mut items = chain.iter().flat_map(|node| &node.body);
        in_template
            || items.any(|item| match item {
                Item::Axis(axis) => axis.options.iter().any(|o| o.name.value == option.value && !o.body.is_empty()),
                Item::Option(o) => o.name.value == option.value && !o.body.is_empty(),
                Item::Combine(names, _) => names.iter().any(|name| name.value == option.value),
                Item::Exclude(node) => {
                    let mut lists = node.options.iter().chain(&node.with).chain(&node.without);
                    lists.any(|name| name.value == option.value)
                }
                _ => false,
            })
    };
    let idle = |axis: &Axis| {
        let own = node.body.iter().any(|item| matches!(item, Item::Axis(a) if a.name.value == axis.name.value));
        !bases.is_empty() && !own && !axis.options.iter().any(is_named)
    };
    let keep: Vec<bool> = control.axes.iter().map(|axis| !idle(axis)).collect();
    let mut keep = keep.iter();
    control.axes.retain(|_| keep.next().copied().unwrap_or(true));
}

/// `inherited`: how many axes came with the copy; naming one of them again adds to it.
fn bind_axis(item: &Item, inherited: usize, control: &mut Control, diagnostics: &mut Diagnostics) {
    let known = match item {
        Item::Axis(AxisNode { name, .. }) | Item::Option(OptionNode { name, .. }) => {
            control.axes[..inherited].iter().position(|axis| axis.name.value == name.value)
        }
        _ => return,
    };
    if let Some(index) = known {
        return extend_axis(item, &mut control.axes[index], diagnostics);
    }
    let marks = |options: &[OptionNode], diagnostics: &mut Diagnostics| -> Vec<Option<Mark>> {
        options.iter().map(|option| option.mark.as_ref().and_then(|mark| read_mark(mark, diagnostics))).collect()
    };
    let (name, options, marks, default) = match item {
        Item::Axis(axis) => {
            let names: Vec<Name> = axis.options.iter().map(|o| o.name.clone()).collect();
            let default = match &axis.default {
                AxisDefault::First => Some(0),
                AxisDefault::None => None,
                AxisDefault::Named(name) => match names.iter().position(|o| o.value == name.value) {
                    Some(index) => Some(index),
                    None => {
                        let known = names.iter().map(Name::as_str);
                        let what = format!("option {{}} on the axis `{}`", axis.name.value);
                        diagnostics.push(unknown_name("sheet/option", &what, name, known));
                        Some(0)
                    }
                },
            };
            if names.is_empty() {
                let message = format!("the axis `{}` has no options", axis.name.value);
                diagnostics.push(
                    Diagnostic::error("sheet/option", axis.name.span, message)
                        .mend("write `@axis NAME { first { } second { … } }`"),
                );
                return;
            }
            (axis.name.clone(), names, marks(&axis.options, diagnostics), default)
        }
        Item::Option(option) => {
            let marks = marks(std::slice::from_ref(option), diagnostics);
            (option.name.clone(), vec![option.name.clone()], marks, None)
        }
        _ => return,
    };
    if let Some(first) = control.axes.iter().find(|axis| axis.name.value == name.value) {
        diagnostics.push(twice("axis", &name, &first.name));
    }
    for (i, option) in options.iter().enumerate() {
        let before = control.axes.iter().flat_map(|axis| &axis.options).chain(&options[..i]);
        if let Some(first) = before.into_iter().find(|known| known.value == option.value) {
            diagnostics.push(twice("option", option, first));
        }
    }
    control.axes.push(Axis { name, options, marks, default });
}

/// An axis of the copy, named again: new options are added, a default that is named replaces the old one.
fn extend_axis(item: &Item, axis: &mut Axis, diagnostics: &mut Diagnostics) {
    let Item::Axis(node) = item else { return };
    for option in &node.options {
        let mark = option.mark.as_ref().and_then(|mark| read_mark(mark, diagnostics));
        match axis.options.iter().position(|known| known.value == option.name.value) {
            Some(at) => axis.marks[at] = mark,
            None => {
                axis.options.push(option.name.clone());
                axis.marks.push(mark);
            }
        }
    }
    match &node.default {
        AxisDefault::First => {}
        AxisDefault::None => axis.default = None,
        AxisDefault::Named(name) => match axis.options.iter().position(|o| o.value == name.value) {
            Some(index) => axis.default = Some(index),
            None => {
                let what = format!("option {{}} on the axis `{}`", axis.name.value);
                diagnostics.push(unknown_name("sheet/option", &what, name, axis.options.iter().map(Name::as_str)));
            }
        },
    }
}

/// Everything around a declaration.
#[derive(Clone)]
pub(super) struct Scope {
    pub(super) target: RuleTarget,
    pub(super) options: Vec<OptionId>,
    states: StateSet,
    pub(super) hosts: Vec<String>,
    nested: Vec<String>,
    conditions: Vec<Condition>,
    pub(super) place: Place,
}

impl Default for Scope {
    fn default() -> Self {
        Scope {
            target: RuleTarget::default(),
            options: Vec::new(),
            states: StateSet::default(),
            hosts: Vec::new(),
            nested: Vec::new(),
            conditions: Vec::new(),
            place: Place::Control,
        }
    }
}

impl Scope {
    /// Whether nothing is around it but the control.
    pub(super) fn is_top(&self) -> bool {
        matches!(self.place, Place::Control | Place::From)
            && self.target == RuleTarget::default()
            && self.states.is_rest()
            && self.hosts.is_empty()
            && self.nested.is_empty()
            && self.conditions.is_empty()
    }
}

impl Rule {
    /// Whether it holds for every case of its target.
    pub(super) fn is_unconditional(&self) -> bool {
        self.options.is_empty()
            && self.states.is_rest()
            && self.hosts.is_empty()
            && self.nested.is_empty()
            && self.conditions.is_empty()
    }
}

pub(super) struct Flattener<'f, 's> {
    shared: &'f Shared<'s>,
    bound: &'f [Control],
    pub(super) control: &'f mut Control,
    pub(super) diagnostics: &'f mut Diagnostics,
    trait_depth: usize,
    /// Whether this is what the control started as a copy of.
    pub(super) is_original: bool,
    /// Each declaration as written, with the index of its rule.
    declarations: Declared,
    /// Whether some sheet of the control writes `appearance: base-select`.
    pub(super) draws_lists: bool,
    /// How many items were looked at, those of traits each time.
    steps: usize,
    /// Whether it was said that there are too many.
    is_refused: bool,
}

impl Flattener<'_, '_> {
    pub(super) fn error(&mut self, id: &'static str, span: Span, message: impl Into<String>, mend: impl Into<String>) {
        self.diagnostics.push(Diagnostic::error(id, span, message).label("here").mend(mend));
    }

    /// Whether the control is as large as it may be; said once.
    fn is_full(&mut self) -> bool {
        let is_full = self.control.rules.len() > MAX_RULES || self.steps > MAX_STEPS;
        if is_full && !self.is_refused {
            self.is_refused = true;
            let message = format!("`{}` comes to more than {MAX_RULES} rules", self.control.name.value);
            let mend = "nest fewer lists of states and parts in each other, and use fewer traits in traits";
            self.error("sheet/size", self.control.name.span, message, mend);
        }
        is_full
    }

    pub(super) fn items(&mut self, items: &[Item], scope: &Scope) {
        self.steps += items.len();
        if self.is_full() {
            return;
        }
        // Declarations gather into one rule until something that competes with them comes between.
        let mut open: Option<usize> = None;
        for item in items {
            match item {
                Item::Declaration(declaration) => self.declaration(declaration, scope, &mut open),
                Item::Traits(names) => {
                    open = None;
                    names.iter().for_each(|name| self.use_trait(name, scope));
                }
                Item::Part(targets, mark, body) => {
                    if let Some(mark) = mark {
                        self.mark_part(mark, targets, scope);
                    }
                    targets.iter().for_each(|target| self.part(target, body, scope));
                }
                Item::State(alternatives, body) => {
                    alternatives.iter().for_each(|alternative| self.state(alternative, body, scope));
                }
                Item::Host(selector, body) => {
                    open = None;
                    self.host(selector, body, scope);
                }
                Item::Nested(selector, body) => {
                    open = None;
                    self.nested(selector, body, scope);
                }
                Item::Condition(condition, body) => {
                    open = None;
                    self.condition(condition, body, scope);
                }
                Item::Axis(AxisNode { name, .. }) | Item::Option(OptionNode { name, .. }) if !scope.is_top() => {
                    let mend = "write it directly in `@control`, and the condition inside its options";
                    self.error("sheet/option", name.span, "options cannot stand under a condition or in a trait", mend);
                }
                Item::Combine(names, _) if !scope.is_top() => {
                    if let Some(first) = names.first() {
                        let mend = "write it directly in `@control`, and the condition inside it";
                        self.error("sheet/option", first.span, "`@combine` cannot stand under a condition", mend);
                    }
                }
                Item::Exclude(ExcludeNode { span, .. }) | Item::Waive(WaiveNode { span, .. }) if !scope.is_top() => {
                    self.error(
                        "sheet/syntax",
                        *span,
                        "this belongs to the whole control",
                        "write it directly in `@control`",
                    );
                }
                Item::Axis(axis) => axis.options.iter().for_each(|option| self.option(option, scope)),
                Item::Option(option) => self.option(option, scope),
                Item::Combine(names, body) => self.combine(names, body, scope),
                Item::Exclude(exclude) => self.exclude(exclude),
                Item::Waive(waive) => self.waive(waive),
                Item::Property(node) => self.property(node),
            }
        }
    }

    fn declaration(&mut self, declaration: &Declaration, scope: &Scope, open: &mut Option<usize>) {
        // A declaration with an unknown token still declares its name.
        let value = bind_value(&declaration.value, self.shared.tokens, self.diagnostics);
        let mut value = value.unwrap_or_default();
        if ["animation", "animation-name"].contains(&declaration.name.as_str()) {
            self.rename_animations(&mut value);
        }
        let index = *open.get_or_insert_with(|| {
            self.control.rules.push(Rule {
                target: scope.target.clone(),
                options: scope.options.clone(),
                states: scope.states.clone(),
                hosts: scope.hosts.clone(),
                nested: scope.nested.clone(),
                conditions: scope.conditions.clone(),
                place: scope.place,
                declarations: Vec::new(),
                span: declaration.span,
            });
            self.control.rules.len() - 1
        });
        let owner = self.owner(declaration, scope);
        if let Some(diagnostic) = placement::check_property(self.control, &scope.target, declaration, owner.is_some()) {
            self.diagnostics.push(diagnostic);
            return;
        }
        let spacing = self.letter_spacing(declaration, &value);
        let owned = owner.is_some();
        let bound = BoundDeclaration { name: declaration.name.clone(), value, owner, span: declaration.span };
        self.control.rules[index].declarations.push(bound);
        self.control.rules[index].declarations.extend(spacing);
        // A placed control's local is judged where that control paints with it.
        if !owned {
            self.declarations.push((declaration.clone(), index));
        }
    }

    /// The placed control whose local a declaration sets.
    fn owner(&self, declaration: &Declaration, scope: &Scope) -> Option<String> {
        if !declaration.name.value.starts_with("--") {
            return None;
        }
        let placement = self.control.placement_of_part(scope.target.part.as_deref()?)?;
        let placed = self.bound.iter().find(|control| control.name.value == placement.control)?;
        placed.declares(&declaration.name.value).then(|| placement.control.clone())
    }

    /// `font` has no letter spacing, a typography token has: the declaration brings it along.
    fn letter_spacing(&self, declaration: &Declaration, value: &Expression) -> Option<BoundDeclaration> {
        let [Piece::Token(id, span)] = value.pieces.as_slice() else { return None };
        if declaration.name.value != "font" {
            return None;
        }
        let member = self.shared.tokens.find(&format!("{}.letterSpacing", self.shared.tokens.get(*id).path))?;
        self.shared.tokens.get(member).definitions().next()?;
        let name = Name { value: "letter-spacing".into(), span: declaration.name.span };
        let value = Expression::reference(member, *span);
        Some(BoundDeclaration { name, value, owner: None, span: declaration.span })
    }

    /// Animations are written with the system's prefix.
    fn rename_animations(&self, value: &mut Expression) {
        for piece in &mut value.pieces {
            let Piece::Text(text) = piece else { continue };
            let mut renamed = String::new();
            for word in text.split_inclusive(|c: char| c.is_whitespace() || c == ',') {
                let bare = word.trim_end_matches(|c: char| c.is_whitespace() || c == ',');
                if self.shared.animations.iter().any(|name| name == bare) {
                    renamed.push_str(&super::super::Names::of_properties(self.shared.manifest).keyframes(bare));
                    renamed.push_str(&word[bare.len()..]);
                } else {
                    renamed.push_str(word);
                }
            }
            *text = renamed;
        }
    }

    fn use_trait(&mut self, name: &Name, scope: &Scope) {
        let Some(node) = self.shared.traits.get(name.as_str()).copied() else {
            // In the same order in every run.
            let known: BTreeSet<&str> = self.shared.traits.keys().copied().collect();
            self.diagnostics.push(unknown_name("sheet/trait", "trait", name, known));
            return;
        };
        if self.trait_depth >= MAX_TRAIT_DEPTH {
            let message = format!("traits use each other deeper than {MAX_TRAIT_DEPTH}");
            self.error("sheet/trait", name.span, message, "let no trait use itself");
            return;
        }
        let mut scope = scope.clone();
        if matches!(scope.place, Place::Control | Place::From) {
            scope.place = Place::Trait;
        }
        self.trait_depth += 1;
        self.items(&node.body, &scope);
        self.trait_depth -= 1;
    }

    fn state(&mut self, alternative: &StateAlternative, body: &[Item], scope: &Scope) {
        let mut set = StateSet::default();
        for StateRef { name, is_negated, of } in &alternative.states {
            let Some(id) = self.shared.states.find(&name.value) else {
                let known = self.shared.states.names();
                self.diagnostics.push(unknown_name("sheet/state", "state", name, known));
                return;
            };
            match of {
                None if condition::never_on_fieldset(&self.control.template, id) => {
                    let message = format!("a `<fieldset>` is never {}", name.value);
                    let mend = "write it in a control of the field itself, and place that in this one";
                    self.error("sheet/state", name.span, message, mend);
                    return;
                }
                None if *is_negated => set = set.without(id),
                Some(part) if *is_negated => {
                    let message = "only states of the control itself can be asked for by `not`";
                    let mend =
                        format!("write what holds by default, and `@state {} of {}` over it", name.value, part.value);
                    self.error("sheet/state", part.span, message, mend);
                    return;
                }
                None => set = set.union(&StateSet::of([id])),
                Some(part) if part.value == "&" && scope.target.part.is_some() => set = set.with_part(id, "&"),
                Some(part) if part.value == "&" => {
                    let mend = "write the state without `of`, or stand it in a `@part`";
                    self.error("sheet/state", part.span, "`of &` names the part it stands in: here is none", mend);
                    return;
                }
                Some(part) if self.control.template.has_part(&part.value) => {
                    set = set.with_part(id, part.value.clone());
                }
                Some(_) if self.is_original => return,
                Some(part) => {
                    let known = self.control.template.part_names();
                    let place = format!("part {{}} in the template of `{}`", self.control.name.value);
                    let diagnostic = unknown_name("sheet/part", &place, part, known.iter().copied());
                    self.diagnostics.push(diagnostic);
                    return;
                }
            }
        }
        let mut scope = scope.clone();
        scope.states = scope.states.union(&set);
        if let Some(first) = alternative.states.first()
            && self.shared.states.is_dead(&scope.states)
        {
            let set = self.shared.states.set_name(&scope.states).replace('+', " and ");
            self.diagnostics.push(
                Diagnostic::new(Level::Warning, "state/dead", first.name.span, format!("`{set}` never holds"))
                    .label(match scope.states.contradicts_itself() {
                        true => "it asks for a state and for its absence",
                        false => "a busy or disabled control shows no hover and no active",
                    })
                    .mend("take the block away"),
            );
        }
        self.items(body, &scope);
    }

    fn nested(&mut self, condition: &Name, body: &[Item], scope: &Scope) {
        if let Some((message, mend)) = condition::beyond_the_host(&self.control.template, &condition.value) {
            self.error("sheet/syntax", condition.span, message, mend);
            return;
        }
        if condition.value.is_empty() || !selector::is_valid(&condition.value) || condition.value.contains("::") {
            let mend = "write a condition of the host, such as `&:dir(rtl)`";
            self.error("sheet/syntax", condition.span, format!("`&{}` is no condition", condition.value), mend);
            return;
        }
        if condition.value.contains(['>', '+', '~', ' ', ',']) && !condition.value.contains('(') {
            let mend = "write a condition of the host itself, such as `&:dir(rtl)`; parts have `@part`";
            self.error("sheet/syntax", condition.span, "a condition cannot reach other elements", mend);
            return;
        }
        let mut scope = scope.clone();
        scope.nested.push(condition.value.clone());
        self.items(body, &scope);
    }

    fn condition(&mut self, condition: &crate::sheet::Condition, body: &[Item], scope: &Scope) {
        let Some(prelude) = literal(&condition.prelude, self.shared.tokens, self.diagnostics) else { return };
        if condition.kind.value == "media" && stilk_engine::cascade::media::parse_list(&prelude).is_none() {
            let message = format!("`{prelude}` is no media query");
            let mend = "write it with brackets, such as `@media (width < 30rem) { … }`";
            self.error("sheet/syntax", condition.prelude.span, message, mend);
            return;
        }
        let mut scope = scope.clone();
        scope.conditions.push(Condition { kind: condition.kind.value.clone(), prelude });
        self.items(body, &scope);
    }

    fn property(&mut self, node: &DescriptorsNode) {
        if let Some(one) = registered(node, self.shared.tokens, self.diagnostics) {
            self.control.registered.push(one);
        }
    }

    fn waive(&mut self, node: &WaiveNode) {
        if !self.shared.checks.contains(&node.check.value.as_str()) {
            let known = self.shared.checks.iter().copied();
            self.diagnostics.push(unknown_name("sheet/waive", "check", &node.check, known));
            return;
        }
        let named = node.cases.as_ref().map(|cases| {
            let own = self.control.name.value.as_str();
            // The control itself may be named as well.
            let text = cases.value.strip_prefix(own).filter(|rest| !rest.is_empty()).unwrap_or(&cases.value);
            parse_cases(self.shared.states, self.control, text).map_err(|why| (cases.span, why))
        });
        let cases = match named.transpose() {
            Ok(cases) => cases.unwrap_or_default(),
            Err((span, why)) => {
                let (message, mend) = why.split_once(": ").unwrap_or((&why, "write `@HOST`, `.option` or `:state`"));
                self.error("sheet/waive", span, message, mend);
                return;
            }
        };
        self.control.waivers.push(Waiver {
            check: node.check.clone(),
            cases,
            reason: node.reason.clone(),
            until: node.until.as_ref().map(|date| date.value.clone()),
            span: node.span,
        });
    }
}
