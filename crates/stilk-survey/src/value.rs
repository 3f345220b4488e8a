//! The values in rules of controls, as they are written: colours, sizes, radii, shadows, fonts, durations, with near twins.

use crate::look::{NEAR_COLOR, NEAR_LENGTH, color, distance};
use crate::rules::Rules;
use crate::site::Site;
use std::collections::{BTreeMap, BTreeSet};
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_engine::css::color::Absolute;
use stilk_engine::css::parse::Declared;
use stilk_engine::css::property::{Flow, Longhand as L};
use stilk_engine::css::serialize::{absolute_css, to_css};
use stilk_engine::css::value::Value;
use stilk_text::source::Span;

/// What a value is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Scale {
    /// Colours.
    Color,
    /// Font sizes.
    FontSize,
    /// Paddings, gaps and sizes of boxes.
    Space,
    /// Corners.
    Radius,
    /// Shadows.
    Shadow,
    /// Fonts.
    Font,
    /// Durations of transitions and animations.
    Duration,
}

impl Scale {
    /// Every one.
    pub const ALL: [Scale; 7] =
        [Scale::Color, Scale::FontSize, Scale::Space, Scale::Radius, Scale::Shadow, Scale::Font, Scale::Duration];

    /// What people call it.
    pub fn name(self) -> &'static str {
        match self {
            Scale::Color => "colours",
            Scale::FontSize => "font sizes",
            Scale::Space => "spaces",
            Scale::Radius => "radii",
            Scale::Shadow => "shadows",
            Scale::Font => "fonts",
            Scale::Duration => "durations",
        }
    }

    /// What people call one of it.
    pub fn one(self) -> &'static str {
        match self {
            Scale::Color => "colour",
            Scale::FontSize => "font size",
            Scale::Space => "space",
            Scale::Radius => "radius",
            Scale::Shadow => "shadow",
            Scale::Font => "font",
            Scale::Duration => "duration",
        }
    }

    fn of(longhand: L) -> Option<Scale> {
        Some(match longhand {
            longhand if longhand.is_color() => Scale::Color,
            L::FontSize => Scale::FontSize,
            L::PaddingTop
            | L::PaddingRight
            | L::PaddingBottom
            | L::PaddingLeft
            | L::ColumnGap
            | L::RowGap
            | L::Height
            | L::MinHeight
            | L::MinWidth => Scale::Space,
            L::BorderTopLeftRadius
            | L::BorderTopRightRadius
            | L::BorderBottomLeftRadius
            | L::BorderBottomRightRadius => Scale::Radius,
            L::BoxShadow | L::TextShadow => Scale::Shadow,
            L::FontFamily => Scale::Font,
            L::TransitionDuration | L::AnimationDuration => Scale::Duration,
            _ => return None,
        })
    }
}

/// A value, with its users.
#[derive(Debug, Clone)]
pub struct Used {
    /// What it is of.
    pub scale: Scale,
    /// As CSS.
    pub text: String,
    /// How many declarations write it.
    pub declarations: usize,
    /// The first of them.
    pub first: Span,
    /// Selectors that use it, some of them.
    pub users: BTreeSet<String>,
    /// Values that are nearly this one, with how far they are apart.
    pub twins: Vec<(String, f64)>,
}

/// A custom property that rules of controls read.
#[derive(Debug, Clone)]
pub struct Custom {
    /// Its name.
    pub name: String,
    /// Its values as written, with where.
    pub values: Vec<(String, Span)>,
    /// How many declarations of controls read it.
    pub readers: usize,
    /// Selectors that read it, some of them.
    pub users: BTreeSet<String>,
}

/// So many users of a value are kept.
const USERS: usize = 6;

