//! Control sheets, as a person would write them: base once, options with what differs, states by name.

use crate::conflict::place;
use crate::draft::{Draft, DraftRule, Head, Origin};
use crate::ground::Ground;
use crate::when::When;
use std::collections::BTreeMap;
use stilk_engine::cascade::LonghandSet;
use stilk_language::system::{StateSet, States};

/// A declaration as it is written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Line {
    /// The property.
    pub name: String,
    /// The value, with references.
    pub value: String,
}

impl Line {
    fn text(&self) -> String {
        format!("{}: {};", self.name, self.value)
    }
}

/// A rule as it is written.
pub struct Written<'d> {
    /// The rule.
    pub rule: &'d DraftRule,
    /// Its declarations.
    pub lines: Vec<Line>,
}

/// Blocks in blocks, in the order in which they are written.
#[derive(Default)]
struct Tree {
    items: Vec<Placed>,
}

/// Something in a block, and what it sets.
struct Placed {
    item: Item,
    sets: LonghandSet,
}

enum Item {
    Line(Line),
    Comment(String),
    Block(String, Tree),
}

/// Where a block with the same head may be taken up again.
#[derive(Clone, Copy)]
enum Reach {
    /// Anywhere: what is in it competes with nothing beside it.
    Anywhere,
    /// Where nothing behind it sets what comes into it.
    Behind(LonghandSet),
}

impl Tree {
    fn push(&mut self, item: Item, sets: LonghandSet) {
        self.items.push(Placed { item, sets });
    }

    /// The place of a block with a head that may be taken up.
    fn open(&self, head: &str, reach: Reach) -> Option<usize> {
        let at =
            self.items.iter().rposition(|placed| matches!(&placed.item, Item::Block(known, _) if known == head))?;
        match reach {
            Reach::Anywhere => Some(at),
            Reach::Behind(sets) => {
                self.items[at + 1..].iter().all(|placed| placed.sets.within(&sets).is_empty()).then_some(at)
            }
        }
    }

    /// The block with a head: one that is there, or a new one.
    fn block(&mut self, head: &str, reach: Reach) -> &mut Tree {
        let at = self.open(head, reach).unwrap_or_else(|| {
            self.push(Item::Block(head.to_owned(), Tree::default()), LonghandSet::default());
            self.items.len() - 1
        });
        let placed = &mut self.items[at];
        if let Reach::Behind(sets) = reach {
            placed.sets.add_all(&sets);
        }
        match &mut placed.item {
            Item::Block(_, tree) => tree,
            // Only blocks are looked for.
            Item::Line(_) | Item::Comment(_) => unreachable!("a block was found or made"),
        }
    }

    /// One thing, or two short ones.
    fn in_one_line(&self) -> Option<String> {
        let items: Vec<&Item> = self.items.iter().map(|placed| &placed.item).collect();
        match items.as_slice() {
            [Item::Line(line)] => Some(line.text()),
            [Item::Line(one), Item::Line(other)] => {
                let both = format!("{} {}", one.text(), other.text());
                (both.len() <= 56).then_some(both)
            }
            [Item::Block(head, inner)] => inner.in_one_line().map(|line| format!("{head} {{ {line} }}")),
            _ => None,
        }
    }

    fn write(&self, depth: usize, text: &mut String) {
        let indent = "  ".repeat(depth);
        for (at, placed) in self.items.iter().enumerate() {
            match &placed.item {
                Item::Line(line) => text.push_str(&format!("{indent}{}\n", line.text())),
                Item::Comment(comment) => text.push_str(&format!("{indent}/* {comment} */\n")),
                Item::Block(head, tree) => {
                    let after_comment = at > 0 && matches!(self.items[at - 1].item, Item::Comment(_));
                    if at > 0 && !after_comment && depth < 3 {
                        text.push('\n');
                    }
                    // What holds one thing alone stands on one line.
                    if let Some(line) = tree.in_one_line().filter(|line| indent.len() + head.len() + line.len() <= 112)
                    {
                        text.push_str(&format!("{indent}{head} {{ {line} }}\n"));
                        continue;
                    }
                    if tree.items.is_empty() {
                        text.push_str(&format!("{indent}{head} {{ }}\n"));
                        continue;
                    }
                    text.push_str(&format!("{indent}{head} {{\n"));
                    tree.write(depth + 1, text);
                    text.push_str(&format!("{indent}}}\n"));
                }
            }
        }
    }
}

