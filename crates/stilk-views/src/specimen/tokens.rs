//! Pages of tokens: colours with their contrast against the surfaces, dimensions, type, shadows, motion.

use super::SpecimenPage;
use std::collections::BTreeMap;
use stilk_checks::painted::paint::contrast;
use stilk_engine::css::color::{Absolute, Color, Space};
use stilk_engine::css::serialize::number;
use stilk_engine::dom::NodeId;
use stilk_language::dependents::uses;
use stilk_language::tokens::{Theme, Token, TokenId, TokenType};
use stilk_text::diagnostic::grouped;

/// One page of tokens.
struct TokenGroup {
    name: &'static str,
    /// What a token of it is shown by, as a class.
    sample: &'static str,
    holds: fn(TokenType) -> bool,
}

const KINDS: [TokenGroup; 6] = [
    TokenGroup {
        name: "Colours",
        sample: "color",
        holds: |kind| matches!(kind, TokenType::Color | TokenType::Gradient),
    },
    TokenGroup {
        name: "Dimensions",
        sample: "length",
        holds: |kind| {
            matches!(kind, TokenType::Dimension | TokenType::Number | TokenType::StrokeStyle | TokenType::Border)
        },
    },
    TokenGroup {
        name: "Type",
        sample: "type",
        holds: |kind| matches!(kind, TokenType::Typography | TokenType::FontFamily | TokenType::FontWeight),
    },
    TokenGroup { name: "Shadows", sample: "shadow", holds: |kind| kind == TokenType::Shadow },
    TokenGroup {
        name: "Motion",
        sample: "motion",
        holds: |kind| matches!(kind, TokenType::Duration | TokenType::CubicBezier | TokenType::Transition),
    },
    TokenGroup { name: "Computed", sample: "color", holds: |_| false },
];

