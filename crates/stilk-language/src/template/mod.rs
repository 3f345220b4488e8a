//! A control's template: its hosts, parts and sample content.

mod html;

use std::collections::HashSet;
use stilk_engine::dom::{Document, NodeData, NodeId};
use stilk_text::diagnostic::{Diagnostic, Diagnostics};
use stilk_text::source::{FileId, Name, Sources, Span};

/// The part whose native state counts, where the host is only a wrapper.
pub const NATIVE_PART: &str = "native";

/// A template, checked.
#[derive(Debug, Clone)]
pub struct Template {
    /// The control's name, from the file's name.
    pub control: String,
    /// The file.
    pub file: FileId,
    /// Its nodes.
    pub document: Document,
    /// The top-level elements.
    pub hosts: Vec<Host>,
}

/// One top-level element: the same control on another element.
#[derive(Debug, Clone)]
pub struct Host {
    /// How cases name it: `button`, `a`, `submit`.
    pub name: String,
    /// The element.
    pub node: NodeId,
    /// The element whose native state counts.
    pub bearer: NodeId,
    /// Every part in it, in document order; a name may stand at several elements.
    pub parts: Vec<(Name, NodeId)>,
    /// Other controls that stand in it.
    pub placed: Vec<PlacedControl>,
}

/// An element that is another control: `data-control="button" data-options="outline small"`.
#[derive(Debug, Clone)]
pub struct PlacedControl {
    /// The element.
    pub node: NodeId,
    /// The control.
    pub control: Name,
    /// Its options.
    pub options: Vec<Name>,
}

impl Template {
    /// Whether some element is this part.
    pub fn has_part(&self, name: &str) -> bool {
        self.hosts.iter().flat_map(|host| &host.parts).any(|(known, _)| known.value == name)
    }

    /// Whether a part may stand behind another in the same element, with nothing between them that is always there where it
    /// is asked for `right behind`.
    pub fn may_follow(&self, first: &str, second: &str, right_behind: bool) -> bool {
        let may_be_absent = |node: NodeId| {
            let element = self.document.element(node);
            element.is_none_or(|element| element.local() == "slot" || element.attribute("data-when").is_some())
        };
        self.hosts.iter().any(|host| {
            let of = |part: &str| -> Vec<NodeId> {
                host.parts.iter().filter(|(name, _)| name.value == part).map(|(_, node)| *node).collect()
            };
            let (firsts, seconds) = (of(first), of(second));
            firsts.iter().any(|node| {
                let Some(parent) = self.document.node(*node).parent else { return false };
                let mut after = self.document.node(parent).children.iter().skip_while(|child| *child != node).skip(1);
                match right_behind {
                    true => {
                        let mut reached = after.by_ref().take_while(|child| {
                            // The first that is always there is the last that may be right behind.
                            may_be_absent(**child) || seconds.contains(child)
                        });
                        reached.any(|child| seconds.contains(child))
                    }
                    false => after.any(|child| seconds.contains(child)),
                }
            })
        })
    }

    /// All part names, each once, in document order.
    pub fn part_names(&self) -> Vec<&str> {
        let mut known = HashSet::new();
        let all = self.hosts.iter().flat_map(|host| &host.parts).map(|(name, _)| name.as_str());
        all.filter(|name| known.insert(*name)).collect()
    }

    /// Whether the host itself bears the state, on every host. `None` when hosts disagree.
    pub fn bearer_is_host(&self) -> Option<bool> {
        let mut answers = self.hosts.iter().map(|host| host.node == host.bearer);
        let first = answers.next()?;
        answers.all(|answer| answer == first).then_some(first)
    }
}

/// Parses and checks a template. Mistakes go to `diagnostics`; what could be read is returned.
pub fn parse(file: FileId, control: &str, sources: &Sources, diagnostics: &mut Diagnostics) -> Option<Template> {
    let document = html::parse(file, sources, diagnostics);
    let mut template = Template { control: control.to_owned(), file, document, hosts: Vec::new() };
    let top = template.document.node(Document::ROOT).children.clone();
    for node in top {
        match &template.document.node(node).data {
            NodeData::Element(_) => {
                let host = read_host(&template.document, node, sources, diagnostics);
                template.hosts.push(host);
            }
            NodeData::Text(text) if !text.trim().is_empty() => diagnostics.push(
                Diagnostic::error("template/host", template.document.node(node).span, "text outside a host")
                    .label("every top-level element is a host; text between them belongs to none")
                    .mend("put it into an element"),
            ),
            _ => {}
        }
    }
    if template.hosts.is_empty() {
        diagnostics.push(
            Diagnostic::error("template/host", Span::new(file, 0, 0), "the template has no element")
                .mend("write the control's markup, such as `<button type=\"button\">…</button>`"),
        );
        return None;
    }
    name_hosts(&mut template);
    Some(template)
}

