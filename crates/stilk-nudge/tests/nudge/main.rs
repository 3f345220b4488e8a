//! Values that are set by hand, without a program around it: notations of files, places, and whatever is offered.

mod files;
mod notation;
mod offered;

use files::Project;
use std::collections::BTreeSet;
use stilk_checks::fingerprint::fingerprint;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_checks::trial::{Found, Trial};
use stilk_language::tokens::TokenType;
use stilk_nudge::change::{Change, Ground, Place, all_edits};
use stilk_nudge::outcome::{KnownPart, outcome, trial};
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::Sources;

fn token(path: &str) -> Place {
    Place::Token { path: path.into() }
}

fn token_in(path: &str, context: &str) -> Place {
    let modifier = if ["roomy", "tight"].contains(&context) { "density" } else { "theme" };
    Place::TokenIn { path: path.into(), modifier: modifier.into(), context: context.into() }
}

fn own(options: &[&str], states: &[&str], part: Option<&str>, pseudo: Option<&str>) -> Place {
    let all = |list: &[&str]| list.iter().map(|name| (*name).to_owned()).collect();
    Place::Own {
        control: "button".into(),
        options: all(options),
        states: all(states),
        part: part.map(str::to_owned),
        pseudo: pseudo.map(str::to_owned),
        property: "letter-spacing".into(),
    }
}

/// The lines that come and go, by file.
fn differences(project: &Project, trial: &Trial) -> Vec<String> {
    let mut found = Vec::new();
    for (path, after) in &trial.files {
        let before = project.text(path);
        let (old, new): (Vec<&str>, Vec<&str>) = (before.lines().collect(), after.lines().collect());
        let gone = old.iter().filter(|line| !new.contains(line)).map(|line| format!("{path}: - {}", line.trim()));
        let come = new.iter().filter(|line| !old.contains(line)).map(|line| format!("{path}: + {}", line.trim()));
        found.extend(gone.chain(come));
    }
    found
}

fn made(project: &Project, place: Place, value: &str) -> Vec<String> {
    let (_, trial) = trial(project.project(), &[Change { place, value: value.into() }]).expect("it can be made");
    differences(project, &trial)
}

fn refused(project: &Project, place: Place, value: &str) -> String {
    let change = Change { place, value: value.into() };
    match trial(project.project(), &[change]) {
        Err(why) => why,
        Ok((_, trial)) => panic!("it is made: {:?}", differences(project, &trial)),
    }
}

#[test]
fn tokens_are_set_everywhere_in_a_theme_or_for_the_first_time_in_one() {
    let project = Project::demo();
    // A value of its own in each theme: all three, each in its file's notation.
    let found = made(&project, token("edge.soft"), "#808080");
    assert_eq!(found.len(), 6, "{found:#?}");
    let found = made(&project, token_in("fill.sea", "day"), "{sea.deep}");
    assert_eq!(
        found,
        [
            r#"tokens/day.tokens.json: - "sea": { "$value": "{sea.open}" },"#,
            r#"tokens/day.tokens.json: + "sea": { "$value": "{sea.deep}" },"#,
        ]
    );
    // The night says nothing of the palette yet: the member is put where its group would stand, with its type.
    let change = Change { place: token_in("sea.open", "night"), value: "oklch(0.4 0.1 232)".into() };
    let (_, trial) = trial(project.project(), &[change]).expect("it can be made");
    let tokens = &trial.system.tokens;
    let id = tokens.find_path("sea.open").expect("the token");
    let values: Vec<String> = tokens
        .themes()
        .iter()
        .map(|theme| format!("{}: {}", tokens.theme_name(theme), tokens.literal(id, theme).unwrap_or_default()))
        .collect();
    let (night, others): (Vec<&String>, Vec<&String>) = values.iter().partition(|value| value.starts_with("night"));
    assert!(night.iter().all(|value| value.ends_with("oklch(0.4 0.1 232)")), "{values:?}");
    assert!(others.iter().all(|value| value.ends_with("oklch(0.5 0.11 232)")), "{values:?}");
}

