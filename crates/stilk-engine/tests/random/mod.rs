//! Random pages and stylesheets: small documents of controls and what stands around them, and CSS that uses what the
//! engine claims to know, in combinations that nobody thinks of. The same seed gives the same sample everywhere.

mod values;

use fastrand::Rng;
use std::fmt::Write;

/// A page with a stylesheet.
pub struct Sample {
    /// The content of the body; every element has an id.
    pub html: String,
    /// The stylesheet.
    pub css: String,
    /// States to force, by id.
    pub forced: Vec<(String, &'static str)>,
}

/// The sample of a seed.
pub fn sample(seed: u64) -> Sample {
    let mut make = Make { rng: Rng::with_seed(seed), ids: 0, html: String::new() };
    make.html();
    let css = make.css();
    let forced = make.forced();
    Sample { html: make.html, css, forced }
}

struct Make {
    rng: Rng,
    ids: usize,
    html: String,
}

const CLASSES: [&str; 6] = ["a", "b", "c", "d", "e", "f"];
const STATES: [&str; 5] = ["hover", "focus", "focus-visible", "focus-within", "active"];

impl Make {
    fn one<T: Copy>(&mut self, list: &[T]) -> T {
        list[self.rng.usize(..list.len())]
    }

    fn chance(&mut self, percent: u32) -> bool {
        self.rng.u32(..100) < percent
    }

    fn attributes(&mut self) -> String {
        self.ids += 1;
        let mut text = format!(" id=n{}", self.ids);
        if self.chance(75) {
            let mut classes = vec![self.one(&CLASSES)];
            while self.chance(35) {
                classes.push(self.one(&CLASSES));
            }
            let _ = write!(text, " class='{}'", classes.join(" "));
        }
        if self.chance(25) {
            let value = self.one(&["on", "off", "x-y", "on off", ""]);
            let _ = write!(text, " data-k='{value}'");
        }
        if self.chance(12) {
            let style = self.declarations(2);
            let _ = write!(text, " style=\"{}\"", style.replace('"', "'"));
        }
        if self.chance(5) {
            let dir = self.one(&["rtl", "ltr"]);
            let _ = write!(text, " dir={dir}");
        }
        if self.chance(4) {
            text.push_str(" lang=de");
        }
        text
    }

    fn html(&mut self) {
        for _ in 0..self.rng.usize(2..5) {
            self.element(0);
        }
    }

    fn element(&mut self, depth: usize) {
        let attributes = self.attributes();
        let leaf = depth > 3 || self.ids > 16 || self.chance(45);
        if leaf {
            let flags = self.one(&["", "", "", " disabled", " required", " readonly", " checked"]);
            let text = match self.rng.usize(..14) {
                0 | 1 => format!("<button{attributes}{flags}>x</button>"),
                2 => format!("<a href='#x'{attributes}>x</a>"),
                3 => format!("<input{attributes}{flags} placeholder=p>"),
                4 => {
                    let kind =
                        self.one(&["checkbox", "radio", "submit", "range", "search", "number", "password", "email"]);
                    format!("<input type={kind}{attributes}{flags}>")
                }
                5 => format!("<textarea{attributes}{flags}>x</textarea>"),
                6 => format!("<select{attributes}{flags}><option>x</option></select>"),
                7 => format!("<label{attributes}>x</label>"),
                8 => format!("<b{attributes}>x</b>"),
                9 => format!("<span{attributes}></span>"),
                _ => format!("<span{attributes}>x</span>"),
            };
            self.html.push_str(&text);
            return;
        }
        let name = self.one(&["div", "div", "section", "fieldset", "ul", "form", "span", "label"]);
        let inner = if name == "ul" { "li" } else { "" };
        let _ = write!(self.html, "<{name}{attributes}>");
        for _ in 0..self.rng.usize(1..4) {
            if inner.is_empty() {
                self.element(depth + 1);
            } else {
                let attributes = self.attributes();
                let _ = write!(self.html, "<li{attributes}>x</li>");
            }
        }
        let _ = write!(self.html, "</{name}>");
    }

    fn forced(&mut self) -> Vec<(String, &'static str)> {
        let mut list = Vec::new();
        if self.chance(60) {
            for _ in 0..self.rng.usize(1..4) {
                let id = format!("n{}", self.rng.usize(1..=self.ids.max(1)));
                list.push((id, self.one(&STATES)));
            }
        }
        list
    }

