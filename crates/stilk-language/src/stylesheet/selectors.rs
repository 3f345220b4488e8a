//! The selector of a rule: (0,1,0), with a pseudo-element (0,1,1).
//!
//! Traps these forms avoid, in all three engines: `:not()` with an unknown pseudo-class drops the whole rule, `:where()`
//! forgives; pseudo-elements stand outside `:where()` and last; `:has()` cannot be nested; disabled inputs and their
//! labels still match `:hover` and `:active`, hence the guard.

use super::{Purpose, SHOWN, SheetWriter};
use crate::system::states::{State, StateKind};
use crate::system::{Attachment, Control, OptionId, Rule, StateId};
use crate::template::Host;
use stilk_engine::dom::NodeId;

/// From a select to an empty value that is chosen.
const EMPTY_CHOICE: &str = "> option[value=\"\"]:checked";
/// Pseudo-classes of states that every browser knows.
const OLD_STATES: [&str; 5] = [":hover", ":focus", ":active", ":checked", ":disabled"];
const BLOCKED: &str = ":disabled, [aria-disabled=\"true\"], [aria-busy=\"true\"]";

/// What a selector begins with.
#[derive(Clone, Copy)]
enum Whom<'w> {
    /// The control's own class.
    Class,
    /// Markup that a control's look is attached to.
    Attached(&'w Attachment),
}

/// A rule's selector: for the control's class and, without layers, whatever it is attached to.
pub fn of_rule(sheet: &SheetWriter, control: &Control, rule: &Rule) -> String {
    let mut list: Vec<String> = of_class(sheet, control, rule).into_iter().collect();
    if sheet.system.manifest.stylesheet.layers {
        return list.join(", ");
    }
    // What asks for no option is the same for all that one thing stands for: these are written as one.
    let attachments: Vec<&Attachment> = sheet.attachments(control).collect();
    let mut groups: Vec<(&Attachment, Vec<&str>)> = Vec::new();
    for attachment in &attachments {
        let own: Vec<&str> = attachment.selectors.iter().map(String::as_str).collect();
        match groups.iter_mut().find(|(known, _)| rule.options.is_empty() && known.parts == attachment.parts) {
            Some((_, known)) => known.extend(own),
            None => groups.push((attachment, own)),
        }
    }
    for (attachment, selectors) in groups {
        let narrower = |one: &str, other: &str| {
            one.strip_prefix(other)
                .is_some_and(|rest| rest.starts_with(['.', '#', '[', ':']) && !rest.contains([' ', '>']))
        };
        let is_told = |one: &&str| !selectors.iter().any(|other| narrower(one, other));
        let wanted: Vec<&str> = selectors.iter().copied().filter(is_told).collect();
        list.extend(of_attached(sheet, control, rule, attachment, &wanted.join(", ")));
    }
    list.join(", ")
}

fn of_class(sheet: &SheetWriter, control: &Control, rule: &Rule) -> Option<String> {
    let class = sheet.names.control(&control.name.value).selector();
    let conditions = conditions(sheet, control, rule, Whom::Class).unwrap_or_default();
    let weight = sheet.weight();
    let target = &rule.target;
    Some(match &target.part {
        None => format!("{}{conditions}{}", class.repeat(weight), target.pseudo),
        Some(part) => {
            let part = sheet.names.part(&control.name.value, part).selector().repeat(weight);
            let condition = part_condition(sheet, control, rule, Whom::Class)?;
            let own = own_states(sheet, rule);
            format!(":where({class}{conditions}) {part}{condition}{own}{}", target.pseudo)
        }
    })
}

/// A rule's selector for markup that the control is attached to; `None` where it never holds there. With layers it has
/// the attachment's own specificity, without layers that of every other rule, and takes a list of selectors.
pub fn of_attached(
    sheet: &SheetWriter,
    control: &Control,
    rule: &Rule,
    attachment: &Attachment,
    selector: &str,
) -> Option<String> {
    let class = sheet.names.control(&control.name.value).selector();
    let conditions = conditions(sheet, control, rule, Whom::Attached(attachment))?;
    let target = &rule.target;
    let layers = sheet.system.manifest.stylesheet.layers;
    // What bears the class already has the look, and perhaps another variant.
    let who = match layers {
        true => format!("{selector}:not(:where({class}))"),
        false => format!(":is({selector}):not({class})"),
    };
    Some(match &target.part {
        None if layers => format!("{who}{conditions}{}", target.pseudo),
        None => {
            let host = format!(":is({}, :where({selector})):not(:where({class}))", class.repeat(sheet.weight()));
            format!("{host}{conditions}{}", target.pseudo)
        }
        Some(part) => {
            let inside = attachment.part(part)?;
            let class = sheet.names.part(&control.name.value, part).selector().repeat(sheet.weight());
            let condition = part_condition(sheet, control, rule, Whom::Attached(attachment))?;
            let own = own_states(sheet, rule);
            match layers {
                true => format!("{who}{conditions} :is({inside}){condition}{own}{}", target.pseudo),
                false => {
                    let part = format!(":is({class}, :where({inside}))");
                    format!(":where({who}{conditions}) {part}{condition}{own}{}", target.pseudo)
                }
            }
        }
    })
}

