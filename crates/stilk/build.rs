//! Gives `--version` the commit and its date, where the sources lie in a repository or `STILK_COMMIT` names them; packs the
//! systems and scripts that the program carries with it.

use flate2::Compression;
use flate2::write::ZlibEncoder;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::Command;

/// Folders, and what their files are called in the program.
const FOLDERS: [(&str, &str); 5] = [
    ("../../demo/ternhaven", "sample"),
    ("../../demo/before", "before"),
    ("starter", "starter"),
    ("starter-bare", "bare"),
    ("src/live", "live"),
];

fn main() {
    pack();
    name_the_version();
}

/// Each file as its name, its length and its text. Few runs need any of them, and together they are as large as a crate.
fn pack() {
    let mut packed = ZlibEncoder::new(Vec::new(), Compression::best());
    for (folder, name) in FOLDERS {
        println!("cargo:rerun-if-changed={folder}");
        let root = Path::new(env!("CARGO_MANIFEST_DIR")).join(folder);
        let mut files = Vec::new();
        collect(&root, &mut files);
        files.sort();
        for file in files {
            let path = file.strip_prefix(&root).expect("it lies in it").to_string_lossy().replace('\\', "/");
            // Programs, and what was built from the sources.
            if path.ends_with(".rs") || path.starts_with("dist/") {
                continue;
            }
            // What a desktop leaves in folders is no text.
            let text = match std::fs::read_to_string(&file) {
                Err(why) if why.kind() == std::io::ErrorKind::InvalidData => continue,
                read => read.unwrap_or_else(|why| panic!("{}: {why}", file.display())),
            };
            write!(packed, "{name}/{path}\n{}\n{text}", text.len()).expect("memory");
        }
    }
    let to = PathBuf::from(std::env::var_os("OUT_DIR").expect("a place for what is built")).join("embedded");
    std::fs::write(to, packed.finish().expect("memory")).expect("a file");
}

fn collect(folder: &Path, files: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).expect("a folder").flatten() {
        match entry.path() {
            path if path.is_dir() => collect(&path, files),
            path => files.push(path),
        }
    }
}

fn name_the_version() {
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
