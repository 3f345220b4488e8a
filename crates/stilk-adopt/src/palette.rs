//! Literal colours of controls as tokens, named by what they do; what a theme changes about one is that token's value there.

use crate::colors::{colors_in, design_token, skeleton};
use crate::draft::{Draft, DraftRule, Origin, Piece};
use crate::ground::Ground;
use crate::naming::unique;
use crate::old::RuleRef;
use crate::outline::declaration;
use crate::pieces::restricted;
use crate::properties::{Properties, Read, TokenDraft, TokenText, with_references};
use crate::seen::Seen;
use crate::themes::ModifierDraft;
use crate::when::{Exclusive, When};
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::ranking::Rank;
use stilk_engine::css::property::Longhand;
use stilk_language::system::States;
use stilk_survey::control::Kind;
use stilk_survey::theme;

/// What a theme changes about colours goes to the rules whose colours they are: tokens say it then. What is more than that stays
/// a rule of its own.
pub fn collapse(draft: &mut Draft, exclusive: &Exclusive, seen: &mut Seen) {
    let mut of_themes: Vec<usize> =
        (0..draft.rules.len()).filter(|at| draft.rules[*at].when.themes.len() == 1).collect();
    of_themes.sort_by_key(|at| draft.rules[*at].rank);
    let mut more: Vec<DraftRule> = Vec::new();
    for at in of_themes {
        let pieces = draft.rules[at].pieces.clone();
        let mut left = Vec::new();
        for piece in pieces {
            if !goes_to_others(draft, at, &piece, (exclusive, seen), &mut more) {
                left.push(piece);
            }
        }
        draft.rules[at].pieces = left;
        draft.rules.append(&mut more);
    }
    draft.rules.retain(|rule| !rule.pieces.is_empty());
}

/// Gives what a theme's declaration changes to all that it beats; whether that could be done.
fn goes_to_others(
    draft: &mut Draft,
    at: usize,
    piece: &Piece,
    (exclusive, seen): (&Exclusive, &mut Seen),
    more: &mut Vec<DraftRule>,
) -> bool {
    let theme_rule = &draft.rules[at];
    let Some(theme) = theme_rule.when.themes.first().copied() else { return false };
    let bare = When { themes: BTreeSet::new(), ..theme_rule.when.clone() };
    let (target, rank) = (theme_rule.target.clone(), theme_rule.rank);
    let beaten: Vec<usize> = (0..draft.rules.len())
        .filter(|other| {
            let rule = &draft.rules[*other];
            rule.when.themes.is_empty()
                && rule.target == target
                && rule.rank < rank
                && !rule.sets().within(&piece.sets).is_empty()
                && rule.when.and(&bare, exclusive).is_some()
        })
        .collect();
    // Wherever the theme's declaration holds, something else has to hold without it.
    let rest: Vec<usize> = beaten.iter().copied().filter(|other| draft.rules[*other].when.covers(&bare)).collect();
    let mut covered = stilk_engine::cascade::LonghandSet::default();
    rest.iter().for_each(|other| covered.add_all(&draft.rules[*other].sets()));
    if !piece.sets.without(covered).is_empty() {
        return false;
    }
    let last = |rule: &DraftRule| rule.pieces.iter().rposition(|own| !own.sets.within(&piece.sets).is_empty());
    // What nothing is said of but by the strongest that holds everywhere.
    let strongest = rest.iter().copied().max_by_key(|other| draft.rules[*other].rank);
    let Some(strongest) = strongest else { return false };
    let is_alone = |other: usize| {
        let own = &draft.rules[other];
        piece.sets.without(own.sets()).is_empty()
    };
    if !is_alone(strongest) {
        return false;
    }
    let base = &draft.rules[strongest];
    if last(base).is_none_or(|own| changes(&base.pieces[own], piece).is_none()) {
        return false;
    }
    for other in beaten {
        let rule = &draft.rules[other];
        let Some(own) = last(rule) else { continue };
        let is_weaker_everywhere = rest.contains(&other) && other != strongest;
        if is_weaker_everywhere && rule.when.states == bare.states && rule.when.options == bare.options {
            continue;
        }
        let Some(both) = rule.when.and(&bare, exclusive).filter(|both| seen.is_seen(both)) else { continue };
        match changes(&rule.pieces[own], piece) {
            Some(changes) if bare.covers(&rule.when) => {
                let themed = &mut draft.rules[other].pieces[own].themed;
                themed.extend(changes.into_iter().map(|(color, text)| ((theme, color), text)));
            }
            // The same once more, where the theme's declaration holds, for the theme to change.
            Some(changes) => {
                let mut own = rule.pieces[own].clone();
                let within = own.sets.within(&piece.sets);
                if within != own.sets {
                    match restricted(&own, &within).as_slice() {
                        [one] => own = one.clone(),
                        _ => {
                            more.push(meeting(rule, both, theme, rank, piece));
                            continue;
                        }
                    }
                }
                own.themed.extend(changes.into_iter().map(|(_, text)| ((theme, 0), text)));
                more.push(DraftRule { when: both, pieces: vec![own], ..rule.clone() });
            }
            None => more.push(meeting(rule, both, theme, rank, piece)),
        }
    }
    true
}