/// What is asked of a part beside its name; `None` where the part that should stand before it is none there.
fn part_condition(sheet: &SheetWriter, control: &Control, rule: &Rule, whom: Whom) -> Option<String> {
    let mut text = match rule.target.condition.as_str() {
        "" => String::new(),
        condition => format!(":where({condition})"),
    };
    if let Some((other, combinator)) = &rule.target.after {
        let other = match whom {
            Whom::Class => sheet.names.part(&control.name.value, other).selector(),
            Whom::Attached(attachment) => format!(":is({})", attachment.part(other)?),
        };
        text.push_str(&format!(":where({other} {combinator} *)"));
    }
    Some(text)
}

fn conditions(sheet: &SheetWriter, control: &Control, rule: &Rule, whom: Whom) -> Option<String> {
    let mut text = String::new();
    for host in &rule.hosts {
        text.push_str(&format!(":where({host})"));
    }
    for option in &rule.options {
        match whom {
            Whom::Class => text.push_str(&option_predicate(sheet, control, *option)),
            Whom::Attached(attachment) if attachment.variant.has(*option) => {}
            Whom::Attached(_) => return None,
        }
    }
    let bearer = Bearer::new(sheet, control, whom);
    let mut guarded = false;
    for id in rule.states.ids() {
        let state = sheet.system.states.get(*id);
        let list = state.selectors.join(", ");
        let (predicate, guard) = bearer.predicate(state, &list);
        text.push_str(&predicate);
        guarded |= guard;
    }
    for id in rule.states.absent() {
        text.push_str(&bearer.absence(sheet.system.states.get(*id)));
    }
    for (id, part) in rule.states.of_parts() {
        let state = sheet.system.states.get(*id);
        guarded |= matches!(id, StateId::Hover | StateId::Active);
        if part == VERY_PART {
            continue;
        }
        let list = state.selectors.join(", ");
        match whom {
            Whom::Class => text.push_str(&part_predicate(sheet, control, part, &state.name, &list)),
            Whom::Attached(attachment) => {
                text.push_str(&format!(":where(:has(:where({}):where({list})))", attachment.part(part)?));
            }
        }
    }
    let is_guarded = guarded && !sheet.system.manifest.stylesheet.as_written.blocked;
    if is_guarded && sheet.purpose.has_real_states() {
        text.push_str(&bearer.guard());
    }
    for nested in &rule.nested {
        text.push_str(&format!(":where({nested})"));
    }
    Some(text)
}

/// Stands for the part that a rule styles, in its states.
const VERY_PART: &str = "&";

/// The states of the very part that is styled.
fn own_states(sheet: &SheetWriter, rule: &Rule) -> String {
    let own = rule.states.of_parts().iter().filter(|(_, part)| part == VERY_PART);
    own.map(|(id, _)| {
        let state = sheet.system.states.get(*id);
        match sheet.purpose {
            Purpose::Specimen => format!(":where([{SHOWN}~=\"{}\"])", state.name),
            Purpose::Page | Purpose::Trial => format!(":where({})", state.selectors.join(", ")),
        }
    })
    .collect()
}

/// A part in a state: `:where(:has(> .a > .b:where(LIST)))`, one path for each place it stands in.
fn part_predicate(sheet: &SheetWriter, control: &Control, part: &str, state: &str, list: &str) -> String {
    let list = match sheet.purpose {
        Purpose::Specimen => format!("[{SHOWN}~=\"{state}\"]"),
        Purpose::Page | Purpose::Trial => list.to_owned(),
    };
    let mut paths: Vec<String> = Vec::new();
    for host in &control.template.hosts {
        for (_, node) in host.parts.iter().filter(|(name, _)| name.value == part) {
            // Hover and active are read from a placed control itself, all else from its bearer.
            let reach = match state {
                "hover" | "active" | "focus-within" => path(sheet, control, host, *node),
                _ => bearer_path(sheet, control, host, *node),
            };
            let path = format!("{reach}:where({list})");
            if !paths.contains(&path) {
                paths.push(path);
            }
        }
    }
    format!(":where(:has({}))", paths.join(", "))
}

fn option_predicate(sheet: &SheetWriter, control: &Control, id: OptionId) -> String {
    let axis = &control.axes[id.axis];
    if axis.default != Some(id.option) {
        return format!(":where({})", sheet.names.option(control, id).selector());
    }
    // A default option holds where no other is named.
    let others: Vec<String> = (0..axis.options.len())
        .filter(|option| *option != id.option)
        .map(|option| sheet.names.option(control, OptionId { axis: id.axis, option }).selector())
        .collect();
    if others.is_empty() { String::new() } else { format!(":where(:not({}))", others.join(", ")) }
}

/// How the element that bears native states is reached from the host.
struct Bearer {
    /// Paths inside the host; empty where the host bears its states itself.
    paths: Vec<String>,
    shown: bool,
}

