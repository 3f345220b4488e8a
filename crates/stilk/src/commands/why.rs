//! `stilk why`: why a value is what it is, for a case of the system or for an element of any page.

use super::Loaded;
use crate::arguments::format::Format;
use crate::arguments::media::MediaOptions;
use crate::output::why::{self as output, Answer, Subject};
use crate::say::in_line;
use crate::site::{Sheets, read_page, read_sheet};
use crate::{Failure, Outcome};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Forced, PseudoElement, Styled, matching, selector};
use stilk_engine::inspect::{self, Inspector, SourceSheet};
use stilk_engine::page::{Page, SheetSource};

/// What was asked.
pub struct Question<'q> {
    /// Case or selector.
    pub subject: Option<&'q str>,
    /// A property, a shorthand or a custom property.
    pub property: Option<&'q str>,
    /// A page.
    pub page: Option<&'q Path>,
    /// Stylesheets.
    pub css: &'q [PathBuf],
    /// States to force.
    pub states: &'q [String],
    /// Whether every element is asked for.
    pub all: bool,
    /// The media.
    pub media: &'q MediaOptions,
    /// Whose defaults.
    pub browser: Browser,
    /// A theme, or some words of its name; all of them otherwise.
    pub theme: Option<&'q str>,
}

/// Answers a question.
pub fn run(root: &Path, question: &Question, format: Format) -> Result<Outcome, Failure> {
    if question.page.is_none() && question.css.is_empty() {
        return system(root, question, format);
    }
    let read = |path: &Path, read: fn(&Path) -> Result<String, String>| {
        read(path).map_err(|why| Failure::Message(format!("error: cannot read `{}`: {why}", path.display())))
    };
    let Some(path) = question.page else {
        return Err(Failure::Message("error: a stylesheet alone has no elements: add `--page FILE`".into()));
    };
    let html = read(path, read_page)?;
    let page = Page::parse(&html);
    let linked = Sheets::default();
    let mut sheets: Vec<Option<SourceSheet>> = Vec::new();
    let mut missing: Vec<(String, String)> = Vec::new();
    // Of a stylesheet that is linked again and again the first place counts, which orders its layers, and the last, which wins.
    let mut places: HashMap<(String, &str), [usize; 2]> = HashMap::new();
    for sheet in &page.sheets {
        let next = sheets.len();
        match &sheet.source {
            SheetSource::Inline(text) => {
                sheets.push(Some(parse(path, &in_page(&html, text), &sheet.media, &mut missing)));
            }
            SheetSource::Linked(address) => match linked.find(path, page.base(), address) {
                Ok(found) => {
                    let known = places.entry((found.linked.path.clone(), &sheet.media)).or_insert([next; 2]);
                    let [first, last] = std::mem::replace(known, [known[0], next]);
                    let again = if first < last { sheets[last].take() } else { None };
                    sheets.push(Some(match again {
                        Some(same) => same,
                        None if sheet.media.is_empty() => {
                            missing.extend(found.missing.iter().cloned());
                            SourceSheet::of(found.linked.path, &*found.linked.text, found.linked.parsed)
                        }
                        None => parse(Path::new(&found.linked.path), &found.linked.text, &sheet.media, &mut missing),
                    }));
                }
                Err(why) => missing.push((address.clone(), why)),
            },
        }
    }
    let mut sheets: Vec<SourceSheet> = sheets.into_iter().flatten().collect();
    for css in question.css {
        sheets.push(parse(css, &read(css, read_sheet)?, "", &mut missing));
    }
    missing.sort();
    missing.dedup();
    for (address, why) in &missing {
        tell!("warning: `{}` cannot be had: {why}; what it says is not counted", in_line(address));
    }
    let mut forced = Forced::default();
    for state in question.states {
        inspect::force(&page.document, state, &mut forced).map_err(|m| Failure::Message(format!("error: {m}")))?;
    }
    let browser = SourceSheet::defaults(question.browser);
    let authors = sheets.iter().collect();
    if question.all {
        let inspection = Inspector::new(&page.document, &browser, authors, question.media.media(), &forced);
        match format {
            Format::Json => output::print_all_json(&inspection, &missing),
            Format::Text => output::print_all(&inspection),
        }
        return Ok(Outcome::Clean);
    }
    let (Some(text), Some(property)) = (question.subject, question.property) else {
        return Err(Failure::Message("error: write a selector and a property, or `--all`".into()));
    };
    let (wanted, pseudo) = split_pseudo(text);
    let list = selector::parse_list(if wanted.is_empty() { "*" } else { wanted });
    let list = list.ok_or_else(|| Failure::Message(format!("error: `{text}` is no selector a browser would read")))?;
    let node = page.document.descendants(stilk_engine::dom::Document::ROOT).into_iter().find(|node| {
        page.document.element(*node).is_some() && matching::matches_in(&list, &page.document, *node, &forced)
    });
    let node = node.ok_or_else(|| Failure::Message(format!("error: nothing in the page matches `{text}`")))?;
    let inspection = Inspector::of_element(&page.document, node, &browser, authors, question.media.media(), &forced);
    let subject = Subject {
        name: text.to_owned(),
        themes: Vec::new(),
        sources: None,
        browser: question.browser,
        at: Styled { node, pseudo },
    };
    let answer = answer(&inspection, &subject, property)?;
    output::print(&[(subject, answer)], &missing, format);
    Ok(Outcome::Clean)
}

