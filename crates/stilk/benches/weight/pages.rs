//! The pages: the same elements on both sides, with the classes of the one or the other.

use std::fmt::Write;

/// The stylesheet that is written by hand.
pub const HAND: &str = include_str!("hand.css");

/// Whose classes and stylesheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Side {
    /// Those that Stilk writes.
    Ours,
    /// Those that a person writes.
    ByHand,
}

/// What moves.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Motion {
    /// Everything that stylesheets let move.
    Full,
    /// What they let move for people who ask for less.
    Reduced,
    /// Nothing: transitions and animations are taken out of the stylesheets.
    None,
}

impl Motion {
    /// All of them.
    pub const ALL: [Motion; 3] = [Motion::Full, Motion::Reduced, Motion::None];

    fn of(self, css: &str) -> String {
        match self {
            Motion::Full => css.to_owned(),
            // What is asked of people is answered in the stylesheet: so every browser gives the same answer.
            Motion::Reduced => css
                .replace("prefers-reduced-motion:", "prefers-reduced-motion: ")
                .replace("(prefers-reduced-motion:  ", "(prefers-reduced-motion: ")
                .replace("(prefers-reduced-motion: no-preference)", "(max-width: 0px)")
                .replace("(prefers-reduced-motion: reduce)", "(min-width: 0px)"),
            Motion::None => without_motion(css),
        }
    }
}

/// A stylesheet without declarations of motion.
fn without_motion(css: &str) -> String {
    let mut text = String::with_capacity(css.len());
    let mut rest = css;
    while let Some(at) = ["transition:", "animation:"].iter().filter_map(|name| rest.find(name)).min() {
        let is_declaration = rest[..at].trim_end().ends_with(['{', ';']);
        let end = at + rest[at..].find([';', '}']).expect("an end");
        text.push_str(&rest[..at]);
        if !is_declaration {
            text.push_str(&rest[at..end]);
        }
        rest = if is_declaration && rest[end..].starts_with(';') { &rest[end + 1..] } else { &rest[end..] };
    }
    text + rest
}

/// A control's markup on both sides; `#` stands for its number.
const CONTROLS: [[&str; 2]; 12] = [
    [
        "<button class='tern-button' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    [
        "<button class='tern-button tern-button-outline' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go go-outline' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    [
        "<button class='tern-button tern-button-bare tern-button-small' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go go-bare go-small' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    [
        "<button class='tern-button tern-button-linklike' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go go-linklike' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    [
        "<button class='tern-button tern-button-buoy tern-button-large' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go go-buoy go-large' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    [
        "<button class='tern-button tern-button-kelp' type='button'><span class='tern-button_label'>Book</span><span class='tern-button_spinner' aria-hidden='true'></span></button>",
        "<button class='go go-kelp' type='button'><span class='go-words'>Book</span><span class='go-wheel' aria-hidden='true'></span></button>",
    ],
    FIELD,
    FIELD,
    [
        "<label class='tern-switch'><span class='tern-switch_track'><input class='tern-switch_native' type='checkbox' role='switch'><span class='tern-switch_thumb'></span></span><span class='tern-switch_caption'>Return</span></label>",
        "<label class='flip'><span class='flip-track'><input class='flip-native' type='checkbox' role='switch'><span class='flip-thumb'></span></span><span class='flip-words'>Return</span></label>",
    ],
    [
        "<label class='tern-switch'><span class='tern-switch_track'><input class='tern-switch_native' type='checkbox' role='switch'><span class='tern-switch_thumb'></span></span><span class='tern-switch_caption'>Return</span></label>",
        "<label class='flip'><span class='flip-track'><input class='flip-native' type='checkbox' role='switch'><span class='flip-thumb'></span></span><span class='flip-words'>Return</span></label>",
    ],
    [
        "<label class='tern-checkbox'><span class='tern-checkbox_mark'><input class='tern-checkbox_native' type='checkbox'><span class='tern-checkbox_sign'></span></span><span class='tern-checkbox_caption'>Dog</span></label>",
        "<label class='tick'><span class='tick-mark'><input class='tick-native' type='checkbox'><span class='tick-sign'></span></span><span class='tick-words'>Dog</span></label>",
    ],
    [
        "<div class='tern-select'><label class='tern-select_label' for='n#'>Harbour</label><p class='tern-select_hint' id='h#'>Where.</p><span class='tern-select_box'><select class='tern-select_native' id='n#'><option>Gullsay</option><option>Skerry</option></select><span class='tern-select_chevron' aria-hidden='true'></span></span><p class='tern-select_error' id='e#'>Choose.</p></div>",
        "<div class='entry choose'><label class='entry-name' for='n#'>Harbour</label><p class='entry-hint' id='h#'>Where.</p><span class='entry-box'><select class='entry-native' id='n#'><option>Gullsay</option><option>Skerry</option></select><span class='choose-arrow' aria-hidden='true'></span></span><p class='entry-fault' id='e#'>Choose.</p></div>",
    ],
];

const FIELD: [&str; 2] = [
    "<div class='tern-field'><label class='tern-field_label' for='n#'>Vessel</label><p class='tern-field_hint' id='h#'>As painted.</p><span class='tern-field_box'><input class='tern-field_native' id='n#' type='text' placeholder='Kittiwake'></span><p class='tern-field_error' id='e#'>Enter it.</p></div>",
    "<div class='entry'><label class='entry-name' for='n#'>Vessel</label><p class='entry-hint' id='h#'>As painted.</p><span class='entry-box'><input class='entry-native' id='n#' type='text' placeholder='Kittiwake'></span><p class='entry-fault' id='e#'>Enter it.</p></div>",
];

/// A page of so many controls, half of them buttons.
pub fn page(side: Side, ours: &str, controls: usize, motion: Motion) -> String {
    let css = match side {
        Side::Ours => motion.of(ours),
        Side::ByHand => motion.of(HAND),
    };
    let mut body = String::new();
    for at in 0..controls {
        let text = CONTROLS[at % CONTROLS.len()][usize::from(side == Side::ByHand)];
        let _ = writeln!(body, "<div>{}</div>", text.replace('#', &at.to_string()));
    }
    format!(
        "<!doctype html><html lang=en data-theme=day><head><meta charset=utf-8><title>Controls</title>\n<style>{css}</style></head><body>\n{body}</body></html>"
    )
}
