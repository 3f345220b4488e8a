//! Ways of looking: which themes, how large, with whose eyes. The choices are kept in the page's address.

use super::SpecimenPage;
use stilk_engine::css::vision::DEFICIENCIES;
use stilk_engine::dom::NodeId;

/// A choice of one from several: name, label, values with their labels; the first is the default.
type Choice = (&'static str, &'static str, &'static [(&'static str, &'static str)]);

const CHOICES: [Choice; 7] = [
    ("dir", "Direction", &[("", "left to right"), ("rtl", "right to left")]),
    ("zoom", "Zoom", &[("", "100%"), ("1.5", "150%"), ("2", "200%"), ("3", "300%"), ("4", "400%")]),
    ("spacing", "Text spacing", &[("", "as it is"), ("wide", "wide (WCAG 1.4.12)")]),
    (
        "vision",
        "Vision",
        &[
            ("", "as it is"),
            ("grey", "greyscale"),
            ("protan", "protanopia"),
            ("deutan", "deuteranopia"),
            ("tritan", "tritanopia"),
        ],
    ),
    ("motion", "Motion", &[("", "as it is"), ("reduced", "reduced"), ("slow", "slow, ten times")]),
    ("boxes", "Outlines", &[("", "none"), ("boxes", "boxes"), ("24", "targets of 24px"), ("44", "targets of 44px")]),
    ("width", "Width", &[("", "as it is")]),
];

impl SpecimenPage<'_> {
    pub(super) fn ways(&mut self, body: NodeId) {
        let form = self.add(body, "form", &[("class", "ways"), ("aria-label", "Ways of looking")]);
        self.add(form, "span", &[("class", "sr"), ("aria-live", "polite"), ("id", "said")]);
        let tokens = &self.system.tokens;
        for (index, modifier) in tokens.modifiers.iter().enumerate() {
            let name = modifier.name.value.clone();
            let several = index == 0;
            let group = self.add(form, "fieldset", &[]);
            self.add_text(group, "legend", &[], &name);
            let mut contexts: Vec<usize> = (0..modifier.contexts.len()).collect();
            contexts.sort_by_key(|context| *context != modifier.default);
            for context in contexts {
                let value = modifier.contexts[context].value.clone();
                let label = self.add(group, "label", &[]);
                let kind = if several { "checkbox" } else { "radio" };
                let mut attributes = vec![("type", kind), ("name", name.as_str()), ("value", value.as_str())];
                if several || context == modifier.default {
                    attributes.push(("checked", ""));
                }
                self.add(label, "input", &attributes);
                self.add_text(label, "span", &[], &value);
            }
        }
        let label = self.add(form, "label", &[("class", "check")]);
        self.add(label, "input", &[("type", "checkbox"), ("name", "only"), ("value", "findings")]);
        self.add_text(label, "span", &[], "only what has findings");
        let label = self.add(form, "label", &[("class", "find")]);
        self.add_text(label, "span", &[], "Find");
        self.add(label, "input", &[("type", "search"), ("name", "find"), ("autocomplete", "off")]);
        let more = self.add(form, "details", &[]);
        self.add_text(more, "summary", &[], "More ways of looking");
        let grid = self.add(more, "div", &[("class", "more")]);
        for (name, title, values) in CHOICES {
            let label = self.add(grid, "label", &[]);
            self.add_text(label, "span", &[], title);
            if name == "width" {
                let range = [
                    ("type", "range"),
                    ("name", name),
                    ("min", "160"),
                    ("max", "1280"),
                    ("step", "8"),
                    ("value", "1280"),
                ];
                self.add(label, "input", &range);
                self.add_text(label, "output", &[], values[0].1);
                continue;
            }
            let select = self.add(label, "select", &[("name", name)]);
            for (value, text) in values {
                self.add_text(select, "option", &[("value", value)], text);
            }
        }
    }

    /// Filters that the page refers to.
    pub(super) fn filters(&mut self, body: NodeId) {
        let svg = self.add(body, "svg", &[("width", "0"), ("height", "0"), ("aria-hidden", "true"), ("class", "sr")]);
        for (name, matrix) in DEFICIENCIES {
            let filter = self.add(svg, "filter", &[("id", name)]);
            let rows = matrix.chunks(3).map(|row| format!("{} {} {} 0 0", row[0], row[1], row[2]));
            let values = format!("{} 0 0 0 1 0", rows.collect::<Vec<_>>().join(" "));
            self.add(filter, "fecolormatrix", &[("type", "matrix"), ("values", &values)]);
        }
    }
}
