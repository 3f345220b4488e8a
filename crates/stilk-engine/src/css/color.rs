//! Colours: CSS Color 4 spaces, `color-mix()` and `light-dark()` (CSS Color 5), system colours.
//!
//! Names and hex are read by the `color` crate.

use super::calc;
use super::color_function::{self, Relative};
use super::color_space::convert;
use super::number::next_number;
pub use ::color::ColorSpaceTag as Space;
use cssparser::{ParseError, Parser, Token};

/// A colour as declared or computed.
#[derive(Debug, Clone, PartialEq)]
pub enum Color {
    /// Known.
    Absolute(Absolute),
    /// `currentcolor`
    Current,
    /// A system colour of CSS Color 4, section 6.2.
    System(&'static str),
    /// `color-mix()`
    Mix(Box<Mix>),
    /// `light-dark()`
    LightDark(Box<[Color; 2]>),
    /// A colour function that takes its components from another colour.
    Relative(Box<Relative>),
    /// `contrast-color()`: black or white, whichever is told better from this.
    Contrast(Box<Color>),
    /// Valid as far as is known, but not modelled here.
    Unmodelled,
}

/// A colour in a space. Components are in CSS's own ranges; `None` is `none`. What is written `hsl()` or `hwb()` stays in
/// that space, as far out of gamut as it was written: so it is mixed, and so relative colours take it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Absolute {
    /// The space.
    pub space: Space,
    /// Components.
    pub components: [Option<f64>; 3],
    /// 0 to 1.
    pub alpha: f64,
    /// Whether alpha is `none`: nothing where it is painted, the other's where it is mixed.
    pub alpha_is_missing: bool,
    /// Whether it is written `rgb()`: what `rgb()`, `hsl()`, `hwb()`, hex and names give.
    pub legacy: bool,
}

/// `color-mix(in SPACE, A P1, B P2)`
#[derive(Debug, Clone, PartialEq)]
pub struct Mix {
    /// The interpolation space.
    pub space: Space,
    /// How hues meet.
    pub hue: Hue,
    /// The first colour.
    pub a: Color,
    /// The second colour.
    pub b: Color,
    /// The second colour's share, 0 to 1.
    pub share: f64,
    /// What alpha is multiplied by where the percentages add up to less than 100.
    pub alpha: f64,
}

/// Hue interpolation (CSS Color 4, section 12.4).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hue {
    /// The shorter arc.
    Shorter,
    /// The longer arc.
    Longer,
    /// Upwards.
    Increasing,
    /// Downwards.
    Decreasing,
}

/// What a colour depends on besides itself.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Surroundings {
    /// Whether the element's used colour scheme is dark.
    pub dark: bool,
    /// The user's colours where they replace the page's.
    pub forced: Option<Palette>,
    /// The element's `color`, when known.
    pub current: Option<Absolute>,
}

/// Colours of the user's own.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Palette {
    /// On a light ground.
    Light,
    /// On a dark ground.
    Dark,
}

/// Names of colour spaces.
pub(super) const SPACES: [(&str, Space); 15] = [
    ("srgb", Space::Srgb),
    ("srgb-linear", Space::LinearSrgb),
    ("display-p3", Space::DisplayP3),
    ("a98-rgb", Space::A98Rgb),
    ("prophoto-rgb", Space::ProphotoRgb),
    ("rec2020", Space::Rec2020),
    ("lab", Space::Lab),
    ("lch", Space::Lch),
    ("oklab", Space::Oklab),
    ("oklch", Space::Oklch),
    ("hsl", Space::Hsl),
    ("hwb", Space::Hwb),
    ("xyz", Space::XyzD65),
    ("xyz-d65", Space::XyzD65),
    ("xyz-d50", Space::XyzD50),
];

