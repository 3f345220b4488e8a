//! Gives `--version` the commit and its date, where the sources lie in a repository or `STILK_COMMIT` names them.

use std::path::Path;
use std::process::Command;

fn main() {
    println!("cargo:rerun-if-env-changed=STILK_COMMIT");
    let folder = Path::new(env!("CARGO_MANIFEST_DIR"));
    let git = |arguments: &[&str]| {
        let output = Command::new("git").arg("-C").arg(folder).args(arguments).output().ok()?;
        let text = output.status.success().then(|| String::from_utf8_lossy(&output.stdout).trim().to_owned())?;
        (!text.is_empty()).then_some(text)
    };
    // The log of the head grows with each commit, wherever branches are kept.
    let log = git(&["rev-parse", "--path-format=absolute", "--git-path", "logs/HEAD"]);
    match log.filter(|log| Path::new(log).exists()) {
        Some(log) => println!("cargo:rerun-if-changed={log}"),
        None => println!("cargo:rerun-if-changed=build.rs"),
    }
    let named = std::env::var("STILK_COMMIT").ok().filter(|named| !named.is_empty());
    // Sources that lie in somebody else's repository are not of its commits.
    let is_ours = || git(&["ls-files", "--error-unmatch", "build.rs"]).is_some();
    let commit = named.or_else(|| is_ours().then(|| git(&["log", "-1", "--format=%h %cs"]))?);
    let version = env!("CARGO_PKG_VERSION");
    let shown = commit.map_or_else(|| version.to_owned(), |commit| format!("{version} ({commit})"));
    println!("cargo:rustc-env=STILK_VERSION={shown}");
}
