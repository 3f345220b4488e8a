//! The reset layer of a stylesheet.

use super::resets::{Reset, resets};
use crate::stylesheet::SheetWriter;
use crate::system::Control;

/// Writes the reset layer.
pub fn write(sheet: &mut SheetWriter) {
    if sheet.system.manifest.stylesheet.as_written.reset {
        return;
    }
    for control in &sheet.system.controls {
        let class = sheet.names.control(&control.name.value).selector().repeat(sheet.weight());
        let mut hosts_of = vec![class.clone()];
        if !sheet.system.manifest.stylesheet.layers {
            let attached = sheet.attachments(control).flat_map(|attachment| &attachment.selectors);
            hosts_of.extend(attached.map(|selector| format!(":is({class}, :where({selector}))")));
        }
        let (of_parts, of_hosts): (Vec<Reset>, Vec<Reset>) =
            resets(control).into_iter().partition(|reset| reset.part.is_some());
        write_hosts(sheet, control, &of_hosts, &|hosts| match hosts {
            "" => hosts_of.join(", "),
            hosts => hosts_of.iter().map(|of| format!("{of}:where({hosts})")).collect::<Vec<_>>().join(", "),
        });
        for of_part in of_parts.chunk_by(|a, b| a.part == b.part) {
            let part = of_part[0].part.as_deref().unwrap_or_default();
            let class = sheet.names.part(&control.name.value, part).selector().repeat(sheet.weight());
            block(sheet, control, &format!("{}, part `{part}`", control.name.value), &class, of_part);
        }
    }
}

/// Writes the resets of a control's hosts; `selector` says for whom, given the hosts, or an empty string for all.
pub fn write_for(sheet: &mut SheetWriter, control: &Control, selector: &dyn Fn(&str) -> String) {
    if sheet.system.manifest.stylesheet.as_written.reset {
        return;
    }
    let resets: Vec<Reset> = resets(control).into_iter().filter(|reset| reset.part.is_none()).collect();
    write_hosts(sheet, control, &resets, selector);
}

fn write_hosts(sheet: &mut SheetWriter, control: &Control, resets: &[Reset], selector: &dyn Fn(&str) -> String) {
    for hosts in ["", "a"] {
        let of_hosts: Vec<Reset> = resets.iter().filter(|reset| reset.hosts == hosts).cloned().collect();
        let whom = if hosts.is_empty() { "every host".to_owned() } else { format!("hosts `{hosts}`") };
        block(sheet, control, &format!("{}, {whom}", control.name.value), &selector(hosts), &of_hosts);
    }
}

fn block(sheet: &mut SheetWriter, control: &Control, whom: &str, selector: &str, resets: &[Reset]) {
    if resets.is_empty() {
        return;
    }
    sheet.writer.comment(&format!("{whom}: where browsers' defaults differ"));
    sheet.writer.open(selector);
    for reset in resets {
        if reset.property == "user-select" {
            sheet.writer.declaration("-webkit-user-select", &reset.value, Some(control.name.span));
        }
        sheet.writer.declaration(reset.property, &reset.value, Some(control.name.span));
    }
    sheet.writer.close();
}
