//! Declarations taken apart: some longhands of a shorthand, as a person would write them.

use crate::colors::colors_in;
use crate::draft::{Piece, Themed};
use stilk_engine::cascade::LonghandSet;
use stilk_engine::css::parse::{Declared, Wide};
use stilk_engine::css::parse_declaration;
use stilk_engine::css::property::{Flow, Longhand, Longhand as L};
use stilk_engine::css::serialize::to_css;

/// Four sides or corners of a box that are written as one.
const BOXES: [(&str, [Longhand; 4]); 7] = [
    ("padding", [L::PaddingTop, L::PaddingRight, L::PaddingBottom, L::PaddingLeft]),
    ("margin", [L::MarginTop, L::MarginRight, L::MarginBottom, L::MarginLeft]),
    ("inset", [L::Top, L::Right, L::Bottom, L::Left]),
    ("border-style", [L::BorderTopStyle, L::BorderRightStyle, L::BorderBottomStyle, L::BorderLeftStyle]),
    ("border-width", [L::BorderTopWidth, L::BorderRightWidth, L::BorderBottomWidth, L::BorderLeftWidth]),
    ("border-color", [L::BorderTopColor, L::BorderRightColor, L::BorderBottomColor, L::BorderLeftColor]),
    (
        "border-radius",
        [L::BorderTopLeftRadius, L::BorderTopRightRadius, L::BorderBottomRightRadius, L::BorderBottomLeftRadius],
    ),
];

/// What a declaration says of some longhands: the declaration itself where it sets no others, and where its values come from
/// references, which only the browser puts in.
pub fn restricted(piece: &Piece, longhands: &LonghandSet) -> Vec<Piece> {
    let own = piece.sets.within(longhands);
    if own.iter().next().is_none() {
        return Vec::new();
    }
    if own == piece.sets {
        return vec![piece.clone()];
    }
    let mut values: Vec<(Longhand, String)> = match parse_declaration(&piece.name, &piece.value).map(|one| one.declared)
    {
        Ok(Declared::Values(values)) => {
            let colors = colors_in(&piece.value);
            let color = match colors.as_slice() {
                // A colour stays as it was written.
                [one] => Some(piece.value[one.clone()].to_owned()),
                _ => None,
            };
            let written = values.iter().map(|(target, value)| {
                let longhand = target.physical(Flow::LTR);
                let text = match &color {
                    Some(color) if longhand.is_color() && !to_css(value).is_empty() && is_one(value) => color.clone(),
                    _ => to_css(value),
                };
                (longhand, text)
            });
            written.collect()
        }
        Ok(Declared::Wide(wide)) => {
            let word = match wide {
                Wide::Inherit => "inherit",
                Wide::Initial => "initial",
                Wide::Unset => "unset",
                Wide::Revert => "revert",
                Wide::RevertLayer => "revert-layer",
            };
            piece.sets.iter().map(|longhand| (longhand, word.to_owned())).collect()
        }
        _ => return vec![piece.clone()],
    };
    // The one colour of a shorthand is that of its colours.
    let themed = |is_color: bool| match is_color && piece.themed.keys().all(|(_, color)| *color == 0) {
        true => piece.themed.clone(),
        false => Themed::new(),
    };
    values.retain(|(longhand, text)| own.has(*longhand) && !text.is_empty());
    let mut found = Vec::new();
    for (name, sides) in BOXES {
        let of = |side: &Longhand| values.iter().find(|(longhand, _)| longhand == side).map(|(_, text)| text.clone());
        let four: Option<Vec<String>> = sides.iter().map(of).collect();
        let Some(four) = four else { continue };
        values.retain(|(longhand, _)| !sides.contains(longhand));
        found.push(Piece {
            name: name.to_owned(),
            value: of_four(&four),
            sets: LonghandSet::of(&sides),
            themed: themed(name == "border-color"),
        });
    }
    found.extend(values.into_iter().map(|(longhand, value)| Piece {
        name: longhand.name().to_owned(),
        value,
        sets: LonghandSet::of(&[longhand]),
        themed: themed(longhand.is_color()),
    }));
    found
}

/// Whether a value is one colour of its own, no keyword.
fn is_one(value: &stilk_engine::css::value::Value) -> bool {
    !matches!(to_css(value).as_str(), "currentcolor" | "transparent" | "rgba(0, 0, 0, 0)")
}

/// Top, right, bottom and left in as few words as say it.
fn of_four(four: &[String]) -> String {
    match four {
        [top, right, bottom, left] if left != right => format!("{top} {right} {bottom} {left}"),
        [top, right, bottom, _] if bottom != top => format!("{top} {right} {bottom}"),
        [top, right, ..] if right != top => format!("{top} {right}"),
        [top, ..] => top.clone(),
        [] => String::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn piece(name: &str, value: &str) -> Piece {
        let parsed = parse_declaration(name, value).expect("valid");
        let mut sets = LonghandSet::default();
        parsed.targets().into_iter().for_each(|target| sets.add(target.physical(Flow::LTR)));
        Piece { name: name.to_owned(), value: value.to_owned(), sets, themed: Themed::new() }
    }

    fn some(name: &str, value: &str, longhands: &[Longhand]) -> Vec<(String, String)> {
        let pieces = restricted(&piece(name, value), &LonghandSet::of(longhands));
        pieces.into_iter().map(|piece| (piece.name, piece.value)).collect()
    }

    #[test]
    fn some_longhands_of_a_shorthand_are_written_as_people_would() {
        let sides = [L::BorderTopColor, L::BorderRightColor, L::BorderBottomColor, L::BorderLeftColor];
        let one = |name: &str, value: &str| vec![(name.to_owned(), value.to_owned())];
        assert_eq!(some("border", "1px solid #14536b", &sides), one("border-color", "#14536b"));
        assert_eq!(some("padding", "4px 8px", &[L::PaddingTop]), one("padding-top", "4px"));
        assert_eq!(some("background", "#1a6a8a", &[L::BackgroundColor]), one("background-color", "#1a6a8a"));
        assert_eq!(some("color", "red", &[L::Color]), one("color", "red"));
        assert_eq!(some("border", "var(--x)", &sides), one("border", "var(--x)"));
        assert_eq!(some("color", "red", &[L::Width]), Vec::new());
    }
}
