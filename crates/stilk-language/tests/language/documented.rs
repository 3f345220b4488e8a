//! What docs say of the manifest is so: every key in them is one.

use crate::memory::Memory;
use std::path::Path;

/// The blocks of TOML in a page.
fn blocks(page: &str) -> Vec<String> {
    let parts = page.split("```toml\n").skip(1);
    parts.filter_map(|part| part.split("\n```").next()).map(str::to_owned).collect()
}

#[test]
fn keys_of_the_manifest_in_docs_are_real() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let docs = std::fs::read_dir(root.join("docs")).expect("docs").flatten().map(|entry| entry.path());
    let pages = docs.chain([root.join("README.md"), root.join("CONTRIBUTING.md")]);
    let mut seen = 0;
    for page in pages.filter(|path| path.extension().is_some_and(|ending| ending == "md")) {
        let text = std::fs::read_to_string(&page).expect("a page");
        for block in blocks(&text) {
            // What a page shows of it may be a part.
            let whole = match block.contains("[system]") {
                true => block.clone(),
                false => format!("[system]\nname = \"T\"\nprefix = \"t\"\ntokens = [\"t.tokens.json\"]\n{block}"),
            };
            let project = Memory::with_sheet("@control x { color: {a}; }").file("stilk.toml", &whole).load();
            let wrong: Vec<&String> = project
                .diagnostics
                .iter()
                .filter(|diagnostic| matches!(diagnostic.id, "manifest/key" | "toml/syntax"))
                .map(|diagnostic| &diagnostic.message)
                .collect();
            assert!(wrong.is_empty(), "{}: {wrong:?}\n{block}", page.display());
            seen += 1;
        }
    }
    assert!(seen > 0, "docs show no manifest");
}
