//! A project of which one file or every one is what the fuzzer made, a page with any CSS, and a server that is asked anything.

use std::collections::BTreeMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::process::{Command, Stdio};
use std::sync::LazyLock;
use stilk_checks::registry;
use stilk_checks::run::run;
use stilk_checks::settings::Settings;
use stilk_engine::css::Longhand;
use stilk_engine::dom::Document;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::resolved::resolved;
use stilk_engine::cascade::{Engine, Forced, Media, Stylesheet};
use stilk_engine::page::Page;
use stilk_language::project;
use stilk_language::stylesheet::{Purpose, write};
use stilk_text::source::{FileError, FileText, Files};

struct Memory(BTreeMap<&'static str, Vec<u8>>);

impl Files for Memory {
    fn read(&self, path: &str, _: &[String]) -> Result<FileText, FileError> {
        self.0.get(path).cloned().map(FileText::own).ok_or(FileError::Missing)
    }

    fn list(&self, folder: &str, _: &[String]) -> Result<Vec<String>, FileError> {
        let prefix = format!("{folder}/");
        Ok(self.0.keys().filter_map(|path| path.strip_prefix(&prefix)).map(str::to_owned).collect())
    }
}

const FILES: [(&str, &str); 5] = [
    ("stilk.toml", "[system]\nname = \"T\"\nprefix = \"t\"\ntokens = \"t.resolver.json\"\n"),
    (
        "t.resolver.json",
        r##"{ "version": "2025.10", "sets": { "base": { "sources": [{ "$ref": "t.tokens.json" }] } },
             "resolutionOrder": [{ "$ref": "#/sets/base" }] }"##,
    ),
    ("t.tokens.json", r##"{ "a": { "$type": "color", "$value": { "colorSpace": "srgb", "components": [1, 0, 0] } } }"##),
    ("controls/x.html", "<button type=\"button\"><span part=\"label\">Go</span></button>"),
    ("controls/x.stilk", "@control x { color: {a}; @state hover { opacity: .5; } }"),
];

fn files() -> Memory {
    Memory(FILES.into_iter().map(|(path, text)| (path, text.as_bytes().to_vec())).collect())
}

/// Reads a project in which a file holds these bytes: a system or diagnostics.
pub fn project(path: &'static str, bytes: &[u8]) {
    let mut files = files();
    files.0.insert(path, bytes.to_vec());
    let project = project::load(&files, &["contrast/text"]);
    assert!(project.system.is_some() || !project.diagnostics.is_empty());
}

/// Reads, writes and checks a project of which every file may be what the fuzzer made: what stands between bytes that no text
/// holds are the files in turn, and an empty one is as it was.
pub fn whole(bytes: &[u8]) {
    let mut files = files();
    for ((path, _), text) in FILES.into_iter().zip(bytes.split(|byte| *byte == 0xff)) {
        if !text.is_empty() {
            files.0.insert(path, text.to_vec());
        }
    }
    let project = registry::load(&files);
    let Some(system) = &project.system else {
        assert!(!project.diagnostics.is_empty());
        return;
    };
    let written = write(system, &project.sources, Purpose::Page);
    let settings = Settings { threads: 1, ..Settings::default() };
    let _ = run(system, &project.sources, &written, &settings);
}

/// Sends bytes to `stilk live`, which STILK names and which serves a project of that variable PROJECT: whatever comes, the next
/// one is answered.
pub fn request(bytes: &[u8]) {
    static PORT: LazyLock<u16> = LazyLock::new(|| {
        let of = |name: &str| std::env::var_os(name).unwrap_or_else(|| panic!("{name} is not set"));
        let mut live = Command::new(of("STILK"));
        live.args(["live", "--port", "0", "--project"]).arg(of("PROJECT")).stdout(Stdio::piped());
        let mut line = String::new();
        let output = live.spawn().expect("it starts").stdout.expect("its output");
        BufReader::new(output).read_line(&mut line).expect("its address");
        let port = line.rsplit(':').next().expect("a port");
        port.trim_end().trim_end_matches('/').parse().expect("a number")
    });
    let mut stream = TcpStream::connect(("127.0.0.1", *PORT)).expect("a connection");
    // It may have been refused before it is sent.
    let _ = stream.write_all(bytes);
    drop(stream);
    let mut stream = TcpStream::connect(("127.0.0.1", *PORT)).expect("another connection");
    let good = format!("GET / HTTP/1.1\r\nHost: 127.0.0.1:{}\r\nConnection: close\r\n\r\n", *PORT);
    stream.write_all(good.as_bytes()).expect("a request");
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).expect("an answer");
    assert!(answer.starts_with(b"HTTP/1.1 200"));
}

