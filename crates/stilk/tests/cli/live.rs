//! `stilk live`: who gets an answer, what is followed, how it ends.

use crate::support::Project;
use serde_json::Value;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Child, Stdio};
use std::time::Duration;

/// The program while it serves a project.
struct Live {
    program: Child,
    port: u16,
}

impl Live {
    fn start(project: &Project) -> Live {
        let mut program =
            project.command(&["live", "--port", "0"]).stdout(Stdio::piped()).spawn().expect("the program starts");
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

    fn get(&self, path: &str) -> (u16, String) {
        self.ask(&format!("GET {path} HTTP/1.1\r\nHost: 127.0.0.1:PORT"))
    }

    fn news(&self, since: u64) -> Value {
        serde_json::from_str(&self.get(&format!("/changes?since={since}")).1).expect("JSON")
    }

    /// News until one of them is about something.
    fn news_of(&self, mut since: u64, name: &str) -> Value {
        for _ in 0..10 {
            let news = self.news(since);
            if news.get(name).is_some() {
                return news;
            }
            since = news["version"].as_u64().expect("a version");
        }
        panic!("no news of {name}");
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
    ] {
        assert_eq!(live.ask(request).0, status, "{request}");
    }
    let long = format!("/{}", "a".repeat(4000));
    assert_eq!(live.get(&long).0, 414);
}

#[test]
fn a_save_gives_new_styles_then_a_new_page_and_an_error_its_words() {
    let project = Project::pier();
    let live = Live::start(&project);
    let start = live.news(0);
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
    assert!(said.contains("there is no property `colr`") && said.contains("= help: write `color`"), "{said}");
    assert!(!said.contains('\u{1b}'));
    // What was right stays.
    assert!(project.read("dist/ternhaven.css").contains("letter-spacing: 3px"));

    project.write("controls/button.stilk", &sheet);
    let news = live.news_of(news["version"].as_u64().expect("a version"), "errors");
    assert_eq!(news["errors"], Value::Null);
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
    let kill = std::process::Command::new("kill").args(["-INT", &live.program.id().to_string()]).status();
    assert!(kill.expect("kill").success());
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
