//! What surrounds what is styled, and each side of the conditions that rules stand in: the surroundings, nearest to an
//! ordinary screen, in which a condition holds, and those in which it does not.
//!
//! Forced colours are no side here: what is painted then has rules of its own. Neither is what is not a screen.

use super::container::{self, ContainerQuery, axes_of};
use super::media::{self, Answer, Features, Media, MediaList, Query, comparable};
use super::supports::{Asked, SupportsTest};
use crate::css::context::Unknown;
use crate::css::serialize::number;
use crate::css::value::Value;
use cssparser::Parser;
use std::fmt::Write as _;

/// What surrounds what is styled.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Surroundings {
    /// What media queries are answered by.
    pub media: Media,
    /// What container queries are answered by that ask for something around what is styled.
    pub container: Option<PageContainer>,
    /// What the browser lacks.
    pub without: Vec<SupportsTest>,
}

/// A container of the page around what is styled.
#[derive(Debug, Clone, PartialEq)]
pub struct PageContainer {
    /// Its names.
    pub names: Vec<String>,
    /// How wide its content is, in px.
    pub width: f64,
    /// How high, in px, where something asks for that.
    pub height: Option<f64>,
}

/// The width that a page of an ordinary window leaves for what stands in it, in px.
pub const ROOM: f64 = 1264.0;

/// The margin of a page on both sides together, in px (HTML, section 15.3.3).
const MARGINS: f64 = 16.0;

/// No window is narrower or lower than this, in px, and no container of a page.
const LEAST: [f64; 2] = [200.0, 40.0];

/// So many sides are looked at; sheets that people write have a few.
pub const MOST_SIDES: usize = 24;

/// Of conditions that ask for very much together no side is looked for.
const MOST_TRIED: usize = 20_000;

/// A condition of a conditional group rule.
#[derive(Debug, Clone)]
pub enum GroupCondition {
    /// `@media`
    Media(MediaList),
    /// `@container`
    Container(ContainerQuery),
    /// `@supports`, as it is written.
    Supports(String),
}

impl GroupCondition {
    /// The condition of an at-rule by its name without `@`; nothing where it cannot be read.
    pub fn parse(rule: &str, prelude: &str) -> Option<GroupCondition> {
        match rule {
            "media" => media::parse_list(prelude).map(GroupCondition::Media),
            "container" => container::parse(prelude).map(GroupCondition::Container),
            "supports" => Some(GroupCondition::Supports(prelude.to_owned())),
            _ => None,
        }
    }
}

impl From<Media> for Surroundings {
    fn from(media: Media) -> Surroundings {
        Surroundings { media, ..Surroundings::default() }
    }
}

impl Surroundings {
    /// The width that is left for what stands in a block of the page, in px.
    pub fn room(&self) -> f64 {
        self.container.as_ref().map_or(self.media.width - MARGINS, |container| container.width)
    }

    /// The style of the page's container.
    pub fn container_style(&self) -> Option<String> {
        let PageContainer { names, width, height } = self.container.as_ref()?;
        let mut style = format!("width: {}px; container-type: ", number(*width));
        match height {
            Some(height) => drop(write!(style, "size; height: {}px", number(*height))),
            None => style.push_str("inline-size"),
        }
        if !names.is_empty() {
            style.push_str("; container-name:");
            for name in names {
                style.push(' ');
                let _ = cssparser::serialize_identifier(name, &mut style);
            }
        }
        Some(style)
    }

    /// Whether all conditions of a rule hold.
    ///
    /// # Errors
    /// One of them asks for what surroundings do not say.
    pub fn hold(&self, conditions: &[GroupCondition]) -> Result<bool, Unknown> {
        for condition in conditions {
            let holds = match condition {
                GroupCondition::Media(list) => list.matches(&self.media),
                GroupCondition::Supports(text) => {
                    Asked { without: &self.without, ..Asked::default() }.supports(&mut Parser::new(text))
                }
                GroupCondition::Container(query) => match (&query.query, &self.container) {
                    (None, container) => container.is_some(),
                    (Some(query), Some(container)) => query.matches(container)? == Some(true),
                    (Some(_), None) => false,
                },
            };
            if !holds {
                return Ok(false);
            }
        }
        Ok(true)
    }

