//! Rules for markup that a control's look is attached to, where the others are in layers: such markup has unlayered
//! rules already, and those would win. They stand last and outside of layers, with the attachment's own specificity.

use super::{SheetWriter, reset_rules, selectors};

pub(super) fn write(sheet: &mut SheetWriter) {
    if sheet.system.attachments.is_empty() {
        return;
    }
    let sorted = sheet.sorted();
    for control in &sheet.system.controls {
        for attachment in sheet.attachments(control).collect::<Vec<_>>() {
            sheet.writer.blank();
            let name = control.variant_name(0, &attachment.variant);
            let place = sheet.sources.place(attachment.span);
            sheet.writer.comment(&format!("{name} on {} · {place}", attachment.selectors.join(", ")));
            let mark = sheet.names.control(&control.name.value).selector();
            let who: Vec<String> =
                attachment.selectors.iter().map(|selector| format!("{selector}:not(:where({mark}))")).collect();
            reset_rules::write_for(sheet, control, &|hosts| match hosts {
                "" => who.join(", "),
                hosts => who.iter().map(|who| format!("{who}:where({hosts})")).collect::<Vec<_>>().join(", "),
            });
            for placed in sorted.iter().filter(|placed| placed.control.name.value == control.name.value) {
                let each = attachment.selectors.iter();
                let list: Vec<String> = each
                    .filter_map(|selector| selectors::of_attached(sheet, control, placed.rule, attachment, selector))
                    .collect();
                if !list.is_empty() {
                    sheet.rule_as(placed, &list.join(", "));
                }
            }
        }
    }
}
