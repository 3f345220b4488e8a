//! Values that are other ones and paint the same: where a picture lies that there is not, a shadow without colour, a move by
//! nothing.

use stilk_engine::cascade::Style;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::css::property::{Longhand, Longhand as L};

/// Whether a longhand paints and moves the same in both styles, though its computed texts differ.
pub fn is_alike(longhand: Longhand, styles: [&Style; 2], texts: [&str; 2]) -> bool {
    let both = |idle: &dyn Fn(&Style) -> bool| styles.iter().all(|style| idle(style));
    let is_none = |longhand: Longhand| move |style: &Style| is_none(style, longhand);
    match longhand {
        L::BoxShadow => texts.iter().all(|text| casts_nothing(text)),
        L::Translate => texts.iter().all(|text| moves_nothing(text)),
        // At the start in px and in per cent is one place.
        L::BackgroundPositionX | L::BackgroundPositionY if texts.iter().all(|text| moves_nothing(text)) => true,
        L::BackgroundOrigin
        | L::BackgroundPositionX
        | L::BackgroundPositionY
        | L::BackgroundRepeat
        | L::BackgroundSize
        | L::BackgroundAttachment => both(&is_none(L::BackgroundImage)),
        L::AnimationDuration | L::AnimationIterationCount | L::AnimationTimingFunction | L::AnimationDelay => {
            both(&is_none(L::AnimationName))
        }
        L::TransitionProperty
        | L::TransitionDuration
        | L::TransitionDelay
        | L::TransitionTimingFunction
        | L::TransitionBehavior => move_alike(styles),
        _ => false,
    }
}

/// Whether all that a longhand lists is `none`.
fn is_none(style: &Style, longhand: Longhand) -> bool {
    resolved(style, longhand).is_ok_and(|text| layers(&text).iter().all(|one| *one == "none"))
}

/// Whether every layer of a shadow is without colour or without extent.
fn casts_nothing(text: &str) -> bool {
    let is_idle = |layer: &str| {
        layer == "none"
            || layer.contains("rgba(0, 0, 0, 0)")
            || layer.split_ascii_whitespace().filter(|word| word.ends_with("px")).all(|word| word == "0px")
    };
    layers(text).iter().all(|layer| is_idle(layer))
}

fn moves_nothing(text: &str) -> bool {
    text == "none" || text.split_ascii_whitespace().all(|word| word == "0px" || word == "0%")
}

/// The parts of a list that commas outside of brackets divide.
fn layers(text: &str) -> Vec<&str> {
    let (mut depth, mut start, mut parts) = (0, 0, Vec::new());
    for (at, letter) in text.char_indices() {
        match letter {
            '(' => depth += 1,
            ')' => depth -= 1,
            ',' if depth == 0 => {
                parts.push(text[start..at].trim());
                start = at + 1;
            }
            _ => {}
        }
    }
    parts.push(text[start..].trim());
    parts
}

/// Whether the same properties move in the same way, apart from those that have nothing to move in either style.
fn move_alike(styles: [&Style; 2]) -> bool {
    let of = |style: &Style| -> Option<Vec<(String, [String; 4])>> {
        let lists: Vec<Vec<String>> = [
            L::TransitionProperty,
            L::TransitionDuration,
            L::TransitionDelay,
            L::TransitionTimingFunction,
            L::TransitionBehavior,
        ]
        .into_iter()
        .map(|longhand| resolved(style, longhand).ok())
        .map(|text| text.map(|text| layers(&text).into_iter().map(str::to_owned).collect()))
        .collect::<Option<_>>()?;
        let names = &lists[0];
        // Shorter lists are repeated (CSS Transitions 1, section 2).
        let at = |list: usize, index: usize| lists[list][index % lists[list].len()].clone();
        let all =
            names.iter().enumerate().map(|(index, name)| (name.clone(), [1, 2, 3, 4].map(|list| at(list, index))));
        Some(all.collect())
    };
    let [Some(before), Some(after)] = styles.map(of) else { return false };
    let is_idle = |name: &str| {
        let idle = |style: &Style| match name {
            "translate" => resolved(style, L::Translate).is_ok_and(|text| moves_nothing(&text)),
            "box-shadow" => resolved(style, L::BoxShadow).is_ok_and(|text| casts_nothing(&text)),
            "background-position" => is_none(style, L::BackgroundImage),
            // Between `auto` and a length there is no way.
            "background-size" => is_none(style, L::BackgroundImage) || style.is(L::BackgroundSize, "auto"),
            _ => false,
        };
        styles.iter().all(|style| idle(style))
    };
    let has_all = |one: &[(String, [String; 4])], other: &[(String, [String; 4])]| {
        one.iter().all(|entry| is_idle(&entry.0) || other.contains(entry))
    };
    has_all(&before, &after) && has_all(&after, &before)
}

#[cfg(test)]
mod tests {
    use super::*;
    use stilk_engine::cascade::defaults::Browser;
    use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
    use stilk_engine::dom::{Document, Element};

    /// Whether a longhand is alike on an element with the one declarations and with the others.
    fn alike(longhand: Longhand, one: &str, other: &str) -> bool {
        let style = |declarations: &str| {
            let sheet = Stylesheet::parse(&format!("p {{ {declarations} }}"));
            let mut document = Document::new();
            let node = document.append_element(Document::ROOT, Element::html("p"));
            let engine = Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default());
            engine.styles(&document, &Forced::default()).element(node).expect("a style").clone()
        };
        let styles = [style(one), style(other)];
        let texts = [0, 1].map(|at| resolved(&styles[at], longhand).expect("a value"));
        is_alike(longhand, [&styles[0], &styles[1]], [&texts[0], &texts[1]])
    }

    #[test]
    fn transitions_of_what_has_nothing_to_move_are_alike_and_no_others() {
        let moves = |one: &str, other: &str| alike(Longhand::TransitionProperty, one, other);
        assert!(moves("transition: color 1s, translate 1s, box-shadow 2s", "transition: color 1s"));
        assert!(!moves("transition: color 1s, translate 1s; translate: 1px", "transition: color 1s; translate: 1px"));
        assert!(!moves("transition: color 1s, opacity 1s", "transition: color 1s"));
        assert!(!moves("transition: color 1s", "transition: color 2s"));
        assert!(alike(Longhand::BackgroundRepeat, "background-repeat: no-repeat", ""));
        let drawn = "background-image: linear-gradient(red, blue);";
        assert!(!alike(Longhand::BackgroundRepeat, &format!("{drawn} background-repeat: no-repeat"), drawn));
        assert!(!alike(Longhand::Color, "color: red", "color: blue"));
    }

    #[test]
    fn shadows_and_moves_that_show_nothing() {
        for text in [
            "none",
            "rgba(0, 0, 0, 0) 0px 4px 2px 0px",
            "rgb(1, 2, 3) 0px 0px 0px 0px, rgba(0, 0, 0, 0) 1px 0px 0px 0px",
        ] {
            assert!(casts_nothing(text), "{text}");
        }
        assert!(!casts_nothing("rgb(1, 2, 3) 0px 1px 0px 0px") && !casts_nothing("none, rgb(1, 2, 3) 0px 0px 2px 0px"));
        assert!(moves_nothing("0px 0px") && moves_nothing("none") && !moves_nothing("0px 1px"));
    }
}
