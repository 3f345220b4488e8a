//! Plain CSS in sheets: fonts, typed properties, and blocks that were pasted.

use crate::memory::{Memory, messages};
use stilk_language::stylesheet::{Purpose, write};

#[track_caller]
fn css(sheet: &str) -> String {
    let project = Memory::with_sheet(sheet).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    write(system, &project.sources, Purpose::Page).text
}

#[track_caller]
fn said(sheet: &str) -> Vec<String> {
    messages(&Memory::with_sheet(sheet).load())
}

#[test]
fn fonts_and_typed_properties_are_written_outside_of_layers() {
    let css = css("@font-face { font-family: \"Deck\"; src: url(\"deck.woff2\") format(\"woff2\"); font-weight: 400; }
                   @property --page-tone { syntax: \"<color>\"; inherits: true; initial-value: {a}; }
                   @control x { --turn: 0deg; rotate: var(--turn);
                     @property --turn { syntax: \"<angle>\"; inherits: true; initial-value: 0deg; } }");
    for expected in [
        "@font-face {\n  font-family: \"Deck\";\n  src: url(\"deck.woff2\") format(\"woff2\");\n  font-weight: 400;\n}",
        "@property --page-tone {\n  syntax: \"<color>\";\n  inherits: true;\n  initial-value: color(srgb 1 0 0);\n}",
        "@property --t-x-turn {\n  syntax: \"<angle>\";\n  inherits: true;\n  initial-value: 0deg;\n}",
    ] {
        assert!(css.contains(expected), "{expected}\nis not in\n{css}");
    }
}

#[test]
fn what_browsers_would_drop_is_an_error() {
    for (sheet, expected) in [
        ("@font-face { font-family: Deck; }", "has no `src`"),
        ("@font-face { font-family: Deck; src: url(\"a\"); colour: red; }", "no descriptor `colour`"),
        (
            "@control x { --n: 0; order: var(--n); @property --n { syntax: \"<number>\"; initial-value: 0; } }",
            "has no `inherits`",
        ),
        (
            "@control x { --n: 0; order: var(--n); @property --n { syntax: \"<number>\"; inherits: true; } }",
            "has no `initial-value`",
        ),
        ("@control x { @property --n { syntax: \"*\"; inherits: true; } }", "local property `--n`"),
        ("@property n { syntax: \"*\"; inherits: true; }", "names one custom property"),
        ("@control x { @font-face { } }", "stands at the top of a sheet"),
    ] {
        let messages = said(sheet);
        assert!(messages.iter().any(|m| m.contains(expected)), "{sheet}: {messages:?}");
    }
}

/// What an inspector's "copy styles" and gradient and shadow generators give, vendor lines and all.
#[test]
fn a_pasted_block_stands_as_it_is() {
    let css = css("@control x {
        display: flex;
        -webkit-box-align: center;
        -ms-flex-align: center;
        align-items: center;
        background: #2989d8;
        background: -moz-linear-gradient(top, #1e5799 0%, #2989d8 50%, #7db9e8 100%);
        background: -webkit-linear-gradient(top, #1e5799 0%,#2989d8 50%,#7db9e8 100%);
        background: linear-gradient(to bottom, #1e5799 0%,#2989d8 50%,#7db9e8 100%); /* W3C */
        filter: progid:DXImageTransform.Microsoft.gradient( startColorstr='#1e5799', endColorstr='#7db9e8',GradientType=0 ); /* IE6-9 */
        -webkit-box-shadow: 0px 0px 10px 0px rgba(0,0,0,0.75);
        -moz-box-shadow: 0px 0px 10px 0px rgba(0,0,0,0.75);
        box-shadow: 0px 0px 10px 0px rgba(0,0,0,0.75);
        *zoom: 1;
        font: 400 13.3333px Arial;
        color: rgb(1 2 3) !important;
        -webkit-font-smoothing: antialiased;
        margin: 0em;
        unicode-bidi: isolate;
        block-size: auto;
        perspective-origin: 50% 50%;
        transform-origin: 0px 0px;
        border-image: initial;
        text-wrap: nowrap;
    }");
    for kept in [
        "linear-gradient(to bottom, #1e5799 0%,#2989d8 50%,#7db9e8 100%)",
        "-webkit-box-shadow: 0px",
        "13.3333px Arial",
        "color: rgb(1 2 3);",
    ] {
        assert!(css.contains(kept), "{kept} is not in\n{css}");
    }
    for left_out in ["progid", "zoom", "important"] {
        assert!(!css.contains(left_out), "{left_out} is in\n{css}");
    }
}
