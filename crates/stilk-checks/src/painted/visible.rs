//! What of a control changes before people's eyes between two of its looks.

use super::effect::may_do_something;
use std::rc::Rc;
use stilk_engine::cascade::{LonghandSet, Style, Styled};
use stilk_engine::css::compute::resolve_colors;
use stilk_engine::css::property::{Longhand, Longhand as L};
use stilk_engine::css::value::Value;
use stilk_engine::dom::NodeId;
use stilk_language::case::Look;

/// Properties whose change nobody sees on the control itself.
pub const UNSEEN: LonghandSet = LonghandSet::of(&[
    L::Cursor,
    L::PointerEvents,
    L::UserSelect,
    L::TouchAction,
    L::WillChange,
    L::TransitionProperty,
    L::TransitionDuration,
    L::TransitionTimingFunction,
    L::TransitionDelay,
    L::TransitionBehavior,
    L::AnimationDuration,
    L::AnimationDelay,
    L::CaretColor,
    L::ForcedColorAdjust,
    L::TapHighlightColor,
    L::UserDrag,
    L::ScrollSnapAlign,
    L::ScrollSnapStop,
    L::ScrollSnapType,
    L::InterpolateSize,
    L::ImageOrientation,
]);

/// Properties that are colours and nothing else.
pub const COLORS: [Longhand; 10] = [
    L::Color,
    L::BackgroundColor,
    L::BorderTopColor,
    L::BorderRightColor,
    L::BorderBottomColor,
    L::BorderLeftColor,
    L::OutlineColor,
    L::TextDecorationColor,
    L::TextFillColor,
    L::Fill,
];

/// One longhand of an element or pseudo-element that two looks give other values.
#[derive(Debug)]
pub struct Change {
    /// What changes.
    pub at: Styled,
    /// The longhand.
    pub longhand: Longhand,
    /// The value before; `None` where there was no such box.
    pub before: Option<Value>,
    /// The value after.
    pub after: Option<Value>,
}

impl Change {
    /// The style that the change leads to.
    pub fn style<'l>(&self, look: &'l Look) -> Option<&'l Rc<Style>> {
        look.styles.of(self.at)
    }

    /// Whether nothing but a colour changes.
    pub fn is_color(&self) -> bool {
        COLORS.contains(&self.longhand)
    }
}

/// A part's name with its pseudo-element as a sheet writes it; `the control` for the host.
pub fn element_name(look: &Look, at: Styled) -> String {
    let part = look.mounted.elements().find(|(_, known)| *known == at.node).map(|(name, _)| name);
    let pseudo = at.pseudo.map_or_else(String::new, |pseudo| format!("::{}", pseudo.name()));
    match part {
        Some("") if pseudo.is_empty() => "the control".into(),
        Some(name) => format!("`{name}{pseudo}`"),
        None => look.document.element(at.node).map_or_else(String::new, |e| format!("`<{}>`{pseudo}", e.local())),
    }
}

/// Whether the control is there at all: a state may hide it as a whole.
pub fn is_shown(look: &Look) -> bool {
    let host = look.styles.element(look.mounted.host);
    host.is_none_or(|style| crate::painted::paint::is_visible(&[style]) != Ok(false))
}

/// Whether a rule of the system changes something that can be seen.
pub fn differs(before: &Look, after: &Look) -> bool {
    visit(before, after, None, &mut |_| true)
}

/// What browsers change by themselves where nobody says anything: the ring of the focus, greyed words.
const OF_BROWSERS: [L; 9] = [
    L::OutlineStyle,
    L::OutlineWidth,
    L::OutlineColor,
    L::Color,
    L::BackgroundColor,
    L::BorderTopColor,
    L::BorderTopStyle,
    L::BoxShadow,
    L::Opacity,
];

/// Whether a browser shows the step from one look to another by itself: its own rules change something, or the platform draws
/// the control.
pub fn browser_answers(before: &Look, after: &Look, node: NodeId) -> bool {
    let (Some(old), Some(new)) = (before.styles.element(node), after.styles.element(node)) else { return false };
    let has_ring = |style: &Style| !style.is(L::OutlineStyle, "none") && style.px(L::OutlineWidth) != Ok(0.0);
    let changes = OF_BROWSERS.iter().any(|longhand| old.get(*longhand) != new.get(*longhand));
    let shows = changes
        && (has_ring(new)
            || !has_ring(old) && old.get(L::Color) != new.get(L::Color)
            || old.get(L::BackgroundColor) != new.get(L::BackgroundColor)
            || old.get(L::BorderTopColor) != new.get(L::BorderTopColor)
            || old.get(L::Opacity) != new.get(L::Opacity));
    shows || is_of_platform(new)
}

/// Whether the platform draws a control: nothing of its ground or edge is the page's.
pub fn is_of_platform(style: &Style) -> bool {
    const DRAWN: LonghandSet = LonghandSet::of(&[
        L::BackgroundColor,
        L::BackgroundImage,
        L::BorderTopColor,
        L::BorderTopStyle,
        L::BorderTopWidth,
        L::BorderBottomWidth,
    ]);
    !style.is(L::Appearance, "none") && style.set_by_author().within(&DRAWN).iter().next().is_none()
}

/// Everything that rules of the system change and that can be seen.
pub fn changes(before: &Look, after: &Look) -> Vec<Change> {
    changes_among(before, after, None)
}

/// Changes of some longhands only, or of all where none are named.
pub fn changes_among(before: &Look, after: &Look, among: Option<&LonghandSet>) -> Vec<Change> {
    let mut found = Vec::new();
    visit(before, after, among, &mut |change| {
        found.push(change);
        false
    });
    found
}

/// Visits changes until one is enough.
fn visit(before: &Look, after: &Look, among: Option<&LonghandSet>, visit: &mut dyn FnMut(Change) -> bool) -> bool {
    for node in after.document.descendants(after.mounted.host) {
        for at in after.styles.boxes(node) {
            let Some(new) = after.styles.of(at) else { continue };
            let old = before.styles.of(at);
            if old.is_none() && (new.is_empty_generated() || at.pseudo.is_none()) {
                continue;
            }
            let all = new.set_by_author();
            let set = among.map_or(all, |among| all.within(among));
            let candidates = old.map_or(set, |old| new.may_differ(old).within(&set));
            for longhand in candidates.iter() {
                if UNSEEN.has(longhand) {
                    continue;
                }
                // Most values are the same, and known: whatever costs more is asked after.
                if let (Some(Ok(was)), Ok(is)) = (old.map(|old| old.get(longhand)), new.get(longhand))
                    && was == is
                    && !is.has_unresolved_color()
                {
                    continue;
                }
                // Whoever asks for some longhands only has not asked for those that decide whether they do anything.
                if among.is_none()
                    && !may_do_something(new, longhand)
                    && !old.is_some_and(|old| may_do_something(old, longhand))
                {
                    continue;
                }
                let value =
                    |style: &Style| style.get(longhand).ok().map(|value| resolve_colors(value, style.surroundings()));
                let (was, is) = (old.map(|style| value(style)), value(new));
                // What the browser itself changes (its own focus ring, greyed text) differs between browsers.
                if was.as_ref() != Some(&is)
                    && new.winner(longhand).is_some_and(|id| id.sheet != 0)
                    && visit(Change { at, longhand, before: was.flatten(), after: is })
                {
                    return true;
                }
            }
        }
    }
    false
}
