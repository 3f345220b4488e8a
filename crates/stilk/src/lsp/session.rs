//! One conversation: texts change, projects are read anew, questions are answered; what takes longer is done beside, and told
//! when it is there.

use super::queue::Queue;
use crossbeam_channel::{Receiver, Sender, after, never, select_biased, unbounded};
use lsp_server::{Connection, ErrorCode, Message, Notification, Request, RequestId, Response};
use lsp_types::{
    DidChangeTextDocumentParams, DidChangeWatchedFilesParams, DidChangeWorkspaceFoldersParams,
    DidCloseTextDocumentParams, DidOpenTextDocumentParams, InitializeParams, Uri,
};
use serde::de::DeserializeOwned;
use serde_json::{Value, json};
use std::collections::{BTreeMap, BTreeSet};
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;
use std::time::{Duration, Instant};
use stilk_editor::answer::{Refusal, answer};
use stilk_editor::editor::Editor;
use stilk_editor::feature::lens;
use stilk_editor::place::{path_of, uri_of};
use stilk_editor::snapshot::Snapshot;
use stilk_editor::work::{Job, Outcome};
use stilk_language::manifest::MANIFEST;

/// The checks wait so long for the next key.
const PAUSE: Duration = Duration::from_millis(30);

/// Work that lasts longer is told of.
const LONG: Duration = Duration::from_millis(700);

/// Projects are looked for so deep below the folders that an editor opens.
const DEPTH: usize = 4;

/// What work beside tells.
enum News {
    /// Something was found out of a project.
    Found(String, Arc<Snapshot>, Outcome),
    /// Nothing more comes of it.
    Done(Arc<Snapshot>),
}

/// Work that is being done.
struct Running {
    snapshot: Arc<Snapshot>,
    since: Instant,
    /// By which name the editor knows of it.
    token: Option<String>,
}

/// A conversation.
pub struct Session<'c> {
    editor: Editor,
    connection: &'c Connection,
    queue: Queue<'c>,
    /// Projects whose texts changed since they were read.
    changed: BTreeSet<String>,
    /// Projects whose checks wait for a pause, since when.
    waiting: BTreeMap<String, Instant>,
    running: BTreeMap<String, Running>,
    news: (Sender<News>, Receiver<News>),
    shows_progress: bool,
    refreshes: [bool; 2],
    asked: i32,
    /// Where specimens are drawn, as long as the conversation lasts.
    drawn: Option<tempfile::TempDir>,
}

