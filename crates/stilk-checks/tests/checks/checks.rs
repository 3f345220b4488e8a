//! Checks on small systems.

use crate::depth::Depth;
use crate::memory::{Memory, messages};
use crate::only::Only;
use stilk_checks::report::Report;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::cascade::stylesheet::DeclarationBody;
use stilk_language::stylesheet::{Purpose, write};
use stilk_text::diagnostic::Edit;

#[track_caller]
fn report(memory: &Memory, threads: usize) -> Report {
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    run(system, &project.sources, &written, &Settings { threads, today: None, ..Settings::default() })
}

const STATES: &str = "@state hover { z-index: 1; } @state focus { z-index: 2; } @state active { z-index: 3; } @state disabled { z-index: 4; }";

fn found(declarations: &str) -> Vec<String> {
    painted(&format!("background: none; {declarations}"))
}

fn painted(declarations: &str) -> Vec<String> {
    let report = report(&Memory::with_sheet(&format!("@control x {{ {declarations} {STATES} }}")), 1);
    let of_text = report.findings.iter().filter(|finding| finding.id == "contrast/text");
    of_text.map(|f| format!("{}, {} cases", f.message, f.evidence.as_ref().unwrap().cases)).collect()
}

#[test]
fn the_report_does_not_depend_on_the_number_of_threads() {
    let one = format!("{:?}", report(&Memory::sample(), 1));
    let all = if Depth::of_environment().full { &[2, 3, 7][..] } else { &[3] };
    for threads in all.iter().copied() {
        assert_eq!(format!("{:?}", report(&Memory::sample(), threads)), one, "{threads} threads");
    }
}

#[test]
fn contrast_counts_what_is_painted() {
    // Blue on white is 8.59:1, red on white 3.99:1.
    assert_eq!(found("color: {b};"), Vec::<String>::new());
    assert_eq!(found("color: {a};"), ["`a` on `paper` is 3.99:1 in default, text needs 4.5:1, 8 cases"]);
    // Large text needs 3:1; bold counts from 14pt.
    assert_eq!(found("color: {a}; font-size: 24px;"), Vec::<String>::new());
    assert_eq!(found("color: {a}; font-size: 18.7px; font-weight: 700;"), Vec::<String>::new());
    assert_eq!(found("color: {a}; font-size: 18.6px; font-weight: 700;").len(), 1);
    // Alpha and opacity thin text out.
    assert_eq!(found("color: color-mix(in srgb, {b} 60%, transparent);").len(), 1);
    assert_eq!(found("color: {b}; @part label { opacity: .6; }").len(), 1);
    // Backgrounds of parts lie over those of the host.
    assert_eq!(
        found("color: {b}; background-color: {b}; @part label { background-color: {paper}; }"),
        Vec::<String>::new()
    );
    assert_eq!(found("color: {paper}; background-color: {b};"), Vec::<String>::new());
    // A native button brings a background of its own, in each engine another, and a link none: it is reset.
    assert_eq!(painted("color: {a};")[0], "`a` on `paper` is 3.99:1 in default, text needs 4.5:1, 8 cases");
    // What is not painted needs no contrast.
    assert_eq!(found("color: {a}; @part label { visibility: hidden; }"), Vec::<String>::new());
}

#[test]
fn without_surfaces_the_browsers_page_is_behind_the_text() {
    let sheet = format!("@control x {{ background: none; color: {{a}}; {STATES} }}");
    let manifest = "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n";
    let report = report(&Memory::with_sheet(&sheet).file("stilk.toml", manifest), 1);
    assert_eq!(report.findings[0].message, "`a` on the browser's own page is 3.99:1 in default, text needs 4.5:1");
}

#[test]
fn a_generated_box_with_a_background_leaves_the_contrast_unknown() {
    let unknown = |after: &str| {
        let sheet =
            format!("@control x {{ background: none; color: {{b}}; @part label::after {{ {after} }} {STATES} }}");
        report(&Memory::with_sheet(&sheet).only(&["contrast/text"]), 1).unknown
    };
    // Two hosts at rest and in three states; disabled text needs no contrast.
    assert_eq!(unknown("content: \"\"; background-color: {b};"), 2 * 4);
    assert_eq!(unknown("content: \"\"; background-image: linear-gradient(red, blue);"), 2 * 4);
    assert_eq!(unknown("content: \"!\";"), 0);
    assert_eq!(unknown("background-color: {b};"), 0);
}

