//! Random declarations: values of every kind the engine reads, and some it must refuse.

use super::Make;
use std::fmt::Write;

impl Make {
    pub(super) fn declarations(&mut self, count: usize) -> String {
        let mut text = String::new();
        for _ in 0..count {
            let declaration = self.declaration();
            let important = if self.chance(7) { " !important" } else { "" };
            let _ = write!(text, "{declaration}{important}; ");
        }
        text
    }

    fn declaration(&mut self) -> String {
        let (name, mut value) = match self.rng.usize(..58) {
            52 => {
                let name = self.one(&["grid-area", "grid-row", "grid-column", "grid-column-start", "grid-row-end"]);
                let line = self.one(&["1", "2 / 3", "span 2", "a", "auto / span 3", "-1 / b 2", "span c 2 / 4", "0"]);
                (name, line.into())
            }
            53 => {
                let name =
                    self.one(&["mask", "-webkit-mask", "mask-size", "mask-repeat", "mask-clip", "mask-position"]);
                let value = self.one(&[
                    "none",
                    "linear-gradient(red, blue) no-repeat",
                    "linear-gradient(red, blue), none",
                    "50% 1em",
                    "cover",
                    "content-box",
                    "repeat-x, space",
                    "left 3px top 10%",
                ]);
                (name, value.into())
            }
            54 => {
                let name =
                    self.one(&["border-image", "border-image-slice", "border-image-width", "border-image-outset"]);
                let value = self.one(&[
                    "30",
                    "30 fill",
                    "1 2 1 2",
                    "10% 3",
                    "linear-gradient(red, blue) 3 / 1em",
                    "1em",
                    "auto 2",
                ]);
                (name, value.into())
            }
            55 => {
                let name =
                    self.one(&["font-variant", "font-feature-settings", "font-synthesis", "font-variant-ligatures"]);
                let value = self.one(&[
                    "normal",
                    "none",
                    "small-caps ruby",
                    "\"tnum\", \"liga\" 0",
                    "weight style",
                    "contextual",
                ]);
                (name, value.into())
            }
            56 => {
                let name = self.one(&[
                    "-webkit-text-fill-color",
                    "-webkit-text-stroke-color",
                    "text-emphasis-color",
                    "stop-color",
                ]);
                (name, self.color(0))
            }
            57 => {
                let name = self.one(&[
                    "border-spacing",
                    "contain-intrinsic-size",
                    "-webkit-text-stroke-width",
                    "shape-margin",
                    "perspective-origin",
                ]);
                (name, self.length(false))
            }
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