/// What a theme's declaration says where another rule holds as well.
fn meeting(rule: &DraftRule, both: When, theme: usize, rank: Rank, piece: &Piece) -> DraftRule {
    let when = When { themes: BTreeSet::from([theme]), ..both };
    let sets = rule.sets().within(&piece.sets);
    DraftRule { when, rank, pieces: restricted(piece, &sets), origin: Origin::Meeting, ..rule.clone() }
}

/// The colours of a value; nothing at all is one where it stands alone.
fn colors_of(value: &str) -> Vec<std::ops::Range<usize>> {
    match value.trim().eq_ignore_ascii_case("transparent") {
        true => std::iter::once(0..value.len()).collect(),
        false => colors_in(value),
    }
}

/// What a theme's declaration changes about another one, where it changes nothing but colours: which of them, and to what.
fn changes(own: &Piece, theme: &Piece) -> Option<Vec<(usize, String)>> {
    if theme.sets.without(own.sets).iter().next().is_some() {
        return None;
    }
    let (of_own, of_theme) = (colors_of(&own.value), colors_of(&theme.value));
    let text = |at: usize| theme.value[of_theme[at].clone()].to_owned();
    let same_name = own.name.eq_ignore_ascii_case(&theme.name);
    let same_form = of_own.len() == of_theme.len()
        && (skeleton(&own.value) == skeleton(&theme.value)
            || of_own.len() == 1 && of_own[0].len() == own.value.len() && of_theme[0].len() == theme.value.len());
    if same_name && !of_own.is_empty() && same_form {
        return Some((0..of_own.len()).map(|at| (at, text(at))).collect());
    }
    let is_color = of_theme.len() == 1 && of_theme[0] == (0..theme.value.len());
    let only_colors = theme.sets.iter().all(|longhand| longhand.is_color());
    // All that the one colour of the other goes to.
    let whole = own.sets.iter().filter(|longhand| longhand.is_color()).all(|longhand| theme.sets.has(longhand));
    (is_color && of_own.len() == 1 && only_colors && whole).then(|| vec![(0, text(0))])
}

/// The tokens of literal colours.
#[derive(Debug, Default)]
pub struct Palette {
    /// In the order in which they were met.
    pub tokens: Vec<TokenDraft>,
    /// By group, role, value and what themes make of it.
    known: BTreeMap<Key, String>,
    paths: BTreeSet<String>,
    /// By group: the control that has its plain names.
    main: BTreeMap<&'static str, String>,
    /// How many literal colours there were, and how many became tokens.
    pub literals: (usize, usize),
    /// Whether colours that are almost one become one.
    merge: bool,
    /// Colours that are the same in every theme, by group and role.
    near: Vec<((&'static str, &'static str), String, String)>,
    /// Those that did: the colour, the token, and how far apart the two were (OKLab).
    pub merged: Vec<(String, String, f64)>,
}