#[test]
fn a_browsers_own_change_is_no_state() {
    let missing = |sheet: &str| -> Vec<String> {
        let report = report(&Memory::with_sheet(&format!("@control x {{ color: {{b}}; {sheet} }}")), 1);
        let mut words: Vec<String> = report
            .findings
            .iter()
            .filter(|f| f.id == "state/missing")
            .map(|f| f.message.split(" as at rest").next().unwrap().to_owned())
            .collect();
        words.sort();
        words
    };
    assert_eq!(
        missing("@state hover { cursor: pointer; } @state focus { outline-color: {a}; }"),
        ["`x` looks the same in active", "`x` looks the same in disabled", "`x` looks the same in hover",]
    );
    assert_eq!(missing(STATES), Vec::<String>::new());
    // The state of a part answers as well.
    let of_part = STATES.replace("@state hover {", "@state hover of label {");
    assert_eq!(missing(&of_part), Vec::<String>::new());
}

#[test]
fn every_declaration_of_a_sheet_or_token_knows_where_it_came_from() {
    let project = Memory::sample().load();
    let system = project.system.as_ref().unwrap();
    let written = write(system, &project.sources, Purpose::Page);
    let mut seen = 0;
    for rule in &Stylesheet::parse(&written.text).rules {
        for declaration in rule.declarations.iter() {
            let DeclarationBody::Custom(name, _) = &declaration.body else { continue };
            let span = written.origin(declaration.offset).unwrap_or_else(|| panic!("{name} has no origin"));
            let path = &project.sources.file(span.file).path;
            assert!(path.ends_with(".json") || path.ends_with(".stilk"), "{name} from {path}");
            seen += 1;
        }
    }
    assert!(seen > 50);
}

#[test]
fn what_a_page_decides_is_unknown_and_counted() {
    let sheet = format!(
        "@control x {{ background: none; color: {{b}}; {STATES} @container style(--pale: 1) {{ color: {{a}}; }} }}"
    );
    let report = report(&Memory::with_sheet(&sheet).only(&["contrast/text", "state/missing"]), 1);
    assert!(report.findings.is_empty());
    // Every case but the disabled ones, whose text needs no contrast.
    assert_eq!(report.unknown, 8, "a container that nobody knows was taken for known");
}

#[test]
fn where_no_colour_serves_all_places_two_of_them_are_named() {
    let sheet = "@control x { background: {paper}; color: {a}; @state hover { background: #595959; } @state focus { outline: 2px solid {b}; } @state active { top: 1px; } @state disabled { opacity: .5; } }";
    let report = report(&Memory::with_sheet(sheet), 1);
    let mend = report.findings.iter().find(|f| f.id == "contrast/text").and_then(|f| f.mend.clone()).unwrap();
    assert_eq!(
        mend,
        "no lightness of `a` passes on both #ffffff (x in default) and #595959 (x:hover in default): change one of them"
    );
    // Where there is one, it passes on all, as a browser paints it.
    let one = Memory::with_sheet(&sheet.replace("#595959", "#eeeeee"));
    let finding = self::report(&one, 1).findings.into_iter().find(|f| f.id == "contrast/text").unwrap();
    assert_eq!(finding.edits.len(), 1);
    assert!(passes_after(one, &finding.edits));
}

/// The project with edits of its tokens made.
fn edited(memory: &Memory, edits: &[Edit]) -> Memory {
    let mut text = String::from_utf8(memory.0["t.tokens.json"].clone()).unwrap();
    let mut edits = edits.to_vec();
    edits.sort();
    for edit in edits.iter().rev() {
        text.replace_range(edit.span.range(), &edit.text);
    }
    memory.clone().file("t.tokens.json", &text)
}

/// Whether all text can be read once these edits of the tokens are made.
fn passes_after(memory: Memory, edits: &[Edit]) -> bool {
    let after = report(&edited(&memory, edits), 1);
    let left: Vec<&str> =
        after.findings.iter().filter(|f| f.id == "contrast/text").map(|f| f.message.as_str()).collect();
    if !left.is_empty() {
        eprintln!("{left:?}");
    }
    left.is_empty()
}