/// System colours: name, light, dark; as Chromium has them without a platform theme.
static SYSTEM: [(&str, u32, u32); 20] = [
    ("accentcolor", 0x0075ff, 0x0075ff),
    ("accentcolortext", 0xffffff, 0xffffff),
    ("activetext", 0xff0000, 0xff0000),
    ("buttonborder", 0x000000, 0xffffff),
    ("buttonface", 0xefefef, 0x6b6b6b),
    ("buttontext", 0x000000, 0xffffff),
    ("canvas", 0xffffff, 0x121212),
    ("canvastext", 0x000000, 0xffffff),
    ("field", 0xffffff, 0x3b3b3b),
    ("fieldtext", 0x000000, 0xffffff),
    ("graytext", 0x808080, 0x808080),
    ("highlighttext", 0xffffff, 0xffffff),
    ("linktext", 0x0000ee, 0x9e9eff),
    ("mark", 0xffff00, 0xffff00),
    ("marktext", 0x000000, 0x000000),
    ("selecteditem", 0x1967d2, 0x99c8ff),
    ("selecteditemtext", 0xffffff, 0x3b3b3b),
    ("visitedtext", 0x551a8b, 0xd0adf0),
    ("-webkit-link", 0x0000ee, 0x9e9eff),
    (FOCUS_RING, 0x101010, 0xffffff),
];

/// The same where the user's colours replace the page's: those that differ.
static FORCED: [(&str, u32, u32); 13] = [
    ("activetext", 0x00009f, 0xffff00),
    ("buttonface", 0xffffff, 0x000000),
    ("canvas", 0xffffff, 0x000000),
    ("field", 0xffffff, 0x000000),
    ("graytext", 0x600000, 0x3ff23f),
    (HIGHLIGHT, 0x050049, 0x00e6ff),
    ("highlighttext", 0xffffff, 0x000000),
    ("linktext", 0x00009f, 0xffff00),
    ("selecteditem", 0x1967d2, 0x1967d2),
    ("selecteditemtext", 0xffffff, 0xffffff),
    ("visitedtext", 0x00009f, 0xffff00),
    ("-webkit-link", 0x0000ee, 0x0000ee),
    (FOCUS_RING, 0x101010, 0x101010),
];

const HIGHLIGHT: &str = "highlight";

/// Of browsers' own sheets: the colour of the page's body, which tables take in quirks mode.
pub const OF_BODY: &str = "-stilk-of-body";

fn system(name: &str, surroundings: Surroundings) -> Option<Absolute> {
    // The user's colours are the same in each of the page's schemes.
    let is_dark = surroundings.forced.map_or(surroundings.dark, |palette| palette == Palette::Dark);
    let of = |table: &[(&str, u32, u32)]| {
        let (_, light, dark) = table.iter().find(|(known, _, _)| *known == name)?;
        Some(Absolute::rgb8(if is_dark { *dark } else { *light }))
    };
    let forced = surroundings.forced.and_then(|_| of(&FORCED));
    // The one system colour that is translucent.
    if name == HIGHLIGHT {
        return Some(Absolute { alpha: 0.8, ..forced.unwrap_or(Absolute::rgb8(0x0041c6)) });
    }
    forced.or_else(|| of(&SYSTEM))
}

/// What Chromium draws around what has the focus; a colour of outlines alone.
pub(super) const FOCUS_RING: &str = "-webkit-focus-ring-color";

impl Absolute {
    /// Opaque sRGB from 8-bit channels.
    pub fn rgb8(hex: u32) -> Absolute {
        let channel = |shift: u32| Some(f64::from((hex >> shift) & 0xff) / 255.0);
        let components = [channel(16), channel(8), channel(0)];
        Absolute { space: Space::Srgb, components, alpha: 1.0, alpha_is_missing: false, legacy: true }
    }

    /// The same colour in another space; missing components carry over to their analogues (CSS Color 4, section
    /// 12.2), others become 0.
    pub fn to(&self, space: Space) -> Absolute {
        if space == self.space {
            return *self;
        }
        if self.components == [None; 3] {
            return Absolute { space, legacy: false, ..*self };
        }
        let converted = convert(self.space, space, self.components.map(|c| c.unwrap_or(0.0)));
        let mut components = converted.map(Some);
        for (own, theirs) in sets(self.space).into_iter().zip(sets(space)) {
            let (Some(own), Some(theirs)) = (own, theirs) else { continue };
            if own.iter().all(|at| self.components[*at].is_none()) {
                theirs.iter().for_each(|at| components[*at] = None);
            }
        }
        for (i, component) in self.components.iter().enumerate() {
            if component.is_none()
                && let Some(at) = analogous(self.space, i).and_then(|kind| position(space, kind))
            {
                components[at] = None;
            }
        }
        Absolute { space, components, legacy: false, ..*self }
    }

