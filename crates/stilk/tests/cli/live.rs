//! `stilk live`: who gets an answer, what is followed, how it ends.

use crate::support::Project;
use serde_json::{Value, json};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Child, Stdio};
use std::time::Duration;

/// The program while it serves a project.
pub struct Live {
    program: Child,
    pub port: u16,
}

impl Live {
    pub fn start(project: &Project) -> Live {
        Live::of(project.command(&["live", "--port", "0"]).stdout(Stdio::piped()).spawn().expect("the program starts"))
    }

    fn of(mut program: Child) -> Live {
        let mut line = String::new();
        let mut said = BufReader::new(program.stdout.as_mut().expect("its output"));
        said.read_line(&mut line).expect("the address");
        let (_, rest) = line.split_once("127.0.0.1:").unwrap_or_else(|| panic!("no address in {line:?}"));
        let port = rest.split('/').next().and_then(|port| port.parse().ok()).expect("a port");
        Live { program, port }
    }

    /// Sends a request as it stands, with the port for PORT.
    fn ask(&self, request: &str) -> (u16, String) {
        let mut stream = TcpStream::connect(("127.0.0.1", self.port)).expect("a connection");
        stream.set_read_timeout(Some(Duration::from_secs(60))).expect("a limit");
        let request = request.replace("PORT", &self.port.to_string());
        stream.write_all(format!("{request}\r\nConnection: close\r\n\r\n").as_bytes()).expect("a request");
        let mut answer = Vec::new();
        stream.read_to_end(&mut answer).expect("an answer");
        let answer = String::from_utf8_lossy(&answer).into_owned();
        let status = answer.split(' ').nth(1).and_then(|status| status.parse().ok()).expect("a status");
        (status, answer.split_once("\r\n\r\n").map(|(_, body)| body.to_owned()).unwrap_or_default())
    }

    pub fn get(&self, path: &str) -> (u16, String) {
        self.ask(&format!("GET {path} HTTP/1.1\r\nHost: 127.0.0.1:PORT"))
    }

    /// What the page starts with: which run of the program this is, the version, what is wrong.
    fn start_data(&self) -> Value {
        let page = self.get("/").1;
        let (_, rest) = page.split_once("window.stilkLive = ").expect("what the page starts with");
        serde_json::from_str(rest.split_once(";</script>").expect("its end").0).expect("JSON")
    }

    /// Follows changes since a version; gives news until one of them is about something.
    fn news_of(&self, since: u64, name: &str) -> Value {
        let run = self.start_data()["run"].as_str().expect("a run").to_owned();
        let mut stream = self.connect();
        let request = format!("GET /changes?since={run}-{since} HTTP/1.1\r\nHost: 127.0.0.1:{}\r\n\r\n", self.port);
        stream.write_all(request.as_bytes()).expect("a request");
        for line in BufReader::new(stream).lines().map_while(Result::ok) {
            let Some(data) = line.strip_prefix("data: ") else { continue };
            let news: Value = serde_json::from_str(data).expect("JSON");
            if news.get(name).is_some() {
                return news;
            }
        }
        panic!("no news of {name}");
    }

    /// Asks as the page does that sets values; what is written into the head of it may be left out or put in.
    fn nudge(&self, what: &str, head: &str, sent: &str) -> (u16, String) {
        let request = format!(
            "POST /nudge/{what} HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\n{head}Content-Length: {}\r\nConnection: close\r\n\r\n{sent}",
            sent.len()
        );
        let mut stream = self.connect();
        stream.write_all(request.replace("PORT", &self.port.to_string()).as_bytes()).expect("a request");
        let mut answer = Vec::new();
        let _ = stream.read_to_end(&mut answer);
        let answer = String::from_utf8_lossy(&answer).into_owned();
        let status = answer.split(' ').nth(1).and_then(|status| status.parse().ok()).unwrap_or_default();
        (status, answer.split_once("\r\n\r\n").map(|(_, body)| body.to_owned()).unwrap_or_default())
    }

    /// What the page of this run sends along.
    fn own_head(&self) -> String {
        let secret = self.start_data()["secret"].as_str().expect("a secret").to_owned();
        format!(
            "Origin: http://127.0.0.1:PORT\r\nSec-Fetch-Site: same-origin\r\nSec-Fetch-Mode: cors\r\nSec-Fetch-Dest: empty\r\nContent-Type: application/json\r\nX-Stilk-Secret: {secret}\r\n"
        )
    }

