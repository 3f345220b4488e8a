//! `stilk lsp`: an editor's questions over standard input, answers over standard output.

mod explained;
mod machine;
mod queue;
mod session;

use crate::{Failure, Outcome};
use lsp_server::{Connection, ErrorCode, Response};
use lsp_types::{InitializeParams, PositionEncodingKind};
use machine::Disk;
use serde_json::json;
use session::Session;
use stilk_editor::answer::capabilities;
use stilk_editor::editor::Editor;
use stilk_editor::feature::Client;
use stilk_editor::place::Encoding;

/// Speaks with an editor until it says goodbye.
pub fn run() -> Result<Outcome, Failure> {
    let (connection, threads) = Connection::stdio();
    let failed = |why: String| Failure::Message(format!("error: {why}"));
    let (id, params) = connection.initialize_start().map_err(|_| {
        failed(
            "no editor speaks here\n  `stilk lsp` is started by an editor: docs/editors.md says how each is told"
                .to_owned(),
        )
    })?;
    let params: InitializeParams = match serde_json::from_value(params) {
        Ok(params) => params,
        Err(why) => {
            let refused = Response::new_err(id, ErrorCode::InvalidParams as i32, why.to_string());
            let _ = connection.sender.send(refused.into());
            return Err(failed(format!("what the editor said of itself cannot be read: {why}")));
        }
    };
    let editor = Editor::new(Box::new(Disk), client(&params));
    let answer = json!({
        "capabilities": capabilities(&editor),
        "serverInfo": { "name": "stilk", "version": env!("CARGO_PKG_VERSION") },
    });
    connection.initialize_finish(id, answer).map_err(|why| failed(why.to_string()))?;
    let said_goodbye = Session::new(editor, &connection, &params).run();
    drop(connection);
    threads.join().map_err(|why| failed(why.to_string()))?;
    // Whoever ends without having said so broke off.
    if said_goodbye { Ok(Outcome::Clean) } else { Ok(Outcome::Findings) }
}

/// What the editor can do with answers.
fn client(params: &InitializeParams) -> Client {
    let general = params.capabilities.general.as_ref();
    let encodings = general.and_then(|general| general.position_encodings.as_ref());
    let takes_utf8 = encodings.is_some_and(|list| list.contains(&PositionEncodingKind::UTF8));
    let workspace = params.capabilities.workspace.as_ref();
    let edits = workspace.and_then(|workspace| workspace.workspace_edit.as_ref());
    let operations = edits.and_then(|edits| edits.resource_operations.as_ref());
    let text = params.capabilities.text_document.as_ref();
    let published = text.and_then(|text| text.publish_diagnostics.as_ref());
    let leads = published.and_then(|published| published.code_description_support).unwrap_or(false);
    let explained =
        leads.then(explained::folder).flatten().and_then(|folder| folder.into_os_string().into_string().ok());
    let item = text.and_then(|text| text.completion.as_ref()?.completion_item.as_ref());
    Client {
        encoding: if takes_utf8 { Encoding::Utf8 } else { Encoding::Utf16 },
        renames_files: operations.is_some_and(|list| list.contains(&lsp_types::ResourceOperationKind::Rename)),
        takes_snippets: item.and_then(|item| item.snippet_support).unwrap_or(false),
        // Said once, for as long as the program runs.
        explained: explained.map(|folder| &*folder.leak()),
    }
}