/// Colours nearer than this are almost one: the difference in OKLab that `survey` calls near.
const NEAR: f64 = 0.02;

/// Group, role, value, what themes make of it, and the control whose it is; no control for those with plain names.
type Key = (&'static str, &'static str, String, Vec<(usize, String)>, Option<String>);

/// What themes make of a colour.
fn themed_of(key: &Key) -> &[(usize, String)] {
    &key.3
}

impl Palette {
    /// Beside tokens that there are already.
    pub fn beside(properties: &Properties, merge: bool) -> Palette {
        let paths = properties.tokens.iter().map(|token| token.path.clone()).collect();
        Palette { paths, merge, ..Palette::default() }
    }

    /// A value as sheets have it: custom properties of the page and literal colours as references.
    ///
    /// # Errors
    /// The custom property that is no token and no local of the control.
    pub fn value(
        &mut self,
        draft: &Draft,
        states: &States,
        rule: &DraftRule,
        piece: &Piece,
        properties: &Properties,
        modifiers: &[ModifierDraft],
    ) -> Result<String, String> {
        let (mut written, mut at) = (String::new(), 0);
        let themed = &piece.themed;
        let colors = if themed.is_empty() { colors_in(&piece.value) } else { colors_of(&piece.value) };
        for (index, range) in colors.into_iter().enumerate() {
            let literal = &piece.value[range.clone()];
            let of_themes: Vec<(usize, String)> = themed
                .iter()
                .filter(|((_, color), _)| *color == index)
                .map(|((theme, _), text)| (*theme, text.clone()))
                .collect();
            self.literals.0 += 1;
            let Some(path) = self.token(draft, states, rule, piece, literal, of_themes, modifiers) else { continue };
            self.literals.1 += 1;
            written.push_str(&piece.value[at..range.start]);
            written.push_str(&format!("{{{path}}}"));
            at = range.end;
        }
        written.push_str(&piece.value[at..]);
        if !written.contains("var(") {
            return Ok(written);
        }
        let locals: BTreeSet<&str> = draft
            .rules
            .iter()
            .flat_map(|rule| &rule.pieces)
            .map(|piece| piece.name.as_str())
            .filter(|name| name.starts_with("--"))
            .collect();
        references(&written, properties, &locals)
    }

