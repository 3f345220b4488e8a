//! Every byte string gives diagnostics or a result: no panic, no hang.

use crate::depth::Depth;
use crate::memory::{Memory, messages};
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_engine::cascade::Stylesheet;
use stilk_language::stylesheet::{Purpose, write};

/// A small generator; the same numbers in every run.
struct Random(u64);

impl Random {
    fn below(&mut self, bound: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % bound as u64) as usize
    }
}

fn spoil(bytes: &mut Vec<u8>, random: &mut Random) {
    const PIECES: [&str; 20] = [
        "{", "}", "(", ")", ";", ":", "\"", "'", "/*", "*/", "@state ", "@part x", "var(--", "calc(", "\\", "\u{0}",
        "é", "{a.b}", "<", "-->",
    ];
    for _ in 0..=random.below(3) {
        let at = random.below(bytes.len() + 1);
        match random.below(4) {
            0 => bytes.truncate(at),
            1 if at < bytes.len() => {
                bytes.remove(at);
            }
            2 if at < bytes.len() => bytes[at] = random.below(256) as u8,
            _ => {
                let piece = PIECES[random.below(PIECES.len())].repeat(1 + random.below(2) * 90);
                bytes.splice(at..at, piece.bytes());
            }
        }
    }
}

#[test]
fn spoiled_sources_are_survived() {
    let sample = Memory::sample();
    let paths: Vec<String> = sample.0.keys().cloned().collect();
    let mut random = Random(0x5eed_1234_abcd_0001);
    let depth = Depth::of_environment();
    random.0 ^= depth.seed;
    for _ in depth.part(600, 100) {
        let mut memory = sample.clone();
        let path = &paths[random.below(paths.len())];
        spoil(memory.0.get_mut(path).unwrap(), &mut random);
        let project = memory.load();
        assert!(project.system.is_some() || !project.diagnostics.is_empty(), "refused without a word");
        if let Some(system) = &project.system {
            Stylesheet::parse(&write(system, &project.sources, Purpose::Page).text);
        }
    }
}

#[test]
fn depth_is_bounded_everywhere() {
    let deep = |open: &str, close: &str| format!("{}{}", open.repeat(20_000), close.repeat(20_000));
    for (path, text) in [
        ("tokens/day.tokens.json", deep("{\"a\":", "}")),
        ("tokens/day.tokens.json", deep("[", "]")),
        ("controls/button.html", deep("<div>", "</div>")),
        ("controls/button.stilk", deep("@control a { @state hover {", "}")),
        ("controls/button.stilk", format!("@control button {{ top: {}; }}", deep("calc(", ")"))),
        ("controls/button.stilk", format!("@control button {{ {} }}", deep("@media (hover) {", "}"))),
        ("stilk.toml", format!("a = {}", deep("[", "]"))),
    ] {
        let project = Memory::sample().file(path, &text).load();
        assert!(project.system.is_none() && !project.diagnostics.is_empty(), "{path}");
    }
    // Foreign CSS is read as browsers read it.
    for css in [
        deep("a{", "}"),
        deep("(", ")"),
        format!("a {{ top: {} }}", deep("calc(", ")")),
        deep(":is(", ")"),
        deep("@media (hover) {", "}"),
    ] {
        Stylesheet::parse(&css);
    }
}

#[test]
fn an_alias_chain_and_a_cascade_of_references_are_bounded() {
    let mut tokens = String::from("{ \"$type\": \"color\", \"t0\": { \"$value\": \"{t1}\" }");
    for i in 1..5000 {
        tokens.push_str(&format!(", \"t{i}\": {{ \"$value\": \"{{t{}}}\" }}", i + 1));
    }
    tokens.push_str(", \"t5000\": { \"$value\": { \"colorSpace\": \"srgb\", \"components\": [0, 0, 0] } } }");
    let project = Memory::with_sheet("@control x { color: {t0}; }").file("t.tokens.json", &tokens).load();
    assert!(
        project.diagnostics.iter().any(|d| d.message.contains("chained deeper")),
        "{:?}",
        project.diagnostics.first()
    );

    // Each token doubles the one before: without a bound the text would be 2^40 long.
    let mut derived = String::from("@derive { d0: calc(1px + 1px);");
    for i in 1..40 {
        derived.push_str(&format!("d{i}: calc({{d{}}} + {{d{}}});", i - 1, i - 1));
    }
    derived.push('}');
    let memory = Memory::with_sheet("@control x { top: {d39}; color: {b}; }").file("controls/shared.stilk", &derived);
    let project = memory.load();
    assert_eq!(messages(&project), ["token/size: `d13` refers to more than 10000 values"]);
    // The same in locals is bounded where they are substituted.
    let mut sheet = String::from("@control x { color: {b}; top: var(--l39); --l0: 1px;");
    for i in 1..40 {
        sheet.push_str(&format!("--l{i}: calc(var(--l{}) + var(--l{}));", i - 1, i - 1));
    }
    sheet.push('}');
    let project = Memory::with_sheet(&sheet).load();
    if let Some(system) = &project.system {
        let written = write(system, &project.sources, Purpose::Page);
        run(system, &project.sources, &written, &Settings { threads: 1, today: None, ..Settings::default() });
    }
}
