//! A headless browser behind its WebDriver: just the commands this harness needs.

use serde_json::{Value, json};
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

/// Chromium answers `(hover: none)` when headless; then no hover rule would be tested.
const POINTER: &str =
    "--blink-settings=primaryHoverType=2,availableHoverTypes=2,primaryPointerType=4,availablePointerTypes=4";

/// Which browser.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(dead_code, reason = "each program that uses this starts some of them")]
pub enum BrowserKind {
    /// Chromium, by chromedriver.
    Chromium,
    /// Firefox ESR, by geckodriver.
    Firefox,
    /// WebKitGTK's MiniBrowser, by WebKitWebDriver; it has no headless form, so a virtual screen is started.
    WebKit,
}

/// A running browser.
pub struct Browser {
    driver: Child,
    screen: Option<Child>,
    /// The name of its virtual screen.
    display: String,
    agent: ureq::Agent,
    session: String,
    version: String,
    _profile: tempfile::TempDir,
}

impl Browser {
    #[allow(dead_code, reason = "each program that uses this starts some of them")]
    /// Starts Chromium with a window of `width` × `height` CSS px.
    pub fn start(width: u32, height: u32) -> Browser {
        Browser::start_kind(BrowserKind::Chromium, width, height)
    }

    /// Starts a browser with a window of `width` × `height` CSS px.
    pub fn start_kind(kind: BrowserKind, width: u32, height: u32) -> Browser {
        // The port is free when asked for; the driver takes it at once.
        let port = TcpListener::bind("127.0.0.1:0").and_then(|l| l.local_addr()).expect("a free port").port();
        let (program, argument) = match kind {
            BrowserKind::Chromium => ("chromedriver", format!("--port={port}")),
            BrowserKind::Firefox => ("geckodriver", format!("--port={port}")),
            BrowserKind::WebKit => ("WebKitWebDriver", format!("--port={port}")),
        };
        let mut command = Command::new(program);
        command.arg(argument).stdout(Stdio::null()).stderr(Stdio::null());
        let mut screen = None;
        let mut shown_on = String::new();
        if kind == BrowserKind::WebKit {
            let display = format!(":{}", 200 + port % 700);
            let server = Command::new("Xvfb")
                .args([&display, "-screen", "0", "1600x1200x24"])
                .stdout(Stdio::null())
                .stderr(Stdio::null())
                .spawn();
            screen = Some(server.expect("Xvfb is not installed: run ./scripts/test.sh, which installs it"));
            std::thread::sleep(Duration::from_millis(800));
            shown_on.clone_from(&display);
            command.env("DISPLAY", display).env("WEBKIT_DISABLE_COMPOSITING_MODE", "1");
            command.env("WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS", "1").env("GDK_BACKEND", "x11");
        }
        let driver = command.spawn();
        let driver =
            driver.unwrap_or_else(|_| panic!("{program} is not installed: run ./scripts/test.sh, which installs it"));
        let config = ureq::Agent::config_builder()
            .http_status_as_error(false)
            .timeout_global(Some(Duration::from_secs(120)))
            .build();
        let agent = ureq::Agent::new_with_config(config);
        let base = format!("http://127.0.0.1:{port}");
        let started = Instant::now();
        while agent.get(format!("{base}/status")).call().is_err() {
            assert!(started.elapsed() < Duration::from_secs(30), "{program} does not answer");
            std::thread::sleep(Duration::from_millis(50));
        }
        let profile = tempfile::tempdir().expect("a folder for the profile");
        let capabilities = match kind {
            BrowserKind::Chromium => chromium(width, height, profile.path()),
            BrowserKind::Firefox => json!({
                "browserName": "firefox",
                "moz:firefoxOptions": { "args": ["-headless"], "prefs": { "ui.primaryPointerCapabilities": 6, "ui.allPointerCapabilities": 6 } },
            }),
            BrowserKind::WebKit => json!({
                "webkitgtk:browserOptions": { "binary": mini_browser(), "args": ["--automation"] },
            }),
        };
        let mut browser = Browser {
            driver,
            screen,
            display: shown_on,
            agent,
            session: format!("{base}/session"),
            version: String::new(),
            _profile: profile,
        };
        let answer = browser.post("", &json!({ "capabilities": { "alwaysMatch": capabilities } }));
        let id = answer["sessionId"].as_str().expect("a session").to_owned();
        browser.session = format!("{base}/session/{id}");
        let text = |name: &str| answer["capabilities"][name].as_str().unwrap_or_default().to_owned();
        let name = match kind {
            BrowserKind::Chromium => "Chromium",
            BrowserKind::Firefox => "Firefox",
            BrowserKind::WebKit => "WebKitGTK",
        };
        browser.version = format!("{name} {}", text("browserVersion"));
        if kind != BrowserKind::Chromium {
            let rectangle = json!({ "x": 0, "y": 0, "width": width, "height": height });
            browser.post("/window/rect", &rectangle);
        }
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

    #[allow(dead_code, reason = "the browser tests compare values")]
    /// What is shown, as a PNG in base64; of WebKitGTK the whole virtual screen with its window, by ImageMagick.
    pub fn screenshot(&self) -> String {
        if self.screen.is_some() {
            let line = format!("import -display {} -window root png:- | base64 --wrap=0", self.display);
            let shot = Command::new("sh").args(["-c", &line]).output().expect("a shell");
            let text = String::from_utf8(shot.stdout).expect("base64");
            assert!(!text.is_empty(), "ImageMagick is not installed");
            return text;
        }
        // Its driver waits for a frame that is never drawn.
        if self.version.starts_with("Chromium") {
            let shot = self.devtools("Page.captureScreenshot", json!({ "format": "png" }));
            return shot["data"].as_str().expect("a picture").to_owned();
        }
        let url = format!("{}/screenshot", self.session);
        let mut response = self.agent.get(&url).call().unwrap_or_else(|e| panic!("screenshot: {e}"));
        let value: Value = response.body_mut().with_config().limit(256 << 20).read_json().expect("JSON");
        value["value"].as_str().expect("a picture").to_owned()
    }

    /// Opens a page.
    pub fn open(&self, url: &str) {
        self.post("/url", &json!({ "url": url }));
    }

    /// Runs a function body in the page.
    pub fn run(&self, script: &str, arguments: Value) -> Value {
        self.post("/execute/sync", &json!({ "script": script, "args": arguments }))
    }

    #[allow(dead_code, reason = "measuring reads pages that it leaves as they are")]
    /// Presses keys one after the other, as a keyboard does; special keys by their code points in WebDriver, section 17.4.2.
    pub fn press(&self, keys: &[&str]) {
        let strokes: Vec<Value> = keys
            .iter()
            .flat_map(|key| [json!({ "type": "keyDown", "value": key }), json!({ "type": "keyUp", "value": key })])
            .collect();
        self.post("/actions", &json!({ "actions": [{ "type": "key", "id": "keyboard", "actions": strokes }] }));
    }

    #[allow(dead_code, reason = "measuring reads pages that it leaves as they are")]
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

    #[allow(dead_code, reason = "measuring reads pages that it leaves as they are")]
    /// Forces states of elements by id, as the inspector does.
    pub fn force(&self, states: &std::collections::BTreeMap<&str, Vec<&str>>) {
        if states.is_empty() {
            return;
        }
        self.devtools("DOM.enable", json!({}));
        self.devtools("CSS.enable", json!({}));
        let root = self.devtools("DOM.getDocument", json!({ "depth": 0 }))["root"]["nodeId"].clone();
        for (id, states) in states {
            let node = self.devtools("DOM.querySelector", json!({ "nodeId": root, "selector": format!("#{id}") }));
            // What the parser did not take over is not there, in the engine's page either.
            if node["nodeId"] == json!(0) {
                continue;
            }
            let parameters = json!({ "nodeId": node["nodeId"], "forcedPseudoClasses": states });
            self.devtools("CSS.forcePseudoState", parameters);
        }
    }

    #[allow(dead_code, reason = "measuring reads pages that it leaves as they are")]
    /// Emulates media features.
    pub fn emulate(&self, features: &[(&str, &str)]) {
        let features: Vec<Value> =
            features.iter().map(|(name, value)| json!({ "name": name, "value": value })).collect();
        self.devtools("Emulation.setEmulatedMedia", json!({ "media": "", "features": features }));
    }

    /// The browser's name and version.
    pub fn version(&self) -> &str {
        &self.version
    }

    #[allow(dead_code, reason = "only measuring uses a real pointer")]
    /// Moves the pointer onto an element, and presses it there where that is asked for.
    pub fn point(&self, selector: &str, press: bool) {
        let origin = self.post("/element", &json!({ "using": "css selector", "value": selector }));
        let mut steps = vec![json!({ "type": "pointerMove", "x": 0, "y": 0, "origin": origin, "duration": 0 })];
        if press {
            steps.push(json!({ "type": "pointerDown", "button": 0 }));
        }
        let pointer =
            json!({ "type": "pointer", "id": "mouse", "parameters": { "pointerType": "mouse" }, "actions": steps });
        self.post("/actions", &json!({ "actions": [pointer] }));
    }

    #[allow(dead_code, reason = "only measuring uses a real pointer")]
    /// Lets go of everything and moves the pointer away.
    pub fn release(&self) {
        let _ = self.agent.delete(format!("{}/actions", self.session)).call();
        let steps = [json!({ "type": "pointerMove", "x": 0, "y": 0, "duration": 0 })];
        let pointer =
            json!({ "type": "pointer", "id": "mouse", "parameters": { "pointerType": "mouse" }, "actions": steps });
        self.post("/actions", &json!({ "actions": [pointer] }));
    }
}

impl Drop for Browser {
    fn drop(&mut self) {
        let _ = self.agent.delete(&self.session).call();
        let _ = self.driver.kill();
        let _ = self.driver.wait();
        if let Some(screen) = &mut self.screen {
            let _ = screen.kill();
            let _ = screen.wait();
        }
    }
}

fn chromium(width: u32, height: u32, profile: &Path) -> Value {
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
    arguments.push(format!("--user-data-dir={}", profile.display()));
    json!({ "browserName": "chrome", "goog:chromeOptions": { "args": arguments } })
}

/// The browser that WebKitGTK brings along for tests.
fn mini_browser() -> String {
    let folders = ["/usr/lib/x86_64-linux-gnu", "/usr/lib/aarch64-linux-gnu", "/usr/libexec", "/usr/lib"];
    let versions = ["webkitgtk-6.0", "webkit2gtk-4.1", "webkit2gtk-4.0"];
    let found = folders
        .iter()
        .flat_map(|folder| versions.iter().map(move |version| format!("{folder}/{version}/MiniBrowser")))
        .find(|path| Path::new(path).exists());
    found.expect("MiniBrowser is not installed: run ./scripts/test.sh, which installs it")
}
