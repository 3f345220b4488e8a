//! How time grows with what a project and a page hold: each of these alone, from one size to one eight times as large.
//! `cargo bench -p stilk --bench growth`; `STILK_FIGURES=1` writes the table into docs/figures.md.

#[path = "../figures/process.rs"]
#[allow(dead_code, reason = "the other figures need more of it")]
mod process;

use process::Run;
use std::fmt::Write;
use std::path::Path;

/// What grows, by how much there is of it.
struct Growth {
    what: &'static str,
    sizes: [usize; 4],
    write: fn(&Path, usize),
    command: &'static [&'static str],
}

const GROWTHS: [Growth; 10] = [
    Growth {
        what: "tokens that nothing uses",
        sizes: [2_500, 5_000, 10_000, 20_000],
        write: tokens,
        command: &["check"],
    },
    Growth { what: "options of one control", sizes: [5, 10, 20, 40], write: options, command: &["check"] },
    Growth { what: "rules of one control", sizes: [1_000, 2_000, 4_000, 8_000], write: rules, command: &["check"] },
    Growth { what: "parts of one control", sizes: [125, 250, 500, 1_000], write: parts, command: &["build"] },
    Growth { what: "contexts of a modifier", sizes: [50, 100, 200, 400], write: contexts, command: &["check"] },
    Growth { what: "controls", sizes: [100, 200, 400, 800], write: controls, command: &["check"] },
    Growth { what: "mistakes in a sheet", sizes: [1_250, 2_500, 5_000, 10_000], write: mistakes, command: &["build"] },
    Growth {
        what: "controls on a page",
        sizes: [2_500, 5_000, 10_000, 20_000],
        write: page,
        command: &["scan", "page.html"],
    },
    Growth {
        what: "elements of any page, one value",
        sizes: [6_250, 12_500, 25_000, 50_000],
        write: any_page,
        command: &["why", "--page", "page.html", "#last", "color"],
    },
    Growth {
        what: "elements of any page, every value",
        sizes: [6_250, 12_500, 25_000, 50_000],
        write: any_page,
        command: &["why", "--page", "page.html", "--all", "--format", "json"],
    },
];

fn main() {
    // `cargo test` runs benchmarks without this argument to see whether they start.
    if !std::env::args().any(|argument| argument == "--bench") {
        return;
    }
    let mut table =
        String::from("| what grows | from | to | time | memory | exponent |\n|---|---:|---:|---:|---:|---:|\n");
    for growth in GROWTHS {
        let project = tempfile::tempdir().expect("a folder");
        let start = process::median(3, || Run::of(project.path(), &["--version"])).seconds;
        let mut points = Vec::new();
        let mut last = None;
        for size in growth.sizes {
            write(
                project.path(),
                "controls/x.html",
                "<button type=\"button\"><span part=\"label\">Go</span></button>\n",
            );
            write(project.path(), "controls/x.stilk", PLAIN);
            write(project.path(), "stilk.toml", &manifest("tokens = [\"t.tokens.json\"]"));
            write(project.path(), "t.tokens.json", &tokens_file(""));
            (growth.write)(project.path(), size);
            let run = process::median(3, || Run::any(project.path(), growth.command));
            points.push((size as f64, (run.seconds - start).max(0.0005)));
            last = Some(run);
        }
        let Some(last) = last else { continue };
        let line = format!(
            "| {} | {} | {} | {:.0} ms to {:.0} ms | {} MB | {:.2} |",
            growth.what,
            growth.sizes[0],
            growth.sizes[3],
            points[0].1 * 1000.0,
            points[3].1 * 1000.0,
            last.megabytes(),
            process::exponent(&points)
        );
        println!("{line}");
        let _ = writeln!(table, "{line}");
    }
    if std::env::var_os("STILK_FIGURES").is_some() {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/figures.md");
        let text = std::fs::read_to_string(&path).expect("docs/figures.md");
        let (before, rest) = text.split_once("<!-- growth -->\n").expect("the beginning of the table");
        let (_, after) = rest.split_once("<!-- end of growth -->").expect("the end of the table");
        std::fs::write(&path, format!("{before}<!-- growth -->\n{table}<!-- end of growth -->{after}")).expect("docs");
    }
}

const PLAIN: &str = "@control x { color: {a}; background: {b}; }\n";

fn write(folder: &Path, name: &str, text: &str) {
    let path = folder.join(name);
    std::fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
    std::fs::write(path, text).expect("a file");
}

fn manifest(tokens: &str) -> String {
    format!("[system]\nname = \"T\"\nprefix = \"t\"\n{tokens}\n[surfaces]\npage = \"{{b}}\"\n")
}

