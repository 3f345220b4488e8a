//! What is written as a condition of the host, or as a state of it, and can be none.

use crate::system::StateId;
use crate::template::{Host, Template};
use stilk_engine::dom::NodeId;

/// Whether a state can hold on no host, because all of them are groups of fields without a role of their own.
pub fn never_on_fieldset(template: &Template, state: StateId) -> bool {
    use StateId::{Checked, Empty, Mixed, Open, Readonly, Required};
    let is_plain_group = |host: &Host| {
        template.document.element(host.bearer).is_some_and(|e| e.local() == "fieldset" && e.attribute("role").is_none())
    };
    [Checked, Empty, Mixed, Open, Readonly, Required].contains(&state) && template.hosts.iter().all(is_plain_group)
}

/// What somebody meant by a condition that is about no state and no place of the host, and what does it.
pub fn beyond_the_host(template: &Template, condition: &str) -> Option<(String, String)> {
    let text = condition.trim_start();
    if let Some((host, pseudo)) = text.split_once("::") {
        let message = format!("`&{host}::{pseudo}` is a box in the host, no condition");
        let mend = match host {
            "" => format!("write `@part ::{pseudo} {{ … }}`"),
            host => format!("write `&{host} {{ @part ::{pseudo} {{ … }} }}`"),
        };
        return Some((message, mend));
    }
    if text.starts_with(['>', '+', '~']) {
        let named: String =
            text.trim_start_matches(['>', '+', '~', ' ']).chars().take_while(|c| c.is_alphanumeric()).collect();
        let name = if named.is_empty() { "NAME" } else { &named };
        let mend = format!("write `part=\"{name}\"` in the template and `@part {name} {{ … }}` here");
        return Some((format!("`& {text}` is another element, no condition of the host"), mend));
    }
    if text.starts_with(['-', '_']) {
        let name = text.trim_start_matches(['-', '_']);
        let mend = format!("write `@option {name} {{ … }}`: its class is written for it");
        return Some((format!("`&{text}` is no condition: names are not joined"), mend));
    }
    let natives = |host: &Host| {
        let document = &template.document;
        let is_native = |node: &NodeId| {
            document.element(*node).is_some_and(|e| ["input", "select", "textarea", "button"].contains(&e.local()))
        };
        document.descendants(host.node).iter().filter(|node| is_native(node)).count()
    };
    const OF_STATE: [(&str, &str); 8] = [
        (":checked", "checked"),
        (":disabled", "disabled"),
        (":focus-visible", "focus"),
        (":focus", "focus"),
        (":hover", "hover"),
        (":user-invalid", "invalid"),
        (":invalid", "invalid"),
        (":indeterminate", "mixed"),
    ];
    let asked = OF_STATE.iter().find(|(pseudo, _)| text.starts_with(":has(") && text.contains(pseudo));
    let (pseudo, state) = asked?;
    if template.hosts.iter().all(|host| natives(host) <= 1) {
        let message = format!("`{pseudo}` is a state: written as a condition it would not keep the order of states");
        return Some((message, format!("write `@state {state} {{ … }}`: it is that of the native control")));
    }
    let message = format!("`&{text}` is true of whichever of several controls it is true of");
    let mend = "make the one that repeats a control of its own, and place it: `<span data-control=\"NAME\">`";
    Some((message, mend.to_owned()))
}