    /// Waits until the project is drawn, and asks with all that the page has.
    fn set(&self, what: &str, sent: &Value) -> (u16, Value) {
        let (head, sent) = (self.own_head(), sent.to_string());
        for _ in 0..600 {
            let (status, body) = self.nudge(what, &head, &sent);
            let body: Value = serde_json::from_str(&body).unwrap_or(Value::String(body));
            if !body["why"].as_str().is_some_and(|why| why.contains("cannot be drawn yet")) {
                return (status, body);
            }
            std::thread::sleep(Duration::from_millis(100));
        }
        panic!("it is not drawn");
    }

    fn connect(&self) -> TcpStream {
        let stream = TcpStream::connect(("127.0.0.1", self.port)).expect("a connection");
        stream.set_read_timeout(Some(Duration::from_secs(60))).expect("a limit");
        stream
    }

    /// Sends bytes as far as they are taken, and gives the status of what comes back, where something does.
    fn attack(&self, bytes: &[u8]) -> Option<u16> {
        let mut stream = self.connect();
        let mut answer = Vec::new();
        let mut reading = stream.try_clone().expect("the other end");
        let reader = std::thread::spawn(move || {
            let _ = reading.read_to_end(&mut answer);
            answer
        });
        let _ = stream.write_all(bytes);
        let _ = stream.shutdown(std::net::Shutdown::Write);
        let answer = String::from_utf8_lossy(&reader.join().expect("the answer")).into_owned();
        answer.split(' ').nth(1).and_then(|status| status.parse().ok())
    }

    /// The memory that the program has used at most, in MB.
    pub fn most_memory(&self) -> u64 {
        crate::tough::most_memory(self.program.id()).expect("its memory")
    }

    fn signal(&self, name: &str) {
        let sent = std::process::Command::new("kill").args([name, &self.program.id().to_string()]).status();
        assert!(sent.expect("kill").success());
    }
}

impl Drop for Live {
    fn drop(&mut self) {
        let _ = self.program.kill();
        let _ = self.program.wait();
    }
}

#[test]
fn only_pages_of_this_machine_get_an_answer() {
    let project = Project::pier();
    project.write("dist/mark.svg", "<svg/>");
    let live = Live::start(&project);
    assert_eq!(live.get("/").0, 200);
    let own = "GET / HTTP/1.1\r\nHost: localhost:PORT\r\nOrigin: http://127.0.0.1:PORT";
    assert_eq!(live.ask(own).0, 200);
    for (request, status) in [
        // A name of somebody else that leads here.
        ("GET / HTTP/1.1\r\nHost: ternhaven.example", 403),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:1", 403),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nHost: ternhaven.example", 403),
        // A page from elsewhere.
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nOrigin: http://ternhaven.example", 403),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nOrigin: null", 403),
        ("POST / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nContent-Length: 0", 405),
        // Outside of the folder, or no font or picture.
        ("GET /../stilk.toml HTTP/1.1\r\nHost: 127.0.0.1:PORT", 404),
        ("GET /..%2fstilk.toml HTTP/1.1\r\nHost: 127.0.0.1:PORT", 404),
        ("GET //etc/passwd HTTP/1.1\r\nHost: 127.0.0.1:PORT", 404),
        ("GET /system.json HTTP/1.1\r\nHost: 127.0.0.1:PORT", 404),
        ("GET /mark.svg HTTP/1.1\r\nHost: 127.0.0.1:PORT", 200),
        ("GET /changes?since=x HTTP/1.1\r\nHost: 127.0.0.1:PORT", 400),
        ("GET /changes HTTP/1.1\r\nHost: 127.0.0.1:PORT", 400),
        // What a browser says of who asks.
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nSec-Fetch-Site: none", 200),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nSec-Fetch-Site: same-origin", 200),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nSec-Fetch-Site: same-site", 403),
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nSec-Fetch-Site: cross-site", 403),
        ("GET http://ternhaven.example/ HTTP/1.1\r\nHost: 127.0.0.1:PORT", 403),
        ("GET / HTTP/1.0", 403),
        // What is sent is not read.
        ("GET / HTTP/1.1\r\nHost: 127.0.0.1:PORT\r\nContent-Length: 5", 413),
    ] {
        assert_eq!(live.ask(request).0, status, "{request}");
    }
    let long = format!("/{}", "a".repeat(4000));
    assert_eq!(live.get(&long).0, 414);
}

