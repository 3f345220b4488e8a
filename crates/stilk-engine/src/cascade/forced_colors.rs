//! Forced colours: the user's own in place of the page's (CSS Color Adjustment 1, section 3).

use super::order::Origin;
use super::style::Style;
use super::winner::{Says, Specified};
use crate::css::color::{Absolute, Color};
use crate::css::context::Unknown;
use crate::css::property::{Longhand, Longhand as L};
use crate::css::value::Value;

/// Colours that only stay where they are the user's own.
const COLORS: [L; 8] = [
    L::BackgroundColor,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::BorderRightColor,
    L::BorderTopColor,
    L::CaretColor,
    L::Color,
    L::OutlineColor,
];

/// Colours that are painted in another one than browsers answer with.
const PAINTED: [L; 5] =
    [L::ColumnRuleColor, L::TextDecorationColor, L::TextEmphasisColor, L::TextFillColor, L::TextStrokeColor];

/// What forced colours change besides.
const OTHERS: [L; 7] = [
    L::AccentColor,
    L::BackgroundImage,
    L::BoxShadow,
    L::ColorScheme,
    L::FontVariantEmoji,
    L::ScrollbarColor,
    L::TextShadow,
];

const REPLACED: Unknown = Unknown("the colour around it is replaced by the user's");

/// Whether forced colours have a say in a longhand.
pub(super) fn replaces(longhand: L) -> bool {
    COLORS.contains(&longhand) || PAINTED.contains(&longhand) || OTHERS.contains(&longhand)
}

impl Style {
    /// Whether the user's colours replace those of this element.
    fn is_forced(&self) -> bool {
        self.sheets.media.forced_colors && self.is(L::ForcedColorAdjust, "auto")
    }

    /// Whether a declared value gives way to the user's colours.
    pub(super) fn is_forced_away(&self, longhand: Longhand, specified: &Specified) -> bool {
        if !self.sheets.media.forced_colors || !COLORS.contains(&longhand) || !self.is_forced() {
            return false;
        }
        match longhand {
            L::Color if inherits_text(specified) => false,
            L::Color if matches!(specified, Specified::Initial) => true,
            _ => self.is_the_pages(specified),
        }
    }

    /// Whether a colour is none of the user's.
    fn is_the_pages(&self, specified: &Specified) -> bool {
        let surroundings = self.surroundings_without_color();
        matches!(specified.value(), Some(Value::Color(color)) if !color.stays_when_forced(surroundings))
    }

    /// Whether the user's colour of text takes the place of the page's here: one that the page asks for, or one that
    /// comes from around.
    fn is_text_replaced(&self) -> Result<bool, Unknown> {
        if self.asked(L::Color).is_some() {
            return Ok(true);
        }
        match self.specified(L::Color).0 {
            Specified::Unknown(reason) => Err(reason),
            specified if inherits_text(&specified) => match self.parent() {
                Some(parent) => parent.is_text_replaced(),
                // The initial colour is black, and none of the user's.
                None => Ok(true),
            },
            // It only decides here where it stays, or where this element is spared.
            specified => Ok(self.is_the_pages(&specified)),
        }
    }