    /// The same colour as values are computed: in a space that has a notation of its own.
    pub fn computed(&self) -> Absolute {
        match self.space {
            Space::Hsl | Space::Hwb if !self.legacy => {
                let color = self.to(Space::Srgb);
                Absolute { components: color.components.map(|c| Some(c.unwrap_or(0.0))), ..color }
            }
            _ => *self,
        }
    }

    /// The same colour, ready to be mixed in a space: a hue without chroma says nothing and counts as missing (CSS
    /// Color 4, section 12.2). The standard leaves open what is no chroma; Chromium 156 draws the line at 0.02, for
    /// colours that come from another space.
    fn to_mixing(self, space: Space) -> Absolute {
        let mut color = self.to(space);
        if space == self.space {
            return color;
        }
        // What is missing is none at all, before it is carried over.
        let whole = Absolute { components: self.components.map(|c| Some(c.unwrap_or(0.0))), ..self };
        let [_, b, c] = whole.to(space).components.map(|c| c.unwrap_or(0.0));
        let hue_says_nothing = match space {
            Space::Lch | Space::Oklch => b <= 0.02,
            // A grey has no hue in the old notations either; what is written in one keeps its own.
            Space::Hsl => b.abs() < 1e-3,
            Space::Hwb => b + c > 100.0 - 1e-3,
            _ => false,
        };
        if let Some(at) = hue_index(space).filter(|_| hue_says_nothing) {
            color.components[at] = None;
        }
        color
    }

    /// Gamma-encoded sRGB, clipped to its gamut as browsers paint it, without alpha.
    pub fn srgb(&self) -> [f64; 3] {
        self.to(Space::Srgb).components.map(|c| c.unwrap_or(0.0).clamp(0.0, 1.0))
    }
}

impl Color {
    /// `transparent`
    pub fn transparent() -> Color {
        Color::Absolute(Absolute { alpha: 0.0, ..Absolute::rgb8(0) })
    }

    /// The colour that is used, or `None` where `currentcolor` is not known.
    pub fn resolve(&self, surroundings: Surroundings) -> Option<Absolute> {
        match self {
            Color::Absolute(absolute) => Some(*absolute),
            Color::Current => surroundings.current,
            Color::Unmodelled => None,
            Color::System(name) => system(name, surroundings),
            Color::LightDark(pair) => pair[usize::from(surroundings.dark)].resolve(surroundings),
            Color::Relative(relative) => relative.resolve(surroundings),
            Color::Contrast(from) => Some(most_contrasting(from.resolve(surroundings)?)),
            Color::Mix(mix) => Some(mix.apply(mix.a.resolve(surroundings)?, mix.b.resolve(surroundings)?)),
        }
    }

    /// Whether it stays where the user's colours replace the page's: it is one of them (CSS Color Adjustment 1,
    /// section 3.1).
    pub fn stays_when_forced(&self, surroundings: Surroundings) -> bool {
        match self {
            // What is not known is not known to go.
            Color::Unmodelled => true,
            Color::System(name) => !["accentcolor", "accentcolortext", "-webkit-link", FOCUS_RING].contains(name),
            Color::LightDark(pair) => pair[usize::from(surroundings.dark)].stays_when_forced(surroundings),
            _ => false,
        }
    }

    /// Whether `currentcolor` takes part.
    pub fn uses_current(&self) -> bool {
        match self {
            Color::Current => true,
            Color::Absolute(_) | Color::System(_) | Color::Unmodelled => false,
            Color::Mix(mix) => mix.a.uses_current() || mix.b.uses_current(),
            Color::LightDark(pair) => pair.iter().any(Color::uses_current),
            Color::Relative(relative) => relative.uses_current(),
            Color::Contrast(from) => from.uses_current(),
        }
    }

