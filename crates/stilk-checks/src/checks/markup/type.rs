//! `markup/type`: elements are what they do.

use crate::check::{Check, Scope};
use crate::checks::markup::tag;
use crate::example::Example;
use crate::visit::{PageSink, VisitedPage};
use stilk_text::diagnostic::{Diagnostic, Level};

/// The check.
pub const CHECK: Check = Check {
    id: "markup/type",
    summary: "a control stands on an element of its template; a link goes somewhere, a button in a form says what it does",
    why: "A link that is meant to send a form does so with scripts only, not with Enter and not for everybody. A `<button>` \
          without a type sends the form whenever it is pressed.",
    source: "HTML, 4.10.6 (the button element: missing value default is submit) and 4.5.1; WCAG 2.2, 4.1.2",
    level: Level::Warning,
    mend: "Write `<button type=\"submit\">` for what sends, `type=\"button\"` for everything else, `<a href>` for what leads on.",
    fails: Example::page(
        "<form method=\"post\"><a href=\"#\" class=\"ex-button\"><span class=\"ex-button_label\">Send</span></a></form>",
    ),
    passes: Example::page("<form method=\"post\"><input type=\"submit\" class=\"ex-button\" value=\"Send\"></form>"),
    scope: Scope::Page(run),
};

fn run(visit: &VisitedPage, sink: &mut PageSink) {
    for instance in visit.instances {
        sink.decided(CHECK.id, 1);
        let node = instance.node;
        let control = &visit.system.controls[instance.control];
        let local = visit.local(node).to_owned();
        let form = visit.above(node).find(|above| visit.local(*above) == "form");
        let is_action = stilk_language::case::ControlKind::of(control) == stilk_language::case::ControlKind::Action;
        let href = visit.attribute(node, "href").map(str::trim);
        let leads_nowhere = matches!(href, Some("" | "#")) || href.is_some_and(|href| href.starts_with("javascript:"));
        let said = if local == "a" && is_action && href.is_none() {
            Some((
                CHECK.level,
                "a link without `href` cannot be reached with the keyboard".to_owned(),
                "no link, no button",
                "write `href`, or `<button type=\"button\">`",
            ))
        } else if local == "a" && is_action && leads_nowhere && form.is_some() {
            Some((
                Level::Error,
                "a link stands where the form is to be sent".to_owned(),
                "sends nothing without a script",
                "write `<button type=\"submit\">`: it has the same look",
            ))
        } else if local == "a" && is_action && leads_nowhere {
            Some((
                CHECK.level,
                "a link that leads nowhere acts as a button".to_owned(),
                "Space does not press it",
                "write `<button type=\"button\">`: it has the same look",
            ))
        } else if local == "button" && visit.attribute(node, "type").is_none() && form.is_some() {
            Some((
                CHECK.level,
                "a button without a type sends the form".to_owned(),
                "no `type`",
                "write `type=\"submit\"` or `type=\"button\"`",
            ))
        } else if instance.host.is_none() && !instance.attached {
            let hosts: Vec<String> = control.template.hosts.iter().map(|host| host.name.clone()).collect();
            let message =
                format!("`{}` stands on `<{local}>`, its template has it on {}", control.name.value, hosts.join(", "));
            Some((CHECK.level, message, "another element than the system knows", "paste what `stilk markup` prints"))
        } else {
            None
        };
        if let Some((level, message, label, mend)) = said {
            let diagnostic = Diagnostic::new(level, CHECK.id, visit.span(node), message).label(label).mend(mend);
            sink.find(tag(visit, node), diagnostic);
        }
    }
}
