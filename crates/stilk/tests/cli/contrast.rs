//! `stilk contrast`.

use crate::support::Project;
use serde_json::Value;

#[test]
fn pairs_are_listed_per_theme_with_the_worst_first() {
    let said = Project::demo().run(&["contrast"]).status(1).stdout;
    assert!(said.lines().all(|line| line.chars().count() <= 80), "{said}");
    let titles: Vec<&str> = said.lines().filter(|line| !line.starts_with(' ') && !line.is_empty()).collect();
    assert_eq!(titles[..3], ["day", "night", "storm"], "a density is no theme of its own");
    let night = said.split("\nnight\n").nth(1).unwrap();
    assert!(night.lines().next().unwrap().contains("✗ 1.14  ink.buoy-label on fill.buoy"), "{night}");
    let ratios: Vec<f64> = night
        .lines()
        .take_while(|line| !line.is_empty())
        .map(|line| {
            line.trim_start_matches(" Aa ").trim_start_matches([' ', '✗']).split(' ').next().unwrap().parse().unwrap()
        })
        .collect();
    assert!(ratios.is_sorted() && ratios.len() > 20, "{ratios:?}");
}

#[test]
fn every_format_has_every_pair() {
    let demo = Project::demo();
    let pairs: Value = serde_json::from_str(&demo.run(&["contrast", "--format", "json"]).status(1).stdout).unwrap();
    let count = pairs.as_array().unwrap().len();
    let html = demo.run(&["contrast", "--format", "html"]).stdout;
    let svg = demo.run(&["contrast", "--format", "svg"]).stdout;
    assert_eq!(html.matches(">Aa</td>").count(), count);
    assert_eq!(svg.matches("<rect x=").count(), count);
    assert!(html.starts_with("<!doctype html>") && svg.starts_with("<svg"));
}

#[test]
fn two_colours() {
    let project = Project::empty();
    let said = project.run(&["contrast", "#777", "white"]).status(1).stdout;
    assert!(said.contains("#777777 on #ffffff: 4.47:1") && said.contains("AA 4.5:1 fails   AAA 7:1 fails"), "{said}");
    // The first is painted over the second, with its alpha.
    assert!(project.run(&["contrast", "rgb(0 0 0 / 50%)", "white"]).status(1).stdout.contains("#808080 on #ffffff"));
    let wrong = project.run(&["contrast", "whit", "black"]).status(2).stderr;
    assert!(wrong.contains("`whit` is no colour") && wrong.contains("write one as CSS does"), "{wrong}");
}

#[test]
fn tokens_are_held_against_each_other_in_every_theme() {
    let project = Project::pier();
    let said = project.run(&["contrast", "ink.buoy-label", "fill.buoy"]).status(1).stdout;
    let lines: Vec<&str> = said.lines().collect();
    assert_eq!(lines.len(), 1 + 3, "one for each theme: {said}");
    assert!(lines.iter().any(|line| line.trim_start().starts_with("night") && line.ends_with("fails")), "{said}");
    assert!(lines.iter().any(|line| line.trim_start().starts_with("day") && line.ends_with("passes")), "{said}");
    project.run(&["contrast", "{ink.strong}", "white"]).status(1);
    let said = Project::skerry().run(&["contrast", "accent-label", "accent"]).status(0).stdout;
    assert_eq!(said.lines().count(), 1 + 4, "{said}");
    let said = project.run(&["contrast", "ink.boy-label", "white"]).status(2).stderr;
    assert_eq!(said, "error: there is no token and no colour `ink.boy-label`\n  write `ink.buoy-label`\n");
}
