//! Values that browsers take for the sake of old pages, in the words of today (CSS Compatibility; Quirks Mode Standard; CSS Fragmentation 4,
//! section 3.4; CSS Overflow 3, section 3.1). A name that only stands for another property may take values of its own.

use super::substitute::has_substitution;
use cssparser::{ParseError, Parser, Token};
use std::borrow::Cow;

/// Properties whose lengths need no unit in quirks mode: the standard's list (section 3.2), and what Chromium 156 adds.
const WITHOUT_UNIT: [&str; 35] = [
    "background-position",
    "border-bottom-width",
    "border-left-width",
    "border-right-width",
    "border-spacing",
    "border-top-width",
    "border-width",
    "bottom",
    "clip",
    "font-size",
    "height",
    "left",
    "letter-spacing",
    "margin",
    "margin-bottom",
    "margin-left",
    "margin-right",
    "margin-top",
    "mask-position",
    "max-height",
    "max-width",
    "min-height",
    "min-width",
    "padding",
    "padding-bottom",
    "padding-left",
    "padding-right",
    "padding-top",
    "right",
    "text-indent",
    "top",
    "vertical-align",
    "-webkit-mask-position",
    "width",
    "word-spacing",
];

/// Properties whose colours need no `#` in quirks mode (section 3.1).
const WITHOUT_HASH: [&str; 7] = [
    "background-color",
    "border-bottom-color",
    "border-color",
    "border-left-color",
    "border-right-color",
    "border-top-color",
    "color",
];

/// What a value that no other document takes stands for in quirks mode; nothing where it is refused there too.
pub fn in_quirks_mode(name: &str, text: &str) -> Option<String> {
    let lower = name.to_ascii_lowercase();
    let is_length = WITHOUT_UNIT.contains(&lower.as_str());
    let is_color = WITHOUT_HASH.contains(&lower.as_str());
    if !is_length && !is_color || has_substitution(text) {
        return None;
    }
    let mut today = String::new();
    words_of_today(&mut Parser::new(text), is_color, lower == "clip", &mut today).ok()?;
    Some(today)
}

fn words_of_today(p: &mut Parser, is_color: bool, is_clip: bool, today: &mut String) -> Result<(), ParseError<()>> {
    loop {
        let start = p.position();
        let Ok(token) = p.next_including_whitespace().cloned() else { return Ok(()) };
        match &token {
            Token::Function(name) if is_clip && name.eq_ignore_ascii_case("rect") => {
                today.push_str("rect(");
                p.parse_nested_block(|inner| words_of_today(inner, is_color, is_clip, today))?;
                today.push(')');
            }
            Token::Function(_) | Token::ParenthesisBlock | Token::SquareBracketBlock | Token::CurlyBracketBlock => {
                p.parse_nested_block(|inner| {
                    while inner.next().is_ok() {}
                    Ok::<_, ParseError<()>>(())
                })?;
                today.push_str(p.slice_from(start));
            }
            token => match is_color.then(|| hash_of(token)).flatten() {
                Some(hash) => today.push_str(&hash),
                None => {
                    today.push_str(p.slice_from(start));
                    if matches!(token, Token::Number { .. }) && !is_color {
                        today.push_str("px");
                    }
                }
            },
        }
    }
}

/// The colour that a word or a number stands for, with its `#`.
fn hash_of(token: &Token) -> Option<String> {
    let digits = match token {
        Token::Ident(word) if matches!(word.len(), 3 | 6) => word.to_string(),
        Token::Number { int_value: Some(number), .. } if *number >= 0 => format!("{number:06}"),
        Token::Dimension { int_value: Some(number), unit, .. } if *number >= 0 => {
            format!("{:0>6}", format!("{number}{unit}"))
        }
        _ => return None,
    };
    let is_hash = matches!(digits.len(), 3 | 6) && digits.bytes().all(|byte| byte.is_ascii_hexdigit());
    is_hash.then(|| format!("#{digits}"))
}

