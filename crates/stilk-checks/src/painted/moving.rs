//! What moves for ever, and whether anybody sees it.

use crate::trace::Tracer;
use stilk_engine::cascade::{LonghandSet, Style, Styled, Styles};
use stilk_engine::css::Unknown;
use stilk_engine::css::property::Longhand as L;
use stilk_engine::css::serialize::to_css;
use stilk_engine::css::value::Value;
use stilk_engine::dom::Document;

/// What [`unseen`] asks for.
pub const READS: LonghandSet = LonghandSet::of(&[
    L::AnimationDuration,
    L::AnimationIterationCount,
    L::AnimationName,
    L::AnimationPlayState,
    L::Content,
    L::Display,
    L::Opacity,
    L::Scale,
    L::Visibility,
]);

/// The animations of a box that run for ever, by their names.
///
/// # Errors
/// A value is not known.
pub fn endless(style: &Style) -> Result<Vec<String>, Unknown> {
    let list = |longhand: L| -> Result<Vec<Value>, Unknown> {
        Ok(match style.get(longhand)? {
            Value::List(items) => items.clone(),
            one => vec![one.clone()],
        })
    };
    let names = list(L::AnimationName)?;
    if names.iter().all(|name| name.is("none")) {
        return Ok(Vec::new());
    }
    let (counts, times) = (list(L::AnimationIterationCount)?, list(L::AnimationDuration)?);
    let states = list(L::AnimationPlayState)?;
    // Shorter lists are repeated (CSS Animations 1, section 4.2).
    let at = |list: &[Value], index: usize| list.get(index % list.len().max(1)).cloned();
    let runs = |index: usize| {
        at(&counts, index).is_some_and(|count| count.is("infinite"))
            && at(&times, index).is_some_and(|time| matches!(time, Value::Seconds(seconds) if seconds > 0.0))
            && at(&states, index).is_some_and(|state| !state.is("paused"))
    };
    let running = names.iter().enumerate().filter(|(index, name)| !name.is("none") && runs(*index));
    Ok(running.map(|(_, name)| to_css(name).trim_matches('"').to_owned()).collect())
}

/// Why nobody sees a box that moves for ever, and the property that says so; nothing where somebody may.
///
/// # Errors
/// A value is not known.
pub fn unseen(
    tracer: &Tracer,
    document: &Document,
    styles: &Styles,
    at: Styled,
) -> Result<Option<(&'static str, L)>, Unknown> {
    let Some(style) = styles.of(at) else { return Ok(None) };
    // What no browser generates moves nowhere.
    if at.pseudo.is_some() && style.is_empty_generated() || style.is(L::Display, "none") {
        return Ok(None);
    }
    // A name that no animation has moves nothing.
    let sets: Vec<Vec<&str>> = endless(style)?.iter().filter_map(|name| tracer.animated(name)).collect();
    if sets.is_empty() {
        return Ok(None);
    }
    let shows = |properties: &[&str]| sets.iter().flatten().any(|set| properties.contains(set));
    let is_seen = |style: &Style| Ok::<_, Unknown>(style.get(L::Visibility)?.is("visible"));
    if !is_seen(style)? && !shows(&["visibility"]) {
        // Something inside may be seen all the same, and moves with it.
        let mut inside = false;
        for node in document.descendants(at.node).into_iter().skip(1) {
            if at.pseudo.is_none()
                && let Some(style) = styles.element(node)
            {
                inside |= is_seen(style)?;
            }
        }
        if !inside {
            return Ok(Some(("it is hidden", L::Visibility)));
        }
    }
    let around = document.around(at.node).filter_map(|node| styles.element(node));
    for (depth, one) in std::iter::once(style).chain(around).enumerate() {
        let own = depth == 0;
        // What moves itself may come to be seen by that.
        if !own && !endless(one)?.is_empty() {
            continue;
        }
        let is_zero =
            |longhand: L| Ok::<_, Unknown>(matches!(one.get(longhand)?, Value::Number(number) if *number == 0.0));
        if is_zero(L::Opacity)? && !(own && shows(&["opacity"])) {
            return Ok(Some(("nothing of it is opaque", L::Opacity)));
        }
        let is_nothing = ["0", "0 0", "0 0 0"].contains(&to_css(one.get(L::Scale)?).as_str());
        if is_nothing && !(own && shows(&["scale", "transform"])) {
            return Ok(Some(("it has no size", L::Scale)));
        }
    }
    Ok(None)
}