impl Bearer {
    fn new(sheet: &SheetWriter, control: &Control, whom: Whom) -> Bearer {
        if let Whom::Attached(attachment) = whom {
            let inside = control.template.bearer_is_host() == Some(false);
            let native = attachment.part("native").filter(|_| inside);
            let paths = native.map(|native| format!(":where({native})")).into_iter().collect();
            return Bearer { paths, shown: false };
        }
        let mut paths: Vec<String> = control
            .template
            .hosts
            .iter()
            .filter(|host| host.node != host.bearer)
            .map(|host| bearer_path(sheet, control, host, host.bearer))
            .collect();
        paths.dedup();
        Bearer { paths, shown: sheet.purpose == Purpose::Specimen }
    }

    /// `:has(> .a > .b:where(LIST))`, one for each path.
    fn has(&self, list: &str) -> String {
        let inner: Vec<String> = self.paths.iter().map(|path| format!("{path}:where({list})")).collect();
        format!(":has({})", inner.join(", "))
    }

    /// A state's predicate, and whether it needs the guard.
    fn predicate(&self, state: &State, list: &str) -> (String, bool) {
        if self.shown && state.kind == StateKind::Interaction {
            return (format!(":where([{SHOWN}~=\"{}\"])", state.name), false);
        }
        let inside = !self.paths.is_empty();
        let predicate = match state.id {
            StateId::Hover | StateId::FocusWithin => format!(":where({list})"),
            StateId::Active if inside => format!(":where(:active, {})", self.has(":active")),
            // A select is empty while the value it has chosen is; `:has()` cannot stand in the `:has()` that leads to it.
            StateId::Empty => match (inside, self.paths.as_slice()) {
                (false, _) => format!(":where({list}, :has({EMPTY_CHOICE}))"),
                (true, paths) => {
                    let choices: Vec<String> = paths.iter().map(|path| format!("{path} {EMPTY_CHOICE}")).collect();
                    format!(":where({}, :has({}))", self.has(list), choices.join(", "))
                }
            },
            // What a browser knows of an element it knows of the bearer; a class or an attribute may be the host's.
            StateId::Own(_) if inside && state.selectors.iter().all(|selector| selector.starts_with(':')) => {
                format!(":where({})", self.has(list))
            }
            StateId::Busy | StateId::Own(_) if inside => format!(":where({list}, {})", self.has(list)),
            _ if inside => format!(":where({})", self.has(list)),
            _ => format!(":where({list})"),
        };
        (predicate, matches!(state.id, StateId::Hover | StateId::Active))
    }

    /// What holds where a state does not. A pseudo-class that a browser does not know stands in `:where()`, which forgives: a
    /// state that is unknown there never holds.
    fn absence(&self, state: &State) -> String {
        let list = state.selectors.join(", ");
        let (predicate, _) = self.predicate(state, &list);
        let inner = predicate.strip_prefix(":where(").and_then(|rest| rest.strip_suffix(')'));
        let inner = inner.unwrap_or(&predicate);
        let is_known_everywhere = |one: &String| one.starts_with('[') || OLD_STATES.contains(&one.as_str());
        match state.selectors.iter().all(is_known_everywhere) {
            true => format!(":where(:not({inner}))"),
            false => format!(":where(:not(:where({inner})))"),
        }
    }

    /// A disabled or busy control never shows hover or active.
    fn guard(&self) -> String {
        if self.paths.is_empty() {
            return format!(":where(:not({BLOCKED}))");
        }
        format!(":where(:not([aria-busy=\"true\"], {}))", self.has(BLOCKED))
    }
}

/// The path to an element, and on to the bearer of the control that is placed there.
fn bearer_path(sheet: &SheetWriter, control: &Control, host: &Host, to: NodeId) -> String {
    let outer = path(sheet, control, host, to);
    let inner = control.placement(to).and_then(|p| Some((sheet.system.control(&p.control)?, p.host)));
    match inner.map(|(inner, index)| (inner, &inner.template.hosts[index])) {
        Some((inner, host)) if host.node != host.bearer => {
            format!("{outer} {}", bearer_path(sheet, inner, host, host.bearer))
        }
        _ => outer,
    }
}

/// `> .tern-switch_track > .tern-switch_native`, as the template has it.
fn path(sheet: &SheetWriter, control: &Control, host: &Host, to: NodeId) -> String {
    let document = &control.template.document;
    let mut steps = Vec::new();
    let mut at: Option<NodeId> = Some(to);
    while let Some(node) = at.filter(|node| *node != host.node) {
        let part = host.parts.iter().find(|(_, id)| *id == node).map(|(name, _)| &name.value);
        steps.push(match (part, document.element(node)) {
            (Some(part), _) => format!("> {}", sheet.names.part(&control.name.value, part).selector()),
            (None, Some(element)) => format!("> {}", element.local()),
            (None, None) => "> *".to_owned(),
        });
        at = document.node(node).parent;
    }
    steps.reverse();
    steps.join(" ")
}