fn read_host(document: &Document, node: NodeId, sources: &Sources, diagnostics: &mut Diagnostics) -> Host {
    let mut parts = Vec::new();
    let mut placed = Vec::new();
    for id in document.descendants(node) {
        let Some(element) = document.element(id) else { continue };
        let span = document.node(id).span;
        if let (Some(control), Some(span)) = (element.attribute("data-control"), span) {
            if id == node {
                diagnostics.push(
                    Diagnostic::error("template/control", span, "a host cannot be another control")
                        .mend("put the other control inside, or write `@control NAME from OTHER` in the sheet"),
                );
                continue;
            }
            let at = |attribute: &str, word: &str| Name {
                value: word.to_owned(),
                span: word_in_tag(span, attribute, word, sources),
            };
            let options = element.attribute("data-options").unwrap_or_default();
            let options = options.split_ascii_whitespace().map(|word| at("data-options", word)).collect();
            placed.push(PlacedControl { node: id, control: at("data-control", control.trim()), options });
        }
        let Some(list) = element.attribute("part") else { continue };
        if id == node {
            diagnostics.push(
                Diagnostic::error("template/part", span, "the host itself cannot be a part")
                    .mend("take `part` away: declarations outside `@part` are the host's"),
            );
            continue;
        }
        for word in list.split_ascii_whitespace() {
            if let Some(span) = span {
                parts.push((Name { value: word.to_owned(), span: word_in_tag(span, "part", word, sources) }, id));
            }
        }
    }
    let bearer = parts.iter().find(|(name, _)| name.value == NATIVE_PART).map_or(node, |(_, id)| *id);
    Host { name: String::new(), node, bearer, parts, placed }
}

/// The place of a word of an attribute's value in a tag.
fn word_in_tag(span: Span, attribute: &str, word: &str, sources: &Sources) -> Span {
    let words = attribute_words(sources.text(span), attribute);
    let found = words.iter().find(|(_, known)| *known == word).map(|(range, _)| range.start);
    let start = span.start as usize + found.unwrap_or_default();
    Span::new(span.file, start, start + found.map_or(0, |_| word.len()))
}

/// The words of an attribute in a tag, with their places in it.
pub fn attribute_words<'t>(tag: &'t str, name: &str) -> Vec<(std::ops::Range<usize>, &'t str)> {
    let mut found = Vec::new();
    let mut from = 0;
    while let Some(at) = tag[from..].find(name).map(|at| from + at) {
        from = at + name.len();
        let is_whole = tag[..at].ends_with(char::is_whitespace);
        let Some(rest) = tag[from..].strip_prefix('=').filter(|_| is_whole) else { continue };
        let quote = rest.chars().next().filter(|c| matches!(c, '"' | '\''));
        let start = from + 1 + usize::from(quote.is_some());
        let end = match quote {
            Some(quote) => tag[start..].find(quote),
            None => tag[start..].find(|c: char| c.is_whitespace() || c == '>'),
        };
        let value = &tag[start..end.map_or(tag.len(), |end| start + end)];
        let mut at = 0;
        for word in value.split_ascii_whitespace() {
            let place = at + value[at..].find(word).unwrap_or_default();
            found.push((start + place..start + place + word.len(), word));
            at = place + word.len();
        }
        return found;
    }
    found
}

/// A host is named by its element, inputs by their type; a repeated name gets a number.
fn name_hosts(template: &mut Template) {
    let mut names: Vec<String> = Vec::new();
    for host in &template.hosts {
        let base = template.document.element(host.node).map_or("host", |element| match element.attribute("type") {
            Some(kind) if element.local() == "input" => kind,
            _ => element.local(),
        });
        let taken = names.iter().filter(|name| name.split('-').next() == Some(base)).count();
        names.push(if taken == 0 { base.to_owned() } else { format!("{base}-{}", taken + 1) });
    }
    for (host, name) in template.hosts.iter_mut().zip(names) {
        host.name = name;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(html: &str) -> (Option<Template>, Vec<String>) {
        let mut sources = Sources::default();
        let file = sources.add("controls/x.html", html);
        let mut diagnostics = Diagnostics::default();
        let template = parse(file, "x", &sources, &mut diagnostics);
        let said = diagnostics
            .into_sorted()
            .iter()
            .map(|d| {
                let at = d.span.map(|s| sources.position(s));
                format!("{}:{} {}", at.map_or(0, |p| p.line), at.map_or(0, |p| p.column), d.message)
            })
            .collect();
        (template, said)
    }

    #[test]
    fn hosts_and_parts_are_found_with_their_places() {
        let (template, said) =
            read("<button>\n  <span part=\"label big\">x</span></button>\n<input type=submit>\n<input type=reset>");
        assert_eq!(said, Vec::<String>::new());
        let template = template.unwrap();
        let names: Vec<_> = template.hosts.iter().map(|h| h.name.as_str()).collect();
        assert_eq!(names, ["button", "submit", "reset"]);
        assert_eq!(template.part_names(), ["label", "big"]);
        assert_eq!(template.hosts[0].parts[1].0.span.start, 29);
        assert_eq!(template.bearer_is_host(), Some(true));
    }

    #[test]
    fn what_a_parser_would_repair_is_an_error() {
        for (html, line) in [
            ("<button>\n<span>x</button>", 2),
            ("<a href=x><a>y</a></a>", 1),
            ("<p><div>x</div></p>", 1),
            ("<button", 1),
            ("<div>\n\n</span></div>", 3),
            ("<div><span>x</span>", 1),
        ] {
            let (_, said) = read(html);
            assert!(!said.is_empty(), "nothing said about {html}");
            assert!(said[0].starts_with(&format!("{line}:")), "{html}: {said:?}");
        }
    }

    #[test]
    fn text_outside_a_host_is_an_error() {
        let (_, said) = read("<button>x</button> loose");
        assert!(said.iter().any(|s| s.contains("text outside a host")), "{said:?}");
    }
}