/// The sheet of a control.
pub fn write(ground: &Ground, draft: &Draft, states: &States, rules: &[Written]) -> String {
    let mut order: Vec<usize> = (0..rules.len()).collect();
    // What styles different boxes does not compete: the host comes first.
    order.sort_by_key(|at| {
        let (states, options, rank) = place(states, draft, rules[*at].rule);
        (states, options, &rules[*at].rule.target, rank)
    });
    let mut top = Tree::default();
    let themes = |when: &When| -> Vec<String> {
        when.themes.iter().map(|theme| format!("&:is({} *)", ground.themes[*theme].selector())).collect()
    };
    // Rules that say the same in several sets of states are one, with a list of these.
    let mut merged: Vec<(usize, Vec<StateSet>)> = Vec::new();
    for at in order {
        let (rule, lines) = (rules[at].rule, &rules[at].lines);
        let same = merged.iter_mut().find(|(other, sets)| {
            let (known, of_known) = (rules[*other].rule, &rules[*other].lines);
            let bare = |when: &When| When { states: StateSet::default(), ..when.clone() };
            // Another rule of the same states, weaker and further on, would win.
            let competes = |other: &Written| {
                !std::ptr::eq(other.rule, rule)
                    && other.rule.target == rule.target
                    && other.rule.when.states == rule.when.states
                    && other.rule.when.options == rule.when.options
                    && other.rule.rank <= rule.rank
                    && !other.rule.sets().within(&rule.sets()).is_empty()
            };
            !rule.when.states.is_rest()
                && !rules.iter().any(competes)
                && !known.when.states.is_rest()
                && !sets.contains(&rule.when.states)
                && known.target == rule.target
                && known.origin == rule.origin
                && of_known == lines
                && bare(&known.when) == bare(&rule.when)
                && (known.from.sheet == rule.from.sheet)
        });
        match same {
            Some((_, sets)) => sets.push(rule.when.states.clone()),
            None => merged.push((at, vec![rule.when.states.clone()])),
        }
    }
    // At rest first, then states, each with what options say of it in the options themselves.
    let mut options: BTreeMap<Vec<usize>, Vec<(usize, Vec<StateSet>)>> = BTreeMap::new();
    for (at, sets) in merged {
        options.entry(rules[at].rule.when.options.iter().copied().collect()).or_default().push((at, sets));
    }
    let mut noted: Vec<String> = Vec::new();
    let mut fill = |tree: &mut Tree, list: &[(usize, Vec<StateSet>)]| {
        for (at, sets) in list {
            let (rule, lines) = (rules[*at].rule, &rules[*at].lines);
            let mut tree = &mut *tree;
            let reach = Reach::Behind(rule.sets());
            if !rule.when.states.is_rest() {
                let names: Vec<String> = sets.iter().map(|set| set_text(states, set)).collect();
                tree = tree.block(&format!("@state {}", names.join(", ")), Reach::Anywhere);
            }
            if rule.target.part.is_some() || !rule.target.pseudo.is_empty() {
                let own: String = rule.when.own.iter().cloned().collect();
                let part = rule.target.part.clone().unwrap_or_default();
                tree = tree.block(&format!("@part {part}{own}{}", rule.target.pseudo), Reach::Anywhere);
            }
            let mut conditions = Vec::new();
            if !rule.when.hosts.is_empty() {
                let hosts: Vec<&str> =
                    rule.when.hosts.iter().map(|host| draft.hosts[*host].selector.as_str()).collect();
                conditions.push(match hosts.as_slice() {
                    [one] => format!("@host {one}"),
                    several => format!("@host :is({})", several.join(", ")),
                });
            }
            conditions.extend(themes(&rule.when));
            conditions.extend(rule.when.nested.iter().map(|condition| format!("&{condition}")));
            conditions.extend(rule.when.groups.iter().map(|(kind, prelude)| format!("@{kind} {prelude}")));
            let comment = match rule.origin {
                Origin::Kept | Origin::Own if rule.is_foreign => Some(format!("from `{}`", of_rule(ground, rule))),
                _ => None,
            };
            if let Some(comment) = comment.filter(|comment| !noted.contains(comment)) {
                noted.push(comment.clone());
                let comment = comment.replace("*/", "* /");
                // Before the block, where a new one begins.
                let is_open = conditions.first().is_some_and(|head| tree.open(head, reach).is_some());
                if !is_open {
                    tree.push(Item::Comment(comment), LonghandSet::default());
                }
            }
            for condition in conditions {
                tree = tree.block(&condition, reach);
            }
            for line in lines {
                let is_there =
                    tree.items.iter().any(|placed| matches!(&placed.item, Item::Line(known) if known == line));
                if !is_there {
                    tree.push(Item::Line(line.clone()), rule.sets());
                }
            }
        }
    };
    let (at_rest, in_states): (Vec<_>, Vec<_>) = options
        .remove(&Vec::new())
        .unwrap_or_default()
        .into_iter()
        .partition(|(at, _)| rules[*at].rule.when.states.is_rest());
    fill(&mut top, &at_rest);
    // A mark stands under no condition.
    for part in &draft.parts {
        top.block(&format!("@part {}", part.name), Reach::Anywhere);
    }
    fill(&mut top, &in_states);
    for (axis, name) in draft.axes.iter().enumerate() {
        let mut of_axis = Tree::default();
        for (at, option) in draft.options.iter().enumerate().filter(|(_, option)| option.axis == axis) {
            let head = match name.is_empty() {
                true => format!("@option {} marked ({})", option.name, option.chooser.text()),
                false => format!("{} marked ({})", option.name, option.chooser.text()),
            };
            let list = options.remove(&vec![at]).unwrap_or_default();
            fill(of_axis.block(&head, Reach::Anywhere), &list);
        }
        match name.is_empty() {
            true => top.items.append(&mut of_axis.items),
            false => top.push(Item::Block(format!("@axis {name} optional"), of_axis), LonghandSet::default()),
        }
    }
    for (several, list) in options {
        let names: Vec<&str> = several.iter().map(|at| draft.options[*at].name.as_str()).collect();
        fill(top.block(&format!("@combine {}", names.join(" ")), Reach::Anywhere), &list);
    }
    let mut text = String::new();
    let marked = match &draft.head {
        Head::Marked(mark) => format!(" marked ({})", mark.text()),
        Head::Attached(_) => String::new(),
    };
    let mut body = String::new();
    top.write(1, &mut body);
    for part in &draft.parts {
        let head = format!("  @part {} {{", part.name);
        let with_mark = format!("  @part {} marked ({}) {{", part.name, part.mark.text());
        if matches!(draft.head, Head::Marked(_)) {
            body = body.replacen(&head, &with_mark, 1);
        }
    }
    text.push_str(&format!("@control {}{marked} {{\n{body}}}\n", draft.name));
    if let Head::Attached(selectors) = &draft.head {
        text.push_str(&attachments(draft, selectors));
    }
    text
}

