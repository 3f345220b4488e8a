//! Literal colours of controls as tokens, named by what they do; what a theme changes about one is that token's value there.

use crate::colors::{colors_in, design_token, skeleton};
use crate::conflict::place;
use crate::draft::{Draft, DraftRule, Piece};
use crate::naming::unique;
use crate::properties::{Properties, TokenDraft, TokenText, with_references};
use crate::themes::ModifierDraft;
use std::collections::{BTreeMap, BTreeSet};
use stilk_language::system::States;
use stilk_survey::control::Kind;

/// Colours of a value that are other ones in themes: by theme and place in the value.
pub type Themed = BTreeMap<(usize, usize), String>;

/// What a theme changes about a colour goes to the rule whose colour it is; what is more than that stays a rule of its own.
/// Gives for each rule and piece the colours that themes change.
pub fn collapse(draft: &mut Draft, states: &States) -> Vec<Vec<Themed>> {
    let mut themed: Vec<Vec<Themed>> =
        draft.rules.iter().map(|rule| vec![Themed::new(); rule.pieces.len()]).collect();
    let mut gone: BTreeSet<usize> = BTreeSet::new();
    for (at, rule) in draft.rules.iter().enumerate() {
        let mut themes = rule.when.themes.iter();
        let (Some(theme), None) = (themes.next().copied(), themes.next()) else { continue };
        let bare = crate::when::When { themes: BTreeSet::new(), ..rule.when.clone() };
        let mut taken: Vec<(usize, usize, Vec<(usize, String)>)> = Vec::new();
        let all_taken = rule.pieces.iter().all(|piece| {
            let of_same = draft.rules.iter().enumerate().filter(|(_, other)| {
                other.target == rule.target && other.when == bare && other.rank < rule.rank
            });
            // The strongest of those that set it.
            let below = of_same
                .flat_map(|(other, below)| below.pieces.iter().enumerate().map(move |(p, piece)| (other, p, below, piece)))
                .filter(|(_, _, _, below)| !below.sets.within(&piece.sets).is_empty())
                .max_by_key(|(_, p, below, _)| (below.rank, *p));
            let Some((other, p, below, own)) = below else { return false };
            let between = |third: &DraftRule| {
                let (low, high) = (place(states, draft, below), place(states, draft, rule));
                let own = place(states, draft, third);
                third.target == rule.target
                    && own > low
                    && own < high
                    && third.when != bare
                    && third.when.themes.is_empty()
                    && !third.sets().within(&piece.sets).is_empty()
            };
            if draft.rules.iter().any(between) {
                return false;
            }
            match changes(own, piece) {
                Some(changes) => {
                    taken.push((other, p, changes));
                    true
                }
                None => false,
            }
        });
        if all_taken {
            gone.insert(at);
            for (other, piece, changes) in taken {
                for (color, text) in changes {
                    themed[other][piece].insert((theme, color), text);
                }
            }
        }
    }
    let mut kept = Vec::new();
    let mut at = 0;
    draft.rules.retain(|_| {
        at += 1;
        !gone.contains(&(at - 1))
    });
    for (index, one) in themed.into_iter().enumerate() {
        if !gone.contains(&index) {
            kept.push(one);
        }
    }
    kept
}

/// What a theme's declaration changes about another one, where it changes nothing but colours: which of them, and to what.
fn changes(own: &Piece, theme: &Piece) -> Option<Vec<(usize, String)>> {
    if theme.sets.without(own.sets).iter().next().is_some() {
        return None;
    }
    let (of_own, of_theme) = (colors_in(&own.value), colors_in(&theme.value));
    let text = |at: usize| theme.value[of_theme[at].clone()].to_owned();
    let same_name = own.name.eq_ignore_ascii_case(&theme.name);
    if same_name && !of_own.is_empty() && skeleton(&own.value) == skeleton(&theme.value) {
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
    /// How many literal colours there were, and how many became tokens.
    pub literals: (usize, usize),
}

/// Group, role, value, and what themes make of it.
type Key = (&'static str, &'static str, String, Vec<(usize, String)>);

impl Palette {
    /// Beside tokens that there are already.
    pub fn beside(properties: &Properties) -> Palette {
        let paths = properties.tokens.iter().map(|token| token.path.clone()).collect();
        Palette { paths, ..Palette::default() }
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
        (piece, themed): (&Piece, &Themed),
        properties: &Properties,
        modifiers: &[ModifierDraft],
    ) -> Result<String, String> {
        let (mut written, mut at) = (String::new(), 0);
        for (index, range) in colors_in(&piece.value).into_iter().enumerate() {
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
        let key = (group, role, said, themed.collect());
        if let Some(known) = self.known.get(&key) {
            return Some(known.clone());
        }
        let mut words: Vec<String> = rule.when.options.iter().map(|at| draft.options[*at].name.clone()).collect();
        if !rule.when.states.is_rest() {
            let state = rule.when.states.ids().iter().map(|id| states.get(*id).name.clone());
            let of_parts = rule.when.states.of_parts().iter().map(|(id, _)| states.get(*id).name.clone());
            words.extend(state.chain(of_parts));
        }
        words.extend(rule.target.part.clone().filter(|part| part != "native"));
        words.extend(Some(rule.target.pseudo.trim_start_matches(':').trim_start_matches("-webkit-").to_owned()).filter(|p| !p.is_empty()));
        words.push(role.to_owned());
        let path = unique(&format!("{group}.{}", words.join("-")), &mut self.paths);
        self.tokens.push(TokenDraft { path: path.clone(), base: TokenText::Value("color", base), contexts });
        self.known.insert(key, path.clone());
        Some(path)
    }
}

/// A value with custom properties of the page as references; those of the control itself stay.
fn references(value: &str, properties: &Properties, locals: &BTreeSet<&str>) -> Result<String, String> {
    let unknown = std::cell::RefCell::new(None);
    // A local is kept from being taken for a reference by a mark that no value has.
    let token = |name: &str| match properties.token(name) {
        Some(token) => Some(token.path.clone()),
        None if locals.contains(name) => Some(format!("\u{1}{name}")),
        None => {
            unknown.borrow_mut().get_or_insert(name.to_owned());
            None
        }
    };
    match with_references(value, &token) {
        Some(text) => Ok(bring_back(&text)),
        None => Err(unknown.into_inner().unwrap_or_else(|| value.to_owned())),
    }
}

/// `{\u{1}--name}` as `var(--name)`.
fn bring_back(text: &str) -> String {
    let mut written = String::new();
    let mut rest = text;
    while let Some(at) = rest.find("{\u{1}") {
        let inner = &rest[at + 2..];
        let end = inner.find('}').unwrap_or(inner.len());
        written.push_str(&rest[..at]);
        written.push_str(&format!("var({})", &inner[..end]));
        rest = inner.get(end + 1..).unwrap_or_default();
    }
    written + rest
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
