//! What people write by habit from other languages for styles, and what does the same here.

/// What does here what an at-rule of this name does elsewhere; nothing where none comes near.
pub fn at_rule(name: &str) -> Option<&'static str> {
    Some(match name {
        "include" | "apply" | "mix" => "write `@traits NAME;`: declarations that controls share are a trait",
        "mixin" | "define-mixin" => "write `@trait NAME { … }` outside of controls, and `@traits NAME;` in them",
        "extend" | "extends" | "composes" => {
            "write `@traits NAME;`, or `@control NAME from OTHER { … }` for a whole control"
        }
        "function" | "return" => "compute with `calc()` where it is needed, or write `@derive { TOKEN: …; }`",
        "if" | "else" | "elseif" | "unless" | "when" => {
            "write `@option`, `@state`, `@media` or `@supports`: what holds is decided in the browser"
        }
        "each" | "for" | "while" => {
            "write an `@axis` with its options, or each declaration by itself: nothing is repeated"
        }
        "use" | "forward" | "require" | "plugin" | "import" => {
            "take it away: all sheets in the folder of controls are read, `shared.stilk` first"
        }
        "layer" => "take it away: what is written is put into layers in the order that docs/language.md names",
        "var" | "set" | "let" | "const" => {
            "write a local, `--name: VALUE;`, or a token, and read it by `var(--name)` or `{token}`"
        }
        "nest" | "at-root" => "write `@part` for a part, `@state` for a state, `&…` for a condition",
        "scope" => "take it away: what stands in `@control` reaches nothing else",
        _ => return None,
    })
}

/// What to write for a variable with another sign before its name.
pub fn variable(name: &str) -> String {
    format!("write a local, `--{name}: VALUE;`, read by `var(--{name})`, or a token, read by `{{{name}}}`")
}

/// What does here what a function of this name does elsewhere.
pub fn function(name: &str) -> Option<&'static str> {
    Some(match name.to_ascii_lowercase().as_str() {
        "darken" | "shade" => "write `color-mix(in oklab, COLOR, black 10%)` or `oklch(from COLOR calc(l - .1) c h)`",
        "lighten" | "tint" => "write `color-mix(in oklab, COLOR, white 10%)` or `oklch(from COLOR calc(l + .1) c h)`",
        "mix" => "write `color-mix(in oklab, COLOR, OTHER 20%)`",
        "saturate" | "desaturate" => "write `oklch(from COLOR l calc(c * 1.2) h)`",
        "adjust-hue" | "spin" => "write `oklch(from COLOR l c calc(h + 20))`",
        "transparentize" | "fade" | "fade-out" | "fade-in" | "opacify" | "alpha" => {
            "write `color-mix(in srgb, COLOR 50%, transparent)`"
        }
        "percentage" | "math" | "div" => "write `calc()`",
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn habits_lead_to_what_there_is() {
        assert!(at_rule("include").is_some_and(|words| words.contains("@traits")));
        assert!(function("Darken").is_some_and(|words| words.contains("color-mix")));
        assert_eq!((at_rule("stat"), function("calc")), (None, None));
    }
}