#[test]
fn answers_say_what_a_browser_may_do_with_them() {
    let project = Project::pier();
    let live = Live::start(&project);
    let mut stream = live.connect();
    let request = format!("GET / HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nConnection: close\r\n\r\n", live.port);
    stream.write_all(request.as_bytes()).expect("a request");
    let mut answer = String::new();
    stream.read_to_string(&mut answer).expect("an answer");
    let (head, page) = answer.split_once("\r\n\r\n").expect("a head");
    let head = head.to_ascii_lowercase();
    for line in ["x-frame-options: deny", "x-content-type-options: nosniff", "cache-control: no-store"] {
        assert!(head.contains(line), "{line} is missing in {head}");
    }
    assert!(head.contains("frame-ancestors 'none'") && head.contains("default-src 'none'"), "{head}");
    let nonce = head.split_once("'nonce-").and_then(|(_, rest)| rest.split_once('\'')).expect("a nonce").0;
    // Scripts that run bear the mark; the figures of the page are no script.
    let scripts = page.matches("<script nonce=").count();
    assert_eq!(page.matches(&format!("<script nonce=\"{nonce}\">")).count(), scripts);
    // What the page starts with, the page's own, what follows changes, what sets values.
    assert_eq!(scripts, 4);
    assert!(!page.contains("<script>"), "a script without the mark");
}

#[test]
fn a_save_gives_new_styles_then_a_new_page_and_an_error_its_words() {
    let project = Project::pier();
    let live = Live::start(&project);
    let start = live.start_data();
    let version = start["version"].as_u64().expect("a version");
    assert_eq!(start["errors"], Value::Null);

    let sheet = project.read("controls/button.stilk");
    project
        .write("controls/button.stilk", &sheet.replace("@control button {", "@control button { letter-spacing: 3px;"));
    let news = live.news_of(version, "styles");
    assert!(news["styles"][0].as_str().expect("a stylesheet").contains("letter-spacing: 3px"));
    let version = live.news_of(version, "page")["version"].as_u64().expect("a version");
    assert!(live.get("/").1.contains("letter-spacing: 3px"));
    assert!(project.read("dist/ternhaven.css").contains("letter-spacing: 3px"), "the stylesheet was not written");

    project.write("controls/button.stilk", &sheet.replace("@control button {", "@control button { colr: red;"));
    let news = live.news_of(version, "errors");
    let said = news["errors"].as_str().expect("an error");
    assert!(said.contains("there is no property `colr`") && said.contains("= mend: write `color`"), "{said}");
    assert!(!said.contains('\u{1b}'));
    // What was right stays.
    assert!(project.read("dist/ternhaven.css").contains("letter-spacing: 3px"));

    project.write("controls/button.stilk", &sheet);
    let news = live.news_of(news["version"].as_u64().expect("a version"), "errors");
    assert_eq!(news["errors"], Value::Null);
}

