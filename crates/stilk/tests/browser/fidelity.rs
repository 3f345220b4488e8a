//! The table of agreement: what was compared, with what, and how much of it agrees. `STILK_FIDELITY=1` writes it to
//! docs/fidelity.md.

use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::Path;

/// One comparison.
pub struct Row {
    /// The browser and its version.
    pub browser: String,
    /// What was compared.
    pub what: String,
    /// Values compared.
    pub compared: u64,
    /// Values that the engine does not know.
    pub unknown: u64,
    /// Values that differ.
    pub differences: u64,
    /// Differences by property and values.
    pub kinds: BTreeMap<String, u64>,
}

impl Row {
    /// Nothing compared yet.
    pub fn new(browser: &str, what: &str) -> Row {
        Row {
            browser: browser.to_owned(),
            what: what.to_owned(),
            compared: 0,
            unknown: 0,
            differences: 0,
            kinds: BTreeMap::new(),
        }
    }

    /// How much agrees, in per cent.
    pub fn agreement(&self) -> f64 {
        100.0 * (1.0 - self.differences as f64 / self.compared.max(1) as f64)
    }

    /// Prints it.
    pub fn print(&self) {
        println!(
            "{}: {}: {} values compared, {} unknown, {} differ: {:.4}%",
            self.browser,
            self.what,
            self.compared,
            self.unknown,
            self.differences,
            self.agreement()
        );
        let mut kinds: Vec<_> = self.kinds.iter().collect();
        kinds.sort_by_key(|(_, count)| std::cmp::Reverse(**count));
        for (kind, count) in kinds.into_iter().take(12) {
            println!("  {count} × {kind}");
        }
    }
}

/// Writes the table into the documentation.
pub fn write(rows: &[Row]) {
    let mut table = String::from(
        "| browser | what is compared | values | unknown | differ | agree |\n|---|---|---:|---:|---:|---:|\n",
    );
    for row in rows {
        // Writing to a String does not fail.
        let _ = writeln!(
            table,
            "| {} | {} | {} | {} | {} | {:.4}% |",
            row.browser,
            row.what,
            stilk_text::diagnostic::grouped(row.compared),
            stilk_text::diagnostic::grouped(row.unknown),
            stilk_text::diagnostic::grouped(row.differences),
            row.agreement()
        );
    }
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/fidelity.md");
    let text = std::fs::read_to_string(&path).expect("docs/fidelity.md");
    let (before, rest) = text.split_once("<!-- table -->\n").expect("the beginning of the table");
    let (_, after) = rest.split_once("<!-- end -->").expect("the end of the table");
    std::fs::write(&path, format!("{before}<!-- table -->\n{table}<!-- end -->{after}")).expect("docs/fidelity.md");
}
