//! `stilk why` for a case of the system: its value in every theme, back to the sheet and the tokens.

use super::Loaded;
use super::why::{Question, answer};
use crate::output::why::{Subject, SystemSources};
use crate::{Failure, Format, Outcome};
use stilk_core::case::{Unit, mounted_alone};
use stilk_core::case_name;
use stilk_core::dom::NodeId;
use stilk_core::engine::PSEUDO_ELEMENTS;
use stilk_core::inspect::{Inspection, Sheet};
use stilk_core::markup::Mounted;
use stilk_core::tokens::Theme;

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
    let themes = themes(loaded, question.theme)?;
    let written = loaded.stylesheet();
    let path = loaded.shown(&loaded.output(&loaded.stylesheet_name(None)));
    let sheet = Sheet::new(path, written.text.clone());
    let browser = Sheet::defaults(question.browser);
    let mut subjects = Vec::new();
    for theme in themes {
        let unit =
            Unit { control: named.control, host: named.host, variant: named.variant.clone(), theme: theme.clone() };
        let (document, mounted, forced) = mounted_alone(&loaded.system, &unit, &named.states);
        let node = part_node(&mounted, part).map_err(wrong)?;
        subjects.push((loaded.system.tokens.theme_name(&theme), document, node, forced));
    }
    let sources = SystemSources::new(loaded, &written);
    let mut first = true;
    let mut known: Vec<(String, Vec<String>)> = Vec::new();
    let mut views = Vec::new();
    for (theme, document, node, forced) in &subjects {
        let inspection = Inspection::new(document, &browser, vec![&sheet], question.media.media(), forced);
        let Some(style) = inspection.style(*node, pseudo) else { continue };
        let subject = Subject {
            name: text.to_owned(),
            themes: vec![theme.clone()],
            sources: Some(&sources),
            browser: question.browser,
            node: *node,
            pseudo,
        };
        // Themes in which everything is the same are told once.
        let told = crate::output::why::render(&inspection, &style, &subject, property);
        match known.iter_mut().find(|(other, _)| told.as_ref().is_ok_and(|told| told == other)) {
            Some((_, themes)) => themes.push(theme.clone()),
            None => {
                if let Ok(told) = told {
                    known.push((told, vec![theme.clone()]));
                }
                views.push((theme.clone(), node, first));
                first = false;
            }
        }
    }
    for (index, (theme, node, _)) in views.iter().enumerate() {
        let Some((_, document, _, forced)) = subjects.iter().find(|(name, ..)| name == theme) else { continue };
        let inspection = Inspection::new(document, &browser, vec![&sheet], question.media.media(), forced);
        let Some(style) = inspection.style(**node, pseudo) else { continue };
        let themes = known.get(index).map_or_else(|| vec![theme.clone()], |(_, themes)| themes.clone());
        if index > 0 && format == Format::Text {
            anstream::println!();
        }
        answer(
            &inspection,
            &style,
            &Subject {
                name: text.to_owned(),
                themes,
                sources: Some(&sources),
                browser: question.browser,
                node: **node,
                pseudo,
            },
            property,
            format,
        )?;
    }
    Ok(Outcome::Clean)
}

fn split_pseudo(text: &str) -> (&str, Option<&'static str>) {
    for name in PSEUDO_ELEMENTS {
        if let Some(rest) = text.strip_suffix(name).and_then(|rest| rest.strip_suffix("::")) {
            return (rest, Some(name));
        }
    }
    (text, None)
}

fn part_node(mounted: &Mounted, part: &str) -> Result<NodeId, String> {
    if part.is_empty() {
        return Ok(mounted.host);
    }
    let names = || mounted.parts.iter().map(|(name, _)| name.as_str());
    let found = mounted.parts.iter().find(|(name, _)| name == part).map(|(_, node)| *node);
    found.ok_or_else(|| match stilk_core::diagnostic::nearest(part, names()) {
        Some(near) => format!("there is no part `{part}`: write `{near}`"),
        None => {
            let known: Vec<&str> = names().collect();
            format!("there is no part `{part}` here: write one of {}", stilk_core::diagnostic::list(&known))
        }
    })
}

fn themes(loaded: &Loaded, wanted: Option<&str>) -> Result<Vec<Theme>, Failure> {
    let tokens = &loaded.system.tokens;
    let Some(wanted) = wanted else { return Ok(tokens.themes()) };
    let words: Vec<&str> = wanted.split([',', ' ', '×']).filter(|word| !word.is_empty()).collect();
    let fits = |theme: &Theme| {
        let contexts: Vec<&str> = tokens
            .modifiers
            .iter()
            .zip(&theme.contexts)
            .map(|(modifier, context)| modifier.contexts[*context].value.as_str())
            .collect();
        words.iter().all(|word| contexts.contains(word))
    };
    let found: Vec<Theme> = tokens.themes().into_iter().filter(fits).collect();
    if found.is_empty() {
        let names: Vec<String> = tokens.themes().iter().map(|theme| tokens.theme_name(theme)).collect();
        return Err(Failure::Message(format!(
            "error: there is no theme `{wanted}`: the themes are {}",
            names.join("; ")
        )));
    }
    Ok(found)
}