#[test]
fn every_source_is_followed_wherever_it_is() {
    // Written beside the sources themselves, which are never replaced.
    let project = Project::pier().edit("stilk.toml", "folder = \"dist\"", "folder = \".\"");
    let day = project.read("tokens/day.tokens.json");
    let said = project.run(&["build"]).status(2).stderr;
    assert!(said.contains("is a source, and an output has the same name"), "{said}");
    assert_eq!(project.read("tokens/day.tokens.json"), day);
    let resolver = project.read("ternhaven.resolver.json").replace("tokens/", "tokens/of-");
    project.write("ternhaven.resolver.json", &resolver);
    for name in ["base", "day", "night", "storm"] {
        let [from, to] = ["", "of-"].map(|before| project.path(&format!("tokens/{before}{name}.tokens.json")));
        std::fs::rename(from, to).expect("a move");
    }
    let live = Live::start(&project);
    let version = live.start_data()["version"].as_u64().expect("a version");
    let sheet = project.read("controls/button.stilk");
    project
        .write("controls/button.stilk", &sheet.replace("@control button {", "@control button { letter-spacing: 3px;"));
    live.news_of(version, "page");
    assert!(project.read("ternhaven.css").contains("letter-spacing: 3px"));

    // Tokens in a folder that the manifest allows.
    let home = Project::empty();
    copy(&home, "pier");
    home.write("shared/more.tokens.json", r#"{ "kept": { "$type": "number", "$value": 1 } }"#);
    let manifest = home.read("pier/stilk.toml");
    home.write("pier/stilk.toml", &manifest.replace("[system]", "[system]\noutside = [\"../shared\"]"));
    let resolver = home.read("pier/ternhaven.resolver.json");
    let more = resolver.replacen("\"sources\": [", "\"sources\": [{ \"$ref\": \"../shared/more.tokens.json\" }, ", 1);
    assert_ne!(more, resolver);
    home.write("pier/ternhaven.resolver.json", &more);
    let live = Live::of(home.command(IN_PIER).stdout(Stdio::piped()).spawn().expect("the program starts"));
    let start = live.start_data();
    assert_eq!(start["errors"], Value::Null);
    home.write("shared/more.tokens.json", "{ \"secret\"");
    let news = live.news_of(start["version"].as_u64().expect("a version"), "errors");
    let said = news["errors"].as_str().expect("an error");
    assert!(said.contains("more.tokens.json") && !said.contains("secret"), "{said}");
}

const IN_PIER: &[&str] = &["live", "--port", "0", "--project", "pier"];

fn copy(home: &Project, to: &str) {
    for (name, text) in Project::pier().files("") {
        home.write(&format!("{to}/{name}"), &text);
    }
}

#[test]
fn a_project_that_goes_and_comes_back_is_followed() {
    let home = Project::empty();
    copy(&home, "pier");
    let live = Live::of(home.command(IN_PIER).stdout(Stdio::piped()).spawn().expect("the program starts"));
    let version = live.start_data()["version"].as_u64().expect("a version");
    std::fs::rename(home.path("pier"), home.path("gone")).expect("a move");
    let news = live.news_of(version, "errors");
    assert!(news["errors"].as_str().expect("an error").contains("there is no `stilk.toml`"), "{news}");
    copy(&home, "pier");
    let news = live.news_of(news["version"].as_u64().expect("a version"), "errors");
    assert_eq!(news["errors"], Value::Null);
    // And from then on.
    let sheet = home.read("pier/controls/button.stilk");
    home.write("pier/controls/button.stilk", &sheet.replace("@control button {", "@control button { colr: red;"));
    let news = live.news_of(news["version"].as_u64().expect("a version"), "errors");
    assert!(news["errors"].as_str().expect("an error").contains("colr"), "{news}");
}

#[test]
fn nothing_that_is_sent_topples_it() {
    let project = Project::pier();
    let live = Live::start(&project);
    let before = live.most_memory();
    let own = format!("Host: 127.0.0.1:{}\r\n", live.port);
    let much = "a".repeat(4 << 20);
    let many: String = (0..5000).map(|n| format!("X-{n}: {n}\r\n")).collect();
    for (what, request, status) in [
        (
            "a length that no machine has, of somebody else",
            "POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 100000000000000\r\n\r\n".to_owned(),
            Some(403),
        ),
        (
            "the greatest length there is",
            format!("POST / HTTP/1.1\r\n{own}Content-Length: 18446744073709551615\r\n\r\n"),
            None,
        ),
        ("an endless header", format!("GET / HTTP/1.1\r\n{own}X: {much}\r\n\r\n"), Some(431)),
        ("an endless address", format!("GET /{much} HTTP/1.1\r\n{own}\r\n"), None),
        ("many headers", format!("GET / HTTP/1.1\r\n{own}{many}\r\n"), Some(431)),
        (
            "a body for nobody",
            format!("POST / HTTP/1.1\r\n{own}Content-Length: {}\r\n\r\n{much}", much.len()),
            Some(405),
        ),
        (
            "a body in pieces",
            format!("GET / HTTP/1.1\r\n{own}Transfer-Encoding: chunked\r\n\r\nffffffffffffffff\r\n{much}"),
            Some(413),
        ),
        ("another version", format!("GET / HTTP/2.0\r\n{own}\r\n"), Some(400)),
        ("the greeting of HTTP/2", "PRI * HTTP/2.0\r\n\r\nSM\r\n\r\n".to_owned(), None),
        ("noise", "\u{0}\u{1}\u{2}\r\n\r\n".to_owned(), Some(400)),
    ] {
        let said = live.attack(request.as_bytes());
        // A connection that ends while it is still being written to may take its answer along.
        assert!(said.is_none() || status.is_none() || said == status, "{what}: {said:?}");
        assert_eq!(live.get("/").0, 200, "after {what}");
    }
    assert!(live.most_memory() < before + 60, "{} MB, {before} before", live.most_memory());
}

#[test]
fn who_waits_takes_nobody_elses_place() {
    let project = Project::pier();
    let live = Live::start(&project);
    let own = format!("Host: 127.0.0.1:{}\r\n", live.port);
    // Half a request each, and requests for news of which nothing is ever read.
    let mut held = Vec::new();
    for n in 0..300 {
        let mut stream = live.connect();
        let request = match n % 3 {
            0 => "GET / HT".to_owned(),
            1 => format!("GET /changes?since=x-0 HTTP/1.1\r\n{own}\r\n").repeat(40),
            _ => String::new(),
        };
        // Older ones are ended for newer ones.
        let _ = stream.write_all(request.as_bytes());
        held.push(stream);
    }
    let started = std::time::Instant::now();
    assert_eq!(live.get("/").0, 200);
    assert!(started.elapsed() < Duration::from_secs(10));
    let threads = std::fs::read_dir(format!("/proc/{}/task", live.program.id())).expect("its threads").count();
    let open = std::fs::read_dir(format!("/proc/{}/fd", live.program.id())).expect("its files").count();
    assert!(threads < 20, "{threads} threads");
    assert!(open < 120, "{open} files");
}

#[test]
fn words_of_a_project_never_become_script() {
    let words = "<!--<script></script><img src=x onerror=alert(1)>]]>";
    let project = Project::pier().edit(
        "controls/button.stilk",
        "@control button {",
        &format!("@control button {{ color: url(\"{words}\");"),
    );
    let live = Live::start(&project);
    assert!(live.start_data()["errors"].as_str().expect("an error").contains("<!--<script>"));
    let page = live.get("/").1;
    assert_eq!(page.matches("<script").count(), 3, "{page}");
    assert!(!page.contains("<img"));
}

#[test]
fn a_port_in_use_is_said_and_an_interrupt_ends_it() {
    let project = Project::pier();
    let mut live = Live::start(&project);
    let said = project.run(&["live", "--port", &live.port.to_string()]).status(2);
    let next = live.port + 1;
    let message = format!(
        "error: port {} is in use, perhaps by another `stilk live`\n  write `--port {next}`, or `--port 0` for any that is free\n",
        live.port
    );
    assert_eq!(said.stderr, message);
    live.signal("-INT");
    assert_eq!(live.program.wait().expect("its end").code(), Some(0));
    let mut live = Live::start(&project);
    // Somebody is still listening.
    let mut stream = live.connect();
    let request = format!("GET /changes?since=x-0 HTTP/1.1\r\nHost: 127.0.0.1:{}\r\n\r\n", live.port);
    stream.write_all(request.as_bytes()).expect("a request");
    live.signal("-TERM");
    assert_eq!(live.program.wait().expect("its end").code(), Some(0));
}

#[test]
fn broken_sources_are_shown_from_the_start() {
    let project = Project::pier().edit("controls/button.stilk", "@control button {", "@control button { colr: red;");
    let live = Live::start(&project);
    let (status, page) = live.get("/");
    assert_eq!(status, 200);
    assert!(page.contains("there is no property `colr`"));
}

/// A change as the page sends it.
fn change(place: &Value, value: &str) -> Value {
    json!({ "changes": [{ "place": place, "value": value }] })
}

#[test]
fn values_are_kept_in_the_sources_and_nothing_else_is() {
    let project = Project::pier();
    let live = Live::start(&project);
    let buoy = json!({ "kind": "token", "path": "buoy.rust" });
    let before = project.files("");
    let (status, found) = live.set("sheets", &change(&buoy, "oklch(0.4321 0.0123 123.4)"));
    assert_eq!(status, 200, "{found}");
    assert!(found["styles"][0].as_str().is_some_and(|css| css.contains("oklch(0.4321 0.0123 123.4)")));
    let (_, found) = live.set("outcome", &change(&buoy, "oklch(0.9 0.01 28)"));
    let come = found["come"].as_array().expect("findings that come");
    assert!(come.iter().any(|one| one["id"] == "contrast/text"), "{found}");
    let (_, found) = live.set("edits", &change(&buoy, "oklch(0.4 0.13 28)"));
    assert!(
        found["edits"][0]["lines"][0]["after"].as_str().is_some_and(|line| line.contains("0.4, 0.13, 28")),
        "{found}"
    );
    // While the sources on the disk are broken, what was drawn is pulled at all the same; kept is nothing.
    let sheet = project.read("controls/button.stilk");
    project.write("controls/button.stilk", "@control button { colr: red; }");
    let (status, found) = live.set("outcome", &change(&buoy, "oklch(0.9 0.01 28)"));
    assert_eq!(status, 200, "{found}");
    let (status, found) = live.set("keep", &change(&buoy, "oklch(0.4 0.13 28)"));
    assert!(status == 409 && found["why"].as_str().is_some_and(|why| why.contains("hold errors by now")), "{found}");
    project.write("controls/button.stilk", &sheet);
    assert_eq!(project.files(""), before, "nothing is written before it is asked for");
    let (status, found) = live.set("keep", &change(&buoy, "oklch(0.4 0.13 28)"));
    assert_eq!((status, &found["kept"]), (200, &json!(1)), "{found}");
    let after = project.files("");
    let others: Vec<&String> = after
        .iter()
        .filter(|(path, text)| !before.contains(&((*path).clone(), (*text).clone())))
        .map(|(path, _)| path)
        .collect();
    assert!(others.iter().all(|path| path.ends_with("tokens.json") || path.starts_with("dist/")), "{others:?}");
    // Whatever makes no sense changes nothing.
    for (place, value) in [
        (json!({ "kind": "token", "path": "buoy.rusty" }), "red"),
        (json!({ "kind": "token", "path": "buoy.rust" }), "12px"),
        (json!({ "kind": "declaration", "file": "../../etc/passwd", "start": 0, "property": "color" }), "red"),
        (json!({ "kind": "declaration", "file": "controls/button.stilk", "start": 3, "property": "color" }), "red"),
        (
            json!({ "kind": "own", "control": "button", "options": [], "states": [], "part": null, "pseudo": null, "property": "color; } x" }),
            "red",
        ),
        (
            json!({ "kind": "own", "control": "button", "options": [], "states": [], "part": null, "pseudo": null, "property": "color" }),
            "red; } @control x {",
        ),
        (json!({ "kind": "token-in", "path": "buoy.rust", "modifier": "theme", "context": "../x" }), "red"),
    ] {
        let kept = project.files("controls");
        let (status, found) = live.set("keep", &change(&place, value));
        assert!(status == 422 || found["conflicts"].is_array(), "{place}: {status} {found}");
        assert_eq!(project.files("controls"), kept);
    }
}

#[test]
fn what_somebody_else_changed_meanwhile_is_not_written_over() {
    let project = Project::pier();
    let live = Live::start(&project);
    let drawing = || live.set("painting", &json!({ "control": "button", "cell": [0, 0] })).1["drawing"].as_u64();
    let first = drawing().expect("a drawing");
    let sheet = project.read("controls/button.stilk");
    let start = sheet.find("cursor:").expect("a declaration");
    let value = sheet[start..].split([':', ';']).nth(1).expect("a value").trim().to_owned();
    let keep = |value: &str| {
        let place =
            json!({ "kind": "declaration", "file": "controls/button.stilk", "start": start, "property": "cursor" });
        live.set("keep", &json!({ "changes": [{ "place": place, "value": value, "drawing": first }] })).1
    };
    let drawn_after = |number: u64| {
        for _ in 0..600 {
            if drawing().is_some_and(|now| now > number) {
                return;
            }
            std::thread::sleep(Duration::from_millis(50));
        }
        panic!("it is not drawn anew");
    };
    // The same declaration says something else by now: before the program has drawn that, and after.
    project.write("controls/button.stilk", &sheet.replace(&format!("cursor: {value}"), "cursor: help"));
    let said = |found: &Value| found["conflicts"][0]["why"].as_str().unwrap_or_default().to_owned();
    let found = keep("wait");
    assert!(said(&found).contains("is `help` by now"), "{found}");
    drawn_after(first);
    let found = keep("wait");
    assert!(said(&found).contains("is `help` by now"), "{found}");
    assert!(project.read("controls/button.stilk").contains("cursor: help"), "it stays");
    // Other lines came before it: the change is laid over the new text.
    let longer = format!("/* one more line */\n{sheet}");
    project.write("controls/button.stilk", &longer);
    let found = keep("wait");
    assert_eq!(found["kept"], json!(1), "{found}");
    let wanted = longer.replace(&format!("cursor: {value}"), "cursor: wait");
    assert_eq!(project.read("controls/button.stilk"), wanted);
    // The declaration is gone.
    project.write("controls/button.stilk", &sheet.replace(&format!("cursor: {value};"), ""));
    let found = keep("wait");
    assert!(
        said(&found).contains("look at it and set the value again") || said(&found).contains("choose it again"),
        "{found}"
    );
}

#[test]
fn only_this_runs_own_page_sets_values() {
    let project = Project::pier();
    let live = Live::start(&project);
    let buoy = change(&json!({ "kind": "token", "path": "buoy.rust" }), "red");
    assert_eq!(live.set("edits", &buoy).0, 200);
    let own = live.own_head();
    let before = project.files("tokens");
    let without = |name: &str| {
        let lines = own.split_inclusive("\r\n").filter(|line| !line.to_lowercase().starts_with(name));
        lines.collect::<String>()
    };
    let with = |name: &str, line: &str| format!("{}{line}\r\n", without(name));
    for (head, wanted) in [
        (String::new(), 403),
        (without("x-stilk-secret"), 403),
        (with("x-stilk-secret", "X-Stilk-Secret: 00000000000000000000000000000000"), 403),
        (with("x-stilk-secret", "X-Stilk-Secret: "), 403),
        (without("origin"), 403),
        (with("origin", "Origin: http://127.0.0.1:1"), 403),
        (with("origin", "Origin: null"), 403),
        (with("origin", "Origin: https://127.0.0.1:PORT"), 403),
        (with("sec-fetch-site", "Sec-Fetch-Site: cross-site"), 403),
        (with("sec-fetch-site", "Sec-Fetch-Site: same-site"), 403),
        (with("sec-fetch-site", "Sec-Fetch-Site: none"), 403),
        (with("sec-fetch-mode", "Sec-Fetch-Mode: navigate"), 403),
        (with("sec-fetch-mode", "Sec-Fetch-Mode: no-cors"), 403),
        (with("sec-fetch-dest", "Sec-Fetch-Dest: document"), 403),
        (with("content-type", "Content-Type: text/plain"), 415),
        (without("content-type"), 415),
    ] {
        assert_eq!(live.nudge("keep", &head, &buoy.to_string()).0, wanted, "{head}");
    }
    let (status, found) = live.nudge("keep", &own, &buoy.to_string());
    assert_eq!(status, 200, "the page itself is answered: {found}");
    for (sent, wanted) in [
        ("", 400),
        ("{", 400),
        ("[]", 400),
        (r#"{"changes":[{"place":{"kind":"file","path":"x"},"value":"y"}]}"#, 400),
        (r#"{"changes":7}"#, 400),
    ] {
        assert_eq!(live.nudge("keep", &own, sent).0, wanted, "{sent}");
    }
    let long = change(&json!({ "kind": "token", "path": "buoy.rust" }), &"x".repeat(5000));
    assert_eq!(live.nudge("keep", &own, &long.to_string()).0, 413);
    assert_eq!(live.nudge("keep", &own, &"x".repeat(300_000)).0, 413);
    assert_eq!(live.nudge("delete", &own, "{}").0, 404);
    assert_eq!(live.get("/nudge/keep").0, 404);
    assert_ne!(before, project.files("tokens"), "what the page itself asked for is kept");
    // Where values are not to be set, the page has no secret, and nobody is let in.
    let shows = Live::of(
        project.command(&["live", "--port", "0", "--read-only"]).stdout(Stdio::piped()).spawn().expect("it starts"),
    );
    assert!(shows.start_data().get("secret").is_none());
    assert_eq!(shows.nudge("keep", &own, &buoy.to_string()).0, 405);
}
