//! Rules outside of layers: `@property`, `@font-face`, `@keyframes`.

use super::{Purpose, SheetWriter};
use crate::system::Registered;

impl SheetWriter<'_> {
    pub(super) fn plain_rules(&mut self) {
        // A specimen stands in a shadow tree, where neither counts; its page has them.
        if self.purpose == Purpose::Page {
            self.document_rules();
        }
        self.keyframes();
    }

    /// What a shadow tree does not take.
    pub(super) fn document_rules(&mut self) {
        self.registered();
        self.font_faces();
    }

    fn registered(&mut self) {
        let system = self.system;
        for one in &system.registered {
            self.one_registered(one, one.name.value.clone());
        }
        for control in &system.controls {
            for one in &control.registered {
                let name = self.names.local(&control.name.value, &one.name.value);
                self.one_registered(one, name);
            }
        }
    }

    fn one_registered(&mut self, one: &Registered, name: String) {
        self.writer.blank();
        self.writer.open(&format!("@property {name}"));
        self.writer.declaration("syntax", &one.syntax, Some(one.span));
        self.writer.declaration("inherits", if one.inherits { "true" } else { "false" }, Some(one.span));
        if let Some(initial) = &one.initial {
            self.writer.declaration("initial-value", initial, Some(one.span));
        }
        self.writer.close();
    }

    fn font_faces(&mut self) {
        for font in &self.system.font_faces {
            self.writer.blank();
            self.writer.open("@font-face");
            for (name, value) in &font.descriptors {
                self.writer.declaration(name, value, Some(font.span));
            }
            self.writer.close();
        }
    }

    fn keyframes(&mut self) {
        for keyframes in &self.system.keyframes {
            let body = keyframes.body.write(&mut |id| self.plan.read(self.system, id), &mut |local| local.to_owned());
            self.writer.blank();
            let name = self.names.keyframes(&keyframes.name.value);
            self.writer
                .line(&format!("@keyframes {name} {{ {} }}", body.split_whitespace().collect::<Vec<_>>().join(" ")));
        }
    }
}