/// The tokens of [`Memory::with_sheet`] and some greys, by their 8-bit channel.
fn with_greys(sheet: &str, greys: &[(&str, u8)]) -> Memory {
    let token = |(name, channel): &(&str, u8)| {
        let channel = f64::from(*channel) / 255.0;
        format!(
            "\"{name}\": {{ \"$type\": \"color\", \"$value\": {{ \"colorSpace\": \"srgb\", \"components\": [{channel}, {channel}, {channel}] }} }}, "
        )
    };
    let memory = Memory::with_sheet(sheet);
    let text = String::from_utf8(memory.0["t.tokens.json"].clone()).unwrap();
    let more: String = greys.iter().map(token).collect();
    memory.file("t.tokens.json", &text.replacen('{', &format!("{{ {more}"), 1))
}

#[test]
fn where_no_token_alone_will_do_several_are_changed_together() {
    // `gull` must be dark on white, too dark for any `wing` that white is read on; so `wing` changes with it.
    let badge = "content: \"new\"; color: {gull};";
    let sheet = format!(
        "@control x {{ background: {{paper}}; color: {{paper}}; @part label {{ background: {{wing}}; }} @part ::after, label::after {{ {badge} }} {STATES} }}"
    );
    let memory = with_greys(&sheet, &[("gull", 48), ("wing", 106)]).only(&["contrast/text"]);
    let finding = report(&memory, 1).findings.into_iter().next().unwrap();
    let paths: Vec<&str> = finding.mend.as_deref().unwrap().split('`').skip(1).step_by(2).collect();
    assert_eq!((paths, finding.edits.len()), (vec!["gull", "wing"], 2));
    let mend = finding.mend.as_deref().unwrap();
    assert!(mend.ends_with("none of them alone would do"), "{mend}");
    assert!(passes_after(memory, &finding.edits), "{mend} {:?}", finding.edits);
}

#[test]
fn a_colour_that_is_offered_passes_with_all_that_it_meets() {
    let mut offered = 0;
    let depth = Depth::of_environment();
    for seed in depth.part(40, 10) {
        let mut random = fastrand::Rng::with_seed(seed);
        let names = ["fog", "reef", "sand", "silt", "wave"];
        let greys = names.map(|name| (name, random.u8(..)));
        let mut one = || names[random.usize(..names.len())];
        let sheet = format!(
            "@control x {{ background: {{{}}}; color: {{{}}}; @state hover {{ background: {{{}}}; }}
               @axis tone {{ loud {{ color: {{{}}}; }} quiet {{ background: {{{}}}; @part label {{ background: {{{}}}; }} }} }} }}",
            one(),
            one(),
            one(),
            one(),
            one(),
            one()
        );
        let memory = with_greys(&sheet, &greys).only(&["contrast/text"]);
        for finding in report(&memory, 1).findings.iter().filter(|finding| !finding.edits.is_empty()) {
            offered += 1;
            let mend = finding.mend.as_deref().unwrap();
            // What is changed, and what it is changed to where that is another token.
            let changed: Vec<&str> = mend.split('`').skip(1).step_by(2).collect();
            let left = report(&edited(&memory, &finding.edits), 1).findings;
            // What lies on itself has no colour that would do, and its own finding says so.
            let meets_others = |name: &&str, message: &str| message.matches(&format!("`{name}`")).count() == 1;
            let still = left.iter().find(|left| changed.iter().any(|name| meets_others(name, &left.message)));
            assert!(still.is_none(), "seed {seed}: {sheet}\n{}\n{mend}\n{}", finding.message, still.unwrap().message);
        }
    }
    assert!(offered > if depth.full { 20 } else { 0 }, "{offered}");
}

#[test]
fn a_colour_on_itself_needs_another_token() {
    let memory = Memory::with_sheet("@control x { background: {b}; color: {b}; }").only(&["contrast/text"]);
    let finding = report(&memory, 1).findings.into_iter().next().unwrap();
    assert_eq!(finding.mend.as_deref(), Some("`b` is on both sides: use another token for one of them"));
    assert!(finding.edits.is_empty());
}

#[test]
fn a_background_is_changed_where_its_text_must_stay() {
    // The red on this grey is `a` for good: it meets what no other red passes on.
    let sheet = format!("@control x {{ background: {{wing}}; color: #fff; {STATES} }}");
    let memory = with_greys(&sheet, &[("wing", 128)]).only(&["contrast/text"]);
    let finding = report(&memory, 1).findings.into_iter().next().unwrap();
    let mend = finding.mend.as_deref().unwrap();
    assert!(mend.starts_with("give `wing` a lightness of "), "{mend}");
    assert!(passes_after(memory, &finding.edits));
}

