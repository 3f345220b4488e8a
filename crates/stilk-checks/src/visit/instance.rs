//! The controls on a page: which elements are one, in which variant, with which parts.

use crate::visit::classes::{Classes, Meaning};
use stilk_engine::cascade::{matching, selector};
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_language::system::{Control, OptionId, System, Variant};
use stilk_language::template::NATIVE_PART;

/// A control on a page.
#[derive(Debug, Clone)]
pub struct Instance {
    /// The control, by index.
    pub control: usize,
    /// Its element.
    pub node: NodeId,
    /// Which host of the template its element is; none where it is no host of the control.
    pub host: Option<usize>,
    /// The options whose classes it has.
    pub options: Vec<OptionId>,
    /// The variant that they make, defaults where nothing is chosen.
    pub variant: Variant,
    /// The element whose native state counts.
    pub bearer: NodeId,
    /// Its parts in document order.
    pub parts: Vec<(String, NodeId)>,
    /// Whether it is markup that the system was attached to, without classes of its own.
    pub attached: bool,
}

impl Instance {
    /// Its host and its parts, with their names; the host's is empty.
    pub fn elements(&self) -> impl Iterator<Item = (&str, NodeId)> {
        std::iter::once(("", self.node)).chain(self.parts.iter().map(|(name, node)| (name.as_str(), *node)))
    }

    /// The variant as cases are named: `button.outline.small`.
    pub fn name(&self, system: &System) -> String {
        system.controls[self.control].variant_name(self.host.unwrap_or_default(), &self.variant)
    }
}

/// Every control of a document, in document order.
pub fn instances(system: &System, classes: &Classes, document: &Document) -> Vec<Instance> {
    let mut found = Vec::new();
    let attached: Vec<(selector::List, &stilk_language::system::Attachment)> = system
        .attachments
        .iter()
        .flat_map(|a| a.selectors.iter().filter_map(move |text| Some((selector::parse_list(text)?, a))))
        .collect();
    for node in document.descendants(Document::ROOT) {
        let Some(element) = document.element(node) else { continue };
        let meanings = classes.of(element);
        for meaning in &meanings {
            if let Meaning::Control(control) = meaning {
                let options = meanings.iter().filter_map(|meaning| match meaning {
                    Meaning::Option(of, id) if of == control => Some(*id),
                    _ => None,
                });
                found.push(instance(system, classes, document, node, *control, options.collect()));
            }
        }
        let is_control = meanings.iter().any(|meaning| matches!(meaning, Meaning::Control(_)));
        let attachment =
            attached.iter().filter(|_| !is_control).find(|(list, _)| matching::matches(list, document, node));
        if let Some((_, attachment)) = attachment {
            found.extend(attached_instance(system, document, node, attachment));
        }
    }
    found
}

fn instance(
    system: &System,
    classes: &Classes,
    document: &Document,
    node: NodeId,
    index: usize,
    options: Vec<OptionId>,
) -> Instance {
    let control = &system.controls[index];
    let mut variant = control.default_variant();
    for id in &options {
        variant.choices[id.axis] = Some(id.option);
    }
    let mut parts = Vec::new();
    for inner in document.descendants(node).into_iter().filter(|inner| *inner != node) {
        let Some(element) = document.element(inner) else { continue };
        for meaning in classes.of(element) {
            let Meaning::Part(of, part) = meaning else { continue };
            // A part belongs to the innermost control of its kind.
            if of == index && nearest(document, classes, inner, index) == Some(node) {
                parts.push((classes.part(index, part).to_owned(), inner));
            }
        }
    }
    let bearer = parts.iter().find(|(name, _)| name == NATIVE_PART).map_or(node, |(_, node)| *node);
    let host = document.element(node).and_then(|element| host_of(control, element));
    Instance { control: index, node, host, options, variant, bearer, parts, attached: false }
}

fn attached_instance(
    system: &System,
    document: &Document,
    node: NodeId,
    attachment: &stilk_language::system::Attachment,
) -> Option<Instance> {
    let index = system.controls.iter().position(|control| control.name.value == attachment.control)?;
    let control = &system.controls[index];
    let inside = document.descendants(node);
    let mut parts = Vec::new();
    for (name, text) in &attachment.parts {
        let Some(list) = selector::parse_list(text) else { continue };
        let is_it = |inner: &&NodeId| **inner != node && matching::matches(&list, document, **inner);
        parts.extend(inside.iter().filter(is_it).map(|inner| (name.clone(), *inner)));
    }
    let bearer = parts.iter().find(|(name, _)| name == NATIVE_PART).map_or(node, |(_, node)| *node);
    let variant = attachment.variant.clone();
    let options = control.spoken_options(&variant).collect();
    let host = document.element(node).and_then(|element| host_of(control, element));
    Some(Instance { control: index, node, host, options, variant, bearer, parts, attached: true })
}

/// The nearest element around a node that is a control of a kind.
fn nearest(document: &Document, classes: &Classes, node: NodeId, control: usize) -> Option<NodeId> {
    let mut at = document.node(node).parent;
    while let Some(above) = at {
        if document.element(above).is_some_and(|element| classes.is(element, Meaning::Control(control))) {
            return Some(above);
        }
        at = document.node(above).parent;
    }
    None
}

/// Which host of a control an element is: by its name, inputs by their type.
fn host_of(control: &Control, element: &Element) -> Option<usize> {
    let kind = |element: &Element| match element.local() {
        "input" => element.attribute("type").unwrap_or("text").to_ascii_lowercase(),
        _ => String::new(),
    };
    let hosts = control.template.hosts.iter();
    let same = |host: &&stilk_language::template::Host| {
        let own = control.template.document.element(host.node);
        own.is_some_and(|own| own.local() == element.local() && kind(own) == kind(element))
    };
    let exact = hosts.clone().enumerate().find(|(_, host)| same(host)).map(|(index, _)| index);
    // Fields come in types that a template does not list one by one.
    exact.or_else(|| {
        const TEXT: [&str; 8] = ["text", "email", "tel", "url", "search", "password", "number", "date"];
        let is_text = |kind: &str| TEXT.contains(&kind);
        hosts.enumerate().find_map(|(index, host)| {
            let own = control.template.document.element(host.node)?;
            let both = own.local() == "input" && element.local() == "input";
            (both && is_text(&kind(own)) && is_text(&kind(element))).then_some(index)
        })
    })
}