    /// Whether it is of the old notations, which are mixed in sRGB where nothing else is said.
    pub fn is_legacy(&self) -> bool {
        match self {
            Color::Absolute(absolute) => absolute.legacy,
            Color::Current | Color::System(_) => true,
            Color::LightDark(pair) => pair.iter().all(Color::is_legacy),
            Color::Contrast(_) => true,
            Color::Mix(_) | Color::Relative(_) | Color::Unmodelled => false,
        }
    }
}

/// Black or white, whichever has the higher contrast ratio (WCAG 2.2, "relative luminance"); black where they are equal.
/// Alpha has no say (CSS Color 5, section 8, leaves the algorithm open; measured in Chromium 156).
fn most_contrasting(from: Absolute) -> Absolute {
    let [r, g, b] = from.srgb().map(|c| if c <= 0.04045 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) });
    let luminance = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    let (black, white) = ((luminance + 0.05) / 0.05, 1.05 / (luminance + 0.05));
    Absolute::rgb8(if black >= white { 0 } else { 0xffffff })
}

impl Mix {
    /// Interpolation by CSS Color 4, section 12: premultiplied, hue apart.
    fn apply(&self, a: Absolute, b: Absolute) -> Absolute {
        let (a, b) = (a.to_mixing(self.space), b.to_mixing(self.space));
        let t = self.share;
        // Of two that are missing none is multiplied with.
        let alphas = match (a.alpha_is_missing, b.alpha_is_missing) {
            (true, true) => [1.0; 2],
            (true, false) => [b.alpha; 2],
            (false, true) => [a.alpha; 2],
            (false, false) => [a.alpha, b.alpha],
        };
        let alpha_is_missing = a.alpha_is_missing && b.alpha_is_missing;
        let alpha = alphas[0] * (1.0 - t) + alphas[1] * t;
        let hue_at = hue_index(self.space);
        let mut components = [None; 3];
        for (i, component) in components.iter_mut().enumerate() {
            let (x, y) = match (a.components[i], b.components[i]) {
                (None, None) => continue,
                (Some(x), None) => (x, x),
                (None, Some(y)) => (y, y),
                (Some(x), Some(y)) => (x, y),
            };
            *component = Some(if hue_at == Some(i) {
                let (x, y) = self.hue.fix(x, y);
                (x * (1.0 - t) + y * t).rem_euclid(360.0)
            } else if alpha == 0.0 {
                0.0
            } else {
                (x * alphas[0] * (1.0 - t) + y * alphas[1] * t) / alpha
            });
        }
        let alpha = if alpha_is_missing { 0.0 } else { alpha * self.alpha };
        Absolute { space: self.space, components, alpha, alpha_is_missing, legacy: false }
    }
}

/// What a component says, for those that have an analogue in other spaces (CSS Color 4, section 12.2).
fn analogous(space: Space, index: usize) -> Option<&'static str> {
    let names: [Option<&'static str>; 3] = match space {
        Space::Srgb
        | Space::LinearSrgb
        | Space::DisplayP3
        | Space::A98Rgb
        | Space::ProphotoRgb
        | Space::Rec2020
        | Space::XyzD50
        | Space::XyzD65 => [Some("red"), Some("green"), Some("blue")],
        Space::Lab | Space::Oklab => [Some("lightness"), Some("a"), Some("b")],
        Space::Lch | Space::Oklch => [Some("lightness"), Some("colorfulness"), Some("hue")],
        Space::Hsl => [Some("hue"), Some("colorfulness"), Some("lightness")],
        Space::Hwb => [Some("hue"), None, None],
        _ => [None; 3],
    };
    names[index]
}

/// Components that say the same together in several spaces (CSS Color 4, section 12.2): what makes it colourful, and how
/// light and colourful it is.
fn sets(space: Space) -> [Option<[usize; 2]>; 2] {
    match space {
        Space::Lab | Space::Oklab => [Some([1, 2]), None],
        Space::Lch | Space::Oklch => [Some([1, 2]), Some([0, 1])],
        Space::Hsl => [Some([0, 1]), Some([1, 2])],
        Space::Hwb => [None, Some([1, 2])],
        _ => [None; 2],
    }
}

fn position(space: Space, kind: &str) -> Option<usize> {
    (0..3).find(|i| analogous(space, *i) == Some(kind))
}