#[test]
fn what_is_painted_by_gradients_and_generated_boxes_is_judged() {
    let verdict = |declarations: &str| {
        let sheet = format!("@control x {{ position: relative; {declarations} {STATES} }}");
        let report = report(&Memory::with_sheet(&sheet).only(&["contrast/text"]), 1);
        (report.findings.len(), report.unknown > 0)
    };
    // Both ends of a gradient pass, or fail; where one does, what lies under the text decides.
    assert_eq!(verdict("color: {b}; background: linear-gradient({paper}, #eee);"), (0, false));
    assert_eq!(verdict("color: #999; background: linear-gradient({paper}, #eee);"), (1, false));
    assert_eq!(verdict("color: {b}; background: linear-gradient({paper}, black);"), (1, false));
    let padded = "display: inline-block; padding: 16px 0; font: 16px/20px sans-serif;";
    let end = |place: &str| format!("{padded} color: {{b}}; background: linear-gradient({{paper}} {place}, black);");
    assert_eq!((verdict(&end("90%")), verdict(&end("50%"))), ((0, false), (1, false)));
    assert_eq!(verdict("color: {b}; background: conic-gradient({paper}, black);"), (0, true));
    // Around a centre: far away from it, or under the text.
    let rays =
        |size: &str| format!("{padded} color: {{b}}; background: radial-gradient({size}, {{paper}} 80%, black);");
    assert_eq!((verdict(&rays("80px")), verdict(&rays("4px"))), ((0, false), (1, false)));
    // A gradient without a size is not painted; one that covers a part is not known.
    assert_eq!(
        verdict("color: {b}; background: linear-gradient(black, black) 0 0 / 0% 100% no-repeat {paper};"),
        (0, false)
    );
    assert_eq!(
        verdict("color: {b}; background: linear-gradient(black, black) 0 0 / 40% 100% no-repeat {paper};"),
        (0, true)
    );
    // Translucent stops show what is behind them.
    assert_eq!(verdict("color: {b}; background: linear-gradient(transparent, rgb(0 0 0 / 5%)) {paper};"), (0, false));
    // A box that covers all is painted over the text, or behind it.
    let cover = "content: \"\"; position: absolute; inset: 0;";
    assert_eq!(
        verdict(&format!(
            "background: {{paper}}; color: {{b}}; @part ::after {{ {cover} background: rgb(255 255 255 / 80%); }}"
        )),
        (1, false)
    );
    assert_eq!(
        verdict(&format!(
            "background: {{paper}}; color: {{b}}; @part ::after {{ {cover} background: rgb(255 255 255 / 10%); }}"
        )),
        (0, false)
    );
    assert_eq!(
        verdict(&format!(
            "background: {{paper}}; color: {{b}}; @part ::before {{ {cover} z-index: -1; background: black; }}"
        )),
        (1, false)
    );
    // Generated text is text.
    assert_eq!(
        verdict("background: {paper}; color: {b}; @part label::after { content: \"new\"; color: #bbb; }"),
        (1, false)
    );
    assert_eq!(
        verdict("background: {paper}; color: {b}; @part label::after { content: \"\"; color: #bbb; }"),
        (0, false)
    );
    // A thin inset shadow reaches no text.
    assert_eq!(verdict("background: {paper}; color: {b}; box-shadow: inset 0 0 0 2px black;"), (0, false));
    assert_eq!(verdict("background: {paper}; color: {b}; box-shadow: inset 0 0 12px black;"), (0, true));
}