    /// What is not as on an ordinary screen, in words: `width: 600px`.
    pub fn words(&self) -> String {
        let usual = Media::default();
        let Media { width, height, hover, pointer, dark, contrast, .. } = self.media;
        let Media { reduced_motion, reduced_transparency, scripting, resolution, .. } = self.media;
        let mut words = Vec::new();
        let mut say = |differs: bool, text: String| {
            if differs {
                words.push(text);
            }
        };
        say(width != usual.width, format!("width: {}px", number(width)));
        say(height != usual.height, format!("height: {}px", number(height)));
        say(hover != usual.hover, "hover: none".into());
        say(pointer != usual.pointer, format!("pointer: {pointer}"));
        say(dark, "prefers-color-scheme: dark".into());
        say(contrast != usual.contrast, format!("prefers-contrast: {contrast}"));
        say(reduced_motion, "prefers-reduced-motion: reduce".into());
        say(reduced_transparency, "prefers-reduced-transparency: reduce".into());
        say(!scripting, "scripting: none".into());
        say(resolution != usual.resolution, format!("resolution: {}dppx", number(resolution)));
        if let Some(container) = &self.container {
            say(container.width != ROOM, format!("in a container {}px wide", number(container.width)));
            let height = container.height.filter(|height| *height != usual.height);
            say(height.is_some(), format!("in a container {}px high", number(height.unwrap_or_default())));
        }
        for test in &self.without {
            say(true, format!("without {test}"));
        }
        words.join(", ")
    }
}

impl Features for PageContainer {
    fn compare(&self, name: &str, with: &Value) -> Result<Option<(f64, f64)>, Unknown> {
        let height = || self.height.ok_or(Unknown("the container's height is the page's"));
        let actual = match name {
            "width" | "inline-size" => self.width,
            "height" | "block-size" => height()?,
            "aspect-ratio" => self.width / height()?,
            _ => return Ok(None),
        };
        Ok(threshold(name, with)?.map(|number| (actual, number)))
    }

    fn word(&self, name: &str, value: Option<&str>) -> Answer {
        match (name, value) {
            ("orientation", Some(value)) => {
                let height = self.height.ok_or(Unknown("the container's height is the page's"))?;
                Ok(Some(value == if self.width > height { "landscape" } else { "portrait" }))
            }
            ("width" | "inline-size" | "height" | "block-size", None) => Ok(Some(true)),
            _ => Ok(None),
        }
    }

    fn function(&self, _name: &str, _arguments: &str) -> Answer {
        Err(Unknown("a container query asks for more than a size"))
    }
}

/// What a feature is compared with, by the font of a page that sets none.
fn threshold(name: &str, with: &Value) -> Result<Option<f64>, Unknown> {
    comparable(with, !["aspect-ratio", "resolution"].contains(&name), &Media::default().lengths())
}

/// A change of surroundings.
type Change = Box<dyn Fn(&mut Surroundings)>;