impl<'c> Session<'c> {
    /// A conversation that was begun.
    pub fn new(editor: Editor, connection: &'c Connection, params: &InitializeParams) -> Session<'c> {
        let window = params.capabilities.window.as_ref();
        let workspace = params.capabilities.workspace.as_ref();
        let lenses = workspace.and_then(|workspace| workspace.code_lens.as_ref()?.refresh_support);
        let hints = workspace.and_then(|workspace| workspace.inlay_hint.as_ref()?.refresh_support);
        let mut session = Session {
            editor,
            connection,
            queue: Queue::new(&connection.receiver),
            changed: BTreeSet::new(),
            waiting: BTreeMap::new(),
            running: BTreeMap::new(),
            news: unbounded(),
            shows_progress: window.and_then(|window| window.work_done_progress).unwrap_or(false),
            refreshes: [lenses.unwrap_or(false), hints.unwrap_or(false)],
            asked: 0,
            drawn: None,
        };
        let watches = workspace.and_then(|workspace| workspace.did_change_watched_files);
        if watches.and_then(|watches| watches.dynamic_registration).unwrap_or(false) {
            session.watch();
        }
        let mut folders: Vec<&Uri> = params.workspace_folders.iter().flatten().map(|folder| &folder.uri).collect();
        #[allow(deprecated, reason = "clients that know no folders name the root")]
        if folders.is_empty() {
            folders.extend(&params.root_uri);
        }
        let folders: Vec<String> = folders.into_iter().filter_map(path_of).collect();
        folders.iter().for_each(|folder| session.find_projects(folder));
        session
    }

    /// Talks until the editor says goodbye or is gone; whether it said so.
    pub fn run(mut self) -> bool {
        let mut says_goodbye = false;
        loop {
            while let Some(message) = self.queue.next() {
                match message {
                    Message::Request(request) if request.method == "shutdown" => {
                        says_goodbye = true;
                        self.send(Response::new_ok(request.id, Value::Null));
                    }
                    Message::Request(request) if says_goodbye => {
                        let words = "goodbye was said".to_owned();
                        self.send(Response::new_err(request.id, ErrorCode::InvalidRequest as i32, words));
                    }
                    Message::Request(request) => self.request(request),
                    Message::Notification(said) if said.method == "exit" => return says_goodbye,
                    Message::Notification(said) => self.notification(said),
                    Message::Response(_) => {}
                }
                let taken_back = self.queue.take(None);
                self.refuse_all(taken_back);
            }
            self.read_changed();
            self.start_work();
            let wake = self.wake();
            let news = self.news.1.clone();
            let receiver = self.queue.receiver().clone();
            select_biased! {
                recv(receiver) -> message => match message {
                    Ok(message) => {
                        let taken_back = self.queue.take(Some(message));
                        self.refuse_all(taken_back);
                    }
                    Err(_) => return says_goodbye,
                },
                recv(news) -> news => if let Ok(news) = news { self.take(news) },
                recv(wake) -> _ => {}
            }
        }
    }

    fn send(&self, message: impl Into<Message>) {
        // Who is gone hears nothing; the next thing that is read says so.
        let _ = self.connection.sender.send(message.into());
    }

    fn tell(&self, method: &str, params: Value) {
        self.send(Notification { method: method.to_owned(), params });
    }

    fn ask(&mut self, method: &str, params: Value) {
        self.asked += 1;
        self.send(Request { id: RequestId::from(format!("stilk-{}", self.asked)), method: method.to_owned(), params });
    }

    fn refuse_all(&self, ids: Vec<RequestId>) {
        for id in ids {
            self.send(Response::new_err(id, ErrorCode::RequestCanceled as i32, "taken back".to_owned()));
        }
    }

    /// Asks to be told of files that change on disk.
    fn watch(&mut self) {
        let globs = ["**/*.stilk", "**/stilk.toml", "**/*.tokens.json", "**/*.resolver.json", "**/*.html"];
        let watchers: Vec<Value> = globs.iter().map(|glob| json!({ "globPattern": glob })).collect();
        let registration = json!({
            "registrations": [{
                "id": "stilk-files",
                "method": "workspace/didChangeWatchedFiles",
                "registerOptions": { "watchers": watchers },
            }],
        });
        self.ask("client/registerCapability", registration);
    }

    /// Reads the projects in and below a folder.
    fn find_projects(&mut self, folder: &str) {
        let walk = walkdir::WalkDir::new(folder).max_depth(DEPTH).into_iter().filter_entry(|entry| {
            let name = entry.file_name().to_string_lossy();
            entry.depth() == 0 || !(name.starts_with('.') || name == "node_modules" || name == "target")
        });
        let manifests = walk.filter_map(Result::ok).filter(|entry| entry.file_name() == MANIFEST);
        for entry in manifests.take(32) {
            if let Some(root) = entry.path().parent() {
                self.changed.insert(root.to_string_lossy().into_owned());
            }
        }
    }

    /// Does something that must not end the conversation, whatever texts hold.
    fn safely<T>(&mut self, what: impl FnOnce(&mut Editor) -> T) -> Option<T> {
        let editor = &mut self.editor;
        catch_unwind(AssertUnwindSafe(|| what(editor))).ok()
    }

    fn request(&mut self, request: Request) {
        self.read_changed();
        let Request { id, method, params } = request;
        if method == "workspace/executeCommand" && params.get("command").and_then(Value::as_str) == Some(lens::SPECIMEN)
        {
            let answer = self.specimen(&params);
            return self.send(match answer {
                Ok(shown) => Response::new_ok(id, shown),
                Err(why) => Response::new_err(id, ErrorCode::RequestFailed as i32, why),
            });
        }
        let given = self.safely(|editor| answer(editor, &method, params));
        self.send(match given {
            Some(Ok(answer)) => Response::new_ok(id, answer),
            Some(Err(Refusal { code, message })) => Response::new_err(id, code, message),
            None => Response::new_err(id, ErrorCode::InternalError as i32, format!("`{method}` broke")),
        });
    }

    fn notification(&mut self, said: Notification) {
        fn read<P: DeserializeOwned>(params: Value) -> Option<P> {
            serde_json::from_value(params).ok()
        }
        let Notification { method, params } = said;
        let roots: Vec<String> = match method.as_str() {
            "textDocument/didOpen" => read::<DidOpenTextDocumentParams>(params)
                .and_then(|DidOpenTextDocumentParams { text_document: opened }| {
                    self.safely(|editor| editor.open(&opened.uri, opened.text, opened.version)).flatten()
                })
                .into_iter()
                .collect(),
            "textDocument/didChange" => read::<DidChangeTextDocumentParams>(params)
                .and_then(|DidChangeTextDocumentParams { text_document, content_changes }| {
                    let version = text_document.version;
                    self.safely(|editor| editor.change(&text_document.uri, content_changes, version)).flatten()
                })
                .into_iter()
                .collect(),
            "textDocument/didClose" => read::<DidCloseTextDocumentParams>(params)
                .and_then(|DidCloseTextDocumentParams { text_document }| self.editor.close(&text_document.uri))
                .into_iter()
                .collect(),
            "workspace/didChangeWatchedFiles" => {
                let changes = read::<DidChangeWatchedFilesParams>(params).map(|params| params.changes);
                let paths = changes.into_iter().flatten().filter_map(|change| path_of(&change.uri));
                paths.filter_map(|path| self.editor.machine.project_of(&path)).collect()
            }
            "workspace/didChangeWorkspaceFolders" => {
                let added = read::<DidChangeWorkspaceFoldersParams>(params).map(|params| params.event.added);
                let folders: Vec<String> =
                    added.into_iter().flatten().filter_map(|folder| path_of(&folder.uri)).collect();
                folders.iter().for_each(|folder| self.find_projects(folder));
                Vec::new()
            }
            _ => Vec::new(),
        };
        self.changed.extend(roots);
    }

    /// Reads what changed, and tells at once what reading says; not while more changes wait.
    fn read_changed(&mut self) {
        if self.queue.is_change_next() {
            return;
        }
        for root in std::mem::take(&mut self.changed) {
            if self.safely(|editor| editor.read(&root)).is_none() {
                continue;
            }
            self.publish(&root);
            self.waiting.insert(root, Instant::now());
        }
    }

    fn publish(&mut self, root: &str) {
        let published = self.safely(|editor| editor.publications(root)).unwrap_or_default();
        for params in published {
            if let Ok(params) = serde_json::to_value(params) {
                self.tell("textDocument/publishDiagnostics", params);
            }
        }
    }

    /// Starts what waited long enough.
    fn start_work(&mut self) {
        let ready: Vec<String> =
            self.waiting.iter().filter(|(_, since)| since.elapsed() >= PAUSE).map(|(root, _)| root.clone()).collect();
        for root in ready {
            self.waiting.remove(&root);
            let Some(job) = self.editor.job(&root) else { continue };
            let running = Running { snapshot: Arc::clone(&job.snapshot), since: Instant::now(), token: None };
            if let Some(before) = self.running.insert(root.clone(), running) {
                self.end_progress(before);
            }
            let sender = self.news.0.clone();
            std::thread::spawn(move || work(&root, &job, &sender));
        }
        let is_long = |running: &Running| running.token.is_none() && running.since.elapsed() >= LONG;
        let long = self.running.iter().filter(|(_, running)| self.shows_progress && is_long(running));
        let long: Vec<String> = long.map(|(root, _)| root.clone()).collect();
        for root in long {
            let token = format!("stilk-work-{}", self.asked + 1);
            self.ask("window/workDoneProgress/create", json!({ "token": token }));
            let begin = json!({ "kind": "begin", "title": "Stilk", "message": "checking every case" });
            self.tell("$/progress", json!({ "token": token, "value": begin }));
            if let Some(running) = self.running.get_mut(&root) {
                running.token = Some(token);
            }
        }
    }

    fn end_progress(&self, running: Running) {
        if let Some(token) = running.token {
            self.tell("$/progress", json!({ "token": token, "value": { "kind": "end" } }));
        }
    }

    /// When there is something to do though nobody says anything.
    fn wake(&self) -> Receiver<Instant> {
        let pauses = self.waiting.values().map(|since| PAUSE.saturating_sub(since.elapsed()));
        let long = self.running.values().filter(|running| running.token.is_none() && self.shows_progress);
        let long = long.map(|running| LONG.saturating_sub(running.since.elapsed()));
        pauses.chain(long).min().map_or_else(never, after)
    }

    fn take(&mut self, news: News) {
        match news {
            News::Found(root, of, outcome) => {
                let has_figures = matches!(outcome, Outcome::Figures(_));
                let is_first = matches!(outcome, Outcome::Findings(_));
                if !self.editor.take(&root, &of, outcome) {
                    return;
                }
                if is_first {
                    self.safely(|editor| editor.scan(&root));
                }
                match has_figures {
                    true => self.refresh(),
                    false => self.publish(&root),
                }
            }
            News::Done(of) => {
                let done = self.running.iter().find(|(_, running)| Arc::ptr_eq(&running.snapshot, &of));
                if let Some(running) = done.map(|(root, _)| root.clone()).and_then(|root| self.running.remove(&root)) {
                    self.end_progress(running);
                }
            }
        }
    }

    /// Says that what stands beside texts is to be asked for anew.
    fn refresh(&mut self) {
        let methods = ["workspace/codeLens/refresh", "workspace/inlayHint/refresh"];
        for (method, wanted) in methods.into_iter().zip(self.refreshes) {
            if wanted {
                self.ask(method, Value::Null);
            }
        }
    }

    /// Draws the specimen of a project as its buffers have it, and asks the editor to show it.
    fn specimen(&mut self, params: &Value) -> Result<Value, String> {
        let word = |at: usize| params.get("arguments")?.get(at)?.as_str().map(str::to_owned);
        let root = word(0).ok_or("name a project's folder")?;
        let project = self.editor.project(&root).ok_or("there is no such project")?;
        let snapshot = project.snapshot.sound().ok_or("the sources hold errors")?;
        let (system, written, _) = snapshot.written().ok_or("the sources hold errors")?;
        let page = stilk_views::specimen::page(system, &snapshot.sources, written, &project.said());
        // A folder of its own: nobody else can have put anything there.
        if self.drawn.is_none() {
            let made = tempfile::Builder::new().prefix("stilk-").tempdir();
            self.drawn = Some(made.map_err(|why| format!("the page cannot be written: {why}"))?);
        }
        let folder = self.drawn.as_ref().ok_or("the page cannot be written")?;
        let path = folder.path().join("specimen.html");
        crate::disk::write(&path, &page)?;
        let control = word(1).map(|name| format!("#control-{name}")).unwrap_or_default();
        let uri = uri_of(&path.to_string_lossy()).ok_or("the page cannot be named")?;
        let uri = format!("{}{control}", uri.as_str());
        self.ask("window/showDocument", json!({ "uri": uri, "external": true }));
        Ok(json!({ "uri": uri }))
    }
}

/// Works, and tells what comes of it.
fn work(root: &str, job: &Job, sender: &Sender<News>) {
    let mut told = |outcome: Outcome| {
        let _ = sender.send(News::Found(root.to_owned(), Arc::clone(&job.snapshot), outcome));
    };
    // What a check cannot bear is no reason to be silent from then on.
    let _ = catch_unwind(AssertUnwindSafe(|| job.run(&mut told)));
    let _ = sender.send(News::Done(Arc::clone(&job.snapshot)));
}