/// What gives existing markup the control's look: its base, each option, and options that stand together.
fn attachments(draft: &Draft, selectors: &[String]) -> String {
    let parts: Vec<String> = draft
        .parts
        .iter()
        .map(|part| {
            let selector = match &part.id.class {
                Some(class) => format!(".{class}"),
                None => part.id.local.clone(),
            };
            format!("{}: {selector};", part.name)
        })
        .collect();
    let parts = if parts.is_empty() { ";".to_owned() } else { format!(" {{ {} }}", parts.join(" ")) };
    let mut text = format!("\n@attach ({}) as {}{parts}\n", selectors.join(", "), draft.name);
    let mut combos: Vec<Vec<usize>> = (0..draft.options.len()).map(|at| vec![at]).collect();
    for rule in draft.rules.iter().filter(|rule| rule.when.options.len() > 1) {
        let several: Vec<usize> = rule.when.options.iter().copied().collect();
        if !combos.contains(&several) {
            combos.push(several);
        }
    }
    for combo in combos {
        let (mut marks, mut names) = (String::new(), String::new());
        for at in combo {
            marks.push_str(&draft.options[at].chooser.text());
            names.push_str(&format!(" {}", draft.options[at].name));
        }
        let each: Vec<String> = selectors.iter().map(|one| format!("{one}{marks}")).collect();
        text.push_str(&format!("@attach ({}) as {}{names}{parts}\n", each.join(", "), draft.name));
    }
    text
}

/// A set of states as sheets write it.
fn set_text(states: &States, set: &StateSet) -> String {
    let own = set.ids().iter().map(|id| states.get(*id).name.clone());
    let of_parts = set.of_parts().iter().map(|(id, part)| format!("{} of {part}", states.get(*id).name));
    let absent = set.absent().iter().map(|id| format!("not {}", states.get(*id).name));
    own.chain(of_parts).chain(absent).collect::<Vec<_>>().join(" and ")
}

/// The selector of the old rule, and where it stands.
fn of_rule(ground: &Ground, rule: &DraftRule) -> String {
    let sheet = &ground.old.all[rule.from.sheet];
    let style = &sheet.parsed.rules[rule.from.rule as usize];
    style.selector_text()
}
