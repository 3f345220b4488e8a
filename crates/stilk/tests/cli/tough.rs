//! Bad luck and bad intent at random: mutated projects, runs that are killed, floods of requests. A few by default, drawn by
//! the seed of the commit; thousands with `STILK_FULL=1`.

use crate::depth::Depth;
use crate::support::Project;
use std::io::{Read, Write};
use std::net::TcpStream;
use std::process::Stdio;
use std::time::{Duration, Instant};

/// Pieces that mean something somewhere.
const PIECES: [&str; 24] = [
    "{",
    "}",
    "\"",
    "'",
    "*/",
    "/*",
    "\\",
    "<",
    ">",
    "&",
    "@state hover",
    "@part label",
    "@media",
    "$value",
    "$ref",
    "{}",
    "var(--x)",
    "calc(",
    "\u{0}",
    "\u{feff}",
    "\u{202e}",
    "999999999999999999999",
    "-1e308",
    "<button data-control=\"button\">",
];

/// Mutates a text; where it is cut, characters stay whole.
fn mutate(text: &str, random: &mut fastrand::Rng) -> String {
    let mut chars: Vec<char> = text.chars().collect();
    for _ in 0..random.usize(1..4) {
        let from = random.usize(..=chars.len());
        let to = (from + random.usize(..40)).min(chars.len());
        match random.u8(..5) {
            0 => drop(chars.drain(from..to)),
            1 => {
                let again: Vec<char> = chars[from..to].to_vec();
                chars.splice(from..from, again.repeat(random.usize(1..20)));
            }
            2 => chars.truncate(from),
            3 => chars[from..to].reverse(),
            _ => drop(chars.splice(from..from, PIECES[random.usize(..PIECES.len())].chars())),
        }
    }
    chars.into_iter().collect()
}

/// The memory that a running program has used at most, in MB.
pub fn most_memory(program: u32) -> Option<u64> {
    let status = std::fs::read_to_string(format!("/proc/{program}/status")).ok()?;
    let line = status.lines().find_map(|line| line.strip_prefix("VmHWM:"))?;
    Some(line.trim().trim_end_matches(" kB").parse::<u64>().ok()? / 1024)
}

/// The time that a running program has had a processor for.
fn busy(program: u32) -> Option<Duration> {
    let status = std::fs::read_to_string(format!("/proc/{program}/stat")).ok()?;
    // What stands in parentheses is its name; of the rest, the twelfth and the one after it are in hundredths (proc(5)).
    let rest = status.rsplit_once(')')?.1;
    let ticks = rest.split_ascii_whitespace().skip(11).take(2).map_while(|ticks| ticks.parse::<u64>().ok());
    Some(Duration::from_millis(ticks.sum::<u64>() * 10))
}

#[test]
fn no_mutated_project_breaks_or_stalls_a_command() {
    let depth = Depth::of_environment();
    depth.print();
    let count = if depth.full { 10_000 } else { 60 };
    let mut random = fastrand::Rng::with_seed(depth.seed);
    let sources: [(&str, Vec<(String, String)>); 2] =
        [("slip", Project::quay().files("")), ("button", Project::pier().files(""))];
    let mut most = 0;
    for index in 0..count {
        let project = Project::empty();
        let (control, files) = &sources[random.usize(..sources.len())];
        let commands: [&[&str]; 14] = [
            &["build"],
            &["check", "--format", "json"],
            &["check", "--format", "sarif"],
            &["check"],
            &["check", "--mend", "--yes"],
            &["specimen"],
            &["specimen", "--terminal", control],
            &["contrast", "--format", "html"],
            &["contrast"],
            &["scan", "page.html"],
            &["tokens"],
            &["why", control, "color"],
            &["markup", control],
            &["compare", "."],
        ];
        let victim = random.usize(..=files.len());
        let page = "<!doctype html><link rel=stylesheet href=dist/quay.css><button class='quay-slip'>x</button><style>a{color:red}</style>";
        for (at, (name, text)) in
            files.iter().map(|(n, t)| (n.as_str(), t.as_str())).chain([("page.html", page)]).enumerate()
        {
            let text = if at == victim { mutate(text, &mut random) } else { text.to_owned() };
            project.write(name, &text);
        }
        let arguments = commands[random.usize(..commands.len())];
        let said_of = |what: String| format!("project {index} of seed {}: `{arguments:?}` {what}", depth.seed);
        let started = Instant::now();
        let mut child =
            project.command(arguments).stdout(Stdio::null()).stderr(Stdio::piped()).spawn().expect("it starts");
        let mut said = child.stderr.take().expect("its errors");
        let reader = std::thread::spawn(move || {
            let mut text = Vec::new();
            let _ = said.read_to_end(&mut text);
            String::from_utf8_lossy(&text).into_owned()
        });
        // Unoptimised the program takes ten times as long. A machine may have more to do than this: what counts is the time
        // of its processors; who waits for ever uses none.
        let limit = Duration::from_secs(if cfg!(debug_assertions) { 50 } else { 5 });
        let code = loop {
            most = most.max(most_memory(child.id()).unwrap_or(0));
            match child.try_wait().expect("its end") {
                Some(status) => break status.code(),
                None if busy(child.id()).is_some_and(|busy| busy > limit) || started.elapsed() > 12 * limit => {
                    let _ = child.kill();
                    let victim = &files[victim.min(files.len() - 1)].0;
                    panic!("{}", said_of(format!("does not end: {victim} in {:?}", project.kept())));
                }
                None => std::thread::sleep(Duration::from_millis(2)),
            }
        };
        let said = reader.join().expect("its words");
        let is_well = matches!(code, Some(0..=2)) && !said.contains("panicked");
        assert!(is_well, "{}", said_of(format!("ended with {code:?}: {said}")));
        assert!(most < 300, "{}", said_of(format!("took {most} MB")));
    }
    println!("{count} projects, at most {most} MB");
}

