//! Drives the built program on files in a temporary folder and compares everything it says.

use std::path::{Path, PathBuf};
use std::process::Command;

/// A project in a folder of its own.
#[must_use]
pub struct Project {
    folder: tempfile::TempDir,
}

/// What the program said.
pub struct Said {
    pub stdout: String,
    pub stderr: String,
    pub status: i32,
}

fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).unwrap();
    for entry in std::fs::read_dir(from).unwrap().flatten() {
        let (path, target) = (entry.path(), to.join(entry.file_name()));
        if path.is_dir() {
            if entry.file_name() != "dist" {
                copy(&path, &target);
            }
        } else {
            std::fs::copy(&path, &target).unwrap();
        }
    }
}

impl Project {
    /// A folder with nothing in it.
    pub fn empty() -> Project {
        Project { folder: tempfile::tempdir().unwrap() }
    }

    /// The sample system.
    pub fn demo() -> Project {
        Self::copied("../../demo/ternhaven")
    }

    /// The ferry line's site as it was before it had a system.
    pub fn before() -> Project {
        Self::copied("../../demo/before")
    }

    /// A small site in habits of its own.
    pub fn site(name: &str) -> Project {
        Self::copied(&format!("tests/sites/{name}"))
    }

    /// A system with one button: four hosts, three axes, three themes, and one fault.
    pub fn pier() -> Project {
        Self::copied("tests/projects/pier")
    }

    /// Ten controls by three hands, in two brands and two themes.
    pub fn skerry() -> Project {
        Self::copied("tests/projects/skerry")
    }

    /// A system that keeps the names that its pages had before.
    pub fn jetty() -> Project {
        Self::copied("tests/projects/jetty")
    }

    /// The small system that holds one of everything.
    pub fn quay() -> Project {
        Self::copied("tests/projects/quay")
    }

    fn copied(from: &str) -> Project {
        let project = Self::empty();
        copy(&Path::new(env!("CARGO_MANIFEST_DIR")).join(from), project.folder.path());
        project
    }

    /// The folder, which is not removed: for whoever looks into a fault that a trial found.
    pub fn kept(self) -> PathBuf {
        self.folder.keep()
    }

    /// Where a file is.
    pub fn path(&self, file: &str) -> PathBuf {
        self.folder.path().join(file)
    }

    /// Writes a file.
    pub fn file(self, file: &str, bytes: impl AsRef<[u8]>) -> Self {
        std::fs::create_dir_all(self.path(file).parent().unwrap()).unwrap();
        std::fs::write(self.path(file), bytes).unwrap();
        self
    }

    /// Takes a file away.
    pub fn without(self, file: &str) -> Self {
        std::fs::remove_file(self.path(file)).unwrap();
        self
    }

    /// Writes a file of a project that is in use.
    pub fn write(&self, file: &str, text: &str) {
        std::fs::create_dir_all(self.path(file).parent().unwrap()).unwrap();
        std::fs::write(self.path(file), text).unwrap();
    }

    /// The program in the project's folder, not run yet.
    pub fn command(&self, arguments: &[&str]) -> Command {
        let mut command = Command::new(env!("CARGO_BIN_EXE_stilk"));
        command.args(arguments).current_dir(self.folder.path());
        command
    }

    /// Replaces a text that must be there.
    #[track_caller]
    pub fn edit(self, file: &str, from: &str, to: &str) -> Self {
        let text = self.read(file);
        assert!(text.contains(from), "{file} does not hold {from}");
        self.file(file, text.replacen(from, to, 1))
    }

    /// A file's text.
    #[track_caller]
    pub fn read(&self, file: &str) -> String {
        std::fs::read_to_string(self.path(file)).unwrap_or_else(|e| panic!("{file}: {e}"))
    }

    /// Every file below a folder, with its text.
    pub fn files(&self, folder: &str) -> Vec<(String, String)> {
        let mut list = Vec::new();
        let mut open = vec![self.path(folder)];
        while let Some(at) = open.pop() {
            for entry in std::fs::read_dir(at).into_iter().flatten().flatten() {
                let path = entry.path();
                if path.is_dir() {
                    open.push(path);
                } else {
                    let name = path.strip_prefix(self.folder.path()).unwrap().display().to_string();
                    list.push((name, std::fs::read_to_string(&path).unwrap()));
                }
            }
        }
        list.sort();
        list
    }

    /// Runs the program in the project's folder.
    pub fn run(&self, arguments: &[&str]) -> Said {
        self.run_in("", arguments)
    }

    /// Runs the program in a folder of it.
    pub fn run_in(&self, folder: &str, arguments: &[&str]) -> Said {
        let output = Command::new(env!("CARGO_BIN_EXE_stilk"))
            .args(arguments)
            .current_dir(self.path(folder))
            .env_clear()
            .env("NO_COLOR", "1")
            .env("COLUMNS", "80")
            .output()
            .unwrap();
        Said {
            stdout: String::from_utf8(output.stdout).unwrap(),
            stderr: String::from_utf8(output.stderr).unwrap(),
            status: output.status.code().unwrap(),
        }
    }
}

impl Said {
    /// The exit code.
    #[track_caller]
    pub fn status(self, status: i32) -> Said {
        assert_eq!(self.status, status, "{}{}", self.stdout, self.stderr);
        self
    }

    /// Everything on standard output, as `said/NAME.txt` has it.
    #[track_caller]
    pub fn stdout(self, name: &str) -> Said {
        same(name, &self.stdout);
        self
    }

    /// Everything on standard error, as `said/NAME.txt` has it.
    #[track_caller]
    pub fn stderr(self, name: &str) -> Said {
        same(name, &self.stderr);
        self
    }
}

/// Compares with `said/NAME`. With `STILK_ACCEPT=1` the file is written instead: read it before you commit it.
#[track_caller]
pub fn same(name: &str, found: &str) {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cli/said").join(name);
    if std::env::var_os("STILK_ACCEPT").is_some() {
        std::fs::write(&path, found).unwrap();
        return;
    }
    let expected = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(expected == found, "{name} differs\n--- expected\n{expected}\n--- found\n{found}");
}
