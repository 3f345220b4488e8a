//! The built program as a whole process: how long it took, what it said, how much memory it had at most.

use serde_json::Value;
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// One run of the program.
pub struct Run {
    /// From start to end.
    pub seconds: f64,
    /// Resident memory at its peak, in kB, as the kernel counts it.
    peak: u64,
    answer: Value,
}

impl Run {
    /// Runs the program in a folder.
    pub fn of(folder: &Path, arguments: &[&str]) -> Run {
        let (run, code) = Run::ended(folder, arguments);
        assert!(code.is_some_and(|code| code < 2), "{arguments:?} failed");
        run
    }

    /// The same where it may find that it cannot run.
    #[allow(dead_code, reason = "each program that uses this needs some of it")]
    pub fn any(folder: &Path, arguments: &[&str]) -> Run {
        Run::ended(folder, arguments).0
    }

    fn ended(folder: &Path, arguments: &[&str]) -> (Run, Option<i32>) {
        // What it prints goes to a file: a full pipe would make it wait for its reader.
        let output = tempfile::NamedTempFile::new().expect("a file");
        let started = Instant::now();
        let mut child = Command::new(env!("CARGO_BIN_EXE_stilk"))
            .args(arguments)
            .current_dir(folder)
            .stdout(Stdio::from(output.reopen().expect("a file")))
            .stderr(Stdio::null())
            .spawn()
            .expect("the program runs");
        // Looking often would take time from what is measured; the mark only rises, so little is missed at the end.
        let status = format!("/proc/{}/status", child.id());
        let watch = std::thread::spawn(move || {
            let mut peak = 0;
            while let Some(mark) = high_water(&status) {
                peak = peak.max(mark);
                std::thread::sleep(Duration::from_millis(10));
            }
            peak
        });
        let code = child.wait().expect("a child");
        let seconds = started.elapsed().as_secs_f64();
        let peak = watch.join().expect("a thread");
        let answer = std::fs::read(output.path()).ok().and_then(|text| serde_json::from_slice(&text).ok());
        (Run { seconds, peak, answer: answer.unwrap_or_default() }, code.code())
    }

    /// How many cases `check` looked at.
    pub fn cases(&self) -> u64 {
        self.answer["cases"].as_u64().expect("a number of cases")
    }

    /// How many of them it computed.
    pub fn computed(&self) -> u64 {
        self.answer["computed"].as_u64().expect("a number of cases")
    }

    /// Peak memory in megabytes.
    pub fn megabytes(&self) -> u64 {
        self.peak.div_ceil(1024)
    }
}

/// Nothing when the process is over.
fn high_water(status: &str) -> Option<u64> {
    let text = std::fs::read_to_string(status).ok()?;
    let line = text.lines().find_map(|line| line.strip_prefix("VmHWM:"))?;
    line.trim().strip_suffix("kB")?.trim().parse().ok()
}

/// The run in the middle of an odd number of runs, by time.
pub fn median(runs: usize, run: impl Fn() -> Run) -> Run {
    let mut all: Vec<Run> = (0..runs).map(|_| run()).collect();
    all.sort_by(|a, b| a.seconds.total_cmp(&b.seconds));
    all.swap_remove(runs / 2)
}

/// The slope of the line of least squares through the logarithms.
pub fn exponent(points: &[(f64, f64)]) -> f64 {
    let logs: Vec<(f64, f64)> = points.iter().map(|(x, y)| (x.ln(), y.ln())).collect();
    let n = logs.len() as f64;
    let mean = |value: fn(&(f64, f64)) -> f64| logs.iter().map(value).sum::<f64>() / n;
    let (x, y) = (mean(|p| p.0), mean(|p| p.1));
    let covariance: f64 = logs.iter().map(|p| (p.0 - x) * (p.1 - y)).sum();
    covariance / logs.iter().map(|p| (p.0 - x).powi(2)).sum::<f64>()
}
