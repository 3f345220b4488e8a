//! Examples of checks: small systems that fail or pass. Each is run by a test, so that none of them lies.

/// A control, and what differs from the usual: a button with a label, on white paper.
#[derive(Debug, Clone, Copy)]
pub struct Example {
    /// The sheet.
    pub sheet: &'static str,
    /// The template, where it is not [`Example::TEMPLATE`].
    pub template: &'static str,
    /// Tokens besides [`Example::TOKENS`], as members of a JSON object.
    pub tokens: &'static str,
    /// Where there are two themes: what `day` and `night` define, as members of a JSON object.
    pub themes: Option<[&'static str; 2]>,
    /// For checks of pages: what stands in the body of one that links the stylesheet, or a whole page.
    pub page: &'static str,
    /// Whether the manifest allows one plain button a page.
    pub counted: bool,
    /// Whether it has a row, too, in which steps stand, and only there.
    pub placed: bool,
}

impl Example {
    /// A button with a label.
    pub const TEMPLATE: &'static str =
        "<button type=\"button\"><span part=\"label\"><slot>Book</slot></span></button>\n";

    /// The tokens of all examples: `paper` is white, `ink` nearly black, `sea` a dark blue, `mist` a pale grey, `rust` a
    /// dark red, `gap` 8px.
    pub const TOKENS: &'static str = r##"
  "paper": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 1, 1], "hex": "#ffffff" } },
  "ink": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [0.08, 0.1, 0.12] } },
  "sea": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.45, 0.1, 230] } },
  "mist": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.85, 0.02, 230] } },
  "rust": { "$type": "color", "$value": { "colorSpace": "oklch", "components": [0.45, 0.14, 30] } },
  "gap": { "$type": "dimension", "$value": { "value": 8, "unit": "px" } }"##;

    /// The manifest of all examples.
    pub const MANIFEST: &'static str = "[system]\nname = \"Example\"\nprefix = \"ex\"\ntokens = [\"example.tokens.json\"]\n\n[surfaces]\npage = \"{paper}\"\n";

    /// A sheet of the usual button.
    pub(super) const fn sheet(sheet: &'static str) -> Example {
        Example {
            sheet,
            template: Example::TEMPLATE,
            tokens: "",
            themes: None,
            page: "",
            counted: false,
            placed: false,
        }
    }

    /// A sheet with a template of its own.
    pub(super) const fn drawn(template: &'static str, sheet: &'static str) -> Example {
        Example { sheet, template, tokens: "", themes: None, page: "", counted: false, placed: false }
    }

    /// A sheet of the usual button, and further tokens.
    pub(super) const fn with_tokens(tokens: &'static str, sheet: &'static str) -> Example {
        Example { sheet, template: Example::TEMPLATE, tokens, themes: None, page: "", counted: false, placed: false }
    }

    /// A sheet of the usual button in two themes.
    pub(super) const fn themed(themes: [&'static str; 2], sheet: &'static str) -> Example {
        Example {
            sheet,
            template: Example::TEMPLATE,
            tokens: "",
            themes: Some(themes),
            page: "",
            counted: false,
            placed: false,
        }
    }

    /// A page with controls of a small system: a button with an option `calm`, and a field.
    pub(super) const fn page(page: &'static str) -> Example {
        Example {
            sheet: Example::BUTTON,
            template: Example::BUTTON_TEMPLATE,
            tokens: "",
            themes: None,
            page,
            counted: false,
            placed: false,
        }
    }

    /// The same in a system that allows one plain button a page.
    pub(super) const fn counted(mut self) -> Example {
        self.counted = true;
        self
    }

    /// The same in a system with a row of steps.
    pub(super) const fn placed(mut self) -> Example {
        self.placed = true;
        self
    }

    /// The same in a system of two themes: what `day` and `night` define.
    pub(super) const fn in_themes(mut self, themes: [&'static str; 2]) -> Example {
        self.themes = Some(themes);
        self
    }

    /// The button on the pages of examples.
    const BUTTON: &'static str = "@control button {\n  display: inline-block; padding: {gap}; border: 0; background: {sea}; color: {paper}; font: 1rem/1.5 sans-serif;\n  @state hover { background: {rust}; color: {paper}; }\n  @option calm { background: none; color: {ink}; }\n}\n";

    /// Its template.
    const BUTTON_TEMPLATE: &'static str = "<button type=\"button\"><span part=\"label\"><slot>Book</slot></span></button>\n<a href=\"#\"><span part=\"label\"><slot>Book</slot></span></a>\n<input type=\"submit\" value=\"Book\">\n";

    /// The other control on the pages of examples.
    const FIELD: [&'static str; 2] = [
        "@control field {\n  @part native { border: 1px solid {ink}; background: {paper}; color: {ink}; padding: {gap}; }\n}\n",
        "<div><label part=\"label\" for=\"entry\"><slot>Name</slot></label><input part=\"native\" id=\"entry\"></div>\n",
    ];

    /// Controls of which one stands only inside of the other: sheets and templates.
    const ROW: [(&'static str, &'static str); 4] = [
        ("controls/row.html", "<div><button part=\"item\" data-control=\"step\" type=\"button\">Deck</button></div>\n"),
        ("controls/row.stilk", "@control row {\n  display: flex; gap: {gap};\n}\n"),
        ("controls/step.html", "<button type=\"button\"><span part=\"label\"><slot>Deck</slot></span></button>\n"),
        (
            "controls/step.stilk",
            "@control step inside row {\n  padding: {gap}; background: {sea}; color: {paper};\n}\n",
        ),
    ];

    /// The page, where the example is one.
    pub fn document(&self) -> Option<String> {
        match self.page {
            "" => None,
            whole if whole.starts_with("<!doctype") => Some(whole.to_owned()),
            body => Some(format!(
                "<!doctype html>\n<html lang=\"en\">\n<title>Ferries</title>\n<link rel=\"stylesheet\" href=\"dist/example.css\">\n<body>\n{body}\n"
            )),
        }
    }

    /// The control's name.
    pub fn control(&self) -> &'static str {
        let after = self.sheet.split("@control ").nth(1).unwrap_or_default();
        after.split([' ', '{', '\n']).next().unwrap_or_default()
    }

    /// Everything that makes it a project, by path.
    pub fn files(&self) -> Vec<(String, String)> {
        let separator = if self.tokens.is_empty() { "" } else { "," };
        let control = self.control();
        let mut files: Vec<(String, String)> = vec![
            ("stilk.toml".into(), Example::MANIFEST.into()),
            ("example.tokens.json".into(), format!("{{{}{separator}{}\n}}\n", Example::TOKENS, self.tokens)),
            (format!("controls/{control}.html"), self.template.into()),
            (format!("controls/{control}.stilk"), self.sheet.into()),
        ];
        if self.counted {
            files[0].1.push_str("\n[checks]\ncount = { \"button.plain\" = 1 }\n");
        }
        if self.placed {
            files.extend(Example::ROW.map(|(path, text)| (path.into(), text.into())));
        }
        if !self.page.is_empty() {
            let [sheet, template] = Example::FIELD;
            files.push(("controls/field.html".into(), template.into()));
            files.push(("controls/field.stilk".into(), sheet.into()));
        }
        files.extend(self.document().map(|page| ("page.html".into(), page)));
        if let Some(themes) = self.themes {
            files[0].1 = Example::MANIFEST.replace("[\"example.tokens.json\"]", "\"example.resolver.json\"");
            files.push(("example.resolver.json".into(), resolver(themes)));
        }
        files
    }
}

fn resolver([day, night]: [&str; 2]) -> String {
    format!(
        r##"{{
  "version": "2025.10",
  "sets": {{ "base": {{ "sources": [{{ "$ref": "example.tokens.json" }}] }} }},
  "modifiers": {{ "theme": {{ "default": "day", "contexts": {{ "day": [{{ {day} }}], "night": [{{ {night} }}] }} }} }},
  "resolutionOrder": [{{ "$ref": "#/sets/base" }}, {{ "$ref": "#/modifiers/theme" }}]
}}
"##
    )
}
