//! The figures that Stilk is measured by, in one run: cases per second of `check` beside headless Chromium on the same
//! cases, growth from one system to one 64 times as large, and memory at a million cases.
//! `cargo bench -p stilk --bench figures`; `STILK_FIGURES=1` writes the table into docs/figures.md.

mod chromium;
#[path = "../../tests/shared/folder.rs"]
mod folder;
mod grown;
mod pages;
mod process;
#[path = "../../tests/browser/webdriver.rs"]
mod webdriver;

use process::Run;
use std::fmt::Write;
use std::path::Path;
use stilk_text::diagnostic::grouped;

/// How many times each command runs; the median counts.
const RUNS: usize = 7;

fn main() {
    // `cargo test` runs benchmarks without this argument to see whether they start.
    if !std::env::args().any(|argument| argument == "--bench") {
        return;
    }
    let mut table = String::from("| what | figure | reach |\n|---|---:|---:|\n");
    let mut row = |what: &str, figure: String, reach: &str| {
        println!("{what}: {figure}{}", if reach.is_empty() { String::new() } else { format!(" (to reach: {reach})") });
        // Writing to a String does not fail.
        let _ = writeln!(table, "| {what} | {figure} | {reach} |");
    };
    let sample = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/ternhaven");
    let project = tempfile::tempdir().expect("a folder");
    folder::copy(&sample, project.path());

    let nothing = process::median(RUNS, || Run::of(project.path(), &["--version"]));
    row("a process that does nothing", millis(nothing.seconds), "");
    let cold = process::median(RUNS, || {
        drop(std::fs::remove_dir_all(project.path().join("dist")));
        Run::of(project.path(), &["build"])
    });
    row("cold `build` of the sample, whole process", millis(cold.seconds), "20 ms");
    let check = process::median(RUNS, || Run::of(project.path(), &["check", "--format", "json"]));
    let what = format!("`check` of the sample, {} cases, whole process, its mends tried", grouped(check.cases()));
    row(&what, millis(check.seconds), "");
    // What can be mended without a decision is, so that there is nothing to try.
    drop(Run::of(project.path(), &["check", "--mend", "--yes"]));
    let check = process::median(RUNS, || Run::of(project.path(), &["check", "--format", "json"]));
    row("the same with those mends written", millis(check.seconds), "");
    let ours = check.cases() as f64 / check.seconds;
    row("cases checked per second", grouped(ours as u64), "500,000");

    let theirs = chromium::measure(project.path());
    let what = format!("{}: states forced, styles read in one batch, {} cases", theirs.version, theirs.cases);
    row(&what, format!("{} cases/s", grouped(theirs.per_second() as u64)), "");
    row("of that, reading alone", format!("{} cases/s", grouped(theirs.read_per_second() as u64)), "");
    row("`check` against that reading", format!("{} ×", grouped((ours / theirs.read_per_second()) as u64)), "");
    row("`check` against the browser", format!("{} ×", grouped((ours / theirs.per_second()) as u64)), "200 ×");

    let mut points = Vec::new();
    for factor in [1, 4, 16, 64] {
        let project = grown::project(factor);
        let run = process::median(3, || Run::of(project.path(), &["check", "--format", "json"]));
        let what =
            format!("a system grown {factor} ×, {} cases, {} computed", grouped(run.cases()), grouped(run.computed()));
        row(&what, format!("{}, {} MB", millis(run.seconds), run.megabytes()), "");
        points.push((run.cases() as f64, run.seconds - nothing.seconds));
    }
    row("growth with cases, 1 × to 64 ×, exponent", format!("{:.2}", process::exponent(&points)), "1.05");
    let million = grown::project(grown::MILLION);
    let run = Run::of(million.path(), &["check", "--format", "json"]);
    let what = format!("memory at {} cases, {} computed", grouped(run.cases()), grouped(run.computed()));
    row(&what, format!("{} MB", run.megabytes()), "300 MB");
    for pages in [500, 4000] {
        let site = project.path().join(format!("site-{pages}"));
        pages::write(&site, pages);
        let folder = site.display().to_string();
        let run = Run::of(project.path(), &["scan", "--format", "json", &folder]);
        let what = format!("`scan` of {} pages of {} kB", grouped(pages as u64), pages::SIZE / 1000);
        row(&what, format!("{:.0} pages/s, {} MB", pages as f64 / run.seconds, run.megabytes()), "200 pages/s");
    }
    for (pages, size, runs, reach) in [(10, 10_000, RUNS, "150 ms"), (1000, pages::SIZE, 1, "8,000 ms")] {
        let site = project.path().join(format!("old-{pages}"));
        pages::write_old(&site, pages, size);
        let folder = site.display().to_string();
        let run = process::median(runs, || Run::of(project.path(), &["survey", "--format", "json", &folder]));
        let what = format!("`survey` of {} pages of {} kB with 428 lines of CSS", grouped(pages as u64), size / 1000);
        row(&what, format!("{}, {} MB", millis(run.seconds), run.megabytes()), reach);
    }
    let before = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/before").display().to_string();
    let run = process::median(RUNS, || Run::of(project.path(), &["survey", "--format", "json", &before]));
    row("`survey` of the sample's old site, 5 pages, 1,246 lines of CSS", millis(run.seconds), "");
    let adopted = std::cell::Cell::new(0);
    let ten = project.path().join("old-10").display().to_string();
    for (site, what, reach) in [
        (&ten, "`adopt` of 10 pages of 10 kB with 428 lines of CSS, with its proof", "1,000 ms"),
        (&before, "`adopt` of the sample's old site, with its proof", ""),
    ] {
        let run = process::median(3, || {
            // Each into a folder of its own: nothing is overwritten.
            adopted.set(adopted.get() + 1);
            Run::of(project.path(), &["adopt", site, "--to", &format!("adopted-{}", adopted.get())])
        });
        row(what, format!("{}, {} MB", millis(run.seconds), run.megabytes()), reach);
    }
    // One check at a time, beside one that asks nothing of looks: what each adds.
    let reading = process::median(3, || Run::of(project.path(), &["check", "--only", "token/cycle"])).seconds;
    for check in stilk_checks::registry::CHECKS
        .iter()
        .filter(|check| !check.id.starts_with("markup/") && !check.id.starts_with("page/"))
    {
        let run = process::median(3, || Run::of(project.path(), &["check", "--only", check.id]));
        row(&format!("`{}` alone", check.id), format!("{:.2} × `token/cycle` alone", run.seconds / reading), "");
    }
    if std::env::var_os("STILK_FIGURES").is_some() {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/figures.md");
        let text = std::fs::read_to_string(&path).expect("docs/figures.md");
        let (before, rest) = text.split_once("<!-- table -->\n").expect("the beginning of the table");
        let (_, after) = rest.split_once("<!-- end -->").expect("the end of the table");
        std::fs::write(&path, format!("{before}<!-- table -->\n{table}<!-- end -->{after}")).expect("docs/figures.md");
    }
}

fn millis(seconds: f64) -> String {
    format!("{:.1} ms", seconds * 1000.0)
}