    fn css(&mut self) -> String {
        let mut css = String::new();
        if self.chance(30) {
            let order = self.one(&["@layer one, two;", "@layer two, one, three;", "@layer one.in, two;"]);
            css.push_str(order);
        }
        if self.chance(35) {
            let typed = self.one(&[
                "@property --p { syntax: '<length>'; inherits: false; initial-value: 3px }",
                "@property --p { syntax: '<color>'; inherits: true; initial-value: teal }",
                "@property --q { syntax: '<number>'; inherits: true; initial-value: 2 }",
                "@property --q { syntax: '<length> | auto'; inherits: true; initial-value: auto }",
                "@property --p { syntax: '*'; inherits: false }",
            ]);
            css.push_str(typed);
        }
        css.push_str(":root { --p: 7px; --q: 3; --r: var(--p); --s: #2a6; --t: rgb(10 20 30 / 40%) }\n");
        for _ in 0..self.rng.usize(8..22) {
            let rule = self.rule(0);
            css.push_str(&rule);
            css.push('\n');
        }
        css
    }

    fn rule(&mut self, depth: usize) -> String {
        match self.rng.usize(..20) {
            0 if depth < 2 => {
                let name = self.one(&["one", "two", "three", "one.in", ""]);
                let inner = self.rules(depth + 1);
                format!("@layer {name} {{ {inner} }}")
            }
            1 if depth < 2 => {
                let query = self.media();
                let inner = self.rules(depth + 1);
                format!("@media {query} {{ {inner} }}")
            }
            2 if depth < 2 => {
                let query = self.one(&[
                    "(display: grid)",
                    "not (display: grid)",
                    "(color: lch(50% 10 20)) and (width: 1px)",
                    "(width: nonsense)",
                    "selector(:has(a))",
                    "selector(:nope)",
                    "(--x: y) or (top: z)",
                    "not ((display: flex) and (nonsense: 1))",
                ]);
                let inner = self.rules(depth + 1);
                format!("@supports {query} {{ {inner} }}")
            }
            3 if depth < 2 => {
                let query = self.one(&[
                    "(width > 100px)",
                    "(width <= 600px)",
                    "(inline-size > 30em)",
                    "style(--q: 3)",
                    "style(--q: 4) or style(--z)",
                    "box (width > 10px)",
                    "not (width > 400px)",
                    "(nonsense: 1)",
                ]);
                let inner = self.rules(depth + 1);
                format!("@container {query} {{ {inner} }}")
            }
            4 if depth < 2 => {
                let start = self.one(&[".a", ".b", "div", "#n3", ":is(.c, .d)", "body", ".a, .e", "* > .b"]);
                let end = self.one(&["", "", " to (.e)", " to (:scope > .f)", " to (& .b)", " to (> *)"]);
                let root = self.one(&["", ":scope", "&", ":scope > .b", "& .c", ":scope .d:hover", "> *"]);
                let count = self.rng.usize(1..4);
                let body = self.declarations(count);
                let own = if root.is_empty() { body } else { format!("{root} {{ {body} }}") };
                let inner = self.rules(depth + 1);
                format!("@scope ({start}){end} {{ {own} {inner} }}")
            }
            _ => {
                let selector = self.selector_list();
                let count = self.rng.usize(1..5);
                let mut body = self.declarations(count);
                if depth < 2 && self.chance(18) {
                    let nested = self.nested(depth + 1);
                    body.push_str(&nested);
                    if self.chance(40) {
                        body.push_str(&self.declarations(1));
                    }
                }
                format!("{selector} {{ {body} }}")
            }
        }
    }

    fn rules(&mut self, depth: usize) -> String {
        (0..self.rng.usize(1..4)).map(|_| self.rule(depth)).collect::<Vec<_>>().join(" ")
    }

    fn nested(&mut self, depth: usize) -> String {
        let body = self.declarations(2);
        match self.rng.usize(..7) {
            0 => format!("&:hover {{ {body} }}"),
            1 => {
                let class = self.one(&CLASSES);
                format!("&.{class} {{ {body} }}")
            }
            2 => {
                let inner = self.compound();
                format!("{inner} {{ {body} }}")
            }
            3 => {
                let inner = self.compound();
                format!("> {inner}, & + & {{ {body} }}")
            }
            4 => {
                let query = self.media();
                format!("@media {query} {{ {body} }}")
            }
            5 => {
                let inner = self.compound();
                format!("{inner} & {{ {body} }}")
            }
            _ if depth < 2 => {
                let inner = self.nested(depth + 1);
                format!("&:not(.f) {{ {body} {inner} }}")
            }
            _ => format!("& {{ {body} }}"),
        }
    }