    #[allow(clippy::too_many_arguments)]
    fn token(
        &mut self,
        draft: &Draft,
        states: &States,
        rule: &DraftRule,
        piece: &Piece,
        literal: &str,
        themed: Vec<(usize, String)>,
        modifiers: &[ModifierDraft],
    ) -> Option<String> {
        let (group, role) = (group(draft.kind), role(piece));
        let base = design_token(literal)?;
        let mut contexts = BTreeMap::new();
        for (theme, text) in &themed {
            let place = modifiers.iter().enumerate().find_map(|(m, modifier)| {
                let at = modifier.contexts.iter().position(|context| context.theme == Some(*theme))?;
                Some((m, at))
            })?;
            contexts.insert(place, TokenText::Value("color", design_token(text)?));
        }
        let said = base.to_string();
        let themed = themed.into_iter().filter_map(|(theme, text)| Some((theme, design_token(&text)?.to_string())));
        let main = self.main.entry(group).or_insert_with(|| draft.name.clone());
        let owner = (draft.name != *main).then(|| draft.name.clone());
        let plain: Key = (group, role, said, themed.collect(), None);
        let key: Key = (plain.0, plain.1, plain.2.clone(), plain.3.clone(), owner);
        if let Some(known) = self.known.get(&plain).or_else(|| self.known.get(&key)) {
            return Some(known.clone());
        }
        if self.merge && themed_of(&key).is_empty() {
            let own = crate::colors::color(literal)?;
            let near = self.near.iter().find_map(|(of, text, path)| {
                let apart = crate::colors::distance(&own, &crate::colors::color(text)?);
                (*of == (group, role) && apart < NEAR).then(|| (path.clone(), apart))
            });
            if let Some((path, apart)) = near {
                self.merged.push((literal.to_owned(), path.clone(), apart));
                self.known.insert(key, path.clone());
                return Some(path);
            }
        }
        let mut words: Vec<String> = rule.when.options.iter().map(|at| draft.options[*at].name.clone()).collect();
        words.splice(0..0, key.4.clone());
        // One host of several.
        if let ([one], true) = (rule.when.hosts.iter().collect::<Vec<_>>().as_slice(), draft.hosts.len() > 1) {
            let sample = &draft.hosts[**one].sample;
            words.push(match (sample.local(), sample.attribute("type")) {
                ("a", _) => "link".to_owned(),
                ("input", Some(kind)) => crate::naming::identifier(kind),
                (local, _) => crate::naming::identifier(local),
            });
        }
        // A place that a colour is for: its first name.
        let place = rule.when.nested.iter().find_map(|condition| {
            let name = condition.split(['.', '#']).nth(1)?;
            Some(crate::naming::identifier(name.split(|c: char| !c.is_alphanumeric() && c != '-' && c != '_').next()?))
        });
        words.extend(place);
        if !rule.when.states.is_rest() {
            let state = rule.when.states.ids().iter().map(|id| states.get(*id).name.clone());
            let of_parts = rule.when.states.of_parts().iter().map(|(id, _)| states.get(*id).name.clone());
            words.extend(state.chain(of_parts));
        }
        words.extend(rule.target.part.clone().filter(|part| part != "native"));
        words.extend(
            Some(rule.target.pseudo.trim_start_matches(':').trim_start_matches("-webkit-").to_owned())
                .filter(|p| !p.is_empty()),
        );
        words.push(role.to_owned());
        let path = unique(&format!("{group}.{}", words.join("-")), &mut self.paths);
        // One value of a group is written once; what else has it says so.
        let same =
            self.known.iter().find(|((of, _, said, themed, _), _)| (*of, said, themed) == (key.0, &key.2, &key.3));
        let token = match same {
            Some((_, known)) => {
                TokenDraft { path: path.clone(), base: TokenText::Alias(known.clone()), contexts: BTreeMap::new() }
            }
            None => TokenDraft { path: path.clone(), base: TokenText::Value("color", base), contexts },
        };
        self.tokens.push(token);
        if themed_of(&key).is_empty() {
            self.near.push(((group, role), literal.to_owned(), path.clone()));
        }
        self.known.insert(key, path.clone());
        Some(path)
    }
}

/// A value with custom properties of the page as references; those of the control itself stay.
fn references(value: &str, properties: &Properties, locals: &BTreeSet<&str>) -> Result<String, String> {
    let unknown = std::cell::RefCell::new(None);
    let read = |name: &str| {
        if let Some(token) = properties.token(name) {
            return Some(Read::Token(token.path.clone()));
        }
        if locals.contains(name) {
            return Some(Read::Local);
        }
        if !properties.declared.contains(name) {
            return Some(Read::Nowhere);
        }
        unknown.borrow_mut().get_or_insert(name.to_owned());
        None
    };
    with_references(value, &read).ok_or_else(|| unknown.take().unwrap_or_else(|| value.to_owned()))
}

