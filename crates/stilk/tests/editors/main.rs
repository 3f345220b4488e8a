//! Editors that people have: Neovim as a client of `stilk lsp`, syntax files in the engines that read them, the packed extension.
//! What is needed for it is installed by `scripts/install-tools.sh`.

use std::path::{Path, PathBuf};
use std::process::{Command, Output};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().expect("the repository")
}

fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).expect("a folder");
    for entry in std::fs::read_dir(from).expect("a folder").flatten() {
        let (path, target) = (entry.path(), to.join(entry.file_name()));
        match path.is_dir() {
            true => copy(&path, &target),
            false => drop(std::fs::copy(&path, &target).expect("a copy")),
        }
    }
}

/// Runs a program, which must be there.
#[track_caller]
fn run(command: &mut Command) -> Output {
    let name = command.get_program().to_string_lossy().into_owned();
    command.output().unwrap_or_else(|why| panic!("{name} cannot be run ({why}): ./scripts/install-tools.sh"))
}

#[track_caller]
fn holds(output: &Output, said: &Path) {
    let words = std::fs::read_to_string(said).unwrap_or_default();
    let (out, error) = (String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
    assert!(output.status.success(), "{words}\n{out}\n{error}");
}

#[test]
fn neovim_tells_mends_completes_renames_and_formats() {
    let folder = tempfile::tempdir().expect("a folder");
    copy(&root().join("demo/ternhaven"), folder.path());
    let said = folder.path().join("said.txt");
    let vim = root().join("editors/vim");
    let script = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/editors/session.lua");
    let mut command = Command::new("nvim");
    command
        .args(["--headless", "-u", "NONE", "-i", "NONE", "-n"])
        .args(["-c", &format!("set runtimepath+={}", vim.display()), "-c", "filetype plugin on"])
        .args(["-c", &format!("luafile {}", root().join("editors/neovim.lua").display())])
        .args(["-c", &format!("luafile {}", script.display())])
        .env("STILK", env!("CARGO_BIN_EXE_stilk"))
        .env("STILK_SAID", &said)
        .env("HOME", folder.path())
        .current_dir(folder.path());
    holds(&run(&mut command), &said);
    // What was written is a system still.
    let checked = run(Command::new(env!("CARGO_BIN_EXE_stilk")).args(["build", "--quiet"]).current_dir(folder.path()));
    assert!(checked.status.success(), "{}", String::from_utf8_lossy(&checked.stderr));
    let formatted =
        run(Command::new(env!("CARGO_BIN_EXE_stilk")).args(["format", "--check"]).current_dir(folder.path()));
    assert!(formatted.status.success(), "{}", String::from_utf8_lossy(&formatted.stdout));
}

#[test]
fn the_syntax_file_colours_words_in_vim_and_neovim() {
    let folder = tempfile::tempdir().expect("a folder");
    let said = folder.path().join("said.txt");
    let script = root().join("editors/vim/test.vim");
    let quiet: [(&str, &[&str]); 2] = [("vim", &["-es"]), ("nvim", &["--headless"])];
    for (program, options) in quiet {
        let mut command = Command::new(program);
        command.args(options).args(["-u", "NONE", "-i", "NONE", "-S"]).arg(&script).env("STILK_SAID", &said);
        command.env("HOME", folder.path());
        holds(&run(&mut command), &said);
    }
}

#[test]
fn the_grammar_knows_every_construct_and_the_extension_is_packed() {
    let extension = root().join("editors/extension");
    assert!(extension.join("node_modules").is_dir(), "./scripts/install-tools.sh installs what the extension needs");
    let output = run(Command::new("node").arg("test/grammar.mjs").current_dir(&extension));
    holds(&output, Path::new(""));
    let folder = tempfile::tempdir().expect("a folder");
    let packed = folder.path().join("stilk.vsix");
    let mut command = Command::new("npx");
    command.args(["vsce", "package", "--allow-missing-repository", "--skip-license", "--out"]).arg(&packed);
    holds(&run(command.current_dir(&extension)), Path::new(""));
    assert!(std::fs::metadata(&packed).is_ok_and(|file| file.len() > 10_000));
}