fn hue_index(space: Space) -> Option<usize> {
    match space {
        Space::Hsl | Space::Hwb => Some(0),
        Space::Lch | Space::Oklch => Some(2),
        _ => None,
    }
}

impl Hue {
    const ALL: [Hue; 4] = [Hue::Shorter, Hue::Longer, Hue::Increasing, Hue::Decreasing];

    /// Its keyword.
    pub fn name(self) -> &'static str {
        match self {
            Hue::Shorter => "shorter",
            Hue::Longer => "longer",
            Hue::Increasing => "increasing",
            Hue::Decreasing => "decreasing",
        }
    }

    fn fix(self, a: f64, b: f64) -> (f64, f64) {
        // What only rounding tells apart is one hue: a browser, which calculates in 32 bits, goes no whole turn for it.
        let d = if (b - a).abs() < 1e-4 { 0.0 } else { b - a };
        match self {
            Hue::Shorter if d > 180.0 => (a + 360.0, b),
            Hue::Shorter if d < -180.0 => (a, b + 360.0),
            Hue::Longer if d > 0.0 && d < 180.0 => (a + 360.0, b),
            Hue::Longer if d > -180.0 && d <= 0.0 => (a, b + 360.0),
            Hue::Increasing if d < 0.0 => (a, b + 360.0),
            Hue::Decreasing if d > 0.0 => (a + 360.0, b),
            _ => (a, b),
        }
    }
}

/// A text that is one colour and nothing else.
pub fn whole(text: &str) -> Option<Color> {
    Parser::new(text).parse_entirely(|parser| parse(parser)).ok()
}

/// The colour that a text begins with.
pub fn leading(text: &str) -> Option<Color> {
    parse(&mut Parser::new(text)).ok()
}

/// Parses a colour.
pub fn parse(parser: &mut Parser) -> Result<Color, ParseError<()>> {
    parser.skip_whitespace();
    let start = parser.position();
    let token = parser.next()?.clone();
    match &token {
        Token::Ident(name) => {
            let lower = current_name(&name.to_ascii_lowercase());
            if lower == "currentcolor" {
                return Ok(Color::Current);
            }
            // Of browsers' own sheets: some colour that nobody told.
            if lower == "-stilk-unknown" {
                return Ok(Color::Unmodelled);
            }
            if lower == OF_BODY {
                return Ok(Color::System(OF_BODY));
            }
            if lower == HIGHLIGHT {
                return Ok(Color::System(HIGHLIGHT));
            }
            if let Some((name, _, _)) = SYSTEM.iter().find(|(known, _, _)| *known == lower && lower != FOCUS_RING) {
                return Ok(Color::System(name));
            }
            // Of other names of CSS none is nearly one; the crate reads functions as well, which are no names.
            absolute(&lower)
        }
        Token::Hash(_) | Token::IDHash(_) => absolute(parser.slice_from(start)),
        Token::Function(name) => {
            let lower = name.to_ascii_lowercase();
            match lower.as_str() {
                "color-mix" => parser.parse_nested_block(mix),
                "light-dark" => parser.parse_nested_block(|inner| {
                    let light = parse(inner)?;
                    inner.expect_comma()?;
                    Ok(Color::LightDark(Box::new([light, parse(inner)?])))
                }),
                "rgb" | "rgba" | "hsl" | "hsla" | "hwb" | "lab" | "lch" | "oklab" | "oklch" | "color" => {
                    parser.parse_nested_block(|inner| {
                        // A space that is not computed.
                        if lower == "color" && inner.try_parse(|p| p.expect_ident_matching("display-p3-linear")).is_ok()
                        {
                            while inner.next().is_ok() {}
                            return Ok(Color::Unmodelled);
                        }
                        color_function::parse(&lower, inner)
                    })
                }
                "contrast-color" => parser.parse_nested_block(|inner| Ok(Color::Contrast(Box::new(parse(inner)?)))),
                "alpha" => parser.parse_nested_block(color_function::parse_alpha),
                _ => Err(ParseError::unexpected_token()),
            }
        }
        _ => Err(ParseError::unexpected_token()),
    }
}

