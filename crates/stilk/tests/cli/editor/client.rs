//! An editor's side of the conversation: speaks with the built program as editors do.

use crate::support::Project;
use lsp_server::{Message, Notification, Request, RequestId};
use lsp_types::Position;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::io::BufReader;
use std::process::{Child, ChildStdin, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::time::Duration;

/// Nothing takes longer than this, however slow the machine is.
const LONGEST: Duration = Duration::from_secs(120);

/// An editor with a project open in it.
pub struct Client {
    project: Project,
    child: Child,
    input: ChildStdin,
    messages: Receiver<Message>,
    next: i32,
    versions: BTreeMap<String, i32>,
    /// What is published, by file.
    pub published: BTreeMap<String, Vec<Value>>,
    /// What the program said of itself.
    pub server: Value,
}

impl Client {
    /// Starts the program on a project.
    pub fn new(project: Project) -> Client {
        Client::with(project, json!({ "general": { "positionEncodings": ["utf-8", "utf-16"] } }))
    }

    /// The same with the words of an editor about itself.
    pub fn with(project: Project, more: Value) -> Client {
        let mut command = project.command(&["lsp", "--stdio"]);
        command.env("XDG_CACHE_HOME", project.path("cache"));
        let mut child = command.stdin(Stdio::piped()).stdout(Stdio::piped()).spawn().expect("the program starts");
        let input = child.stdin.take().expect("its input");
        let mut output = BufReader::new(child.stdout.take().expect("its output"));
        let (sender, messages) = channel();
        std::thread::spawn(move || {
            while let Ok(Some(message)) = Message::read(&mut output) {
                if sender.send(message).is_err() {
                    return;
                }
            }
        });
        let (versions, published) = (BTreeMap::new(), BTreeMap::new());
        let mut client = Client { project, child, input, messages, next: 0, versions, published, server: Value::Null };
        let mut capabilities = json!({
            "textDocument": { "completion": { "completionItem": { "snippetSupport": true } } },
            "workspace": {
                "workspaceEdit": { "documentChanges": true, "resourceOperations": ["rename"] },
            },
        });
        if let (Some(known), Some(more)) = (capabilities.as_object_mut(), more.as_object()) {
            known.extend(more.clone());
        }
        let folder = client.uri("");
        let folders = json!([{ "uri": folder.trim_end_matches('/'), "name": "project" }]);
        let said =
            json!({ "processId": null, "rootUri": null, "capabilities": capabilities, "workspaceFolders": folders });
        client.server = client.ask("initialize", said);
        client.tell("initialized", json!({}));
        client
    }

    /// The program's process.
    #[allow(dead_code, reason = "the benchmark asks for its memory")]
    pub fn process(&self) -> u32 {
        self.child.id()
    }

    /// The project.
    pub fn project(&self) -> &Project {
        &self.project
    }

    /// The URI of a file of the project.
    pub fn uri(&self, file: &str) -> String {
        format!(
            "file://{}",
            self.project.path(file).canonicalize().unwrap_or_else(|_| self.project.path(file)).display()
        )
    }

    fn send(&mut self, message: Message) {
        message.write(&mut self.input).expect("the program listens");
    }

    /// Says something.
    pub fn tell(&mut self, method: &str, params: Value) {
        self.send(Notification { method: method.to_owned(), params }.into());
    }

    /// Asks something without waiting for an answer, and gives the question's id.
    pub fn begin(&mut self, method: &str, params: Value) -> RequestId {
        self.next += 1;
        let id = RequestId::from(self.next);
        self.send(Request { id: id.clone(), method: method.to_owned(), params }.into());
        id
    }

    /// Asks something that cannot be done, and gives why.
    #[track_caller]
    pub fn refused(&mut self, method: &str, params: Value) -> String {
        let id = self.begin(method, params);
        let error = self.answer(&id).expect_err(method);
        error["message"].as_str().unwrap_or_default().to_owned()
    }

    /// Asks something.
    #[track_caller]
    pub fn ask(&mut self, method: &str, params: Value) -> Value {
        let id = self.begin(method, params);
        self.answer(&id).unwrap_or_else(|error| panic!("{method}: {error}"))
    }

    /// The answer to a question.
    pub fn answer(&mut self, id: &RequestId) -> Result<Value, Value> {
        loop {
            match self.take() {
                Message::Response(response) if response.id == *id => {
                    let refused =
                        |error: lsp_server::ResponseError| json!({ "code": error.code, "message": error.message });
                    return response.response_result.map_err(refused);
                }
                _ => {}
            }
        }
    }

    fn take(&mut self) -> Message {
        let message = self.messages.recv_timeout(LONGEST).expect("the program says something");
        if let Message::Notification(said) = &message
            && said.method == "textDocument/publishDiagnostics"
        {
            let uri = said.params["uri"].as_str().unwrap_or_default();
            let name = uri.strip_prefix(&self.uri("")).unwrap_or(uri).trim_start_matches('/').to_owned();
            self.published.insert(name, said.params["diagnostics"].as_array().cloned().unwrap_or_default());
        }
        message
    }

    /// Opens a file as it is on disk.
    pub fn open(&mut self, file: &str) {
        let text = self.project.read(file);
        self.open_with(file, &text);
    }

    /// Opens a file with a text that is not on disk.
    pub fn open_with(&mut self, file: &str, text: &str) {
        self.versions.insert(file.to_owned(), 1);
        let document = json!({ "uri": self.uri(file), "languageId": "stilk", "version": 1, "text": text });
        self.tell("textDocument/didOpen", json!({ "textDocument": document }));
    }

    /// Replaces a file's text.
    pub fn change(&mut self, file: &str, text: &str) {
        self.change_by(file, json!([{ "text": text }]));
    }

    /// Changes a file's text.
    pub fn change_by(&mut self, file: &str, changes: Value) {
        let version = self.versions.entry(file.to_owned()).or_default();
        *version += 1;
        let document = json!({ "uri": self.uri(file), "version": self.versions[file] });
        self.tell("textDocument/didChange", json!({ "textDocument": document, "contentChanges": changes }));
    }

    /// Waits until what is published of a file is as is wanted.
    #[track_caller]
    pub fn wait_for(&mut self, file: &str, wanted: impl Fn(&[Value]) -> bool) -> Vec<Value> {
        loop {
            if let Some(found) = self.published.get(file).filter(|found| wanted(found)) {
                return found.clone();
            }
            self.take();
        }
    }

    /// What a request about a place takes.
    #[track_caller]
    pub fn at(&self, file: &str, text: &str, needle: &str, into: usize) -> Value {
        let offset = text.find(needle).unwrap_or_else(|| panic!("{file} does not hold {needle}")) + into;
        json!({ "textDocument": { "uri": self.uri(file) }, "position": position(text, offset) })
    }

    /// What a request about a file takes.
    pub fn of(&self, file: &str) -> Value {
        json!({ "textDocument": { "uri": self.uri(file) } })
    }

    /// Makes the edits of an answer in the project's files on disk.
    #[track_caller]
    pub fn make(&self, edit: &Value) {
        for change in edit["documentChanges"].as_array().expect("changes") {
            if change["kind"] == "rename" {
                let path =
                    |key: &str| change[key].as_str().unwrap_or_default().trim_start_matches("file://").to_owned();
                std::fs::rename(path("oldUri"), path("newUri")).expect("the file is renamed");
                continue;
            }
            let path = change["textDocument"]["uri"].as_str().unwrap_or_default().trim_start_matches("file://");
            let text = std::fs::read_to_string(path).expect(path);
            std::fs::write(path, edited(&text, change["edits"].as_array().expect("edits"))).expect(path);
        }
    }

    /// Says goodbye; the program ends as whoever was thanked.
    #[track_caller]
    pub fn end(mut self) {
        self.ask("shutdown", Value::Null);
        self.tell("exit", Value::Null);
        assert!(self.child.wait().expect("it ends").success());
    }
}

impl Drop for Client {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// The position of a byte, columns in bytes.
pub fn position(text: &str, offset: usize) -> Position {
    let line = text[..offset].matches('\n').count() as u32;
    let start = text[..offset].rfind('\n').map_or(0, |at| at + 1);
    Position { line, character: (offset - start) as u32 }
}

/// A text with edits made, columns in bytes.
pub fn edited(text: &str, edits: &[Value]) -> String {
    let offset = |at: &Value| {
        let line = at["line"].as_u64().unwrap_or_default() as usize;
        let start: usize = text.split_inclusive('\n').take(line).map(str::len).sum();
        start + at["character"].as_u64().unwrap_or_default() as usize
    };
    let mut edits: Vec<(usize, usize, &str)> = edits
        .iter()
        .map(|edit| {
            let range = &edit["range"];
            (offset(&range["start"]), offset(&range["end"]), edit["newText"].as_str().unwrap_or_default())
        })
        .collect();
    edits.sort();
    let mut text = text.to_owned();
    for (start, end, new) in edits.into_iter().rev() {
        text.replace_range(start..end, new);
    }
    text
}
