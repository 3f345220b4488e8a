//! Where boxes stand, how large they are, and what lies over what.

mod anchored;
mod centered;
mod corner;
mod depth;
mod inline;
mod mirrored;
mod painted;
mod target;
mod travel;
mod variant_size;
mod wrap;

use crate::judged::{BUTTON, leaves_open};
use crate::memory::{Memory, messages};
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_language::stylesheet::{Purpose, write};

const BADGE: &str = "<button type=\"button\"><span part=\"label\">Book</span><span part=\"badge\">2</span></button>";

#[test]
fn what_a_layout_would_have_to_say_is_left_open() {
    leaves_open(
        "geometry/target",
        BUTTON,
        &[
            "display: inline-block; writing-mode: vertical-rl; padding: 4px;",
            "display: inline-block; float: left; padding: 4px; line-height: 20px;",
        ],
    );
    leaves_open("geometry/corner", BUTTON, &["display: inline-block; border-radius: 11px; line-height: normal;"]);
}

const STATES: &str = "@state hover { z-index: 1; } @state focus { outline: 1px solid; } @state active { z-index: 3; } @state disabled { z-index: 4; }";

/// What a check says of a control, with how many cases it could not decide.
pub fn said(check: &'static str, memory: &Memory) -> (Vec<String>, u64) {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let settings = Settings { threads: 1, today: None, only: vec![check], ..Settings::default() };
    let report = run(system, &project.sources, &written, &settings);
    let words = |f: &stilk_text::diagnostic::Diagnostic| {
        let mend = f.mend.clone().unwrap_or_default();
        format!("{} | {}", f.message, mend.split(':').next().unwrap_or_default())
    };
    (report.findings.iter().map(words).collect(), report.unknown)
}
