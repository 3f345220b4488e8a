//! `system.json`: controls, classes, axes, states, markup, tokens per theme. Its form is published as a JSON Schema,
//! `docs/schema/system.schema.json`.

use super::listed;
use crate::case::theme_attributes;
use crate::markup::{Request, snippet};
use crate::system::{Axis, Control, Mark, OptionId, StateSet, System};
use serde_json::{Map, Value, json};
use stilk_text::source::Sources;

/// The identifier of the schema; its number grows when a reader would have to change.
pub const SCHEMA: &str = "urn:stilk:system:1";

/// Describes a system; `stylesheets` are the files that were written, as paths relative to the description.
pub fn describe(system: &System, sources: &Sources, stylesheets: &[String]) -> Value {
    let manifest = &system.manifest;
    let surfaces: Map<String, Value> =
        system.surfaces.iter().map(|(name, id)| (name.clone(), system.tokens.get(*id).path.as_str().into())).collect();
    json!({
        "$schema": SCHEMA,
        "name": manifest.name.value,
        "prefix": manifest.prefix.value,
        "stylesheets": stylesheets,
        "modifiers": modifiers(system),
        "themes": themes(system),
        "surfaces": surfaces,
        "states": system.states.list().map(|state| json!({
            "name": state.name,
            "selectors": state.selectors,
        })).collect::<Vec<_>>(),
        "controls": system.controls.iter().map(|control| describe_control(system, sources, control)).collect::<Vec<_>>(),
        "tokens": tokens(system),
    })
}

fn modifiers(system: &System) -> Vec<Value> {
    let modifiers = system.tokens.modifiers.iter().map(|modifier| {
        let settings = system.manifest.modifier(&modifier.name.value);
        let attribute = system.manifest.attribute_of(&modifier.name.value);
        let follow = settings.map(|s| s.follow.as_slice()).unwrap_or_default();
        let marks = settings.map(|s| s.marks.as_slice()).unwrap_or_default();
        let marks: Map<String, Value> =
            marks.iter().map(|(context, mark)| (context.value.clone(), mark.text().into())).collect();
        json!({
            "name": modifier.name.value,
            "attribute": attribute,
            "marked": marks,
            "contexts": modifier.contexts.iter().map(|c| c.value.as_str()).collect::<Vec<_>>(),
            "default": modifier.contexts[modifier.default].value,
            "follow": follow.iter().map(|f| json!({ "context": f.context.value, "media": f.query.value })).collect::<Vec<_>>(),
        })
    });
    modifiers.collect()
}

fn themes(system: &System) -> Vec<Value> {
    let themes = system.tokens.themes().into_iter().map(|theme| {
        let attributes: Map<String, Value> =
            theme_attributes(system, &theme).into_iter().map(|(name, value)| (name, value.into())).collect();
        json!({ "name": system.tokens.theme_name(&theme), "attributes": attributes })
    });
    themes.collect()
}

fn describe_control(system: &System, sources: &Sources, control: &Control) -> Value {
    let names = system.names();
    let mut states: Vec<&str> = Vec::new();
    for rule in &control.rules {
        let of = rule.states.of_parts().iter().map(|(id, _)| id);
        states.extend(
            rule.states
                .ids()
                .iter()
                .chain(of)
                .chain(rule.states.absent())
                .map(|id| system.states.get(*id).name.as_str()),
        );
    }
    let order = |name: &&str| system.states.find(name);
    states.sort_by_key(order);
    states.dedup();
    let hosts: Vec<Value> = (0..control.template.hosts.len())
        .map(|host| json!({ "name": control.template.hosts[host].name, "markup": markup(system, control, host) }))
        .collect();
    let parts: Vec<Value> = control
        .template
        .part_names()
        .into_iter()
        .map(|part| with_mark(json!({ "name": part }), Some(&names.part(&control.name.value, part))))
        .collect();
    let mut places: Vec<&str> = control.placements.iter().map(|p| p.control.as_str()).collect();
    places.sort_unstable();
    places.dedup();
    let described = json!({
        "name": control.name.value,
        "source": sources.place(control.name.span),
        "hosts": hosts,
        "parts": parts,
        "axes": control.axes.iter().enumerate().map(|(i, axis)| describe_axis(system, control, i, axis)).collect::<Vec<_>>(),
        "states": states,
        "variants": control.variant_count(0),
        "places": places,
        "inside": control.inside.iter().map(|other| other.as_str()).collect::<Vec<_>>(),
    });
    with_mark(described, Some(&names.control(&control.name.value)))
}

/// Says what marks something on a page: a class, or else an attribute with its value, `null` where any will do.
fn with_mark(mut described: Value, mark: Option<&Mark>) -> Value {
    described["class"] = mark.and_then(Mark::class).into();
    match mark {
        None | Some(Mark::Class(_)) => {}
        Some(Mark::Attribute { name, value }) => {
            described["attribute"] = name.as_str().into();
            described["value"] = value.as_deref().into();
        }
        Some(Mark::Id(id)) => {
            described["attribute"] = "id".into();
            described["value"] = id.as_str().into();
        }
        Some(Mark::Element(name)) => described["element"] = name.as_str().into(),
    }
    described
}

fn describe_axis(system: &System, control: &Control, index: usize, axis: &Axis) -> Value {
    let options: Vec<Value> = (0..axis.options.len())
        .map(|option| {
            let id = OptionId { axis: index, option };
            // A default option needs no class.
            let class = (axis.default != Some(option)).then(|| system.names().option(control, id));
            with_mark(json!({ "name": axis.options[option].value }), class.as_ref())
        })
        .collect();
    let default = axis.default.map(|option| axis.options[option].value.as_str());
    json!({ "name": axis.name.value, "default": default, "options": options })
}

/// The markup of a host's default variant.
fn markup(system: &System, control: &Control, host: usize) -> String {
    let (variant, states) = (control.default_variant(), StateSet::default());
    let request = Request { control, host, variant: &variant, states: &states, plain: false };
    snippet(system, request, &control.name.value)
}

fn tokens(system: &System) -> Map<String, Value> {
    let themes = system.tokens.themes();
    let entries = listed(system).map(|id| {
        let token = system.tokens.get(id);
        let mut values = Map::new();
        for theme in &themes {
            if let Some(value) = system.tokens.literal(id, theme) {
                values.insert(system.tokens.theme_name(theme), value.into());
            }
        }
        // The same everywhere: said once.
        let same = values.values().all(|value| Some(value) == values.values().next());
        let value = if same { values.values().next().cloned().unwrap_or(Value::Null) } else { Value::Object(values) };
        let mut entry = Map::new();
        entry.insert("type".into(), token.kind.map_or(Value::Null, |kind| kind.name().into()));
        entry.insert("property".into(), system.names().token(&token.path).into());
        entry.insert("value".into(), value);
        if let Some(description) = &token.description {
            entry.insert("description".into(), description.as_str().into());
        }
        if let Some(reason) = &token.deprecated {
            entry.insert("deprecated".into(), reason.as_str().into());
        }
        (token.path.clone(), Value::Object(entry))
    });
    entries.collect()
}
