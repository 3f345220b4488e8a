//! Whatever is offered can be set: of every control, of many of its elements, each place takes a value of its kind, and what comes
//! of it loads and holds.

use crate::files::Project;
use stilk_checks::trace::Tracer;
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_language::case::LookEngine;
use stilk_nudge::change::{Change, Place};
use stilk_nudge::outcome::trial;
use stilk_nudge::painting::{Asked, Choice, Kind, View};

fn value_of(choice: &Choice) -> &str {
    match choice.kind {
        Kind::Length if choice.value.ends_with('%') => "7.5%",
        Kind::Color => "oklch(0.4321 0.0123 123.4)",
        Kind::Length => "7.5px",
        Kind::Number => "1",
        Kind::Time => "250ms",
        Kind::Easing => "cubic-bezier(0.1, 0.2, 0.3, 0.4)",
        Kind::Font => "\"One\", serif",
        Kind::Shadow => "0px 3px 5px 1px oklch(0.4321 0.0123 123.4)",
        Kind::Gradient => "oklch(0.4321 0.0123 123.4) 0%, oklch(0.5 0.1 20) 100%",
        Kind::Keyword => choice.keywords.first().copied().unwrap_or(&choice.value),
        Kind::Text => &choice.value,
    }
}

fn all_of(folder: &str, step: usize) -> (usize, usize) {
    let project = Project::at(folder);
    let written = project.written();
    let parsed = Stylesheet::parse(&written.text);
    let (system, sources) = (project.system(), project.sources());
    let tracer = Tracer::new(system, sources, &written, &parsed);
    let look_engine = LookEngine::new(system, &written, &parsed, Media::default());
    let view = View { system, sources, tracer: &tracer, look_engine: &look_engine };
    let themes = system.tokens.themes().len();
    let (mut tried, mut refused, mut turn) = (0, 0, 0);
    let mut known: std::collections::HashSet<Place> = std::collections::HashSet::new();
    for (index, control) in system.controls.iter().enumerate() {
        for cell in [[0, 0], [1, 1], [2, 3]] {
            for element in 0..6 {
                let asked = Asked {
                    control: control.name.value.clone(),
                    host: 0,
                    options: Vec::new(),
                    cell: Some(cell),
                    theme: (index + element) % themes,
                    element,
                    pseudo: None,
                };
                let Ok(painting) = view.painting(&asked) else { continue };
                for choice in painting.values.iter().flat_map(|value| &value.choices) {
                    turn += 1;
                    if !known.insert(choice.place.clone()) || turn % step != 0 {
                        continue;
                    }
                    tried += 1;
                    let value = value_of(choice).to_owned();
                    let change = Change { place: choice.place.clone(), value: value.clone() };
                    match trial(project.project(), &[change]) {
                        Ok((_, trial)) => {
                            if let Place::Token { path } = &choice.place {
                                let tokens = &trial.system.tokens;
                                let id = tokens.find_path(path).expect("the token");
                                let is = tokens.themes().iter().all(|theme| {
                                    let literal = tokens.literal(id, theme).unwrap_or_default();
                                    choice.kind != Kind::Color || literal == value
                                });
                                assert!(is, "{path} is {value} in every theme");
                            }
                        }
                        Err(why) => {
                            refused += 1;
                            let told = why.contains("change") || why.contains("write") || why.contains("load");
                            assert!(told, "{:?}: {why}", choice.place);
                        }
                    }
                }
            }
        }
    }
    (tried, refused)
}

#[test]
fn whatever_is_offered_can_be_set() {
    for (folder, step) in [("../../demo/ternhaven", 3), ("../stilk/starter", 1)] {
        let (tried, refused) = all_of(folder, step);
        assert!(tried > 100, "{folder}: {tried} were offered");
        assert!(refused * 50 < tried, "{folder}: {refused} of {tried} cannot be set");
    }
}