/// The text of a `<style>` element where it stands in its page: what is before it is blank, so that lines and columns are
/// the page's own.
fn in_page(html: &str, text: &str) -> String {
    let Some(at) = html.find(text).filter(|_| !text.is_empty()) else { return text.to_owned() };
    let blank: String = html[..at].chars().map(|c| if c == '\n' { c } else { ' ' }).collect();
    blank + text
}

/// A stylesheet with what it imports from this disk.
fn parse(path: &Path, text: &str, media: &str, missing: &mut Vec<(String, String)>) -> SourceSheet {
    let text = if media.is_empty() { text.to_owned() } else { format!("@media {media} {{\n{text}\n}}") };
    let sheet = Sheets::default().parse(path, &text);
    missing.extend(sheet.missing.iter().cloned());
    SourceSheet::of(sheet.linked.path, text, sheet.linked.parsed)
}

/// What stands before the pseudo-element at the end of a selector or case, and that.
pub fn split_pseudo(text: &str) -> (&str, Option<PseudoElement>) {
    for pseudo in PseudoElement::ALL {
        if let Some(rest) = text.strip_suffix(pseudo.name()).and_then(|rest| rest.strip_suffix("::")) {
            return (rest, Some(*pseudo));
        }
    }
    (text, None)
}

/// Explains a property of an element.
pub fn answer(inspection: &Inspector, subject: &Subject, property: &str) -> Result<Answer, Failure> {
    let style = inspection.style(subject.at);
    let style = style.ok_or_else(|| Failure::Message("error: the element has no style".into()))?;
    if property.starts_with("--") {
        return Ok(Answer::Custom(inspection.custom(&style, property)));
    }
    let longhands = inspect::longhands(property);
    if longhands.is_empty() {
        let known = stilk_engine::css::PropertyName::all().filter(|name| !inspect::longhands(name).is_empty());
        let near = stilk_text::diagnostic::nearest(property, known);
        let mend = near.map_or_else(String::new, |near| format!(": write `{near}`"));
        return Err(Failure::Message(format!("error: the engine computes no property `{property}`{mend}")));
    }
    let explained = longhands
        .iter()
        .map(|longhand| (inspection.explain(&style, *longhand), output::elsewhere(inspection, subject, *longhand)))
        .collect();
    Ok(Answer::Longhands(explained))
}

/// Explains a case of the system, in each theme or in one.
fn system(root: &Path, question: &Question, format: Format) -> Result<Outcome, Failure> {
    let (Some(text), Some(property)) = (question.subject, question.property) else {
        return Err(Failure::Message(
            "error: write a case and a property, as in `stilk why button.outline:hover background-color`,\n  or a page and a selector, as in `stilk why --page FILE '#send' color`".into(),
        ));
    };
    let loaded = Loaded::read(root)?;
    super::why_case::run(&loaded, question, text, property, format)
}
