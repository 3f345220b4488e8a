//! What people install, installed: each package that `scripts/package.sh` makes, in a place where nothing else is.
//!
//! Debian's package goes into a Debian of its own, and the sources through `cargo install`, where everything is looked at
//! (`scripts/test.sh --full`): both take minutes.

use std::path::{Path, PathBuf};
use std::process::Command;

/// What the packed types of `system.json` are held against it by.
const TYPESCRIPT: &str = "typescript@5.9.3";

/// The shipped program is no larger than this, in bytes.
const LARGEST: u64 = 12_000_000;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().expect("the repository")
}

fn is_full() -> bool {
    std::env::var_os("STILK_FULL").is_some()
}

/// Runs a program that must end well, and gives what it printed.
#[track_caller]
fn run(program: &str, arguments: &[&str], folder: &Path) -> String {
    let mut command = Command::new(program);
    let output = command.args(arguments).current_dir(folder).output().unwrap_or_else(|why| panic!("{program}: {why}"));
    let (out, error) = (String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
    assert!(output.status.success(), "{program} {arguments:?}: {out}{error}");
    out.into_owned()
}

/// Packs a program into a folder.
fn packed(program: &str, more: &[&str]) -> tempfile::TempDir {
    let folder = tempfile::tempdir().expect("a folder");
    let to = folder.path().to_str().expect("a path");
    let script = root().join("scripts/package.sh");
    let script = script.to_str().expect("a path");
    run("bash", &[&[script, "--program", program, "--to", to], more].concat(), &root());
    folder
}

/// The file in a folder whose name has this beginning and this end.
#[track_caller]
fn file(folder: &Path, start: &str, end: &str) -> String {
    let names = std::fs::read_dir(folder).expect("a folder").flatten();
    let mut found = names.map(|entry| entry.file_name().to_string_lossy().into_owned());
    let name = found.find(|name| name.starts_with(start) && name.ends_with(end));
    folder.join(name.unwrap_or_else(|| panic!("no {start}…{end}"))).display().to_string()
}

#[test]
fn the_archive_and_the_npm_packages_run_where_nothing_else_is() {
    let version = env!("CARGO_PKG_VERSION");
    let packages = packed(env!("CARGO_BIN_EXE_stilk"), &["--no-deb"]);
    let folder = tempfile::tempdir().expect("a folder");
    let at = folder.path();
    run("tar", &["--extract", "--file", &file(packages.path(), "stilk-", ".tar.gz")], at);
    let program = at.join(format!("stilk-{version}/bin/stilk")).display().to_string();
    assert!(run(&program, &["--version"], at).starts_with(&format!("stilk {version}")));
    for name in ["man/stilk-check.1", "completions/stilk.zsh", "LICENSE-MIT"] {
        assert!(at.join(format!("stilk-{version}/{name}")).exists(), "{name} is missing");
    }

    let site = at.join("site");
    std::fs::create_dir(&site).expect("a folder");
    std::fs::write(site.join("package.json"), "{ \"private\": true, \"type\": \"module\" }").expect("a file");
    let (launcher, own) =
        (file(packages.path(), &format!("stilk-{version}"), ".tgz"), file(packages.path(), "stilk-linux", ".tgz"));
    let npm = ["install", "--no-audit", "--no-fund", "--loglevel=error", &launcher, &own, TYPESCRIPT];
    run("npm", &npm, &site);
    run("npx", &["stilk", "new", ".", "--quiet"], &site);
    assert!(run("npx", &["stilk", "build"], &site).contains("dist/site.css"));
    let status = Command::new("npx").args(["stilk", "check", "--only", "no/check"]).current_dir(&site).status();
    assert_eq!(status.expect("npx").code(), Some(2), "the program's exit code is the launcher's");
    std::fs::write(
        site.join("use.ts"),
        "import type { Control, System } from \"stilk\";\nimport data from \"./dist/system.json\" with { type: \"json\" };\n\
         const system: System = { ...data, $schema: \"urn:stilk:system:1\" };\n\
         export const names: string[] = system.controls.map((control: Control) => control.name);\n\
         // @ts-expect-error: a control has no colour\nexport const wrong = system.controls[0].colour;\n",
    )
    .expect("a file");
    let options = ["--noEmit", "--strict", "--module", "nodenext", "--target", "es2022", "--resolveJsonModule"];
    run("npx", &[&["tsc"], &options[..], &["use.ts"]].concat(), &site);
}

#[test]
fn debian_installs_it_and_so_does_cargo() {
    if !is_full() {
        return;
    }
    let folder = tempfile::tempdir().expect("a folder");
    let at = folder.path();
    let install = ["install", "--path", "crates/stilk", "--locked", "--profile", "dist", "--no-track", "--root"];
    run("cargo", &[&install[..], &[at.to_str().expect("a path")]].concat(), &root());
    let program = at.join("bin/stilk");
    let size = program.metadata().expect("the program").len();
    assert!(size <= LARGEST, "{size} bytes");
    let said = run(program.to_str().expect("a path"), &["--version"], at);
    assert!(said.contains('(') && said.contains('-'), "{said}");

    let packages = packed(program.to_str().expect("a path"), &[]);
    let debian = at.join("debian").display().to_string();
    run("debootstrap", &["--variant=minbase", "stable", &debian], at);
    std::fs::copy(file(packages.path(), "stilk_", ".deb"), format!("{debian}/stilk.deb")).expect("a copy");
    run("chroot", &[&debian, "dpkg", "--install", "/stilk.deb"], at);
    let told = run("chroot", &[&debian, "stilk", "demo", "/tern", "--quiet"], at);
    assert!(told.trim_end().ends_with("11 findings"), "{told}");
    assert!(run("chroot", &[&debian, "stilk", "build", "--project", "/tern"], at).contains("ternhaven.css"));
    let offered = "source /usr/share/bash-completion/completions/stilk; COMP_LINE='stilk mark'; COMP_POINT=10; \
                   COMP_WORDS=(stilk mark); COMP_CWORD=1; _stilk_complete; echo ${COMPREPLY[@]}";
    assert_eq!(run("chroot", &[&debian, "bash", "-c", offered], at).trim(), "markup");
}