impl SpecimenPage<'_> {
    pub(super) fn token_pages(&mut self, main: NodeId) {
        let section = self.add(main, "section", &[("class", "tokens"), ("aria-labelledby", "tokens")]);
        self.add_text(section, "h2", &[("id", "tokens"), ("tabindex", "-1")], "Tokens");
        let tokens = &self.system.tokens;
        let listed: Vec<(TokenId, &Token)> =
            tokens.list.iter().enumerate().filter(|(_, t)| !t.is_member).map(|(i, t)| (TokenId(i), t)).collect();
        for kind in &KINDS {
            let of_kind: Vec<TokenId> = listed
                .iter()
                .filter(|(_, token)| match token.kind {
                    Some(known) => (kind.holds)(known),
                    None => kind.name == "Computed",
                })
                .map(|(id, _)| *id)
                .collect();
            if of_kind.is_empty() {
                continue;
            }
            let id = format!("tokens-{}", kind.name.to_lowercase());
            let part = self.add(section, "section", &[("aria-labelledby", &id)]);
            self.add_text(part, "h3", &[("id", &id)], &format!("{} ({})", kind.name, of_kind.len()));
            let list = self.add(part, "ul", &[("class", kind.sample)]);
            for token in of_kind {
                self.token(list, kind, token);
            }
        }
    }

    fn token(&mut self, list: NodeId, kind: &TokenGroup, id: TokenId) {
        let system = self.system;
        let tokens = &system.tokens;
        let token = tokens.get(id);
        let item = self.add(list, "li", &[("id", &format!("token-{}", token.path)), ("data-name", &token.path)]);
        self.add_text(item, "h4", &[], &token.path);
        if let Some(description) = &token.description {
            self.add_text(item, "p", &[], description);
        }
        // Themes that agree are named together.
        let mut values: Vec<(String, Vec<Theme>)> = Vec::new();
        for theme in tokens.themes() {
            let value = tokens.literal(id, &theme).unwrap_or_default();
            match values.iter_mut().find(|(known, _)| *known == value) {
                Some((_, themes)) => themes.push(theme),
                None => values.push((value, vec![theme])),
            }
        }
        let is_one = values.len() == 1;
        let table = self.add(item, "dl", &[]);
        for (value, themes) in &values {
            let pair = self.add(table, "div", &[]);
            let name = if is_one { "every theme".to_owned() } else { self.theme_names(themes) };
            self.add_text(pair, "dt", &[], &name);
            let cell = self.add(pair, "dd", &[]);
            self.sample(cell, kind, token, value);
            let text = color_text(value).unwrap_or_else(|| value.clone());
            self.add_text(cell, "code", &[], &text);
            for line in self.against_surfaces(value, themes) {
                self.add_text(cell, "span", &[("class", "figures")], &line);
            }
        }
        let mut controls: BTreeMap<&str, u64> = BTreeMap::new();
        for used in uses(system, id).uses {
            *controls.entry(used.control.name.value.as_str()).or_default() += 1;
        }
        let used = match controls.is_empty() {
            true => "no control uses it".to_owned(),
            false => {
                let names = controls.iter().map(|(name, uses)| match uses {
                    1 => (*name).to_owned(),
                    n => format!("{name} ({})", grouped(*n)),
                });
                let total: u64 = controls.values().sum();
                let plural = if total == 1 { "declaration" } else { "declarations" };
                format!("in {} {plural}: {}", grouped(total), names.collect::<Vec<_>>().join(", "))
            }
        };
        self.add_text(item, "p", &[("class", "figures")], &used);
    }

    /// `night` where both densities have the value, `night tight` where one has.
    fn theme_names(&self, themes: &[Theme]) -> String {
        let tokens = &self.system.tokens;
        let Some(first) = tokens.modifiers.first() else { return String::new() };
        let others = tokens.themes().len() / first.contexts.len();
        let mut names = Vec::new();
        for (context, name) in first.contexts.iter().enumerate() {
            let of_context: Vec<&Theme> = themes.iter().filter(|theme| theme.contexts[0] == context).collect();
            if of_context.len() == others {
                names.push(name.value.clone());
            } else {
                names.extend(of_context.into_iter().map(|theme| tokens.theme_name(theme)));
            }
        }
        names.join(", ")
    }

    fn sample(&mut self, cell: NodeId, kind: &TokenGroup, token: &Token, value: &str) {
        let style = match (kind.sample, token.kind) {
            (_, Some(TokenType::Gradient)) => format!("--swatch: linear-gradient(90deg, {value})"),
            ("color", _) if is_color(token.kind, value) => format!("--swatch: {value}"),
            ("length", Some(TokenType::Dimension)) => format!("--size: {value}"),
            ("type", Some(TokenType::Typography)) => format!("font: {value}"),
            ("type", Some(TokenType::FontFamily)) => format!("font-family: {value}"),
            ("type", Some(TokenType::FontWeight)) => format!("font-weight: {value}"),
            ("shadow", _) => format!("box-shadow: {value}"),
            ("motion", Some(TokenType::Duration)) => format!("--duration: {value}"),
            ("motion", Some(TokenType::CubicBezier)) => format!("--easing: {value}"),
            ("motion", Some(TokenType::Transition)) => format!("--duration: 1s; --transition: {value}"),
            _ => return,
        };
        if kind.sample == "motion" {
            let name = format!("Play {}", token.path);
            let attributes = [("type", "button"), ("class", "play"), ("aria-label", name.as_str()), ("style", &style)];
            let button = self.add(cell, "button", &attributes);
            self.add(button, "span", &[("class", "runner")]);
            return;
        }
        let text = if kind.sample == "type" { "Tern" } else { "" };
        self.add_text(cell, "span", &[("class", "swatch"), ("style", &style), ("aria-hidden", "true")], text);
    }

    /// The contrast of an opaque colour with every surface, in the themes that have it: `on page: 5.41 day, 3.05 night`.
    fn against_surfaces(&self, value: &str, themes: &[Theme]) -> Vec<String> {
        let opaque = |value: &str| parse(value).filter(|color| color.alpha == 1.0);
        let Some(color) = opaque(value) else { return Vec::new() };
        let surfaces = self.system.surfaces.iter().filter_map(|(name, id)| {
            let mut found: Vec<(String, Vec<Theme>)> = Vec::new();
            for theme in themes {
                let surface = opaque(&self.system.tokens.literal(*id, theme)?)?;
                let ratio = contrast(color.srgb(), surface.srgb());
                let ratio = format!("{:.2}", (ratio * 100.0).floor() / 100.0);
                match found.iter_mut().find(|(known, _)| *known == ratio) {
                    Some((_, themes)) => themes.push(theme.clone()),
                    None => found.push((ratio, vec![theme.clone()])),
                }
            }
            let figures = match found.as_slice() {
                [(ratio, _)] => ratio.clone(),
                all => {
                    let each = all.iter().map(|(ratio, themes)| format!("{ratio} {}", self.theme_names(themes)));
                    each.collect::<Vec<_>>().join(", ")
                }
            };
            Some(format!("on {name}: {figures}"))
        });
        surfaces.collect()
    }
}

/// Whether a value paints.
pub(super) fn is_color(kind: Option<TokenType>, value: &str) -> bool {
    matches!(kind, Some(TokenType::Color) | None) && parse(value).is_some()
}

fn parse(css: &str) -> Option<Absolute> {
    match stilk_engine::css::color::leading(css)? {
        Color::Absolute(absolute) => Some(absolute),
        color => color.resolve(stilk_engine::css::color::Surroundings::default()),
    }
}

/// A colour in OKLCH and as hex.
pub(super) fn color_text(css: &str) -> Option<String> {
    let color = parse(css)?;
    let [l, c, h] = color.to(Space::Oklch).components.map(|component| component.unwrap_or(0.0));
    let round = |value: f64, digits: f64| number((value * digits).round() / digits);
    let hex = stilk_checks::painted::paint::hex(color.srgb());
    let alpha = if color.alpha == 1.0 { String::new() } else { format!(" / {}", round(color.alpha, 100.0)) };
    // The hue of a grey is whatever rounding left.
    let hue = if c < 0.0005 { "none".to_owned() } else { round(h, 10.0) };
    let alpha_hex =
        if color.alpha == 1.0 { String::new() } else { format!("{:02x}", (color.alpha * 255.0).round() as u8) };
    Some(format!("oklch({} {} {hue}{alpha}) {hex}{alpha_hex}", round(l, 1000.0), round(c, 1000.0)))
}