    /// A value as it is where the user's colours are forced, from what it would be by declarations that stay.
    pub(super) fn forced_value(&self, longhand: Longhand, value: Result<Value, Unknown>) -> Result<Value, Unknown> {
        if !replaces(longhand) {
            return value;
        }
        if !self.is_forced() {
            // What such an element inherits is the page's colour, which is replaced where it comes from.
            let asks_around = longhand == L::Color && self.is(L::ForcedColorAdjust, "none");
            let is_around = || self.parent().is_some_and(|parent| parent.is_forced());
            let inherits = asks_around && matches!(self.specified(L::Color).0, Specified::Inherit | Specified::Unset);
            return if inherits && is_around() { Err(REPLACED) } else { value };
        }
        match longhand {
            L::Color if self.is_text_replaced()? => Ok(Value::Color(self.text_color()?)),
            L::ColorScheme => Ok(Value::Words(vec![Value::Keyword("light"), Value::Keyword("dark")])),
            L::AccentColor | L::ScrollbarColor => Ok(Value::Keyword("auto")),
            L::FontVariantEmoji => Ok(Value::Keyword("text")),
            L::BoxShadow | L::TextShadow => Ok(Value::Keyword("none")),
            L::BackgroundImage => value.map(without_gradients),
            L::BackgroundColor => self.backdrop(value?),
            // The one edge that Chromium draws in another of the user's colours as soon as a page asks for any: that of a group.
            L::BorderTopColor | L::BorderRightColor | L::BorderBottomColor | L::BorderLeftColor
                if matches!(value, Ok(Value::Color(Color::System("buttonface")))) && self.asked(longhand).is_some() =>
            {
                Ok(Value::Color(Color::System("canvastext")))
            }
            longhand if PAINTED.contains(&longhand) => Err(Unknown("forced colours are painted, and not told")),
            _ => value,
        }
    }

    /// What was asked for in vain, before anything that stays was met.
    fn asked(&self, longhand: Longhand) -> Option<Specified<'_>> {
        let mut before = self.steps(longhand).take_while(|step| !step.says.decides());
        before.find_map(|step| match step.says {
            Says::Forced(specified) => Some(specified),
            _ => None,
        })
    }

    /// The user's colour of text: by the nearest element for which the browser has one.
    fn text_color(&self) -> Result<Color, Unknown> {
        let of_browser = |style: &Style| {
            style.steps(L::Color).find_map(|step| match step.says {
                Says::Undecided(reason) => Some(Err(reason)),
                Says::Decides(specified) if step.block.origin == Origin::Browser => match specified.value() {
                    Some(Value::Color(color @ (Color::System(_) | Color::Unmodelled))) => Some(Ok(color.clone())),
                    _ => None,
                },
                _ => None,
            })
        };
        let mut around = std::iter::successors(Some(self), |style| style.parent.as_deref());
        let color = around.find_map(of_browser).unwrap_or(Ok(Color::System("canvastext")))?;
        let unmodelled = Unknown("the colour is not modelled yet");
        color.resolve(self.surroundings_without_color()).map(Color::Absolute).ok_or(unmodelled)
    }

    /// The ground that is left: as opaque as what the page asked for.
    fn backdrop(&self, left: Value) -> Result<Value, Unknown> {
        let asked = self.asked(L::BackgroundColor);
        let surroundings = self.surroundings();
        let resolve = |color: &Color| color.resolve(surroundings).ok_or(Unknown("the colour is not modelled yet"));
        let own = match &left {
            Value::Color(color) => resolve(color)?,
            _ => return Ok(left),
        };
        let alpha = match asked.as_ref().and_then(Specified::value) {
            // That of the text is another one by then.
            Some(Value::Color(color)) if color.uses_current() && *color != Color::Current => return Err(REPLACED),
            Some(Value::Color(color)) => resolve(color)?.alpha,
            _ => own.alpha,
        };
        // Where nobody asks for a ground there is that of the page, and none of it is seen.
        let ground = if own.alpha == 0.0 { resolve(&Color::System("canvas"))? } else { own };
        Ok(Value::Color(Color::Absolute(Absolute { alpha, ..ground })))
    }
}

/// Whether the colour of text is that of what is around, in one of the ways to say so.
fn inherits_text(specified: &Specified) -> bool {
    let is_current = |value: &Value| matches!(value, Value::Color(Color::Current));
    matches!(specified, Specified::Inherit | Specified::Unset) || specified.value().is_some_and(is_current)
}

/// Pictures stay, gradients do not.
fn without_gradients(value: Value) -> Value {
    match value {
        Value::List(images) => {
            let left = |image| if image == Value::Unmodelled { image } else { Value::Keyword("none") };
            Value::List(images.into_iter().map(left).collect())
        }
        value => value,
    }
}