/// Computes everything about a page under any stylesheet.
pub fn page(css: &str, html: &str) {
    let page = Page::parse(html);
    let sheet = Stylesheet::parse(css);
    let engine = Engine::new(Browser::Chromium.sheet(), &[&sheet], Media::default());
    let styles = engine.styles(&page.document, &Forced::default());
    for node in page.document.descendants(Document::ROOT) {
        if let Some(style) = styles.element(node) {
            for longhand in Longhand::ALL {
                let _ = resolved(style, *longhand);
            }
        }
    }
}

/// Adopts a page whose buttons are shaped by a class, with any stylesheet and any markup: nothing looks different.
pub fn adopt(css: &str, html: &str) {
    let page = format!(
        "<!doctype html><style>.a {{ padding: 8px; border: 2px solid #345; background: #9cf; color: #012 }}\n{}</style><body>\
         <button class=a>A</button>{html}",
        css.replace("</", "")
    );
    let mut site = stilk_survey::site::Site::default();
    site.add("p.html", &page, &[], &mut |_, _, _| Err("is not there".to_owned()));
    let request = stilk_adopt::adopt::Request {
        name: "old".to_owned(),
        only: Vec::new(),
        earlier: Vec::new(),
        only_earlier: false,
        layers: false,
        force: false,
        merge: false,
        checks: registry::CHECKS.iter().map(|check| check.id).collect(),
        threads: 1,
        rebase: Box::new(|_, _| None),
    };
    if let Ok(adopted) = stilk_adopt::adopt::adopt(&site, &request) {
        assert_eq!(adopted.proof.differing, 0);
    }
}

#[path = "../crates/stilk-editor/tests/editor/machine.rs"]
mod machine;

/// Texts typed somewhere into the files of a project, and a question after each.
pub fn editor(steps: Vec<(u8, u16, &str)>) {
    const METHODS: [&str; 8] =
        ["completion", "hover", "definition", "documentSymbol", "selectionRange", "documentColor", "formatting", "rename"];
    let client = stilk_editor::feature::Client::default();
    let texts = machine::project();
    let mut editor = machine::editor(&texts, client);
    let names: Vec<&String> = texts.0.keys().collect();
    for (which, at, typed) in steps.into_iter().take(16) {
        let name = names[usize::from(which) % names.len()];
        let Ok(uri) = format!("file://{}/{name}", machine::ROOT).parse() else { return };
        if editor.version(&format!("{}/{name}", machine::ROOT)).is_none() {
            editor.open(&uri, texts.0[name].clone(), 1);
        }
        let place = lsp_types::Position { line: u32::from(at >> 8), character: u32::from(at & 0xff) };
        let change = lsp_types::TextDocumentContentChangeEvent {
            range: Some(lsp_types::Range { start: place, end: place }),
            range_length: None,
            text: typed.to_owned(),
        };
        editor.change(&uri, vec![change], 2);
        editor.read(machine::ROOT);
        let _ = editor.publications(machine::ROOT);
        let asked = serde_json::json!({
            "textDocument": { "uri": uri },
            "position": place,
            "positions": [place],
            "newName": typed,
            "options": { "tabSize": 2, "insertSpaces": true },
        });
        let method = format!("textDocument/{}", METHODS[usize::from(which >> 4) % METHODS.len()]);
        let _ = stilk_editor::answer::answer(&editor, &method, asked);
    }
}