fn color(n: usize) -> String {
    let [r, g, b] = [97, 89, 83].map(|m| (n % m) as f64 / m as f64);
    format!(r#"{{ "$type": "color", "$value": {{ "colorSpace": "srgb", "components": [{r:.4}, {g:.4}, {b:.4}] }} }}"#)
}

fn tokens_file(more: &str) -> String {
    let white = r#"{ "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 1, 1] } }"#;
    format!(r#"{{ "a": {}, "b": {white}{more} }}"#, color(0))
}

fn tokens(folder: &Path, size: usize) {
    let more: String = (0..size).map(|n| format!(",\n\"c{n}\": {}", color(n * 7))).collect();
    write(folder, "t.tokens.json", &tokens_file(&more));
}

fn sheet(folder: &Path, body: &str) {
    write(folder, "controls/x.stilk", &format!("@control x {{ color: {{a}}; background: {{b}};\n{body}}}\n"));
}

fn options(folder: &Path, size: usize) {
    sheet(folder, &(0..size).map(|n| format!("@option o{n} {{ padding: {n}px; }}\n")).collect::<String>());
}

fn rules(folder: &Path, size: usize) {
    sheet(folder, &(0..size).map(|n| format!("@media (width < {n}px) {{ padding: {n}px; }}\n")).collect::<String>());
}

fn parts(folder: &Path, size: usize) {
    let spans: String = (0..size).map(|n| format!("<span part=\"p{n}\">x</span>")).collect();
    write(folder, "controls/x.html", &format!("<button type=\"button\">{spans}</button>\n"));
    sheet(folder, &(0..size).map(|n| format!("@part p{n} {{ padding: {}px; }}\n", n % 9)).collect::<String>());
}

fn contexts(folder: &Path, size: usize) {
    let contexts: Vec<String> = (0..size).map(|n| format!("\"c{n}\": [{{ \"k\": {} }}]", color(n))).collect();
    let resolver = format!(
        r##"{{ "version": "2025.10", "sets": {{ "base": {{ "sources": [{{ "$ref": "t.tokens.json" }}] }} }},
            "modifiers": {{ "m": {{ "contexts": {{ {} }}, "default": "c0" }} }},
            "resolutionOrder": [{{ "$ref": "#/sets/base" }}, {{ "$ref": "#/modifiers/m" }}] }}"##,
        contexts.join(",\n")
    );
    write(folder, "t.resolver.json", &resolver);
    write(folder, "stilk.toml", &manifest("tokens = \"t.resolver.json\""));
    sheet(folder, "border: 1px solid {k};");
}

fn controls(folder: &Path, size: usize) {
    for n in 0..size {
        write(folder, &format!("controls/c{n}.html"), "<button type=\"button\">Go</button>");
        let sheet = format!("@control c{n} {{ color: {{a}}; background: {{b}}; @state hover {{ color: {{a}} }} }}");
        write(folder, &format!("controls/c{n}.stilk"), &sheet);
    }
}

fn mistakes(folder: &Path, size: usize) {
    sheet(folder, &(0..size).map(|n| format!("colr{n}: red;\n")).collect::<String>());
}

fn page(folder: &Path, size: usize) {
    let controls: String = (0..size)
        .map(|n| {
            format!("<button class=\"t-x t-u{n}\"><span class=\"t-x_label\">Go</span></button>\n<input id=i{n}>\n")
        })
        .collect();
    write(folder, "page.html", &format!("<!doctype html><link rel=stylesheet href=t.css>\n{controls}"));
}

/// A long list in which every twentieth row is another, under 2,000 rules, some of which ask for what stands beside.
fn any_page(folder: &Path, size: usize) {
    let rules = (0..2_000).map(|n| match n % 5 {
        0 => format!(".k{n} ~ li {{ color: #{:03x} }}\n", n % 4096),
        1 => format!("li:has(~ .k{n}) {{ padding: {}px }}\n", n % 9),
        2 => format!(".k{n} .k{} {{ margin-left: calc(1em + {}px) }}\n", n + 1, n % 7),
        3 => format!("li.k{n}::before {{ content: '{n}' }}\n"),
        _ => format!(".k{n} {{ border: {}px solid; font-size: {}%; }}\n", n % 4, 90 + n % 20),
    });
    write(folder, "any.css", &rules.collect::<String>());
    let rows: String = (0..size / 4)
        .map(|n| {
            let class = if n % 20 == 0 { n % 2_000 } else { n % 20 };
            format!("<li id=r{n} class=k{class}><a href=x>x</a> <b class=k{}>y</b> <i>z</i></li>\n", n % 50)
        })
        .collect();
    let page = format!("<!doctype html><link rel=stylesheet href=any.css><ul>{rows}<li id=last class=k4>x</ul>");
    write(folder, "page.html", &page);
}
