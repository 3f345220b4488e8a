//! `stilk why` for a case of the system: its value in every theme, back to the sheet and the tokens.

use super::why::{Question, answer, split_pseudo};
use super::{Loaded, themes};
use crate::arguments::format::Format;
use crate::output::why::{Answer, Subject, SystemSources, print};
use crate::{Failure, Outcome};
use stilk_engine::cascade::Styled;
use stilk_engine::dom::NodeId;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_language::case::{Unit, mounted_alone};
use stilk_language::markup::Mounted;
use stilk_language::system::notation as case_name;
use stilk_language::system::{Control, System};

/// Explains a property of a case.
pub fn run(
    loaded: &Loaded,
    question: &Question,
    text: &str,
    property: &str,
    format: Format,
) -> Result<Outcome, Failure> {
    let wrong = |message: String| Failure::Message(format!("error: {message}"));
    let (case, part) = text.split_once('/').unwrap_or((text, ""));
    let (case, pseudo) = match part.is_empty() {
        true => split_pseudo(case),
        false => (case, None),
    };
    let (part, pseudo) = if pseudo.is_some() { ("", pseudo) } else { split_pseudo(part) };
    let named = case_name::parse(&loaded.system, case).map_err(wrong)?;
    let property = &written_name(&loaded.system, named.control, property).map_err(wrong)?;
    let themes = themes(loaded, question.theme)?;
    let written = loaded.stylesheet();
    let path = loaded.shown_output(&loaded.stylesheet_name(None));
    let sheet = SourceSheet::new(path, written.text.clone());
    let browser = SourceSheet::defaults(question.browser);
    let mut subjects = Vec::new();
    for theme in themes {
        let unit =
            Unit { control: named.control, host: named.host, variant: named.variant.clone(), theme: theme.clone() };
        let (document, mounted, forced) = mounted_alone(&loaded.system, &unit, &named.states);
        let node = part_node(&mounted, part).map_err(wrong)?;
        let name = loaded.system.tokens.theme_name(&theme);
        let sources = SystemSources::new(&loaded.system, &loaded.sources, &loaded.root, &written, theme);
        subjects.push((name, sources, document, node, forced));
    }
    // Themes in which everything is the same are told once.
    let mut told: Vec<(Subject, Answer)> = Vec::new();
    for (theme, sources, document, node, forced) in &subjects {
        let authors = vec![&sheet];
        let inspection = Inspector::of_fragment(document, &browser, authors, question.media.media(), forced);
        let mut subject = Subject {
            name: text.to_owned(),
            themes: Vec::new(),
            sources: Some(sources),
            browser: question.browser,
            at: Styled { node: *node, pseudo },
        };
        let answer = answer(&inspection, &subject, property)?;
        match told.iter_mut().find(|(known, other)| answer.says_the_same(&subject, (other, known))) {
            Some((known, _)) => known.themes.push(theme.clone()),
            None => {
                subject.themes.push(theme.clone());
                told.push((subject, answer));
            }
        }
    }
    print(&told, &[], format);
    Ok(Outcome::Clean)
}

/// A property as the stylesheet has it: a local, as sheets name it, has its control's name there.
fn written_name(system: &System, control: &Control, property: &str) -> Result<String, String> {
    if !property.starts_with("--") || property.starts_with(&format!("--{}-", system.manifest.prefix.value)) {
        return Ok(property.to_owned());
    }
    // What is placed in a control has locals of its own.
    let mut near: Vec<&Control> = vec![control];
    near.extend(control.placements.iter().filter_map(|placement| system.control(&placement.control)));
    if let Some(owner) = near.iter().find(|owner| owner.declares(property)) {
        return Ok(system.names().local(&owner.name.value, property));
    }
    let declared = near.iter().flat_map(|owner| &owner.rules).flat_map(|rule| &rule.declarations);
    let known: Vec<&str> = declared.filter(|d| d.is_local()).map(|d| d.name.value.as_str()).collect();
    // What a page sets is the page's.
    match stilk_text::diagnostic::nearest(property, known) {
        Some(near) => Err(format!("`{}` has no local `{property}`: write `{near}`", control.name.value)),
        None => Ok(property.to_owned()),
    }
}

fn part_node(mounted: &Mounted, part: &str) -> Result<NodeId, String> {
    if part.is_empty() {
        return Ok(mounted.host);
    }
    let names = || mounted.parts.iter().map(|(name, _)| name.as_str());
    let found = mounted.parts.iter().find(|(name, _)| name == part).map(|(_, node)| *node);
    found.ok_or_else(|| match stilk_text::diagnostic::nearest(part, names()) {
        Some(near) => format!("there is no part `{part}`: write `{near}`"),
        None => {
            let known: Vec<&str> = names().collect();
            format!("there is no part `{part}` here: write one of {}", stilk_text::diagnostic::list(&known))
        }
    })
}
