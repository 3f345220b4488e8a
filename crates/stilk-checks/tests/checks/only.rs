//! Projects in which few checks are asked.

use crate::memory::Memory;

/// Leaves checks out.
pub trait Only {
    /// All but these.
    fn only(self, ids: &[&str]) -> Memory;
}

impl Only for Memory {
    fn only(self, ids: &[&str]) -> Memory {
        let off = crate::known_checks().into_iter().filter(|id| !ids.contains(id));
        let levels: Vec<String> = off.map(|id| format!("\"{id}\" = \"off\"")).collect();
        let manifest = String::from_utf8(self.0["stilk.toml"].clone()).unwrap();
        let text = format!("{manifest}\n[checks]\nlevels = {{ {} }}\n", levels.join(", "));
        self.file("stilk.toml", &text)
    }
}