#[test]
fn killed_at_any_moment_it_leaves_all_or_nothing() {
    let depth = Depth::of_environment();
    let count = if depth.full { 500 } else { 8 };
    let mut random = fastrand::Rng::with_seed(depth.seed);
    let before: Vec<(String, String)> = sources_of(&Project::demo());
    let mended = Project::demo();
    mended.run(&["check", "--mend", "--yes"]);
    let after = sources_of(&mended);
    assert_ne!(before, after, "nothing is mended: nothing is tried");
    mended.run(&["build"]).status(0);
    for index in 0..count {
        let project = Project::demo();
        let arguments: &[&str] = if random.bool() { &["check", "--mend", "--yes"] } else { &["build"] };
        let mut child =
            project.command(arguments).stdout(Stdio::null()).stderr(Stdio::null()).spawn().expect("it starts");
        // Unoptimised a mend takes some seconds, a build a tenth of one.
        let most = if arguments[0] == "build" { 200 } else { 6_000 };
        let most = if cfg!(debug_assertions) { most } else { most / 5 };
        std::thread::sleep(Duration::from_millis(random.u64(..most)));
        let _ = child.kill();
        let _ = child.wait();
        project.run(&["build"]).status(0);
        let now = sources_of(&project);
        assert!(
            now == before || now == after,
            "kill {index} of seed {}: some files are mended and some are not",
            depth.seed
        );
        let left: Vec<String> =
            project.files("").into_iter().map(|(name, _)| name).filter(|n| n.contains(".stilk-")).collect();
        assert!(left.is_empty(), "kill {index} of seed {}: {left:?} is left", depth.seed);
        assert!(project.read("dist/ternhaven.css").ends_with("}\n"), "a stylesheet is half-written");
    }
}

fn sources_of(project: &Project) -> Vec<(String, String)> {
    project.files("").into_iter().filter(|(name, _)| !name.starts_with("dist/") && !name.contains(".stilk-")).collect()
}

#[test]
fn a_flood_with_attacks_in_it_is_answered() {
    let depth = Depth::of_environment();
    let count = if depth.full { 20_000 } else { 400 };
    let mut random = fastrand::Rng::with_seed(depth.seed);
    let project = Project::pier();
    let live = crate::live::Live::start(&project);
    let before = live.most_memory();
    let own = format!("Host: 127.0.0.1:{}\r\n", live.port);
    let mut held: Vec<TcpStream> = Vec::new();
    let mut answered = 0;
    for _ in 0..count {
        let request = match random.u8(..12) {
            0 => format!("POST / HTTP/1.1\r\n{own}Content-Length: 99999999999999\r\n\r\n"),
            1 => format!("GET / HTTP/1.1\r\n{own}X: {}\r\n\r\n", "a".repeat(20_000)),
            2 => format!("GET / HTTP/2.0\r\n{own}\r\n"),
            3 => "GET / HT".to_owned(),
            4 => format!("GET /changes?since=x-0 HTTP/1.1\r\n{own}\r\n"),
            5 => format!("GET /../../etc/passwd HTTP/1.1\r\n{own}\r\n"),
            6 => "GET / HTTP/1.1\r\nHost: ternhaven.example\r\n\r\n".to_owned(),
            7 => (0..random.usize(..200)).map(|_| char::from(random.u8(..128))).collect(),
            _ => format!("GET / HTTP/1.1\r\n{own}Connection: close\r\n\r\n"),
        };
        let Ok(mut stream) = TcpStream::connect(("127.0.0.1", live.port)) else { continue };
        let _ = stream.write_all(request.as_bytes());
        if request.contains("Connection: close") {
            let _ = stream.set_read_timeout(Some(Duration::from_secs(20)));
            let mut answer = Vec::new();
            let _ = stream.read_to_end(&mut answer);
            assert!(
                answer.starts_with(b"HTTP/1.1 200"),
                "{}",
                String::from_utf8_lossy(&answer[..answer.len().min(200)])
            );
            answered += 1;
        } else {
            held.push(stream);
            // Some go away, some stay.
            if held.len() > 100 {
                held.swap_remove(random.usize(..held.len()));
            }
        }
    }
    assert!(answered > count / 4);
    assert_eq!(live.get("/").0, 200);
    assert!(live.most_memory() < before + 80, "{} MB, {before} before", live.most_memory());
}

#[test]
fn many_links_to_one_sheet_are_one_sheet() {
    let project = Project::pier();
    project.run(&["build"]).status(0);
    let rules: String = (0..3000).map(|i| format!(".c{i} {{ color: red; padding: {i}px }}\n")).collect();
    project.write("large.css", &rules);
    let links = "<link rel=stylesheet href=large.css>".repeat(10_000);
    let page = format!(
        "<!doctype html><html lang=en><title>x</title><link rel=stylesheet href=dist/ternhaven.css>{links}\
         <button type=button class=tern-button><span class=tern-button_label>x</span></button>"
    );
    project.write("page.html", &page);
    for arguments in [&["scan", "page.html"][..], &["why", "--page", "page.html", "button", "color"]] {
        let mut child =
            project.command(arguments).stdout(Stdio::null()).stderr(Stdio::null()).spawn().expect("it starts");
        let mut most = 0;
        let status = loop {
            most = most.max(most_memory(child.id()).unwrap_or(0));
            match child.try_wait().expect("its end") {
                Some(status) => break status,
                None => std::thread::sleep(Duration::from_millis(5)),
            }
        };
        assert!(status.code().is_some_and(|code| code < 2), "{arguments:?}: {status}");
        assert!(most < 300, "{arguments:?} takes {most} MB");
    }
}