#[test]
fn declarations_keep_all_that_stands_around_them() {
    let project = Project::demo();
    let text = project.text("controls/button.stilk");
    let start = text.find("--corner: {corner.control}").expect("the local");
    let place = Place::Declaration { file: "controls/button.stilk".into(), start, property: "--corner".into() };
    let found = made(&project, place.clone(), "3px");
    let comment = "/* set by the axis corners */";
    assert_eq!(
        found,
        [
            format!("controls/button.stilk: - --corner: {{corner.control}}; {comment}"),
            format!("controls/button.stilk: + --corner: 3px; {comment}"),
        ]
    );
    let elsewhere =
        Place::Declaration { file: "controls/button.stilk".into(), start: start + 1, property: "--corner".into() };
    assert!(refused(&project, elsewhere, "3px").contains("says something else there by now"));
    for (value, words) in [
        ("3px; color: red", "leave out the `;`"),
        ("calc(1px", "does not close"),
        ("1px)", "closes what it has not opened"),
        ("red /* x */", "holds a comment"),
        ("\"x", "does not end its text"),
        ("1px } @control x { color: red", "closes what it has not opened: leave out the `}`"),
        ("\"\\\\\"; } @control x { color: \"", "leave out the `;`"),
        ("\\\"; } x { color: \"", "leave out the `;`"),
        ("a\nb", "on one line"),
        ("  ", "there is no value"),
    ] {
        let why = refused(&project, place.clone(), value);
        assert!(why.contains(words), "{value:?}: {why}");
    }
}

#[test]
fn a_value_of_ones_own_wins_in_its_case() {
    let project = Project::demo();
    for (place, wanted) in [
        (own(&[], &[], None, None), "+ letter-spacing: 3px;"),
        (own(&["full"], &[], None, None), "letter-spacing: 3px;"),
        (
            own(&["outline", "small"], &["hover"], None, None),
            "@combine outline small { @state hover { letter-spacing: 3px; } }",
        ),
        (own(&["kelp"], &[], Some("label"), None), "@part label { letter-spacing: 3px; }"),
        (own(&[], &["focus"], None, Some("before")), "@state focus { @part ::before { letter-spacing: 3px; } }"),
    ] {
        let found = made(&project, place.clone(), "3px");
        assert!(found.iter().any(|line| line.contains(wanted)), "{place:?}: {found:#?}");
    }
    let no_name = own(&["kelp { } x"], &[], None, None);
    assert!(refused(&project, no_name, "3px").contains("is no name"));
    let no_option = own(&["kelpp"], &[], None, None);
    assert!(refused(&project, no_option, "3px").contains("has no option `kelpp`"));
}

#[test]
fn several_changes_are_made_together_and_the_later_counts() {
    let project = Project::demo();
    let change = |place: Place, value: &str| Change { place, value: value.into() };
    let all = [
        change(token("corner.control"), "9px"),
        change(token("fill.sea"), "#004488"),
        change(token_in("fill.sea", "day"), "#005599"),
        change(token("corner.control"), "10px"),
    ];
    let (_, trial) = trial(project.project(), &all).expect("they can be made");
    let found = differences(&project, &trial);
    assert!(found.iter().any(|line| line.contains("\"value\": 10, \"unit\": \"px\"")), "{found:#?}");
    assert!(!found.iter().any(|line| line.contains("\"value\": 9,")), "{found:#?}");
    let ground = Ground { system: &trial.system, sources: &trial.sources };
    assert!(all_edits(ground, &all).expect("they can be made again").is_empty(), "what is so already is no edit");
}