    fn media(&mut self) -> &'static str {
        self.one(&[
            "(min-width: 600px)",
            "(width < 40rem)",
            "(400px <= width <= 2000px)",
            "(hover: hover)",
            "(hover: none), (width > 1em)",
            "not (hover)",
            "screen and (pointer: fine)",
            "print",
            "not print",
            "(prefers-color-scheme: dark)",
            "(prefers-reduced-motion: no-preference)",
            "(orientation: landscape) and (not (width < 10px))",
            "(width > 100px) or (nonsense)",
            "not (nonsense: 2)",
            "(scripting: enabled)",
            "(forced-colors: none)",
            "(aspect-ratio > 1/1)",
            "(prefers-contrast: more)",
            "(resolution >= 1dppx)",
        ])
    }

    fn selector_list(&mut self) -> String {
        let mut list = vec![self.selector()];
        while self.chance(15) {
            list.push(self.selector());
        }
        list.join(", ")
    }

    fn selector(&mut self) -> String {
        let mut text = self.compound();
        while self.chance(25) {
            let combinator = self.one(&[" ", " > ", " + ", " ~ "]);
            text = format!("{}{combinator}{text}", self.compound());
        }
        match self.rng.usize(..22) {
            0 | 1 => text.push_str("::before"),
            2 => text.push_str("::after"),
            3 => text.push_str(":hover::before"),
            _ => {}
        }
        text
    }

    fn compound(&mut self) -> String {
        let mut text = match self.rng.usize(..10) {
            0 => self.one(&["div", "span", "button", "input", "a", "label", "li", "select"]).to_owned(),
            1 => "*".to_owned(),
            2 => format!("#n{}", self.rng.usize(1..16)),
            _ => format!(".{}", self.one(&CLASSES)),
        };
        while self.chance(28) {
            let more = self.condition();
            text.push_str(&more);
        }
        text
    }

    fn condition(&mut self) -> String {
        let class = self.one(&CLASSES);
        let other = self.one(&CLASSES);
        match self.rng.usize(..27) {
            0 | 1 => format!(".{class}"),
            2 => format!(":is(.{class}, #n3)"),
            3 => format!(":where(.{class}, div)"),
            4 => format!(":not(.{class})"),
            5 => format!(":not(.{class}, .{other} *)"),
            6 => format!(":has(> .{class})"),
            7 => format!(":has(.{class}, button)"),
            8 => format!(":has(+ .{class})"),
            9 => self.one(&[":first-child", ":last-child", ":only-child", ":first-of-type", ":last-of-type"]).into(),
            10 => self.one(&[":nth-child(2n+1)", ":nth-child(2)", ":nth-last-child(-n+2)", ":nth-of-type(2)"]).into(),
            11 => format!(":nth-child(1 of .{class})"),
            12 => "[data-k]".into(),
            13 => self.one(&["[data-k=on]", "[data-k='ON' i]", "[data-k~=off]", "[data-k|=x]"]).into(),
            14 => self.one(&["[data-k^=o]", "[data-k$=f]", "[data-k*='-']", "[class*=a]", "[data-k^='']"]).into(),
            15 => self.one(&[":hover", ":focus", ":active", ":focus-within", ":focus-visible"]).into(),
            16 => self.one(&[":enabled", ":disabled", ":checked", ":required", ":optional", ":read-only"]).into(),
            17 => self.one(&[":empty", ":root", ":link", ":any-link", ":read-write", ":default"]).into(),
            18 => self.one(&[":dir(rtl)", ":dir(ltr)", ":lang(de)", ":placeholder-shown"]).into(),
            19 => self.one(&[":valid", ":invalid", ":indeterminate", ":defined", ":in-range"]).into(),
            20 => format!(":is(:nope, .{class})"),
            21 => ":nope".into(),
            22 => format!(":not(:is(.{class}, :hover))"),
            23 => format!(":where(.{class}:not(.{other}))"),
            24 => ":has(:checked)".into(),
            25 => format!(":is(.{class} > *, .{other})"),
            _ => format!(".{other}"),
        }
    }
}
