//! Which hosts and which options a block of a sheet asks for.

use super::super::{Exclude, OptionId, Place};
use super::control::{Flattener, Scope};
use crate::sheet::{ExcludeNode, Item, OptionNode};
use stilk_engine::cascade::{matching, selector};
use stilk_text::diagnostic::unknown_name;
use stilk_text::source::Name;

impl Flattener<'_, '_> {
    pub(super) fn host(&mut self, wanted: &Name, body: &[Item], scope: &Scope) {
        let hosts = self.matching_hosts(wanted);
        if hosts.is_some_and(|hosts| !hosts.is_empty()) {
            let mut scope = scope.clone();
            scope.hosts.push(self.selector_of_host(&wanted.value));
            self.items(body, &scope);
        }
    }

    /// The selector of a host that is named as cases name it; any other is one.
    fn selector_of_host(&self, wanted: &str) -> String {
        let template = &self.control.template;
        let named = template.hosts.iter().find(|host| host.name == wanted);
        match named.and_then(|host| template.document.element(host.node)) {
            Some(element) if element.local() == "input" && element.attribute("type") == Some(wanted) => {
                format!("input[type=\"{wanted}\"]")
            }
            _ => wanted.to_owned(),
        }
    }

    /// The hosts that a selector matches; reports when it is no selector or matches none.
    fn matching_hosts(&mut self, wanted: &Name) -> Option<Vec<usize>> {
        let template = &self.control.template;
        let names: Vec<&str> = template.hosts.iter().map(|h| h.name.as_str()).collect();
        let Some(list) = selector::parse_list(&self.selector_of_host(&wanted.value)) else {
            let mend = "write an element's name or a selector of it, such as `input` or `a`";
            self.error("sheet/host", wanted.span, format!("`{}` is no selector", wanted.value), mend);
            return None;
        };
        let matching: Vec<usize> = (0..template.hosts.len())
            .filter(|i| matching::matches(&list, &template.document, template.hosts[*i].node))
            .collect();
        if matching.is_empty() && self.is_original {
            return Some(matching);
        }
        if matching.is_empty() {
            let message = format!("`{}` matches no host of the template", wanted.value);
            let mend = format!("the hosts are: {}", names.join(", "));
            self.error("sheet/host", wanted.span, message, mend);
            return None;
        }
        Some(matching)
    }

    pub(super) fn option(&mut self, option: &OptionNode, scope: &Scope) {
        let Some(id) = self.control.find_option(&option.name.value) else { return };
        let mut scope = scope.clone();
        scope.options.push(id);
        scope.place = Place::Axis(id.axis);
        self.items(&option.body, &scope);
    }

    fn options(&mut self, names: &[Name]) -> Vec<OptionId> {
        let mut ids = Vec::new();
        for name in names {
            match self.control.find_option(&name.value) {
                Some(id) => ids.push(id),
                None => {
                    let known: Vec<String> =
                        self.control.axes.iter().flat_map(|a| &a.options).map(|o| o.value.clone()).collect();
                    let known = known.iter().map(String::as_str);
                    self.diagnostics.push(unknown_name("sheet/option", "option", name, known));
                }
            }
        }
        ids
    }

    pub(super) fn combine(&mut self, names: &[Name], body: &[Item], scope: &Scope) {
        let ids = self.options(names);
        if ids.len() < names.len() {
            return;
        }
        for (i, id) in ids.iter().enumerate() {
            if ids[..i].iter().any(|other| other.axis == id.axis) {
                let axis = &self.control.axes[id.axis].name.value;
                let message = format!("two options of the axis `{axis}` never hold together");
                self.error("sheet/option", names[i].span, message, "combine options of different axes");
                return;
            }
        }
        let mut scope = scope.clone();
        scope.place = Place::Combine(ids.len());
        scope.options.extend(ids);
        self.items(body, &scope);
    }

    pub(super) fn exclude(&mut self, node: &ExcludeNode) {
        let hosts = match &node.on {
            None => None,
            Some(selector) => match self.matching_hosts(selector) {
                Some(hosts) => Some(hosts),
                None => return,
            },
        };
        let exclude = Exclude {
            options: self.options(&node.options),
            with: self.options(&node.with),
            without: self.options(&node.without),
            hosts,
            span: node.span,
        };
        self.control.excludes.push(exclude);
    }
}