/// Today's name of a colour: grey is gray, and what systems had in former days is something that they have still (CSS
/// Color 4, sections 6.1 and 6.3).
fn current_name(name: &str) -> String {
    const FORMER: [(&str, &str); 24] = [
        ("-webkit-activelink", "activetext"),
        ("activeborder", "buttonborder"),
        ("activecaption", "canvas"),
        ("appworkspace", "canvas"),
        ("background", "canvas"),
        ("buttonhighlight", "buttonface"),
        ("buttonshadow", "buttonface"),
        ("captiontext", "canvastext"),
        ("inactiveborder", "buttonborder"),
        ("inactivecaption", "canvas"),
        ("inactivecaptiontext", "graytext"),
        ("infobackground", "canvas"),
        ("infotext", "canvastext"),
        ("menu", "canvas"),
        ("menutext", "canvastext"),
        ("scrollbar", "canvas"),
        ("threeddarkshadow", "buttonborder"),
        ("threedface", "buttonface"),
        ("threedhighlight", "buttonborder"),
        ("threedlightshadow", "buttonborder"),
        ("threedshadow", "buttonborder"),
        ("window", "canvas"),
        ("windowframe", "buttonborder"),
        ("windowtext", "canvastext"),
    ];
    match FORMER.iter().find(|(former, _)| *former == name) {
        Some((_, today)) => (*today).to_owned(),
        None => name.replace("grey", "gray"),
    }
}

/// A colour without references to anything else, by the `color` crate.
fn absolute(text: &str) -> Result<Color, ParseError<()>> {
    let Ok(color) = ::color::parse_color(text) else { return Err(ParseError::unexpected_token()) };
    let modern = ["lab", "lch", "oklab", "oklch", "color("];
    let lower = text.to_ascii_lowercase();
    let legacy = !modern.iter().any(|name| lower.starts_with(name));
    let color = if legacy { color.convert(Space::Srgb) } else { color };
    let mut components = [None; 3];
    for (i, component) in components.iter_mut().enumerate() {
        if legacy || !color.flags.missing().contains(i) {
            *component = Some(f64::from(color.components[i]));
        }
    }
    let alpha = f64::from(color.components[3]).clamp(0.0, 1.0);
    Ok(Color::Absolute(Absolute { space: color.cs, components, alpha, alpha_is_missing: false, legacy }))
}

fn mix(parser: &mut Parser) -> Result<Color, ParseError<()>> {
    // Without a space the mix is in oklab (CSS Color 5, section 3).
    let named = parser.try_parse(|p| p.expect_ident_matching("in")).is_ok();
    let (space, hue) = if named { interpolation(parser)? } else { (Space::Oklab, Hue::Shorter) };
    let (a, p) = mix_item(parser)?;
    parser.expect_comma()?;
    let (b, q) = mix_item(parser)?;
    let (p, q) = match (p, q) {
        (None, None) => (50.0, 50.0),
        (Some(p), None) => (p, 100.0 - p),
        (None, Some(q)) => (100.0 - q, q),
        (Some(p), Some(q)) => (p, q),
    };
    let total = p + q;
    // Nothing of either leaves a colour that cannot be seen.
    let share = if total > 0.0 { q / total } else { 0.5 };
    let alpha = (total / 100.0).min(1.0);
    Ok(Color::Mix(Box::new(Mix { space, hue, a, b, share, alpha })))
}

/// A space, how its hues meet, and the comma after them.
fn interpolation(parser: &mut Parser) -> Result<(Space, Hue), ParseError<()>> {
    let (_, space, hue) = space_and_hue(parser)?;
    parser.expect_comma()?;
    Ok((space, hue))
}

/// `in SPACE [HUE hue]`: the space's name and how its hues meet.
pub fn interpolation_space(parser: &mut Parser) -> Result<(&'static str, Hue), ParseError<()>> {
    parser.expect_ident_matching("in")?;
    let (name, _, hue) = space_and_hue(parser)?;
    Ok((if name == "xyz" { "xyz-d65" } else { name }, hue))
}

