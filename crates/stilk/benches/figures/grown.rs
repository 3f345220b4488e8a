//! A system that grows by whole controls, each with tints of its own in every theme: no check can take one for another.

use std::fmt::Write;
use tempfile::TempDir;

/// Grown so many times it has more than a million cases.
pub const MILLION: usize = 160;
/// Tints of a control.
const TINTS: usize = 6;

const TEMPLATE: &str = "<button type=\"button\"><span part=\"label\"><slot>Cast off</slot></span></button>\n\
    <a href=\"#quay\"><span part=\"label\"><slot>Cast off</slot></span></a>\n<input type=\"submit\" value=\"Cast off\">\n";

const MANIFEST: &str = "[system]\nname = \"Grown\"\nprefix = \"grown\"\ntokens = \"grown.resolver.json\"\n\n\
    [surfaces]\npage = \"{page}\"\n";

const VOICES: &str =
    "strong { } outline { --paint: {page}; --text: var(--fill); } bare { --paint: transparent; --text: var(--fill); }";
const SIZES: &str = "small { --size: 14px; } medium { } large { --size: 20px; } huge { --size: 26px; }";

/// Writes the system, grown by a factor, into a folder of its own.
pub fn project(factor: usize) -> TempDir {
    let resolver = format!(
        "{{ \"version\": \"2025.10\", \"sets\": {{ \"base\": {{ \"sources\": [{}] }} }},
  \"modifiers\": {{ \"theme\": {{ \"contexts\": {{ \"day\": [], \"dusk\": [{}], \"night\": [{}] }}, \"default\": \"day\" }} }},
  \"resolutionOrder\": [{{ \"$ref\": \"#/sets/base\" }}, {{ \"$ref\": \"#/modifiers/theme\" }}] }}\n",
        tokens(factor, 0.4, 0.98),
        tokens(factor, 0.35, 0.95),
        tokens(factor, 0.85, 0.15),
    );
    let folder = tempfile::tempdir().expect("a folder");
    std::fs::create_dir(folder.path().join("controls")).expect("a folder");
    let write = |name: &str, text: &str| std::fs::write(folder.path().join(name), text).expect("a file");
    write("stilk.toml", MANIFEST);
    write("grown.resolver.json", &resolver);
    for control in 0..factor {
        write(&format!("controls/button-{control}.html"), TEMPLATE);
        write(&format!("controls/button-{control}.stilk"), &sheet(control));
    }
    folder
}

fn tokens(factor: usize, fill: f64, on: f64) -> String {
    let color = |lightness: f64, hue: usize| {
        format!("{{ \"$value\": {{ \"colorSpace\": \"oklch\", \"components\": [{lightness}, 0.1, {hue}] }} }}")
    };
    let mut text = format!("{{ \"$type\": \"color\", \"page\": {}", color(on, 220));
    for control in 0..factor {
        for tint in 0..TINTS {
            let hue = (control * TINTS + tint) * 360 / (factor * TINTS);
            // Writing to a String does not fail.
            let _ = write!(
                text,
                ", \"fill-{control}-{tint}\": {}, \"on-{control}-{tint}\": {}",
                color(fill, hue),
                color(on, hue)
            );
        }
    }
    text + " }"
}

fn sheet(control: usize) -> String {
    let mut options = String::from("    tint-0 { }\n");
    for tint in 1..TINTS {
        let tokens = format!("--fill: {{fill-{control}-{tint}}}; --on: {{on-{control}-{tint}}};");
        let _ = writeln!(options, "    tint-{tint} {{ {tokens} }}");
    }
    format!(
        "@control button-{control} {{
  --fill: {{fill-{control}-0}}; --on: {{on-{control}-0}}; --paint: var(--fill); --text: var(--on);
  --shade: 0%; --size: 16px;
  display: inline-flex; padding: 8px 16px; border: 1px solid; background: none;
  background-color: color-mix(in oklab, var(--paint), black var(--shade)); color: var(--text); font-size: var(--size);
  @state hover {{ --shade: 8%; }} @state focus {{ outline: 2px solid var(--fill); outline-offset: 2px; }}
  @state active {{ --shade: 14%; }}
  @state selected {{ --shade: 10%; border-style: double; }} @state busy {{ @part label {{ opacity: .9; }} }} @state disabled {{ opacity: .5; }}
  @axis tint default tint-0 {{
{options}  }}
  @axis voice default strong {{ {VOICES} }}
  @axis size default medium {{ {SIZES} }}
}}\n"
    )
}
