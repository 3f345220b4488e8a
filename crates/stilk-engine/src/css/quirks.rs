//! Values that browsers take for the sake of old pages, in the words of today (CSS Compatibility; CSS Fragmentation 4,
//! section 3.4; CSS Overflow 3, section 3.1). A name that only stands for another property may take values of its own.

use std::borrow::Cow;

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
        // One length is for both axes.
        "-webkit-background-size" => {
            let both = |layer: &str| {
                let one = layer.trim();
                let is_length =
                    one.starts_with(|c: char| c.is_ascii_digit() || matches!(c, '.' | '+')) || one.ends_with(')');
                if is_length && !has_parts(one) { format!("{one} {one}") } else { one.to_owned() }
            };
            if word.contains("()") {
                text.into()
            } else {
                layers(word).into_iter().map(both).collect::<Vec<_>>().join(", ").into()
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
        "resize" if is("auto") => "both".into(),
        _ => text.into(),
    })
}

/// Keywords that every property takes.
fn is_everywhere(word: &str) -> bool {
    ["inherit", "initial", "unset", "revert", "revert-layer"].iter().any(|known| word.eq_ignore_ascii_case(known))
}

/// Whether there is white space outside of brackets.
fn has_parts(text: &str) -> bool {
    let mut depth = 0_usize;
    text.chars().any(|c| {
        match c {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            _ => {}
        }
        depth == 0 && c.is_ascii_whitespace()
    })
}

/// What stands between commas outside of brackets.
fn layers(text: &str) -> Vec<&str> {
    let (mut depth, mut start, mut found) = (0_usize, 0, Vec::new());
    for (at, c) in text.char_indices() {
        match c {
            '(' => depth += 1,
            ')' => depth = depth.saturating_sub(1),
            ',' if depth == 0 => {
                found.push(&text[start..at]);
                start = at + 1;
            }
            _ => {}
        }
    }
    found.push(&text[start..]);
    found
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
            ("-webkit-background-size", "10px, 50% auto, cover", Some("10px 10px, 50% auto, cover")),
            ("-webkit-background-size", "calc(1px + 2px)", Some("calc(1px + 2px) calc(1px + 2px)")),
            ("-webkit-border-radius", "1px 2px", Some("1px / 2px")),
            ("border-radius", "1px 2px", Some("1px 2px")),
        ] {
            assert_eq!(of_today(name, text).as_deref(), today, "{name}: {text}");
        }
    }
}