fn space_and_hue(parser: &mut Parser) -> Result<(&'static str, Space, Hue), ParseError<()>> {
    let name = parser.expect_ident()?.to_ascii_lowercase();
    let Some((name, space)) = SPACES.iter().find(|(known, _)| *known == name) else {
        return Err(ParseError::unexpected_token());
    };
    let word = parser.try_parse(|p| {
        let word = p.expect_ident_cloned()?;
        let hue = Hue::ALL.into_iter().find(|hue| hue.name().eq_ignore_ascii_case(&word));
        hue.ok_or_else(ParseError::<()>::unexpected_token)
    });
    let Ok(hue) = word else { return Ok((name, *space, Hue::Shorter)) };
    parser.expect_ident_matching("hue")?;
    if hue_index(*space).is_none() {
        return Err(ParseError::unexpected_token());
    }
    Ok((name, *space, hue))
}

fn mix_item(parser: &mut Parser) -> Result<(Color, Option<f64>), ParseError<()>> {
    let before = parser.try_parse(percentage).ok();
    let color = parse(parser)?;
    let share = match before {
        Some(share) => Some(share),
        None => parser.try_parse(percentage).ok(),
    };
    Ok((color, share))
}

/// A percentage from 0 to 100, or a calculation that gives one; larger ones are clamped only in calculations.
fn percentage(parser: &mut Parser) -> Result<f64, ParseError<()>> {
    parser.skip_whitespace();
    let state = parser.state();
    match parser.next()?.clone() {
        Token::Percentage { .. } => {
            parser.reset(&state);
            let (number, _) = next_number(parser)?;
            if (0.0..=100.0).contains(&number) { Ok(number) } else { Err(ParseError::unexpected_token()) }
        }
        Token::Function(name) if calc::is_math(&name) => {
            let tree = calc::parse(&name, parser)?;
            match (tree.kind(), tree.canonical(&super::context::Context::constant())) {
                (Some(calc::ResultType::Percentage), Ok(number)) => Ok(number.clamp(0.0, 100.0)),
                _ => Err(ParseError::unexpected_token()),
            }
        }
        _ => Err(ParseError::unexpected_token()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn resolve(css: &str) -> Absolute {
        let mut parser = Parser::new(css);
        let color = parse(&mut parser).unwrap_or_else(|_| panic!("{css} was not read"));
        color.resolve(Surroundings { current: Some(Absolute::rgb8(0x00ff00)), ..Surroundings::default() }).unwrap()
    }

    fn close(color: Absolute, expected: [f64; 4]) {
        let [a, b, c] = color.components.map(|c| c.unwrap_or(f64::NAN));
        for (found, wanted) in [a, b, c, color.alpha].iter().zip(expected) {
            assert!((found - wanted).abs() < 1e-4, "{color:?} is not {expected:?}");
        }
    }

    #[test]
    fn mixes_follow_css_color_4() {
        // Examples of CSS Color 5, section 3, computed by hand in the space named.
        close(resolve("color-mix(in srgb, red, blue)"), [0.5, 0.0, 0.5, 1.0]);
        close(resolve("color-mix(in srgb, red 25%, blue)"), [0.25, 0.0, 0.75, 1.0]);
        close(resolve("color-mix(in srgb, red 20%, blue 20%)"), [0.5, 0.0, 0.5, 0.4]);
        close(resolve("color-mix(in srgb, transparent, red)"), [1.0, 0.0, 0.0, 0.5]);
        close(resolve("color-mix(in oklch, oklch(0.5 0.1 350), oklch(0.7 0.1 30))"), [0.6, 0.1, 10.0, 1.0]);
        close(resolve("color-mix(in oklch longer hue, oklch(0.5 0.1 350), oklch(0.7 0.1 30))"), [0.6, 0.1, 190.0, 1.0]);
        close(resolve("color-mix(in oklch, white, oklch(0.5 0.1 30))"), [0.75, 0.05, 30.0, 1.0]);
        close(resolve("color-mix(in srgb, currentcolor, black)"), [0.0, 0.5, 0.0, 1.0]);
    }

    #[test]
    fn wrong_mixes_are_refused() {
        for css in ["color-mix(in nowhere, red, blue)", "color-mix(in srgb longer hue, red, blue)", "color-mix(red)"] {
            assert!(parse(&mut Parser::new(css)).is_err(), "{css}");
        }
    }
}