#[test]
fn what_cannot_be_decided_is_unknown_and_not_passed() {
    let verdict = |id: &str, template: &str, sheet: &str| {
        let memory = Memory::with_sheet(sheet).file("controls/x.html", template).only(&[id]);
        let report = report(&memory, 1);
        (report.findings.len(), report.decided.get(id).copied().unwrap_or_default(), report.unknown > 0)
    };
    let button = "<button type=\"button\"><span part=\"label\">Go</span></button>";
    let field = "<label><span part=\"label\">Vessel</span><input part=\"native\" value=\"Tern\"></label>";
    // How high a normal line is takes the metrics of a font; with an inline box it makes no difference.
    let pill = |line: &str| {
        verdict(
            "geometry/corner",
            button,
            &format!("@control x {{ display: inline-block; border-radius: 11px; line-height: {line}; {STATES} }}"),
        )
    };
    assert!(pill("normal").2 && !pill("20px").2);
    // A gradient may mark an edge that border and fill do not.
    let edge = |paint: &str| {
        verdict(
            "contrast/boundary",
            field,
            &format!(
                "@control x {{ @part native {{ appearance: none; border: 0; background: {paint}; color: {{b}}; }} }}"
            ),
        )
    };
    assert_eq!(edge("{paper}").0, 1);
    assert!(edge("linear-gradient({b}, {a})").2);
    // Whether a picture behind an address hides a colour.
    let masked = |image: &str| {
        verdict(
            "cascade/masked",
            button,
            &format!("@control x {{ background-image: {image}; {STATES} @option red {{ background-color: {{a}}; }} }}"),
        )
    };
    assert!(masked("url(a.png)").2);
    assert_eq!(masked("linear-gradient({b}, {b})").0, 1);
    // By how much a thing moves that moves by a share of itself.
    let pressed = |by: &str| {
        verdict(
            "geometry/depth",
            button,
            &format!(
                "@control x {{ box-shadow: 0 4px 0 {{b}}; @state active {{ translate: 0 {by}; box-shadow: none; }} }}"
            ),
        )
    };
    assert!(pressed("10%").2);
    assert_eq!((pressed("4px").0, pressed("3px").0), (0, 1));
    // A margin that is shared out.
    let moved = |margin: &str| {
        verdict(
            "state/shift",
            button,
            &format!("@control x {{ display: block; margin-left: 4px; @state hover {{ margin-left: {margin}; }} }}"),
        )
    };
    assert!(moved("auto").2);
    assert_eq!((moved("4px").0, moved("6px").0), (0, 1));
}

#[test]
fn a_waiver_of_an_option_accepts_what_the_whole_system_is_asked() {
    let sheet = |waiver: &str| {
        format!(
            "@control x {{ background: {{b}}; color: {{paper}}; @state hover {{ background: {{a}}; }}
               @option outline {{ background: transparent; color: {{b}}; }} {waiver} }}"
        )
    };
    let ids = |waiver: &str| -> Vec<&'static str> {
        let report = report(&Memory::with_sheet(&sheet(waiver)).only(&["state/leak"]), 1);
        report.findings.iter().map(|finding| finding.id).collect()
    };
    assert_eq!(ids(""), ["state/leak"]);
    assert_eq!(ids("@waive state/leak on .outline \"Meant.\";"), [""; 0]);
    assert_eq!(ids("@option idle { } @waive state/leak on .idle \"Another.\";"), ["state/leak", "waiver/unused"]);
}

#[test]
fn a_caret_of_its_own_colour_can_be_found() {
    let found = |declarations: &str| {
        let template = "<label><span part=\"label\">Vessel</span><input part=\"native\" value=\"Tern\"></label>";
        let sheet = format!(
            "@control x {{ color: {{b}}; @part native {{ background: {{paper}}; color: {{b}}; border: 1px solid {{b}}; {declarations} }} @state focus {{ outline: 2px solid {{b}}; }} }}"
        );
        let report =
            report(&Memory::with_sheet(&sheet).file("controls/x.html", template).only(&["contrast/indicator"]), 1);
        report.findings.into_iter().map(|f| f.message).collect::<Vec<_>>()
    };
    assert_eq!(found(""), Vec::<String>::new());
    assert_eq!(found("caret-color: {a};"), Vec::<String>::new());
    let pale = found("caret-color: color-mix(in srgb, {a} 50%, {paper});");
    assert_eq!(
        pale,
        ["the caret of `x`, `a` mixed with `paper`, is 2.43:1 on what it lies on in default, it needs 3:1 to be found"]
    );
    assert_eq!(found("caret-color: transparent;").len(), 1);
    // In a field that cannot be seen there is none; in one that perhaps can, nobody knows.
    assert_eq!(found("caret-color: transparent; visibility: hidden;"), Vec::<String>::new());
    assert_eq!(found("caret-color: transparent; @container style(--hides: 1) { opacity: 0; }"), Vec::<String>::new());
}