/// The surroundings to look at: an ordinary screen, and for each rule's conditions those nearest to it in which their answer
/// is the other one. Surroundings in which all are answered alike are one. Of very many the first are looked at.
///
/// Gives how many of the rules' conditions were too many to be looked at as well.
pub fn sides(rules: &[Vec<GroupCondition>]) -> (Vec<Surroundings>, usize) {
    let mut usual = Surroundings::default();
    let queries = rules.iter().flatten().filter_map(|condition| match condition {
        GroupCondition::Container(query) => Some(query),
        _ => None,
    });
    for query in queries {
        let axes = query.query.as_ref().map(axes_of).unwrap_or_default();
        let container =
            usual.container.get_or_insert_with(|| PageContainer { names: Vec::new(), width: ROOM, height: None });
        let is_new = query.name.as_ref().is_some_and(|name| !container.names.contains(name));
        container.names.extend(query.name.clone().filter(|_| is_new));
        if axes.block {
            container.height = Some(usual.media.height);
        }
    }
    let answers = |surroundings: &Surroundings| -> Vec<Option<bool>> {
        rules.iter().map(|conditions| surroundings.hold(conditions).ok()).collect()
    };
    let usual_answers = answers(&usual);
    let mut known = vec![usual_answers.clone()];
    let mut found = vec![usual.clone()];
    for (index, (conditions, answer)) in rules.iter().zip(&usual_answers).enumerate() {
        if found.len() > MOST_SIDES {
            return (found, rules.len() - index);
        }
        let Some(answer) = answer else { continue };
        let other = |surroundings: &Surroundings| surroundings.hold(conditions) == Ok(!answer);
        let Some(side) = nearest(&usual, &changes(conditions), other) else { continue };
        let its = answers(&side);
        if !known.contains(&its) {
            known.push(its);
            found.push(side);
        }
    }
    (found, 0)
}

/// The nearest surroundings with the fewest changes that are wanted; of each list one change is made, or none.
fn nearest(
    usual: &Surroundings,
    changes: &[Vec<Change>],
    is_wanted: impl Fn(&Surroundings) -> bool,
) -> Option<Surroundings> {
    let total = changes.iter().try_fold(1_usize, |total, list| total.checked_mul(list.len() + 1))?;
    if total > MOST_TRIED {
        return None;
    }
    let mut best: Option<(usize, usize, Surroundings)> = None;
    for mut index in 0..total {
        let mut tried = usual.clone();
        let (mut count, mut far) = (0, 0);
        for list in changes {
            let choice = index % (list.len() + 1);
            index /= list.len() + 1;
            if choice > 0 {
                list[choice - 1](&mut tried);
                count += 1;
                far += choice;
            }
        }
        let is_better = best.as_ref().is_none_or(|(least, nearest, _)| (count, far) < (*least, *nearest));
        if is_better && is_wanted(&tried) {
            best = Some((count, far, tried));
        }
    }
    best.map(|(_, _, found)| found)
}

/// What may be changed to give conditions another answer, by feature, the nearest first.
fn changes(conditions: &[GroupCondition]) -> Vec<Vec<Change>> {
    let (mut of_media, mut of_container) = (Named::default(), Named::default());
    let mut all: Vec<Vec<Change>> = Vec::new();
    for condition in conditions {
        match condition {
            GroupCondition::Media(list) => list.queries().iter().for_each(|query| of_media.collect(query)),
            GroupCondition::Container(query) => query.query.iter().for_each(|query| of_container.collect(query)),
            GroupCondition::Supports(text) => {
                let mut asked = Asked::default();
                asked.supports(&mut Parser::new(text));
                all.extend(asked.had.into_iter().map(|test| -> Vec<Change> {
                    vec![Box::new(move |tried: &mut Surroundings| tried.without.push(test.clone()))]
                }));
            }
        }
    }
    all.extend(of_media.changes_of_media());
    all.extend(of_container.changes_of_container());
    all
}

/// The features that queries name, with what they are compared with.
#[derive(Default)]
struct Named(Vec<(String, Vec<f64>)>);

impl Named {
    fn collect(&mut self, query: &Query) {
        match query {
            Query::Not(inner) => self.collect(inner),
            Query::And(list) | Query::Or(list) => list.iter().for_each(|inner| self.collect(inner)),
            Query::Word(name, _) => self.add(name, None),
            Query::Compare(name, _, with) => self.add(name, threshold(name, with).ok().flatten()),
            Query::Type(_) | Query::Function(..) | Query::Unknown => {}
        }
    }

