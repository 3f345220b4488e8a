//! Whole processes on the sample system, beside a process that does nothing: `cargo bench -p stilk`.

#[path = "../tests/shared/folder.rs"]
mod folder;

use folder::copy;
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