/// The values that rules of controls write; `is_of_controls` tells by list and rule whether one matches a control.
pub fn values(site: &Site, rules: &[Rules], is_of_controls: &dyn Fn(usize, usize) -> bool) -> (Vec<Used>, Vec<Custom>) {
    let mut found: BTreeMap<(Scale, String), Used> = BTreeMap::new();
    let mut customs: BTreeMap<String, Custom> = BTreeMap::new();
    let mut known: BTreeSet<Span> = BTreeSet::new();
    let mut readers: BTreeMap<String, BTreeMap<Span, String>> = BTreeMap::new();
    for (list, rules) in rules.iter().enumerate() {
        for (index, rule) in rules.all.iter().enumerate() {
            let traced = &site.lists[list].sheets[usize::from(rule.sheet)];
            let style = &traced.parsed.rules[rule.index as usize];
            let is_of_control = is_of_controls(list, index);
            for declaration in style.declarations.iter() {
                let Some(span) = traced.span(&site.sources, style.file, declaration.offset) else { continue };
                match &declaration.body {
                    DeclarationBody::Custom(name, text) => {
                        let custom = customs.entry(name.to_string()).or_insert_with(|| Custom {
                            name: name.to_string(),
                            values: Vec::new(),
                            readers: 0,
                            users: BTreeSet::new(),
                        });
                        if !custom.values.iter().any(|(_, known)| *known == span) {
                            custom.values.push((text.to_string(), span));
                        }
                    }
                    DeclarationBody::Property(parsed) => match &parsed.declared {
                        Declared::Values(values) if is_of_control && known.insert(span) => {
                            let mut said = BTreeSet::new();
                            for (target, value) in values {
                                for (scale, text) in texts(target.physical(Flow::LTR), value) {
                                    if !said.insert((scale, text.clone())) {
                                        continue;
                                    }
                                    let used = found.entry((scale, text.clone())).or_insert_with(|| Used {
                                        scale,
                                        text,
                                        declarations: 0,
                                        first: span,
                                        users: BTreeSet::new(),
                                        twins: Vec::new(),
                                    });
                                    used.declarations += 1;
                                    if used.users.len() < USERS {
                                        used.users.insert(style.selector_text());
                                    }
                                }
                            }
                        }
                        Declared::Pending(text) if is_of_control => {
                            let mut rest = &**text;
                            while let Some(at) = rest.find("var(") {
                                rest = &rest[at + 4..];
                                let name: String =
                                    rest.trim_start().chars().take_while(|c| !matches!(c, ',' | ')' | ' ')).collect();
                                readers.entry(name).or_default().insert(span, style.selector_text());
                            }
                        }
                        _ => {}
                    },
                }
            }
        }
    }
    let mut values: Vec<Used> = found.into_values().collect();
    twins(&mut values);
    values.sort_by(|a, b| {
        a.scale.cmp(&b.scale).then(b.declarations.cmp(&a.declarations)).then_with(|| a.text.cmp(&b.text))
    });
    let mut customs: Vec<Custom> = customs.into_values().filter(|custom| readers.contains_key(&custom.name)).collect();
    for custom in &mut customs {
        custom.readers = readers[&custom.name].len();
        custom.users = readers[&custom.name].values().take(USERS).cloned().collect();
    }
    customs.sort_by(|a, b| b.readers.cmp(&a.readers).then_with(|| a.name.cmp(&b.name)));
    (values, customs)
}

/// A value as it is listed: what says nothing, such as `none` and `0`, is left out.
fn texts(longhand: L, value: &Value) -> Vec<(Scale, String)> {
    let Some(scale) = Scale::of(longhand) else { return Vec::new() };
    let text = match (scale, value) {
        (Scale::Color, Value::Color(_)) => {
            let text = to_css(value);
            let Some(absolute) = color(&text).filter(|color| color.alpha > 0.0) else { return Vec::new() };
            match absolute.legacy && absolute.alpha == 1.0 {
                true => hex(&absolute),
                false => absolute_css(&absolute),
            }
        }
        (Scale::Color, _) => return Vec::new(),
        (_, Value::Keyword(_)) => return Vec::new(),
        (_, Value::Unmodelled) => return Vec::new(),
        (Scale::Radius, Value::Words(words)) if words.len() == 2 && words[0] == words[1] => to_css(&words[0]),
        _ => to_css(value),
    };
    if matches!(text.as_str(), "0" | "0px" | "0s" | "auto" | "none" | "normal" | "inherit" | "100%") {
        return Vec::new();
    }
    vec![(scale, text)]
}

/// A colour as most people write it.
fn hex(color: &Absolute) -> String {
    let [r, g, b] = color.srgb().map(|c| (c.clamp(0.0, 1.0) * 255.0).round() as u8);
    format!("#{r:02x}{g:02x}{b:02x}")
}

fn twins(values: &mut [Used]) {
    let pairs: Vec<(usize, usize, f64)> = (0..values.len())
        .flat_map(|a| (a + 1..values.len()).map(move |b| (a, b)))
        .filter_map(|(a, b)| {
            let (one, other) = (&values[a], &values[b]);
            if one.scale != other.scale {
                return None;
            }
            let apart = match one.scale {
                Scale::Color => {
                    let (one, other) = (color(&one.text)?, color(&other.text)?);
                    let apart = distance(&one, &other);
                    (apart < NEAR_COLOR && (one.alpha - other.alpha).abs() < 0.02).then_some(apart)?
                }
                Scale::FontSize | Scale::Space | Scale::Radius => {
                    let apart = (in_px(&one.text)? - in_px(&other.text)?).abs();
                    (apart <= NEAR_LENGTH).then_some(apart)?
                }
                Scale::Duration => {
                    let apart = (seconds(&one.text)? - seconds(&other.text)?).abs();
                    (apart <= 0.05).then_some(apart)?
                }
                _ => return None,
            };
            Some((a, b, apart))
        })
        .collect();
    for (a, b, apart) in pairs {
        let (one, other) = (values[a].text.clone(), values[b].text.clone());
        values[a].twins.push((other, apart));
        values[b].twins.push((one, apart));
    }
}

/// A length in px, where the root's font size is the usual one.
fn in_px(text: &str) -> Option<f64> {
    let number = |unit: &str| text.strip_suffix(unit)?.parse::<f64>().ok();
    number("px").or_else(|| Some(number("rem")? * 16.0))
}

fn seconds(text: &str) -> Option<f64> {
    text.strip_suffix('s')?.parse().ok()
}
