//! Longhands beyond those of boxes and text, and rules that ask for more than a selector. Declarations stand on a block whose
//! `color` is `rgb(1, 2, 3)` and whose font size is 20px.

use super::Case;

macro_rules! declarations {
    ($($declaration:literal $property:literal => $expected:literal;)*) => {
        &[$((
            concat!($declaration, ": ", $property),
            concat!("#t { color: rgb(1, 2, 3); font-size: 20px; ", $declaration, " }"),
            "<div id=t>x</div>",
            $property,
            $expected,
        )),*]
    };
}

/// Every group with its source.
pub const LEARNED: &[(&str, &[Case])] = &[
    (
        "CSS Grid 2, sections 7 and 8: lines, areas, shorthands",
        declarations! {
            "grid-area: 1 / 2 / 3 / 4" "grid-row-start" => "1";
            "grid-area: 1 / 2 / 3 / 4" "grid-column-start" => "2";
            "grid-area: 1 / 2 / 3 / 4" "grid-row-end" => "3";
            "grid-area: 1 / 2 / 3 / 4" "grid-column-end" => "4";
            "grid-area: a" "grid-row-start" => "a";
            "grid-area: a" "grid-column-start" => "a";
            "grid-area: a" "grid-row-end" => "a";
            "grid-area: a" "grid-column-end" => "a";
            "grid-area: 2" "grid-row-start" => "2";
            "grid-area: 2" "grid-column-start" => "auto";
            "grid-area: 2" "grid-row-end" => "auto";
            "grid-area: 2" "grid-column-end" => "auto";
            "grid-area: 1 / span 2" "grid-row-end" => "auto";
            "grid-area: 1 / span 2" "grid-column-start" => "span 2";
            "grid-area: 1 / span 2" "grid-column-end" => "auto";
            "grid-area: a / b" "grid-row-end" => "a";
            "grid-area: a / b" "grid-column-end" => "b";
            "grid-column: 1 / -1" "grid-column-start" => "1";
            "grid-column: 1 / -1" "grid-column-end" => "-1";
            "grid-column: span 2" "grid-column-start" => "span 2";
            "grid-column: span 2" "grid-column-end" => "auto";
            "grid-row: span 2 / 3" "grid-row-start" => "span 2";
            "grid-row: span 2 / 3" "grid-row-end" => "3";
            "grid-row: 2 foo" "grid-row-start" => "2 foo";
            "grid-row: 2 foo" "grid-row-end" => "auto";
            "grid-row: 0" "grid-row-start" => "auto";
            "grid-row: span -1" "grid-row-start" => "auto";
            "grid-row: foo 2 span" "grid-row-start" => "span 2 foo";
            "grid-row: span foo 1" "grid-row-start" => "span foo";
            "grid-template-areas: \"a  b\" \"a .\"" "grid-template-areas" => "\"a b\" \"a .\"";
            "grid-template-areas: \"a b\" \"b a\"" "grid-template-areas" => "none";
            "grid-template-areas: \"a\" \"b c\"" "grid-template-areas" => "none";
            "grid-template-areas: \"...\"" "grid-template-areas" => "\".\"";
            "grid-template: 1fr auto / 100px" "grid-template-rows" => "1fr auto";
            "grid-template: 1fr auto / 100px" "grid-template-columns" => "100px";
            "grid-template: 1fr auto / 100px" "grid-template-areas" => "none";
            "grid-template: \"a a\" 40px \"b c\" / 1fr 2fr" "grid-template-rows" => "40px auto";
            "grid-template: \"a a\" 40px \"b c\" / 1fr 2fr" "grid-template-columns" => "1fr 2fr";
            "grid-template: \"a a\" 40px \"b c\" / 1fr 2fr" "grid-template-areas" => "\"a a\" \"b c\"";
            "grid-template: none" "grid-template-rows" => "none";
            "grid: auto-flow dense 40px / 1fr" "grid-auto-flow" => "dense";
            "grid: auto-flow dense 40px / 1fr" "grid-auto-rows" => "40px";
            "grid: auto-flow dense 40px / 1fr" "grid-template-columns" => "1fr";
            "grid: auto-flow dense 40px / 1fr" "grid-template-rows" => "none";
            "grid: 1fr / auto-flow 20px" "grid-auto-flow" => "column";
            "grid: 1fr / auto-flow 20px" "grid-auto-columns" => "20px";
            "grid: 1fr / auto-flow 20px" "grid-template-rows" => "1fr";
            "grid: 1fr / 2fr" "grid-template-rows" => "1fr";
            "grid: 1fr / 2fr" "grid-template-columns" => "2fr";
            "grid: 1fr / 2fr" "grid-auto-flow" => "row";
            "grid: 1fr / 2fr" "grid-auto-rows" => "auto";
            "grid-auto-rows: minmax(4rem, auto) 2em" "grid-auto-rows" => "minmax(64px, auto) 40px";
            "grid-auto-columns: 1fr" "grid-auto-columns" => "1fr";
            "grid-gap: 4px 2em" "row-gap" => "4px";
            "grid-gap: 4px 2em" "column-gap" => "40px";
        },
    ),
    (
        "CSS Masking 1: masks",
        declarations! {
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "mask-image" => "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "mask-repeat" => "no-repeat";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "-webkit-mask-position-x" => "10px";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "-webkit-mask-position-y" => "50%";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "mask-size" => "cover";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "mask-origin" => "border-box";
            "mask: linear-gradient(red, blue) no-repeat 10px 50% / cover" "mask-clip" => "border-box";
            "mask: none" "mask-image" => "none";
            "mask: content-box" "mask-origin" => "content-box";
            "mask: content-box" "mask-clip" => "content-box";
            "mask: content-box padding-box" "mask-origin" => "content-box";
            "mask: content-box padding-box" "mask-clip" => "padding-box";
            "mask: no-clip" "mask-origin" => "border-box";
            "mask: no-clip" "mask-clip" => "no-clip";
            "mask: intersect alpha" "mask-composite" => "intersect";
            "mask: intersect alpha" "mask-mode" => "alpha";
            "mask-image: linear-gradient(red, blue), none; mask-repeat: no-repeat" "mask-repeat" => "no-repeat, no-repeat";
            "mask-image: linear-gradient(red, blue), none; mask-repeat: no-repeat" "mask-size" => "auto, auto";
            "-webkit-mask-clip: padding" "mask-clip" => "padding-box";
            "-webkit-mask-size: 50%" "mask-size" => "50% auto";
            "mask-position: right 3px top" "-webkit-mask-position-x" => "0%";
            "mask-position: right 3px top" "-webkit-mask-position-y" => "0%";
            "mask-type: alpha" "mask-type" => "alpha";
            "-webkit-mask: linear-gradient(red, blue) content" "mask-origin" => "content-box";
        },
    ),
    (
        "CSS Backgrounds 3, section 5: images in place of borders",
        declarations! {
            "border-image: linear-gradient(red, blue) 30 fill / 2 / 1em round" "border-image-slice" => "30 fill";
            "border-image: linear-gradient(red, blue) 30 fill / 2 / 1em round" "border-image-width" => "2";
            "border-image: linear-gradient(red, blue) 30 fill / 2 / 1em round" "border-image-outset" => "20px";
            "border-image: linear-gradient(red, blue) 30 fill / 2 / 1em round" "border-image-repeat" => "round";
            "border-image-slice: 10% 20% 10% 20%" "border-image-slice" => "10% 20%";
            "border-image-slice: 1.5" "border-image-slice" => "2";
            "border-image-slice: fill 1 2" "border-image-slice" => "1 2 fill";
            "border-image-slice: 10px" "border-image-slice" => "100%";
            "border-image-width: auto 2 10px 5%" "border-image-width" => "auto 2 10px 5%";
            "border-image-width: -1" "border-image-width" => "1";
            "border-image-outset: 1em" "border-image-outset" => "20px";
            "border-image-repeat: round round" "border-image-repeat" => "round";
            "border-image-repeat: round space" "border-image-repeat" => "round space";
            "border-image-slice: 3; border: 1px solid" "border-image-slice" => "100%";
        },
    ),
    (
        "CSS Fonts 4, sections 6 and 7: features, variants, synthesis",
        declarations! {
            "font-feature-settings: \"tnum\" 1, \"liga\" off" "font-feature-settings" => "\"liga\" 0, \"tnum\"";
            "font-feature-settings: \"kern\", \"kern\" 0" "font-feature-settings" => "\"kern\" 0";
            "font-feature-settings: \"abc\"" "font-feature-settings" => "normal";
            "font-variation-settings: \"wght\" 450, \"slnt\" -3" "font-variation-settings" => "\"slnt\" -3, \"wght\" 450";
            "font-variant: small-caps tabular-nums" "font-variant-caps" => "small-caps";
            "font-variant: small-caps tabular-nums" "font-variant-numeric" => "tabular-nums";
            "font-variant: small-caps tabular-nums" "font-variant-ligatures" => "normal";
            "font-variant: none" "font-variant-ligatures" => "none";
            "font-variant: none" "font-variant-caps" => "normal";
            "font-variant: normal small-caps" "font-variant-caps" => "normal";
            "font-variant: ruby no-common-ligatures" "font-variant-east-asian" => "ruby";
            "font-variant: ruby no-common-ligatures" "font-variant-ligatures" => "no-common-ligatures";
            "font-variant: small-caps all-small-caps" "font-variant-caps" => "normal";
            "font-synthesis: none" "font-synthesis-weight" => "none";
            "font-synthesis: none" "font-synthesis-style" => "none";
            "font-synthesis: style" "font-synthesis-weight" => "none";
            "font-synthesis: style" "font-synthesis-style" => "auto";
            "font-synthesis: style" "font-synthesis-small-caps" => "none";
            "font-variant-ligatures: none; font: 1em serif" "font-variant-ligatures" => "normal";
            "font-synthesis: style style" "font-synthesis-style" => "auto";
        },
    ),
    (
        "CSS Text 4, CSS Text Decoration 4, CSS Writing Modes 4: what else text has",
        declarations! {
            "-webkit-text-fill-color: red" "-webkit-text-fill-color" => "rgb(255, 0, 0)";
            "-webkit-text-stroke: thin blue" "-webkit-text-stroke-width" => "0.416667px";
            "-webkit-text-stroke: thin blue" "-webkit-text-stroke-color" => "rgb(0, 0, 255)";
            "-webkit-text-stroke: 2px" "-webkit-text-stroke-width" => "2px";
            "-webkit-text-stroke: 2px" "-webkit-text-stroke-color" => "rgb(1, 2, 3)";
            "text-size-adjust: none" "text-size-adjust" => "100%";
            "-webkit-text-size-adjust: 110%" "text-size-adjust" => "110%";
            "hyphenate-character: '-'" "hyphenate-character" => "\"-\"";
            "text-justify: distribute" "text-justify" => "inter-character";
            "text-orientation: upright" "text-orientation" => "upright";
            "text-emphasis-color: red" "text-emphasis-color" => "rgb(255, 0, 0)";
            "-webkit-text-security: disc" "-webkit-text-security" => "disc";
            "text-combine-upright: all" "text-combine-upright" => "all";
            "text-anchor: middle" "text-anchor" => "middle";
        },
    ),
    (
        "CSS Generated Content 3, CSS Sizing 4, CSS Shapes 1, CSS Tables 3 and others",
        declarations! {
            "quotes: \"\u{ab}\" \"\u{bb}\"" "quotes" => "\"\u{ab}\" \"\u{bb}\"";
            "quotes: \"a\"" "quotes" => "auto";
            "quotes: none" "quotes" => "none";
            "contain-intrinsic-size: 10px auto 2em" "contain-intrinsic-width" => "10px";
            "contain-intrinsic-size: 10px auto 2em" "contain-intrinsic-height" => "auto 40px";
            "contain-intrinsic-width: auto" "contain-intrinsic-width" => "none";
            "content-visibility: auto; contain-intrinsic-height: 3px" "contain-intrinsic-height" => "auto 3px";
            "content-visibility: auto; contain-intrinsic-height: 3px" "contain-intrinsic-width" => "auto none";
            "border-spacing: 3.7px 1em" "-webkit-border-horizontal-spacing" => "3px";
            "border-spacing: 3.7px 1em" "-webkit-border-vertical-spacing" => "20px";
            "border-spacing: -1px" "-webkit-border-horizontal-spacing" => "0px";
            "clip: rect(0 0 0 0)" "clip" => "rect(0px, 0px, 0px, 0px)";
            "clip: rect(1px, 1em, auto, 0)" "clip" => "rect(1px, 20px, auto, 0px)";
            "clip: rect(1px 2px)" "clip" => "auto";
            "image-orientation: none" "image-orientation" => "none";
            "shape-margin: 1em" "shape-margin" => "20px";
            "shape-image-threshold: 150%" "shape-image-threshold" => "1";
            "scroll-snap-stop: always" "scroll-snap-stop" => "always";
            "perspective-origin: left 3px" "perspective-origin" => "0px 3px";
            "-webkit-line-clamp: 3" "-webkit-line-clamp" => "3";
            "-webkit-box-orient: vertical" "-webkit-box-orient" => "vertical";
            "box-decoration-break: clone" "box-decoration-break" => "clone";
            "stroke-dashoffset: 4" "stroke-dashoffset" => "4px";
            "stroke-miterlimit: 0" "stroke-miterlimit" => "0";
            "stop-color: red" "stop-color" => "rgb(255, 0, 0)";
            "flood-opacity: 50%" "flood-opacity" => "0.5";
            "-webkit-font-smoothing: antialiased" "-webkit-font-smoothing" => "antialiased";
            "-webkit-tap-highlight-color: transparent" "-webkit-tap-highlight-color" => "rgba(0, 0, 0, 0)";
            "transform-box: fill-box" "transform-box" => "fill-box";
            "ruby-position: under" "ruby-position" => "under";
            "math-style: compact" "math-style" => "compact";
            "vector-effect: non-scaling-stroke" "vector-effect" => "non-scaling-stroke";
        },
    ),
    (
        "CSS Cascade 6, section 2: scopes and proximity",
        &[
            (
                "within the root",
                "@scope (.card) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "not around the root",
                "@scope (.card) { p { z-index: 1 } }",
                "<p id=t>x</p><div class=card></div>",
                "z-index",
                "auto",
            ),
            (
                "the root is within",
                "@scope (#t) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "auto",
            ),
            (
                "the root by :scope",
                "@scope (.card) { :scope > p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "declarations are the root's",
                "@scope (#t) { z-index: 1 }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "`&` is the root",
                "@scope (.card) { & > p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "`&` weighs nothing",
                "p { z-index: 2 } @scope (#t) { & { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "2",
            ),
            (
                ":scope weighs as a class",
                "p { z-index: 2 } @scope (#t) { :scope { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "a combinator begins at the root",
                "@scope (.card) { > p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "the limit is out",
                "@scope (.card) to (p) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "auto",
            ),
            (
                "below the limit is out",
                "@scope (.card) to (.hole) { p { z-index: 1 } }",
                "<div class=card><div class=hole><p id=t>x",
                "z-index",
                "auto",
            ),
            (
                "the limit's own root matters",
                "@scope (.card) to (:scope > .hole) { p { z-index: 1 } }",
                "<div class=card><div><div class=hole><p id=t>x",
                "z-index",
                "1",
            ),
            (
                "a limit that is the root",
                "@scope (.card) to (.card) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "the nearer root wins",
                "@scope (.a) { p { z-index: 1 } } @scope (.b) { p { z-index: 2 } }",
                "<div class=b><div class=a><p id=t>x",
                "z-index",
                "1",
            ),
            (
                "order decides between equally near ones",
                "@scope (.a) { p { z-index: 1 } } @scope (.b) { p { z-index: 2 } }",
                "<div class='a b'><p id=t>x",
                "z-index",
                "2",
            ),
            (
                "near is stronger than unscoped",
                "@scope (.card) { p { z-index: 1 } } p { z-index: 2 }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "specificity is stronger than near",
                "@scope (.card) { p { z-index: 1 } } div p { z-index: 2 }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "2",
            ),
            (
                "layers are stronger than near",
                "@layer { @scope (.card) { p { z-index: 1 } } } p { z-index: 2 }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "2",
            ),
            (
                "scopes in scopes",
                "@scope (.a) { @scope (.b) { p { z-index: 1 } } }",
                "<div class=a><div class=b><p id=t>x",
                "z-index",
                "1",
            ),
            (
                "scopes in scopes, not the other way round",
                "@scope (.a) { @scope (.b) { p { z-index: 1 } } }",
                "<div class=b><div class=a><p id=t>x",
                "z-index",
                "auto",
            ),
            (
                "nested in a rule",
                "div { @scope (& > p) { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "a list of roots",
                "@scope (.x, .card) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "a bad root drops it",
                "@scope (:nope) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "auto",
            ),
            (
                "a pseudo-element is no root",
                "@scope (.card::before) { p { z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "auto",
            ),
            (
                "conditions in scopes",
                "@scope (.card) { @media all { p { z-index: 1 } } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "rules in rules in scopes",
                "@scope (.card) { p { &.y { z-index: 2 } z-index: 1 } }",
                "<div class=card><p id=t>x</p></div>",
                "z-index",
                "1",
            ),
            (
                "importance in scopes",
                "@scope (.a) { p { z-index: 1 !important } } @scope (.b) { p { z-index: 2 !important } }",
                "<div class=b><div class=a><p id=t>x",
                "z-index",
                "1",
            ),
        ],
    ),
    (
        "CSS Namespaces 3",
        &[
            (
                "a prefix",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; s|g { z-index: 1 }",
                "<svg><g id=t>",
                "z-index",
                "1",
            ),
            (
                "another namespace",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; h|g { z-index: 1 }",
                "<svg><g id=t>",
                "z-index",
                "auto",
            ),
            (
                "any namespace",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; *|g { z-index: 1 }",
                "<svg><g id=t>",
                "z-index",
                "1",
            ),
            (
                "no namespace",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; |p { z-index: 1 }",
                "<p id=t>x",
                "z-index",
                "auto",
            ),
            (
                "one for all names",
                "@namespace url(http://www.w3.org/2000/svg); p { z-index: 1 }",
                "<p id=t>x",
                "z-index",
                "auto",
            ),
            (
                "and for those of classes",
                "@namespace url(http://www.w3.org/2000/svg); #t { z-index: 1 }",
                "<p id=t>x",
                "z-index",
                "auto",
            ),
            (
                "any of a prefix",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; s|* { z-index: 1 }",
                "<svg><g id=t>",
                "z-index",
                "1",
            ),
            ("a prefix that nobody declared", "q|p, p { z-index: 1 }", "<p id=t>x", "z-index", "auto"),
            (
                "too late",
                "a { z-index: 2 } @namespace url(http://www.w3.org/2000/svg); p { z-index: 1 }",
                "<p id=t>x",
                "z-index",
                "1",
            ),
            (
                "attributes have none",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; [h|title] { z-index: 1 }",
                "<p id=t title=x>x",
                "z-index",
                "auto",
            ),
            (
                "attributes of any",
                "@namespace s url(http://www.w3.org/2000/svg); @namespace h 'http://www.w3.org/1999/xhtml'; [*|title] { z-index: 1 }",
                "<p id=t title=x>x",
                "z-index",
                "1",
            ),
        ],
    ),
    (
        "HTML, section 4.2.5.1, and CSS Color Adjustment 1: schemes of the page",
        &[
            (
                "dark alone",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) }",
                "<meta name=color-scheme content=dark><p id=t>x",
                "color",
                "rgb(4, 5, 6)",
            ),
            (
                "light before dark",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) }",
                "<meta name=color-scheme content='light dark'><p id=t>x",
                "color",
                "rgb(1, 2, 3)",
            ),
            (
                "what cannot be read is passed over",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) }",
                "<meta name=color-scheme content='3'><meta name=color-scheme content=dark><p id=t>x",
                "color",
                "rgb(4, 5, 6)",
            ),
            (
                "the first counts",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) }",
                "<meta name=color-scheme content=light><meta name=color-scheme content=dark><p id=t>x",
                "color",
                "rgb(1, 2, 3)",
            ),
            (
                "the element's own is stronger",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) } #t { color-scheme: light }",
                "<meta name=color-scheme content=dark><p id=t>x",
                "color",
                "rgb(1, 2, 3)",
            ),
            (
                "the name in any case",
                "#t { color: light-dark(rgb(1, 2, 3), rgb(4, 5, 6)) }",
                "<meta name=Color-SCHEME content='only dark'><p id=t>x",
                "color",
                "rgb(4, 5, 6)",
            ),
        ],
    ),
];
