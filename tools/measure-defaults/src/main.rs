//! Measures browser defaults and writes them as stylesheets for the engine: `scripts/measure-defaults` runs it.

mod names;
mod painting;
#[path = "../../../crates/stilk/tests/browser/webdriver.rs"]
#[allow(dead_code, reason = "the browser tests use the rest")]
mod webdriver;

use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::Path;
use stilk_engine::css::Longhand;
use webdriver::{Browser, BrowserKind};

fn main() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../crates/stilk-engine/src/cascade/defaults");
    std::fs::create_dir_all(&folder).expect("the folder of the tables");
    let wanted: Vec<String> = std::env::args().skip(1).collect();
    if wanted.iter().any(|word| word == "names") {
        let browser = Browser::start_kind(BrowserKind::Chromium, 1280, 800);
        let path = folder.join("../../css/chromium.names");
        std::fs::write(&path, names::table(&browser)).expect("the table");
        return println!("{}: {}", browser.version(), path.display());
    }
    if wanted.iter().any(|word| word == "painting") {
        let kinds = [BrowserKind::Chromium, BrowserKind::Firefox, BrowserKind::WebKit];
        let columns = kinds.map(|kind| {
            let browser = Browser::start_kind(kind, 1280, 800);
            (browser.version().to_owned(), painting::measure(&browser))
        });
        return print!("{}", painting::table(&columns));
    }
    for (name, kind) in
        [("chromium", BrowserKind::Chromium), ("firefox", BrowserKind::Firefox), ("webkit", BrowserKind::WebKit)]
    {
        if !wanted.is_empty() && !wanted.iter().any(|word| word == name) {
            continue;
        }
        let browser = Browser::start_kind(kind, 1280, 800);
        let text = measure(&browser);
        let path = folder.join(format!("{name}.css"));
        std::fs::write(&path, text).expect("the table");
        println!("{}: {}", browser.version(), path.display());
    }
}

fn measure(browser: &Browser) -> String {
    let page = tempfile::Builder::new().suffix(".html").tempfile().expect("a page");
    std::fs::write(page.path(), "<!doctype html><meta charset=utf-8><title>defaults</title><body>").expect("a page");
    browser.open(&format!("file://{}", page.path().display()));
    let names: Vec<&str> = Longhand::ALL.iter().map(|longhand| longhand.name()).collect();
    let inherited: Vec<&str> = Longhand::ALL.iter().filter(|l| l.inherited()).map(|l| l.name()).collect();
    let script = include_str!("measure.js");
    let answer = browser.run(script, json!([names, inherited]));
    let mut css =
        format!("/* Defaults of {}, measured by scripts/measure-defaults; not for editing. */\n\n", browser.version());
    for rule in answer["rules"].as_array().expect("rules") {
        write_rule(&mut css, rule["selector"].as_str().unwrap_or_default(), &rule["declarations"]);
    }
    let hosts = answer["hosts"].as_array().expect("hosts");
    // What any element does with the focus comes before what some do.
    let generic = |host: &&Value| host["selector"] == json!(":focus-visible");
    for host in hosts.iter().filter(generic).chain(hosts.iter().filter(|host| !generic(host))) {
        interaction(browser, host, &answer["known"], &mut css);
    }
    for (key, name, what) in [
        ("nativeRules", "native", "For as long as the platform draws them"),
        ("bareRules", "bare", "Where the page asks for no native look"),
    ] {
        let rules = answer[key].as_array().expect("rules");
        if rules.is_empty() {
            continue;
        }
        let _ = writeln!(css, "/* {what}. */\n@-stilk-{name} {{");
        for rule in rules {
            write_rule(&mut css, rule["selector"].as_str().unwrap_or_default(), &rule["declarations"]);
        }
        css.push_str("}\n");
    }
    css
}

