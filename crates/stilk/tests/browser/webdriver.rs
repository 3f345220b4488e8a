//! A headless Chromium behind chromedriver: just the commands this harness needs.

use serde_json::{Value, json};
use std::net::TcpListener;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

/// Chromium answers `(hover: none)` when headless; then no hover rule would be tested.
const POINTER: &str =
    "--blink-settings=primaryHoverType=2,availableHoverTypes=2,primaryPointerType=4,availablePointerTypes=4";

/// A running browser.
pub struct Browser {
    driver: Child,
    agent: ureq::Agent,
    session: String,
    _profile: tempfile::TempDir,
}

impl Browser {
    /// Starts chromedriver and a browser of `width` × `height` CSS px.
    pub fn start(width: u32, height: u32) -> Browser {
        // The port is free when asked for; chromedriver takes it at once.
        let port = TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port").port();
        let driver = Command::new("chromedriver")
            .arg(format!("--port={port}"))
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .expect("chromedriver is not installed: run ./scripts/test.sh, which installs it");
        let config = ureq::Agent::config_builder()
            .http_status_as_error(false)
            .timeout_global(Some(Duration::from_secs(120)))
            .build();
        let agent = ureq::Agent::new_with_config(config);
        let base = format!("http://127.0.0.1:{port}");
        let started = Instant::now();
        while agent.get(format!("{base}/status")).call().is_err() {
            assert!(started.elapsed() < Duration::from_secs(30), "chromedriver does not answer");
            std::thread::sleep(Duration::from_millis(50));
        }
        let profile = tempfile::tempdir().expect("a folder for the profile");
        let mut arguments: Vec<String> = [
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
            POINTER,
        ]
        .map(str::to_owned)
        .to_vec();
        arguments.push(format!("--window-size={width},{height}"));
        arguments.push(format!("--user-data-dir={}", profile.path().display()));
        let capabilities = json!({"capabilities": {"alwaysMatch": {
            "browserName": "chrome",
            "goog:chromeOptions": {"args": arguments},
        }}});
        let mut browser = Browser { driver, agent, session: format!("{base}/session"), _profile: profile };
        let answer = browser.post("", &capabilities);
        let id = answer["sessionId"].as_str().expect("a session").to_owned();
        browser.session = format!("{base}/session/{id}");
        browser
    }

    fn post(&self, command: &str, body: &Value) -> Value {
        let url = format!("{}{command}", self.session);
        let mut response = self.agent.post(&url).send_json(body).unwrap_or_else(|e| panic!("{command}: {e}"));
        let mut value: Value = response.body_mut().with_config().limit(256 << 20).read_json().expect("JSON");
        let value = value["value"].take();
        if let Some(error) = value["error"].as_str() {
            panic!("{command}: {error}: {}", value["message"]);
        }
        value
    }

    /// Opens a page.
    pub fn open(&self, url: &str) {
        self.post("/url", &json!({ "url": url }));
    }

    /// Runs a function body in the page.
    pub fn run(&self, script: &str, arguments: Value) -> Value {
        self.post("/execute/sync", &json!({ "script": script, "args": arguments }))
    }

    /// Presses keys one after the other, as a keyboard does; special keys by their code points in WebDriver, section 17.4.2.
    pub fn press(&self, keys: &[&str]) {
        let strokes: Vec<Value> = keys
            .iter()
            .flat_map(|key| [json!({ "type": "keyDown", "value": key }), json!({ "type": "keyUp", "value": key })])
            .collect();
        self.post("/actions", &json!({ "actions": [{ "type": "key", "id": "keyboard", "actions": strokes }] }));
    }

    /// Presses the pointer on the middle of an element.
    pub fn click(&self, selector: &str) {
        let found = self.post("/element", &json!({ "using": "css selector", "value": selector }));
        let id =
            found.as_object().and_then(|o| o.values().next()).and_then(Value::as_str).expect("an element").to_owned();
        self.post(&format!("/element/{id}/click"), &json!({}));
    }

    /// A command of the DevTools protocol.
    pub fn devtools(&self, command: &str, parameters: Value) -> Value {
        self.post("/goog/cdp/execute", &json!({ "cmd": command, "params": parameters }))
    }

    /// Emulates media features.
    pub fn emulate(&self, features: &[(&str, &str)]) {
        let features: Vec<Value> =
            features.iter().map(|(name, value)| json!({ "name": name, "value": value })).collect();
        self.devtools("Emulation.setEmulatedMedia", json!({ "media": "", "features": features }));
    }

    /// The browser's name and version.
    pub fn version(&self) -> String {
        self.devtools("Browser.getVersion", json!({}))["product"].as_str().unwrap_or("Chromium").to_owned()
    }
}

impl Drop for Browser {
    fn drop(&mut self) {
        let _ = self.agent.delete(&self.session).call();
        let _ = self.driver.kill();
        let _ = self.driver.wait();
    }
}