    fn add(&mut self, name: &str, number: Option<f64>) {
        let at = self.0.iter().position(|(known, _)| known == name).unwrap_or_else(|| {
            self.0.push((name.to_owned(), Vec::new()));
            self.0.len() - 1
        });
        self.0[at].1.extend(number);
    }

    /// Numbers on each side of what a feature is compared with, and this itself, those near to the usual one first.
    fn around(numbers: &[f64], step: f64, least: f64, usual: f64) -> Vec<f64> {
        let mut all: Vec<f64> = numbers.iter().flat_map(|n| [*n, n - step, n + step]).filter(|n| *n >= least).collect();
        all.sort_by(|a, b| (a - usual).abs().total_cmp(&(b - usual).abs()));
        all.dedup();
        all
    }

    fn changes_of_media(&self) -> Vec<Vec<Change>> {
        fn each<T: Copy + 'static>(values: Vec<T>, set: fn(&mut Media, T)) -> Vec<Change> {
            let change =
                |value: T| -> Change { Box::new(move |tried: &mut Surroundings| set(&mut tried.media, value)) };
            values.into_iter().map(change).collect()
        }
        let Media { width, height, .. } = Media::default();
        let mut is_of_pointer = false;
        let mut all = Vec::new();
        for (name, numbers) in &self.0 {
            all.push(match name.as_str() {
                "width" | "device-width" => each(Named::around(numbers, 1.0, LEAST[0], width), |m, px| m.width = px),
                "height" | "device-height" => {
                    each(Named::around(numbers, 1.0, LEAST[0], height), |m, px| m.height = px)
                }
                "aspect-ratio" | "device-aspect-ratio" => {
                    let heights = numbers.iter().map(|ratio| width / ratio).collect::<Vec<f64>>();
                    each(Named::around(&heights, 1.0, LEAST[0], height), |m, px| m.height = px)
                }
                "orientation" => each(vec![width + 1.0], |m, px| m.height = px),
                "resolution" | "-webkit-device-pixel-ratio" => {
                    each(Named::around(numbers, 0.1, 0.5, 1.0), |m, ratio| m.resolution = ratio)
                }
                "hover" | "any-hover" | "pointer" | "any-pointer" if is_of_pointer => continue,
                // What is pressed with a finger cannot hover; some tablets have a pen that can.
                "hover" | "any-hover" | "pointer" | "any-pointer" => {
                    is_of_pointer = true;
                    let devices = vec![(false, "coarse"), (true, "coarse"), (false, "none"), (false, "fine")];
                    each(devices, |m, (hover, pointer)| (m.hover, m.pointer) = (hover, pointer))
                }
                "prefers-color-scheme" => each(vec![true], |m, dark| m.dark = dark),
                "prefers-contrast" => each(vec!["more", "less", "custom"], |m, word| m.contrast = word),
                "prefers-reduced-motion" => each(vec![true], |m, is| m.reduced_motion = is),
                "prefers-reduced-transparency" => each(vec![true], |m, is| m.reduced_transparency = is),
                "scripting" => each(vec![false], |m, is| m.scripting = is),
                _ => continue,
            });
        }
        all
    }

    fn changes_of_container(&self) -> Vec<Vec<Change>> {
        let height = Media::default().height;
        let mut all = Vec::new();
        for (name, numbers) in &self.0 {
            let of_width = |px: f64| -> Change {
                Box::new(move |tried: &mut Surroundings| tried.container.iter_mut().for_each(|c| c.width = px))
            };
            let of_height = |px: f64| -> Change {
                Box::new(move |tried: &mut Surroundings| tried.container.iter_mut().for_each(|c| c.height = Some(px)))
            };
            all.push(match name.as_str() {
                "width" | "inline-size" => {
                    Named::around(numbers, 1.0, LEAST[1], ROOM).into_iter().map(of_width).collect()
                }
                "height" | "block-size" => {
                    Named::around(numbers, 1.0, LEAST[1], height).into_iter().map(of_height).collect()
                }
                "aspect-ratio" => {
                    let heights = numbers.iter().map(|ratio| ROOM / ratio).collect::<Vec<f64>>();
                    Named::around(&heights, 1.0, LEAST[1], height).into_iter().map(of_height).collect()
                }
                "orientation" => vec![of_height(ROOM + 1.0)],
                _ => continue,
            });
        }
        all
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The words of all sides, each rule given by its conditions.
    fn words(rules: &[&[(&str, &str)]]) -> Vec<String> {
        let read = |(rule, prelude): &(&str, &str)| GroupCondition::parse(rule, prelude);
        let rules: Vec<Vec<GroupCondition>> =
            rules.iter().map(|conditions| conditions.iter().filter_map(read).collect()).collect();
        sides(&rules).0.iter().map(Surroundings::words).collect()
    }

    #[test]
    fn each_condition_has_its_other_side() {
        let media = |prelude: &str| words(&[&[("media", prelude)]])[1..].join("; ");
        for (prelude, side) in [
            ("(max-width: 600px)", "width: 600px"),
            ("(width < 37.5rem)", "width: 599px"),
            ("(width >= 37.5rem)", "width: 599px"),
            ("(400px <= width < 480px)", "width: 479px"),
            ("(width = 500px)", "width: 500px"),
            ("(hover: hover)", "hover: none, pointer: coarse"),
            ("(pointer: coarse)", "hover: none, pointer: coarse"),
            ("(any-pointer: coarse) and (hover)", "pointer: coarse"),
            ("(prefers-contrast: more)", "prefers-contrast: more"),
            ("not all and (prefers-reduced-motion: no-preference)", "prefers-reduced-motion: reduce"),
            ("(scripting: none), (scripting: initial-only)", "scripting: none"),
            ("(orientation: portrait)", "height: 1281px"),
            ("(min-resolution: 2dppx)", "resolution: 2dppx"),
            ("(max-width: 600px) and (pointer: coarse)", "width: 600px, hover: none, pointer: coarse"),
            ("(prefers-color-scheme: dark)", "prefers-color-scheme: dark"),
            // No screen is on that side.
            ("(width > 1px)", ""),
            ("print", ""),
            ("(nonsense: 1)", ""),
            ("(forced-colors: active)", ""),
        ] {
            assert_eq!(media(prelude), side, "{prelude}");
        }
    }

    #[test]
    fn sides_with_the_same_answers_are_one() {
        let narrow: &[(&str, &str)] = &[("media", "(max-width: 600px)")];
        let also: &[(&str, &str)] = &[("media", "(width <= 600px)")];
        let narrower: &[(&str, &str)] = &[("media", "(max-width: 600px)"), ("media", "(max-width: 400px)")];
        assert_eq!(words(&[narrow, also, narrower]), ["", "width: 600px", "width: 400px"]);
    }

    #[test]
    fn containers_and_browsers_have_sides() {
        assert_eq!(words(&[&[("container", "card (width < 300px)")]]), ["", "in a container 299px wide"]);
        assert_eq!(words(&[&[("container", "(min-width: 20rem)")]]), ["", "in a container 319px wide"]);
        assert_eq!(words(&[&[("supports", "not (display: grid)")]]), ["", "without `display: grid`"]);
        assert_eq!(words(&[&[("supports", "selector(:has(a))")]]), ["", "without `:has(a)`"]);
        // A custom property of the page's may be anything.
        assert_eq!(words(&[&[("container", "style(--x: 1)")]]), [""]);
        let one = sides(&[GroupCondition::parse("container", "card (height > 1000px)").into_iter().collect()]);
        let styles: Vec<Option<String>> = one.0.iter().map(Surroundings::container_style).collect();
        assert_eq!(
            styles[1].as_deref(),
            Some("width: 1264px; container-type: size; height: 1001px; container-name: card")
        );
    }
}
