//! What the manifest leaves as sheets have it, and how it names custom properties.

use crate::memory::{Memory, messages};
use stilk_language::stylesheet::{Purpose, write};

const SHEET: &str = "@control x { color: {a}; transition: color 1s; @part mark marked (svg) { order: 1; }\n\
                     @state hover { z-index: 1; } @state focus { z-index: 2; } @state hover and disabled { z-index: 3; } }";

fn written(stylesheet: &str, tokens: Option<&str>) -> (String, Vec<String>) {
    let manifest = format!(
        "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n[surfaces]\npage = \"{{paper}}\"\n[stylesheet]\n{stylesheet}\n"
    );
    let mut memory = Memory::with_sheet(SHEET)
        .file("stilk.toml", &manifest)
        .file("controls/x.html", "<button type=\"button\"><svg part=\"mark\"></svg>Go</button>");
    if let Some(tokens) = tokens {
        memory = memory.file("t.tokens.json", tokens);
    }
    let project = memory.load();
    let said = messages(&project);
    let text = project.system.as_ref().map(|system| write(system, &project.sources, Purpose::Page).text);
    (text.unwrap_or_default(), said)
}

#[test]
fn each_word_takes_away_what_it_stands_for() {
    let (usual, said) = written("", None);
    assert!(said.iter().any(|message| message.contains("hover and disabled` never holds")), "{said:?}");
    let (plain, said) = written("as_written = [\"reset\", \"motion\", \"hover\", \"focus\", \"blocked\"]", None);
    assert!(said.iter().all(|message| !message.contains("never holds")), "{said:?}");
    for added in [
        "@media (hover: hover)",
        "@media (prefers-reduced-motion: no-preference)",
        "@layer t.reset {",
        ":focus-visible",
        ":not(:disabled, [aria-disabled=\"true\"], [aria-busy=\"true\"])",
    ] {
        assert!(usual.contains(added), "{added} is not written:\n{usual}");
        assert!(!plain.contains(added), "{added} is written:\n{plain}");
    }
    assert!(plain.contains(":where(:focus)") && plain.contains("transition: color 1s"), "{plain}");
}

#[test]
fn custom_properties_of_tokens_are_named_by_a_pattern() {
    let (text, said) = written("property = \"{token}\"", None);
    assert_eq!(said.iter().filter(|message| message.contains("property")).count(), 0, "{said:?}");
    assert!(text.contains("--a: ") && text.contains("color: var(--a)"), "{text}");
    for wrong in ["no-token", "{token}-{token}", "{token} x", "{other}-{token}"] {
        let (_, said) = written(&format!("property = \"{wrong}\""), None);
        assert!(
            said.iter().any(|message| message.contains("is no pattern for custom properties")),
            "{wrong}: {said:?}"
        );
    }
    let (_, said) = written("as_written = [\"resets\"]", None);
    assert!(said.iter().any(|message| message.contains("`resets`")), "{said:?}");
}

#[test]
fn a_part_that_is_an_element_has_the_specificity_of_all_others() {
    let (text, _) = written("", None);
    assert!(text.contains(":where(.t-x) :where(svg):not(._) {"), "{text}");
}

#[test]
fn a_colour_of_bytes_is_written_as_pages_write_it() {
    let tokens = |hex: &str, alpha: &str| {
        format!(
            r#"{{ "paper": {{ "$type": "color", "$value": {{ "colorSpace": "srgb", "components": [1, 1, 1] }} }},
                 "a": {{ "$type": "color", "$value": {{ "colorSpace": "srgb", "components": [0.102, 0.4157, 0.5412]{alpha}, "hex": "{hex}" }} }} }}"#
        )
    };
    let value = |hex: &str, alpha: &str| {
        let (text, _) = written("", Some(&tokens(hex, alpha)));
        let at = text.find("--t-a: ").expect("the token") + "--t-a: ".len();
        text[at..].split(';').next().unwrap_or_default().to_owned()
    };
    assert_eq!(value("#1a6a8a", ""), "#1a6a8a");
    assert_eq!(value("#1a6a8a", ", \"alpha\": 0.2"), "rgb(26 106 138 / 0.2)");
    // Another colour than the components say counts for nothing.
    assert_eq!(value("#1a6a8b", ""), "color(srgb 0.102 0.4157 0.5412)");
}