fn write_rule(css: &mut String, selector: &str, declarations: &Value) {
    let list: Vec<String> = declarations
        .as_array()
        .into_iter()
        .flatten()
        // No sheet says this: it is made so after the cascade (`Style::overflow`), and not where there is no box.
        .filter(|declaration| {
            let name = declaration[0].as_str().unwrap_or_default();
            !(selector == "textarea" && name.starts_with("overflow-") && declaration[1] == json!("auto"))
        })
        .map(|declaration| {
            let text = |i: usize| declaration[i].as_str().unwrap_or_default();
            // Browsers write six digits; a third is meant.
            let value = text(1).replace("13.3333px", "13.33333333px");
            let important = if declaration[2] == json!(true) { " !important" } else { "" };
            format!("  {}: {value}{important};\n", text(0))
        })
        .collect();
    // Writing to a String does not fail.
    let _ = writeln!(css, "{selector} {{\n{}}}", list.concat());
}

/// What pointer and keyboard change, where something is laid out: only what differs from rest is written.
fn interaction(browser: &Browser, host: &Value, known: &Value, css: &mut String) {
    const READ: &str = "
        const computed = getComputedStyle(document.getElementById('it'));
        return Object.fromEntries(arguments[0].map(name => [name, computed.getPropertyValue(name)]));";
    const SETTLE: &str = "document.getAnimations().forEach(animation => animation.finish());";
    let states: Vec<&str> = host["states"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
    let selector = host["selector"].as_str().unwrap_or_default();
    // A part takes no focus of its own.
    if selector.contains("::") {
        return;
    }
    let html =
        host["html"].as_str().unwrap_or_default().replacen("data-it", "id=it style='width: 60px; height: 30px'", 1);
    let mut seen: BTreeMap<&str, BTreeMap<String, (String, String)>> = BTreeMap::new();
    for (scheme, dark) in [("light", false), ("dark", true)] {
        let wrapped = format!("<div style='padding: 20px; color-scheme: {scheme}'>{html}</div>");
        browser.run("document.body.innerHTML = arguments[0];", json!([wrapped]));
        let rest = browser.run(READ, json!([known]));
        for state in &states {
            let pseudo = match *state {
                "hover" => {
                    browser.point("#it", false);
                    ":hover"
                }
                "active" => {
                    browser.point("#it", true);
                    ":active"
                }
                "focus" => {
                    browser.run("document.getElementById('it').focus({ focusVisible: true });", json!([]));
                    ":focus-visible"
                }
                _ => continue,
            };
            browser.run(SETTLE, json!([]));
            let now = browser.run(READ, json!([known]));
            for (name, value) in now.as_object().into_iter().flatten() {
                // Sizes are fixed here for the pointer's sake.
                let (before, after) = (rest[name].as_str().unwrap_or_default(), value.as_str().unwrap_or_default());
                let pair = seen.entry(pseudo).or_default().entry(name.clone()).or_default();
                // What follows the element's own colour goes with it.
                let follows = name != "color"
                    && name.ends_with("color")
                    && rest["color"].as_str() == Some(before)
                    && now["color"].as_str() == Some(after);
                let after = if before == after || follows { String::new() } else { after.to_owned() };
                if dark { pair.1 = after } else { pair.0 = after }
            }
            browser.release();
            browser.run("document.activeElement && document.activeElement.blur();", json!([]));
        }
    }
    for (pseudo, values) in seen {
        let list: Vec<Value> = values
            .into_iter()
            .filter_map(|(name, (light, dark))| match (light.is_empty(), dark.is_empty()) {
                (true, true) => None,
                (false, false) if light != dark => Some(json!([name, format!("light-dark({light}, {dark})"), false])),
                (false, _) => Some(json!([name, light, false])),
                (true, false) => Some(json!([name, dark, false])),
            })
            .collect();
        if !list.is_empty() {
            let selector = if selector == pseudo { selector.to_owned() } else { format!("{selector}{pseudo}") };
            write_rule(css, &selector, &Value::Array(list));
        }
    }
}