#[test]
fn findings_come_and_go_with_a_value() {
    let project = Project::demo();
    let settings = stilk_checks::settings::Settings { threads: 2, ..Default::default() };
    let written = project.written();
    let known = stilk_checks::run::run(project.system(), project.sources(), &written, &settings);
    let change = Change { place: token_in("fill.sea", "day"), value: "oklch(0.7 0.1 232)".into() };
    let (_, tried) = trial(project.project(), &[change]).expect("it can be made");
    let found = outcome(project.project(), &known, tried, &settings, &mut KnownPart::default(), None);
    assert!(found.come.iter().any(|finding| finding.id == "contrast/text"), "{:?}", found.come);
    assert!(found.gone.is_empty(), "{:?}", found.gone);
    let (comparison, step, _) = found.compared(project.project(), &written);
    assert!(comparison.changed > 0);
    assert_eq!(step.word(), "major", "text that could be read no longer can");
}

/// Findings by their fingerprints, with how many cases each holds for.
fn named<'f>(findings: impl IntoIterator<Item = &'f Diagnostic>, sources: &Sources) -> BTreeSet<String> {
    findings.into_iter().map(|finding| fingerprint(finding, sources)).collect()
}

#[test]
fn what_comes_of_a_token_is_what_a_whole_run_says() {
    let settings = Settings { threads: 2, without_mends: true, ..Default::default() };
    for (project, step) in
        [("../stilk/tests/projects/pier", 1), ("../stilk/tests/projects/quay", 2), ("../../demo/ternhaven", 24)]
    {
        let project = Project::at(project);
        let written = project.written();
        let known = run(project.system(), project.sources(), &written, &settings);
        let before = Found::new(&known.findings, project.sources());
        let mut part = KnownPart::default();
        let tokens = project.system().tokens.list.iter().filter(|token| !token.is_member);
        for token in tokens.step_by(step) {
            let value = match token.kind {
                Some(TokenType::Color) => "oklch(0.62 0.12 140)",
                Some(TokenType::Dimension) => "3px",
                Some(TokenType::Duration) => "0ms",
                Some(TokenType::Number) => "0.2",
                _ => continue,
            };
            let change = Change { place: Place::Token { path: token.path.clone() }, value: value.to_owned() };
            let Ok((_, tried)) = trial(project.project(), &[change]) else { continue };
            // One that is derived stands in a sheet, and all that depends on the sheet is looked at.
            let is_derived = tried.files.keys().any(|path| path.ends_with(".stilk"));
            assert_eq!(tried.part(project.project(), &settings).is_none(), is_derived, "{}", token.path);
            let whole = tried.report(&settings);
            let left = named(&whole.findings, &tried.sources);
            let come = named(before.worse(&whole.findings, &tried.sources), &tried.sources);
            let gone = known.findings.iter().filter(|one| !left.contains(&fingerprint(one, project.sources())));
            let gone = named(gone, project.sources());
            let count = left.len();
            let found = outcome(project.project(), &known, tried, &settings, &mut part, None);
            assert_eq!(named(&found.come, &found.trial.sources), come, "{} comes to {value}: what comes", token.path);
            assert_eq!(named(&found.gone, project.sources()), gone, "{} comes to {value}: what goes", token.path);
            assert_eq!(found.left, count, "{} comes to {value}: what is left", token.path);
        }
    }
}

#[test]
fn what_was_found_before_an_edit_is_not_held_against_what_is_there_after_it() {
    let settings = Settings { threads: 2, without_mends: true, ..Default::default() };
    let project = Project::at("../stilk/tests/projects/pier");
    let label = "\"buoy-label\": { \"$value\": \"{";
    let night = "tokens/night.tokens.json";
    let mended = project.edited(night, &format!("{label}gull.mist"), &format!("{label}sea.abyss"));
    let mut part = KnownPart::default();
    let mut come_of = |project: &Project, value: &str| {
        let known = run(project.system(), project.sources(), &project.written(), &settings);
        let change = Change { place: token_in("ink.buoy-label", "night"), value: value.to_owned() };
        let (_, tried) = trial(project.project(), &[change]).expect("it can be made");
        let found = outcome(project.project(), &known, tried, &settings, &mut part, None);
        (found.come.len(), found.gone.len())
    };
    assert_eq!(come_of(&project, "{sea.abyss}"), (0, 1), "the night's fault is mended");
    assert_eq!(come_of(&mended, "{gull.mist}"), (1, 0), "and made again, in what is there by now");
}
