//! What the page's script has to know: themes, figures, how markup is put together. JSON in the page.

use super::SpecimenPage;
use crate::script::script_data;
use serde_json::{Value, json};
use stilk_checks::painted::text::Figure;
use stilk_language::markup::every_element;
use stilk_language::system::{Control, OptionId};

pub(super) fn data(page: &SpecimenPage) -> String {
    let system = page.system;
    let tokens = &system.tokens;
    let attributes = page.attributes();
    let modifiers = tokens.modifiers.iter().zip(attributes).map(|(modifier, attribute)| {
        json!({
            "name": modifier.name.value,
            "attribute": attribute,
            "contexts": modifier.contexts.iter().map(|context| context.value.as_str()).collect::<Vec<_>>(),
            "default": modifier.default,
        })
    });
    let mut reasons: Vec<&'static str> = Vec::new();
    let controls = system.controls.iter().map(|control| describe(page, control, &mut reasons)).collect::<Vec<_>>();
    let data = json!({
        "surface": page.surface(),
        "modifiers": modifiers.collect::<Vec<_>>(),
        "themes": tokens.themes().iter().map(|theme| tokens.theme_name(theme)).collect::<Vec<_>>(),
        "controls": controls,
        "reasons": reasons,
    });
    script_data(&data)
}

fn describe(page: &SpecimenPage, control: &Control, reasons: &mut Vec<&'static str>) -> Value {
    let system = page.system;
    let names = system.names();
    let axes = control.axes.iter().enumerate().map(|(axis, a)| {
        let options = a.options.iter().enumerate().map(|(option, name)| {
            let mark = (a.default != Some(option)).then(|| names.option(control, OptionId { axis, option }));
            json!({ "name": name.value, "mark": mark.as_ref().map(|mark| mark.attribute()) })
        });
        json!({ "name": a.name.value, "default": a.default, "options": options.collect::<Vec<_>>() })
    });
    let hosts = (0..control.template.hosts.len()).map(|host| {
        json!({ "name": control.host_name(host), "html": every_element(system, control, host, &control.name.value) })
    });
    let option_names = |ids: &[OptionId]| ids.iter().map(|id| control.option_name(*id)).collect::<Vec<_>>();
    let excludes = control.excludes.iter().map(|exclude| {
        json!({
            "options": option_names(&exclude.options),
            "with": option_names(&exclude.with),
            "without": option_names(&exclude.without),
            "hosts": exclude.hosts,
        })
    });
    let figures = figures(page, control, reasons);
    json!({
        "name": control.name.value,
        "mark": names.control(&control.name.value).attribute(),
        "axes": axes.collect::<Vec<_>>(),
        "hosts": hosts.collect::<Vec<_>>(),
        "excludes": excludes.collect::<Vec<_>>(),
        "figures": figures,
    })
}

/// The figures of a control, of each theme, by rows.
fn figures(page: &SpecimenPage, control: &Control, reasons: &mut Vec<&'static str>) -> Vec<String> {
    let of = |figures: Vec<Figure>| figures.iter().map(|figure| encode(figure, reasons)).collect::<Vec<_>>().join("|");
    page.figures(control).into_iter().map(of).collect()
}

/// The figures of some controls, and the reasons that they name.
pub(super) fn figures_of(page: &SpecimenPage, controls: &[String]) -> Value {
    let mut reasons: Vec<&'static str> = Vec::new();
    let named = controls.iter().filter_map(|name| page.system.control(name));
    let figures: Vec<Value> = named
        .map(|control| json!({ "name": control.name.value, "figures": figures(page, control, &mut reasons) }))
        .collect();
    json!({ "figures": figures, "reasons": reasons })
}

/// `7.21/4.5`, `!3.99/4.5` where it fails, `(3.99)` where nothing is asked, `?0` for the first reason, `-` without text.
fn encode(figure: &Figure, reasons: &mut Vec<&'static str>) -> String {
    match figure {
        Figure::Passes { ratio, needed } => format!("{ratio}/{needed}"),
        Figure::Fails { ratio, needed } => format!("!{ratio}/{needed}"),
        Figure::Exempt { ratio } => format!("({ratio})"),
        Figure::Unknown(reason) => {
            let place = reasons.iter().position(|known| known == reason).unwrap_or_else(|| {
                reasons.push(reason);
                reasons.len() - 1
            });
            format!("?{place}")
        }
        Figure::NoText => "-".to_owned(),
    }
}