impl Palette {
    /// The token of what pages are filled with: what the body's background says, in each theme; nothing where it says no colour.
    pub fn surface(&mut self, ground: &Ground, properties: &Properties, modifiers: &[ModifierDraft]) -> Option<String> {
        let mut base: Option<(Rank, String)> = None;
        let mut themed: BTreeMap<usize, (Rank, String)> = BTreeMap::new();
        for (at, sheet) in ground.old.all.iter().enumerate() {
            for index in 0..sheet.parsed.rules.len() {
                let rule = RuleRef { sheet: at, rule: index as u32 };
                let Some(parts) =
                    ground.rule(rule).filter(|parts| parts.compounds.len() == 1 && parts.pseudo.is_none())
                else {
                    continue;
                };
                let subject = parts.subject();
                let left = theme::without(&ground.themes, subject);
                let is_body = left.local.as_deref() == Some("body") && left.is_of_any_class() && left.states.is_empty();
                if !is_body || !parts.sets.has(Longhand::BackgroundColor) || parts.is_conditional {
                    continue;
                }
                let rank = ground.old.ranks(rule)[0];
                let Some(value) = background(ground, rule) else { continue };
                let asks = |one: &usize| theme::asks_for(std::slice::from_ref(&ground.themes[*one]), subject);
                match (0..ground.themes.len()).find(asks) {
                    Some(theme) if themed.get(&theme).is_none_or(|(known, _)| *known < rank) => {
                        themed.insert(theme, (rank, value));
                    }
                    None if base.as_ref().is_none_or(|(known, _)| *known < rank) => base = Some((rank, value)),
                    _ => {}
                }
            }
        }
        let (rank, value) = base?;
        if let Some(name) = value.strip_prefix("var(").and_then(|rest| rest.strip_suffix(')')) {
            return properties.token(name.trim()).map(|token| token.path.clone());
        }
        let mut contexts = BTreeMap::new();
        for (theme, (_, value)) in themed.into_iter().filter(|(_, (of_theme, _))| *of_theme > rank) {
            let place = modifiers.iter().enumerate().find_map(|(m, modifier)| {
                let at = modifier.contexts.iter().position(|context| context.theme == Some(theme))?;
                Some((m, at))
            });
            if let (Some(place), Some(color)) = (place, design_token(&value)) {
                contexts.insert(place, TokenText::Value("color", color));
            }
        }
        let base = TokenText::Value("color", design_token(&value)?);
        let path = unique("surface.page", &mut self.paths);
        self.tokens.push(TokenDraft { path: path.clone(), base, contexts });
        Some(path)
    }
}

/// The colour or the one custom property that a rule's background is.
fn background(ground: &Ground, rule: RuleRef) -> Option<String> {
    let (text, _) = ground.old.block(rule)?;
    let style = &ground.old.all[rule.sheet].parsed.rules[rule.rule as usize];
    let offsets = style.declarations.iter().rev().filter_map(|one| text.offset(one.offset));
    let values = offsets.filter_map(|offset| declaration(&text.text, offset));
    let is_background =
        |name: &str| name.eq_ignore_ascii_case("background") || name.eq_ignore_ascii_case("background-color");
    let (_, value, _) = values.into_iter().find(|(name, _, _)| is_background(name))?;
    let is_one = value.starts_with("var(--") && value.ends_with(')') && !value.contains(',')
        || crate::colors::color(value).is_some();
    is_one.then(|| value.to_owned())
}

/// What controls of a kind do, in a word.
fn group(kind: Kind) -> &'static str {
    match kind {
        Kind::Button => "act",
        Kind::Field | Kind::Select | Kind::Picker => "field",
        Kind::Checkbox | Kind::Radio | Kind::Switch => "choice",
        Kind::Range => "range",
        Kind::Disclosure => "reveal",
        Kind::Tab => "tab",
        Kind::MenuItem => "menu",
        Kind::Gauge => "gauge",
    }
}

/// What a colour does in a declaration.
fn role(piece: &Piece) -> &'static str {
    let name = piece.name.to_ascii_lowercase();
    match name.as_str() {
        "color" | "-webkit-text-fill-color" => "text",
        name if name.starts_with("background") => "fill",
        name if name.starts_with("border") => "edge",
        name if name.starts_with("outline") => "ring",
        name if name.contains("shadow") => "shade",
        "fill" | "stroke" => "drawing",
        "caret-color" => "caret",
        "accent-color" => "accent",
        name if name.starts_with("text-decoration") => "line",
        name if name.starts_with("--") => "own",
        _ => "paint",
    }
}
