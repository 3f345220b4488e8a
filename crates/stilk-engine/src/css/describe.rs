//! Grammars in words, for people who wrote something else.

use crate::css::grammar::Grammar;
use crate::css::words;

impl Grammar {
    /// The words, where words are all a value may be.
    pub fn keywords(&self) -> &'static [&'static str] {
        match self {
            Grammar::Keywords(words) | Grammar::Align(words) => words,
            Grammar::DisplayWords => words::DISPLAYS,
            Grammar::Cursor => words::CURSORS,
            _ => &[],
        }
    }

    /// What a value may be, in words, with an example.
    pub fn describe(&self) -> String {
        let or = |what: &str, words: &[&str]| {
            if words.is_empty() {
                what.to_owned()
            } else {
                format!("{what}, or {}", stilk_text::diagnostic::list(words))
            }
        };
        match self {
            Grammar::Keywords(words) | Grammar::Align(words) => {
                // Those of browsers' own sheets are nobody's to write.
                let words: Vec<&str> = words.iter().copied().filter(|word| !word.starts_with("-stilk-")).collect();
                format!("one of: {}", stilk_text::diagnostic::list(&words))
            }
            Grammar::Length { percent: true, keywords, .. } => {
                or("a length or percentage such as `8px` or `50%`", keywords)
            }
            Grammar::Length { keywords, .. } => or("a length such as `8px`", keywords),
            Grammar::LineWidth => "a length such as `1px`, or thin, medium, thick".into(),
            Grammar::LineHeight => "a number such as `1.4`, a length, or normal".into(),
            Grammar::BoxSize => "a length or percentage such as `12rem`, auto, min-content, max-content".into(),
            Grammar::MaxSize => "a length or percentage such as `12rem`, or none".into(),
            Grammar::Radius => "one or two lengths such as `6px`".into(),
            Grammar::Color => "a colour such as `oklch(0.6 0.1 230)`".into(),
            Grammar::ColorOr(words) => or("a colour", words),
            Grammar::NumberOr { keywords, .. } => or("a number such as `1`", keywords),
            Grammar::Integer(words) => or("a whole number", words),
            Grammar::FontWeight => "a number from 1 to 1000, or normal, bold, bolder, lighter".into(),
            Grammar::Count { keywords, .. } => or("a whole number from 1", keywords),
            Grammar::Alpha => "a number from 0 to 1".into(),
            Grammar::Ident => "a name".into(),
            Grammar::Image => "an image such as `linear-gradient(…)` or `url(…)`, or none".into(),
            Grammar::Transform => "transforms such as `translateY(1px)`, or none".into(),
            Grammar::Filter => "filters such as `blur(4px)`, or none".into(),
            Grammar::ClipPath => "a shape such as `inset(50%)`, or none".into(),
            Grammar::PositionPair | Grammar::Origin => "a position such as `center top`".into(),
            Grammar::Names => "names, or none".into(),
            Grammar::AspectRatio => "a ratio such as `3 / 2`, or auto".into(),
            Grammar::ColorPair => "two colours, or auto".into(),
            Grammar::FontStretch => "a percentage such as `75%`, or condensed, expanded and their like".into(),
            Grammar::TabSize => "a number of spaces, or a length".into(),
            Grammar::StrokeWidth => "a length, a percentage, or a number of px".into(),
            Grammar::Tracks => or("a list of tracks", &["none"]),
            Grammar::Words(words) => or("what the property's own grammar says", words),
            Grammar::Time | Grammar::Duration { .. } => "a time such as `120ms`".into(),
            Grammar::AnimationName => "a name".into(),
            Grammar::ListStyle => "a counter style such as decimal, a string, or none".into(),
            Grammar::Paint => "a colour, or none".into(),
            Grammar::Zoom => "a number such as `1.5`, or a percentage".into(),
            Grammar::Indent => "a length or percentage such as `2em`".into(),
            Grammar::Easing => "an easing function such as `ease-out`".into(),
            Grammar::AnimationNames
            | Grammar::CommaIdents
            | Grammar::CommaTimes
            | Grammar::CommaEasings
            | Grammar::CommaOf(_) => {
                format!("a list; each item is {}", self.item().describe())
            }
            Grammar::Position(words) => or("a length or percentage", words),
            Grammar::Repeat => "repeat, no-repeat, space, round, repeat-x or repeat-y".into(),
            Grammar::Size => "lengths such as `1em 1em`, cover, or contain".into(),
            Grammar::Families => "font names separated by commas".into(),
            Grammar::Shadows { .. } => "shadows such as `0 2px 8px rgb(0 0 0 / .2)`, or none".into(),
            Grammar::ContentList => "a string such as `\"\"`, none, or normal".into(),
            Grammar::SchemeWords => "light, dark, or both".into(),
            Grammar::DisplayWords => format!("one of: {}", stilk_text::diagnostic::list(words::DISPLAYS)),
            Grammar::LineWords => "underline, overline, line-through, or none".into(),
            Grammar::RotateWords => "an angle such as `90deg`, or none".into(),
            Grammar::ScaleWords => "one to three numbers, or none".into(),
            Grammar::Cursor => format!("one of: {}", stilk_text::diagnostic::list(words::CURSORS)),
            Grammar::FontStyle => "normal, italic or oblique".into(),
            Grammar::SomeOf(words) => format!("one or more of: {}", stilk_text::diagnostic::list(words)),
            Grammar::FontTags(item) => format!("normal, or a list; each item is {}", item.describe()),
            Grammar::FontFeature => "a feature such as `\"tnum\"` or `\"liga\" 0`".into(),
            Grammar::FontAxis => "an axis such as `\"wght\" 500`".into(),
            Grammar::AutoTracks => "sizes of tracks such as `minmax(4rem, auto)`".into(),
            Grammar::GridLine => "a line such as `2`, `span 2` or a name, or auto".into(),
            Grammar::Areas => "rows of names such as `\"head head\" \"side main\"`, or none".into(),
            Grammar::ImageSlice => "one to four numbers or percentages, with or without fill".into(),
            Grammar::ImageWidth => "one to four lengths, percentages or numbers, or auto".into(),
            Grammar::ImageOutset => "one to four lengths or numbers".into(),
            Grammar::ImageRepeat => "one or two of: stretch, repeat, round and space".into(),
            Grammar::ClipRect => "`rect(…)` with four lengths, or auto".into(),
            Grammar::IntrinsicSize => "a length, with or without auto, or none".into(),
            Grammar::Quotes => "pairs of strings, auto, or none".into(),
            Grammar::StringOr(word) => format!("a string, or {word}"),
            Grammar::DashOffset => "a length, a percentage, or a number of px".into(),
            Grammar::StrokeOfText => "a length such as `1px`, or thin, medium, thick".into(),
            Grammar::SizeAdjust => "a percentage, auto, or none".into(),
            Grammar::TranslateWords => "one to three lengths, or none".into(),
        }
    }
}
