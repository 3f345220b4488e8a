//! Random pages and stylesheets: small documents of controls and what stands around them, and CSS that uses what the
//! engine claims to know, in combinations that nobody thinks of. The same seed gives the same sample everywhere.

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

    fn declarations(&mut self, count: usize) -> String {
        let mut text = String::new();
        for _ in 0..count {
            let declaration = self.declaration();
            let important = if self.chance(7) { " !important" } else { "" };
            let _ = write!(text, "{declaration}{important}; ");
        }
        text
    }

    fn declaration(&mut self) -> String {
        let (name, mut value) = match self.rng.usize(..52) {
            0..=3 => (
                self.one(&["color", "background-color", "border-top-color", "outline-color", "caret-color"]),
                self.color(0),
            ),
            4 => (
                self.one(&["border-color", "text-decoration-color", "accent-color", "fill", "column-rule-color"]),
                self.color(0),
            ),
            5 | 6 => {
                let name = self.one(&["padding-left", "padding-inline", "padding", "padding-block-start", "row-gap"]);
                (name, self.length(false))
            }
            7 | 8 => {
                let name = self.one(&["margin", "margin-inline-start", "margin-top", "margin-block", "text-indent"]);
                (name, self.length(true))
            }
            9 => (self.one(&["width", "inline-size", "max-width", "min-width", "flex-basis"]), self.length(false)),
            10 => (self.one(&["height", "block-size", "min-height", "max-block-size"]), self.length(false)),
            11 => (self.one(&["top", "inset", "inset-inline", "left", "inset-block-end"]), self.length(true)),
            12 => (self.one(&["font-size", "line-height", "letter-spacing", "word-spacing"]), self.length(false)),
            13 => (
                "font-size",
                self.one(&[
                    "larger",
                    "smaller",
                    "small",
                    "120%",
                    "1.5em",
                    "2rem",
                    "x-large",
                    "medium",
                    "max(1em, 20px)",
                ])
                .into(),
            ),
            14 => ("line-height", self.one(&["1.4", "normal", "150%", "2em", "calc(1 + 0.5)", "20px", "0"]).into()),
            15 => (
                "font-weight",
                self.one(&["bold", "bolder", "lighter", "350", "normal", "1000", "calc(300 + 50)"]).into(),
            ),
            16 => {
                let (width, style, color) = (self.length(false), self.line_style(), self.color(1));
                (
                    self.one(&[
                        "border",
                        "border-top",
                        "outline",
                        "border-inline-start",
                        "border-block",
                        "column-rule",
                    ]),
                    format!("{width} {style} {color}"),
                )
            }
            17 => (self.one(&["border-style", "outline-style", "border-left-style"]), self.line_style().into()),
            18 => (
                self.one(&["border-width", "outline-width", "border-top-width", "border-inline-end-width"]),
                self.one(&["thin", "medium", "3px", "0.4px", "2.6px", "1em", "calc(1px + 0.1em)"]).into(),
            ),
            19 => {
                let (a, b) = (self.length(false), self.length(false));
                (
                    self.one(&["border-radius", "border-top-left-radius", "border-end-start-radius"]),
                    if self.chance(50) { a } else { format!("{a} {b}") },
                )
            }
            20 => ("box-shadow", self.shadow(true)),
            21 => ("text-shadow", self.shadow(false)),
            22 | 23 => (
                "display",
                self.one(&[
                    "block",
                    "inline",
                    "inline-block",
                    "flex",
                    "inline-flex",
                    "grid",
                    "none",
                    "contents",
                    "flow-root",
                    "list-item",
                    "table",
                    "inline flow-root",
                    "block flex",
                    "inline-grid",
                    "table-cell",
                ])
                .into(),
            ),
            24 => ("position", self.one(&["static", "relative", "absolute", "fixed", "sticky"]).into()),
            25 => ("float", self.one(&["left", "right", "none", "inline-end"]).into()),
            26 => (
                self.one(&["overflow", "overflow-x", "overflow-y"]),
                self.one(&["hidden", "visible", "clip", "auto", "scroll", "hidden visible"]).into(),
            ),
            27 => (
                self.one(&["opacity", "flex-grow", "flex-shrink", "fill-opacity"]),
                self.one(&["0.5", "1", "50%", "calc(1 / 3)", "2", "0", "max(0.2, 0.1)"]).into(),
            ),
            28 => (
                self.one(&["z-index", "order", "orphans"]),
                self.one(&["1", "auto", "-3", "calc(1.5)", "+7", "99999999999", "2.5"]).into(),
            ),
            29 => ("transform", self.transform()),
            30 => (
                self.one(&["translate", "scale", "rotate"]),
                self.one(&[
                    "10px",
                    "10px 2em",
                    "2",
                    "1 2",
                    "none",
                    "45deg",
                    "x 0.1turn",
                    "50%",
                    "1.5 1.5",
                    "0 0 3px",
                    "z 1rad",
                ])
                .into(),
            ),
            31 => (
                self.one(&["filter", "backdrop-filter"]),
                self.one(&[
                    "none",
                    "blur(2px)",
                    "brightness(120%) contrast(0.5)",
                    "drop-shadow(1px 2px red)",
                    "hue-rotate(0.2turn) saturate()",
                    "opacity(calc(20% + 10%))",
                    "blur(1em)",
                    "invert(150%)",
                ])
                .into(),
            ),
            32 | 33 => ("background-image", self.image()),
            34 => {
                let (color, image) = (self.color(1), self.image());
                (
                    "background",
                    match self.rng.usize(..5) {
                        0 => color,
                        1 => image,
                        2 => format!("{image} no-repeat {color}"),
                        3 => format!("{image} left 10px / 50% auto repeat-x, {color}"),
                        _ => "none".into(),
                    },
                )
            }
            35 => (
                self.one(&["background-position", "object-position"]),
                self.one(&[
                    "left",
                    "center top",
                    "10px 20%",
                    "right 1em bottom 2px",
                    "bottom",
                    "calc(100% - 1px) 3px",
                    "right",
                    "50% 50%",
                ])
                .into(),
            ),
            36 => (
                self.one(&["background-size", "background-repeat", "background-clip", "background-origin"]),
                self.one(&[
                    "cover",
                    "10px",
                    "auto 50%",
                    "repeat-x",
                    "no-repeat",
                    "round space",
                    "padding-box",
                    "content-box",
                    "text",
                ])
                .into(),
            ),
            37 => (
                "transition",
                self.one(&[
                    "color 0.2s",
                    "all 1s ease-in 50ms",
                    "opacity .1s, color 2s steps(3, start)",
                    "none",
                    "width 1s linear(0, 0.5 25%, 1)",
                    "color 1s cubic-bezier(.1, 2, .3, -1) allow-discrete",
                ])
                .into(),
            ),
            38 => (
                "animation",
                self.one(&[
                    "spin 1s infinite",
                    "none",
                    "1s ease-out 2s 3 alternate both paused fade",
                    "a 1s, b 2s reverse",
                ])
                .into(),
            ),
            39 => (
                self.one(&[
                    "align-items",
                    "justify-content",
                    "align-self",
                    "place-items",
                    "justify-self",
                    "place-content",
                ]),
                self.one(&[
                    "center",
                    "start",
                    "safe center",
                    "baseline",
                    "last baseline",
                    "stretch",
                    "flex-end",
                    "normal",
                    "space-between",
                    "end start",
                ])
                .into(),
            ),
            40 => (
                self.one(&["flex", "flex-flow"]),
                self.one(&[
                    "1",
                    "none",
                    "auto",
                    "2 3 10px",
                    "1 1 0",
                    "column wrap",
                    "row-reverse",
                    "0 0 auto",
                    "initial",
                ])
                .into(),
            ),
            41 => (
                self.one(&[
                    "text-align",
                    "text-transform",
                    "white-space",
                    "visibility",
                    "cursor",
                    "direction",
                    "pointer-events",
                    "user-select",
                ]),
                self.one(&[
                    "center",
                    "end",
                    "uppercase",
                    "nowrap",
                    "pre-line",
                    "hidden",
                    "collapse",
                    "pointer",
                    "rtl",
                    "none",
                    "auto",
                    "capitalize",
                    "match-parent",
                    "text",
                ])
                .into(),
            ),
            42 => (
                self.one(&["text-decoration", "text-decoration-line", "text-decoration-thickness"]),
                self.one(&[
                    "underline",
                    "none",
                    "underline wavy red 2px",
                    "line-through overline",
                    "3px",
                    "from-font",
                    "auto",
                ])
                .into(),
            ),
            43 => (
                "font",
                self.one(&[
                    "italic bold 12px/30px serif",
                    "1em sans-serif",
                    "small-caps 400 1.2rem/1.3 'A B', Arial",
                    "condensed 80% Georgia",
                    "16px a",
                ])
                .into(),
            ),
            44 => (
                "font-family",
                self.one(&[
                    "serif",
                    "Arial, sans-serif",
                    "'Fira Sans', system-ui",
                    "\"x\"",
                    "a b c, monospace",
                    "Georgia",
                ])
                .into(),
            ),
            45 => (
                "clip-path",
                self.one(&[
                    "none",
                    "inset(10%)",
                    "circle(50% at left)",
                    "polygon(0 0, 1em 0, 50% 100%)",
                    "inset(1px 2px 1px 2px round 3px)",
                    "ellipse(1em 2em)",
                    "padding-box",
                ])
                .into(),
            ),
            46 => (
                self.one(&["container-type", "container"]),
                self.one(&["inline-size", "normal", "size", "box / inline-size", "box"]).into(),
            ),
            47 => (
                "content",
                self.one(&["'x'", "none", "\"a\" \"b\"", "normal", "''", "attr(data-k)", "attr(data-z, 'none')"])
                    .into(),
            ),
            48 => (
                self.one(&["writing-mode", "direction"]),
                self.one(&["horizontal-tb", "vertical-rl", "vertical-lr", "rtl", "ltr"]).into(),
            ),
            49 | 50 => (
                self.one(&["--p", "--q", "--r", "--s", "--t", "--z"]),
                self.one(&[
                    "9px",
                    "4",
                    "red",
                    "var(--q)",
                    "var(--z, 5px)",
                    "calc(var(--q) * 1px)",
                    "initial",
                    "inherit",
                    "",
                    "var(--p, var(--r))",
                    "1em",
                    "unset",
                    "var(--r)",
                    "  #123 ",
                ])
                .into(),
            ),
            _ => (
                self.one(&[
                    "all",
                    "color-scheme",
                    "appearance",
                    "box-sizing",
                    "mix-blend-mode",
                    "isolation",
                    "tab-size",
                    "scrollbar-width",
                    "aspect-ratio",
                    "list-style",
                    "gap",
                ]),
                self.one(&[
                    "revert",
                    "unset",
                    "initial",
                    "dark",
                    "light dark",
                    "none",
                    "auto",
                    "border-box",
                    "multiply",
                    "isolate",
                    "4",
                    "thin",
                    "16 / 9",
                    "inside",
                    "square none",
                    "1em 2px",
                ])
                .into(),
            ),
        };
        // What `all` takes by a reference is no keyword any more: browsers differ from the standard there.
        if name == "all" {
            return format!("all: {}", self.one(&["revert", "unset", "initial", "revert-layer", "inherit"]));
        }
        if self.chance(9) {
            value = self.one(&["inherit", "initial", "unset", "revert", "revert-layer"]).into();
        } else if self.chance(8) {
            value = self
                .one(&[
                    "var(--p)",
                    "var(--q)",
                    "var(--s)",
                    "var(--t)",
                    "var(--nope)",
                    "var(--nope, 4px)",
                    "var(--r, red)",
                    "var(--nope, inherit)",
                ])
                .into();
        }
        format!("{name}: {value}")
    }

    fn line_style(&mut self) -> &'static str {
        self.one(&["solid", "none", "dashed", "double", "hidden", "dotted", "inset"])
    }

    fn length(&mut self, negative: bool) -> String {
        let plain = self.one(&[
            "4px",
            "0",
            "1em",
            "0.5rem",
            "10%",
            "2vw",
            "1in",
            "3pt",
            "calc(1em + 2px)",
            "calc(10% - 3px)",
            "min(1em, 20px)",
            "max(2px, 1rem, 3px)",
            "clamp(1px, 2em, 30px)",
            "auto",
            "calc(2 * (1px + 1em))",
            "round(7px, 2px)",
            "calc(1px * sin(30deg))",
            "var(--p)",
            "calc(var(--q) * 1px)",
            "calc(1px * pow(2, 3))",
            "1vmin",
            "2lh",
            "1cm",
            "mod(11px, 4px)",
            "abs(-3px)",
            "calc(3px * sign(1em))",
            "hypot(3px, 4px)",
            "1.23456789px",
            "1e1px",
            "none",
            "max-content",
            "normal",
            "calc(infinity * 1px)",
            "5",
            "3ch",
        ]);
        if negative && self.chance(20) {
            return self.one(&["-3px", "-1em", "calc(-2px - 1em)", "-10%"]).into();
        }
        plain.into()
    }

    fn color(&mut self, depth: usize) -> String {
        match self.rng.usize(..26) {
            0 | 1 => self
                .one(&[
                    "red",
                    "teal",
                    "transparent",
                    "currentcolor",
                    "RebeccaPurple",
                    "CanvasText",
                    "Canvas",
                    "ButtonFace",
                    "LinkText",
                    "GrayText",
                ])
                .into(),
            2 => self.one(&["#abc", "#12345678", "#f00", "#0000", "#abcd"]).into(),
            3 => self
                .one(&[
                    "rgb(10, 20, 30)",
                    "rgba(1 2 3 / 40%)",
                    "rgb(10% 20% 30%)",
                    "rgb(300 -5 12.6)",
                    "rgb(none 5 6)",
                    "rgb(calc(10 * 2) 0 0)",
                ])
                .into(),
            4 => self
                .one(&[
                    "hsl(120 50% 40%)",
                    "hsl(200deg, 30%, 50%, 0.5)",
                    "hsl(0.4turn 80% 30% / 0.2)",
                    "hwb(90 10% 20%)",
                    "hsl(-30 100 50)",
                    "hwb(400 60% 60%)",
                ])
                .into(),
            5 => {
                self.one(&["lab(50% 20 -30)", "lab(40 -20% 10%)", "oklab(0.6 0.1 -0.05)", "oklab(60% 30% none)"]).into()
            }
            6 => self
                .one(&[
                    "lch(50% 30 200)",
                    "oklch(0.7 0.1 120)",
                    "oklch(60% 50% 30deg / 0.5)",
                    "oklch(0.5 0.05 none)",
                    "lch(20 200 -20)",
                ])
                .into(),
            7 => self
                .one(&[
                    "color(srgb 0.2 0.4 0.6)",
                    "color(display-p3 1 0 0)",
                    "color(xyz 0.2 0.3 0.4 / 50%)",
                    "color(srgb-linear 0.1 none 0.3)",
                    "color(rec2020 0.3 0.4 0.5)",
                    "color(a98-rgb 0.1 0.2 0.3)",
                    "color(prophoto-rgb 0.4 0.3 0.2)",
                    "color(xyz-d50 0.1 0.2 0.3)",
                ])
                .into(),
            8..=12 if depth < 2 => {
                let (a, b) = (self.color(depth + 1), self.color(depth + 1));
                let space = self.one(&[
                    "srgb",
                    "oklab",
                    "oklch",
                    "lab",
                    "lch",
                    "hsl",
                    "hwb",
                    "srgb-linear",
                    "xyz",
                    "display-p3",
                    "oklch longer hue",
                    "hsl increasing hue",
                    "lch decreasing hue",
                ]);
                let (p, q) = (self.one(&["", " 30%", " 0%", " 80%"]), self.one(&["", " 20%", " 100%"]));
                format!("color-mix(in {space}, {a}{p}, {b}{q})")
            }
            13 | 14 if depth < 2 => {
                let origin = self.color(depth + 1);
                let rest = self.one(&[
                    ("rgb", "r g b / 50%"),
                    ("rgb", "calc(r + 10) g 20"),
                    ("hsl", "calc(h + 40) s l"),
                    ("hwb", "h w b"),
                    ("lab", "l a b / alpha"),
                    ("oklab", "calc(l * 0.9) a b"),
                    ("oklch", "0.6 0.1 30"),
                    ("oklch", "calc(l + 0.1) c 40deg"),
                    ("color", "srgb r g b / calc(alpha / 2)"),
                    ("color", "display-p3 r g calc(b * 0.5)"),
                ]);
                format!("{}(from {origin} {})", rest.0, rest.1)
            }
            15 | 16 if depth < 2 => {
                let (a, b) = (self.color(depth + 1), self.color(depth + 1));
                format!("light-dark({a}, {b})")
            }
            17 => "var(--s)".into(),
            18 => "var(--t)".into(),
            19 => "rgb(from var(--s) r g b / 0.5)".into(),
            20 => "notacolor".into(),
            _ => self.one(&["red", "blue", "#2a6", "rgb(1 2 3)", "oklch(0.6 0.15 250)"]).into(),
        }
    }

    fn shadow(&mut self, inset: bool) -> String {
        let color = self.color(1);
        match self.rng.usize(..6) {
            0 => "none".into(),
            1 => format!("1px 2px {color}"),
            2 => format!("{color} 0 0.1em 3px"),
            3 if inset => format!("inset 0 1px 2px 3px {color}, 0 0 0 2px red"),
            4 => format!("0 1px 2px {color}, 1em 0"),
            _ => "1px 1px".into(),
        }
    }

    fn transform(&mut self) -> String {
        self.one(&[
            "none",
            "translate(10px, 2em)",
            "rotate(30deg)",
            "scale(1.5) rotate(0.1turn)",
            "translateX(-3px) skewY(10deg)",
            "matrix(1, 2, 3, 4, 5, 6)",
            "scale(2, 50%)",
            "translate3d(1px, 2px, 3px)",
            "perspective(200px) rotateY(20deg)",
            "rotate3d(1, 2, 3, 40deg)",
            "translate(50%, 10%)",
            "skew(5deg)",
            "rotate(0)",
            "scaleX(-1)",
        ])
        .into()
    }

    fn image(&mut self) -> String {
        let (a, b) = (self.color(1), self.color(1));
        match self.rng.usize(..14) {
            0 => "none".into(),
            1 => format!("linear-gradient({a}, {b})"),
            2 => format!("linear-gradient(to right, {a} 10%, {b} 2em)"),
            3 => format!("linear-gradient(45deg in oklch, {a}, 30%, {b})"),
            4 => format!("linear-gradient(to top left, {a} 0 50%, {b} 0)"),
            5 => format!("radial-gradient({a}, {b})"),
            6 => format!("radial-gradient(circle at 10px 20%, {a}, {b} calc(50% + 1px))"),
            7 => format!("radial-gradient(closest-side at right, {a}, {b})"),
            8 => format!("radial-gradient(circle 3em, {a}, {b})"),
            9 => format!("conic-gradient(from 0.25turn at 20% 30%, {a}, {b} 90deg)"),
            10 => format!("repeating-linear-gradient({a} 0, {b} 10px)"),
            11 => format!("linear-gradient({a}, {b}), radial-gradient(10px 20px in hsl longer hue, {b}, {a})"),
            12 => format!("conic-gradient({a} 0.5turn, {b} 75%)"),
            _ => format!("linear-gradient(in srgb, {a}, {b})"),
        }
    }
}
