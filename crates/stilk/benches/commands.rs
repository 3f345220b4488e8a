//! Whole processes on the sample system, beside a process that does nothing: `cargo bench -p stilk`.

use std::path::Path;
use std::process::{Command, Stdio};

fn main() {
    divan::main();
}

/// A copy of the sample; outputs go into it.
struct Sample(tempfile::TempDir);

impl Sample {
    fn new() -> Sample {
        let folder = tempfile::tempdir().expect("a folder");
        copy(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/ternhaven"), folder.path());
        Sample(folder)
    }

    fn run(&self, arguments: &[&str]) {
        let status = Command::new(env!("CARGO_BIN_EXE_stilk"))
            .args(arguments)
            .current_dir(self.0.path())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .status()
            .expect("the program runs");
        assert!(status.code().is_some_and(|code| code < 2));
    }
}

fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).expect("a folder");
    for entry in std::fs::read_dir(from).expect("a folder").flatten() {
        let (path, target) = (entry.path(), to.join(entry.file_name()));
        if path.is_dir() {
            copy(&path, &target);
        } else {
            std::fs::copy(&path, &target).expect("a copy");
        }
    }
}

/// What starting a process costs.
#[divan::bench(sample_count = 40)]
fn nothing(bencher: divan::Bencher) {
    let sample = Sample::new();
    bencher.bench_local(|| sample.run(&["--version"]));
}

/// With nothing in the output folder, so that everything is written.
#[divan::bench(sample_count = 40)]
fn cold_build(bencher: divan::Bencher) {
    let sample = Sample::new();
    bencher
        .with_inputs(|| drop(std::fs::remove_dir_all(sample.0.path().join("dist"))))
        .bench_local_values(|()| sample.run(&["build"]));
}

#[divan::bench(sample_count = 40)]
fn build_again(bencher: divan::Bencher) {
    let sample = Sample::new();
    bencher.bench_local(|| sample.run(&["build"]));
}

#[divan::bench(sample_count = 5)]
fn check(bencher: divan::Bencher) {
    let sample = Sample::new();
    bencher.bench_local(|| sample.run(&["check"]));
}