#[test]
fn a_leak_on_another_host_or_in_another_theme_is_a_leak() {
    let leaks = |sheet: &str| {
        let memory = Memory::with_sheet(sheet).only(&["state/leak"]);
        report(&memory, 1).findings.into_iter().map(|f| f.evidence.unwrap().worst).collect::<Vec<_>>()
    };
    let control = |rules: &str| format!("@control x {{ background: {{paper}}; color: {{b}}; {rules} {STATES} }}");
    // The option says it for the first host only.
    let one = "@state hover { background: {b}; } @option calm { background: none; @state hover { @host button { background: none; } } }";
    assert_eq!(leaks(&control(one)), ["x@a.calm:hover in default"]);
    // By a local, and by one that stands in for another.
    let local = "--fill: {a}; background: var(--fill); @state hover { --fill: {b}; } @option calm { --fill: {paper}; }";
    assert_eq!(leaks(&control(local)).len(), 1);
    let none = "--fill: {a}; --shade: 0%; background: color-mix(in srgb, var(--fill), {b} var(--shade)); @state hover { --shade: 20%; } @option calm { --fill: {paper}; }";
    assert_eq!(leaks(&control(none)), Vec::<String>::new());
}

#[test]
fn an_option_that_sets_a_local_of_a_placed_control_may_leak_there() {
    let inner = "@control y { --tint: {b}; background: var(--tint); color: {paper}; }";
    let outer = "@control x { @option pale { @part inside { --tint: {paper}; } } @state hover { @part label { color: {a}; } } }";
    let memory = Memory::with_sheet(outer)
        .file(
            "controls/x.html",
            "<div><span part=\"label\">Go</span><button data-control=\"y\" part=\"inside\"></button></div>",
        )
        .file("controls/y.html", "<button type=\"button\"><span part=\"label\">Go</span></button>")
        .file("controls/y.stilk", inner)
        .only(&["state/leak"]);
    let report = report(&memory, 1);
    // Looked at in hover, the one state that changes anything; where none could leak all three would be counted.
    assert_eq!((report.findings.len(), report.decided["state/leak"]), (0, 1));
}

#[test]
fn a_mend_in_a_sheet_is_tried_on_what_is_copied_from_it() {
    let memory = Memory::with_sheet("@control x { color: {b}; }")
        .file("controls/y.stilk", "@control y from x { @option loud { color: {a}; } }")
        .file("controls/z.stilk", "@control z { color: {a}; }")
        .file("controls/z.html", "<button type=\"button\"><span part=\"label\">Go</span></button>");
    let project = memory.load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let place = system.control("x").unwrap().rules[0].declarations[0].span;
    let controls = stilk_checks::mend::affected::selection(system, [&place]).controls.unwrap();
    assert_eq!(controls.into_keys().collect::<Vec<_>>(), ["x", "y"]);
}

#[test]
fn a_waiver_ends_on_its_day() {
    let sheet = "@control x { color: {paper}; @waive contrast/text \"Not yet.\" until 2027-06-30; @waive state/missing \"Nor this.\"; }";
    let project = Memory::with_sheet(sheet).only(&["contrast/text", "state/missing"]).load();
    let system = project.system.as_ref().unwrap_or_else(|| panic!("{:?}", messages(&project)));
    let written = write(system, &project.sources, Purpose::Page);
    let findings = |today: &str| -> Vec<&'static str> {
        let settings = Settings { threads: 1, today: Some(today.to_owned()), ..Settings::default() };
        let findings = run(system, &project.sources, &written, &settings).findings;
        let mut ids: Vec<&'static str> = findings.iter().map(|finding| finding.id).collect();
        ids.dedup();
        ids
    };
    assert_eq!(findings("2027-06-30"), [""; 0]);
    assert_eq!(findings("2027-07-01"), ["contrast/text", "waiver/ended"]);
    let messages =
        messages(&Memory::with_sheet("@control x { @waive contrast/text \"Why.\" until 2027-13-01; }").load());
    assert!(messages.iter().any(|m| m.contains("no day")), "{messages:?}");
}

#[test]
fn what_stands_under_more_conditions_than_are_looked_at_is_unknown() {
    let report = |count: u32| {
        let rules: String =
            (0..count).map(|n| format!("@media (width < {}px) {{ padding: {n}px; }}\n", 300 + n)).collect();
        let sheet = format!("@control x {{ background: {{paper}}; color: {{b}}; {STATES} {rules} }}");
        report(&Memory::with_sheet(&sheet).only(&["contrast/text", "state/shift"]), 1)
    };
    assert_eq!(report(20).unknown, 0);
    let many = report(40);
    let reasons: Vec<&str> = many.doubts.iter().map(|doubt| doubt.reason).collect();
    assert_eq!(reasons, ["it stands under more conditions than are looked at"; 2]);
}