/// The value that a declaration of this name in lower case stands for; nothing where the browser refuses it.
pub fn of_today<'t>(name: &str, text: &'t str) -> Option<Cow<'t, str>> {
    let word = text.trim();
    let is = |known: &str| word.eq_ignore_ascii_case(known);
    let any = |words: &[&str]| words.iter().any(|known| is(known)) || is_everywhere(word);
    Some(match name {
        "page-break-before" | "page-break-after" => match () {
            () if is("always") => "page".into(),
            () if any(&["auto", "avoid", "left", "right"]) => text.into(),
            () => return None,
        },
        "-webkit-column-break-before" | "-webkit-column-break-after" => match () {
            () if is("always") => "column".into(),
            () if any(&["auto", "avoid"]) => text.into(),
            () => return None,
        },
        "page-break-inside" | "-webkit-column-break-inside" => match () {
            () if any(&["auto", "avoid"]) => text.into(),
            () => return None,
        },
        "overflow" | "overflow-x" | "overflow-y" | "overflow-block" | "overflow-inline" => {
            let words: Vec<&str> = word.split_ascii_whitespace().collect();
            match words.iter().any(|word| word.eq_ignore_ascii_case("overlay")) {
                true => {
                    let word = |word: &&str| {
                        if word.eq_ignore_ascii_case("overlay") { "auto".into() } else { (*word).to_owned() }
                    };
                    words.iter().map(word).collect::<Vec<String>>().join(" ").into()
                }
                false => text.into(),
            }
        }
        "cursor" => {
            let lower = word.to_ascii_lowercase();
            let known = ["-webkit-grab", "-webkit-grabbing", "-webkit-zoom-in", "-webkit-zoom-out"];
            match known.iter().find(|known| **known == lower) {
                Some(known) => known.trim_start_matches("-webkit-").into(),
                None => text.into(),
            }
        }
        "-webkit-perspective" if word.parse::<f64>().is_ok_and(|number| number >= 0.0) => format!("{word}px").into(),
        // One length is for both axes, where there is one picture.
        "-webkit-background-size" => {
            let is_length =
                word.starts_with(|c: char| c.is_ascii_digit() || matches!(c, '.' | '+')) || word.ends_with(')');
            if is_length && is_one(word) && !has_substitution(word) {
                format!("{word} {word}").into()
            } else {
                text.into()
            }
        }
        // Two lengths are those of one corner.
        "-webkit-border-radius" => {
            let parts: Vec<&str> = word.split_ascii_whitespace().collect();
            match parts.as_slice() {
                [one, other] if !word.contains(['/', '(']) => format!("{one} / {other}").into(),
                _ => text.into(),
            }
        }
        // Words of alignment that one of the two axes has (CSS Box Alignment 3).
        "align-items" | "-webkit-align-items" if has_word(word, &["legacy", "left", "right", "anchor-center"]) => {
            return None;
        }
        "align-self" | "-webkit-align-self" if has_word(word, &["legacy", "left", "right"]) => return None,
        "place-items" if has_word(word, &["legacy"]) || begins_with(word, &["left", "right", "anchor-center"]) => {
            return None;
        }
        "place-items" if has_word(word, &["anchor-center"]) => return None,
        "place-self" if begins_with(word, &["left", "right"]) => return None,
        "align-content" | "-webkit-align-content" if has_word(word, &["left", "right", "last"]) => return None,
        "place-content" if begins_with(word, &["left", "right", "last"]) => return None,
        "justify-items" if has_word(word, &["anchor-center"]) => return None,
        "will-change" if has_word(word, &["all", "default", "none", "will-change"]) => return None,
        // The old name has the old values.
        "-webkit-writing-mode" if has_word(word, &["sideways-lr", "sideways-rl"]) => return None,
        "-webkit-background-clip" if has_word(word, &["border-area"]) => return None,
        "-webkit-line-break" if has_word(word, &["anywhere"]) => return None,
        "background-blend-mode" if has_word(word, &["plus-lighter"]) => return None,
        // No name of an author's (CSS Values 4, section 4.2).
        "animation-name"
        | "-webkit-animation-name"
        | "animation"
        | "-webkit-animation"
        | "container"
        | "container-name"
        | "transition-property"
        | "-webkit-transition-property"
        | "transition"
        | "-webkit-transition"
            if has_word(word, &["default"]) =>
        {
            return None;
        }
        "resize" if is("auto") => "both".into(),
        "-webkit-background-origin" if ["border", "padding", "content"].iter().any(|old| is(old)) => {
            format!("{word}-box").into()
        }
        "-webkit-mask-clip" | "-webkit-mask-origin" | "-webkit-mask" => {
            const OLD: [&str; 3] = ["border", "padding", "content"];
            if has_word(word, &["fill-box", "stroke-box", "view-box"]) {
                return None;
            }
            match has_word(word, &OLD) {
                true => {
                    let today = |part: &str| match OLD.iter().any(|old| part.eq_ignore_ascii_case(old)) {
                        true => format!("{part}-box"),
                        false => part.to_owned(),
                    };
                    let layers = word.split(',').map(|layer| layer.split(' ').map(today).collect::<Vec<_>>().join(" "));
                    layers.collect::<Vec<_>>().join(",").into()
                }
                false => text.into(),
            }
        }
        // Chromium passes over what comes after a size.
        "contain-intrinsic-size" if word.to_ascii_lowercase().ends_with(" auto") => {
            word[..word.len() - " auto".len()].to_owned().into()
        }
        "text-justify" if is("distribute") => "inter-character".into(),
        "text-size-adjust" | "-webkit-text-size-adjust" if is("none") => "100%".into(),
        "justify-items" if is("legacy") => "normal".into(),
        _ => text.into(),
    })
}

/// Keywords that every property takes.
fn is_everywhere(word: &str) -> bool {
    ["inherit", "initial", "unset", "revert", "revert-layer"].iter().any(|known| word.eq_ignore_ascii_case(known))
}

fn begins_with(text: &str, words: &[&str]) -> bool {
    let first = text.split(' ').next().unwrap_or_default();
    words.iter().any(|word| word.eq_ignore_ascii_case(first))
}

fn has_word(text: &str, words: &[&str]) -> bool {
    text.split([' ', ',']).any(|part| words.iter().any(|word| word.eq_ignore_ascii_case(part)))
}

/// Whether there is neither white space nor a comma outside of brackets.
fn is_one(text: &str) -> bool {
    let mut depth = 0_usize;
    !text.chars().any(|c| {
        match c {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            _ => {}
        }
        depth == 0 && (c.is_ascii_whitespace() || c == ',')
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn old_values_are_those_of_today() {
        for (name, text, today) in [
            ("page-break-before", "always", Some("page")),
            ("page-break-before", "column", None),
            ("page-break-inside", "INHERIT", Some("INHERIT")),
            ("overflow", "overlay hidden", Some("auto hidden")),
            ("cursor", "-webkit-grab", Some("grab")),
            ("-webkit-perspective", "10", Some("10px")),
            ("-webkit-background-size", "10px", Some("10px 10px")),
            ("-webkit-background-size", "10px, 50% auto, cover", Some("10px, 50% auto, cover")),
            ("-webkit-background-size", "calc(1px + 2px)", Some("calc(1px + 2px) calc(1px + 2px)")),
            ("-webkit-border-radius", "1px 2px", Some("1px / 2px")),
            ("border-radius", "1px 2px", Some("1px 2px")),
        ] {
            assert_eq!(of_today(name, text).as_deref(), today, "{name}: {text}");
        }
    }
}
