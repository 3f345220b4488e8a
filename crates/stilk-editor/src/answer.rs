//! From a request by its method to its answer.

use crate::editor::{Editor, Project};
use crate::feature::actions::{self, Known};
use crate::feature::rename::{self, Renaming};
use crate::feature::{Subject, colors, completion, hints, hover, layout, lens, navigate, outline, semantic};
use lsp_types::*;
use serde::de::DeserializeOwned;
use serde_json::{Value, json};
use std::collections::BTreeMap;
use stilk_checks::registry::{self, CHECKS};
use stilk_language::markup::{Request, snippet};
use stilk_text::diagnostic::{self as said, Edit, Level};
use stilk_text::source::{AsRead, FileError, FileText, Files};

/// Why there is no answer: its code in the protocol, and words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Refusal {
    /// The code (JSON-RPC 2.0, section 5.1, and the protocol's own).
    pub code: i32,
    /// For the user.
    pub message: String,
}

/// The parameters are not what the method takes.
const INVALID_PARAMS: i32 = -32602;
/// There is no such method.
const METHOD_NOT_FOUND: i32 = -32601;
/// It could not be done.
const REQUEST_FAILED: i32 = -32803;

fn failed(message: impl Into<String>) -> Refusal {
    Refusal { code: REQUEST_FAILED, message: message.into() }
}

/// What this side can do, for a client.
pub fn capabilities(editor: &Editor) -> ServerCapabilities {
    let encoding = match editor.client.encoding {
        crate::place::Encoding::Utf8 => PositionEncodingKind::UTF8,
        crate::place::Encoding::Utf16 => PositionEncodingKind::UTF16,
    };
    let characters = |text: &str| Some(text.chars().map(String::from).collect());
    ServerCapabilities {
        position_encoding: Some(encoding),
        text_document_sync: Some(TextDocumentSyncCapability::Options(TextDocumentSyncOptions {
            open_close: Some(true),
            change: Some(TextDocumentSyncKind::INCREMENTAL),
            save: Some(TextDocumentSyncSaveOptions::Supported(true)),
            ..TextDocumentSyncOptions::default()
        })),
        completion_provider: Some(CompletionOptions {
            trigger_characters: characters("{@:.\"- ("),
            ..CompletionOptions::default()
        }),
        hover_provider: Some(HoverProviderCapability::Simple(true)),
        definition_provider: Some(OneOf::Left(true)),
        references_provider: Some(OneOf::Left(true)),
        document_highlight_provider: Some(OneOf::Left(true)),
        document_symbol_provider: Some(OneOf::Left(true)),
        workspace_symbol_provider: Some(OneOf::Left(true)),
        code_action_provider: Some(CodeActionProviderCapability::Options(CodeActionOptions {
            code_action_kinds: Some(vec![CodeActionKind::QUICKFIX, CodeActionKind::REFACTOR_EXTRACT]),
            ..CodeActionOptions::default()
        })),
        code_lens_provider: Some(CodeLensOptions { resolve_provider: Some(false) }),
        document_formatting_provider: Some(OneOf::Left(true)),
        document_range_formatting_provider: Some(OneOf::Left(true)),
        rename_provider: Some(OneOf::Right(RenameOptions {
            prepare_provider: Some(true),
            work_done_progress_options: WorkDoneProgressOptions::default(),
        })),
        document_link_provider: Some(DocumentLinkOptions {
            resolve_provider: Some(false),
            work_done_progress_options: WorkDoneProgressOptions::default(),
        }),
        color_provider: Some(ColorProviderCapability::Simple(true)),
        folding_range_provider: Some(FoldingRangeProviderCapability::Simple(true)),
        selection_range_provider: Some(SelectionRangeProviderCapability::Simple(true)),
        execute_command_provider: Some(ExecuteCommandOptions {
            commands: [lens::MARKUP, lens::SPECIMEN, lens::EXPLAIN].map(str::to_owned).to_vec(),
            ..ExecuteCommandOptions::default()
        }),
        inlay_hint_provider: Some(OneOf::Left(true)),
        semantic_tokens_provider: Some(SemanticTokensServerCapabilities::SemanticTokensOptions(
            SemanticTokensOptions {
                legend: SemanticTokensLegend {
                    token_types: semantic::TYPES.to_vec(),
                    token_modifiers: semantic::MODIFIERS.to_vec(),
                },
                range: Some(false),
                full: Some(SemanticTokensFullOptions::Bool(true)),
                work_done_progress_options: WorkDoneProgressOptions::default(),
            },
        )),
        workspace: Some(WorkspaceServerCapabilities {
            workspace_folders: Some(WorkspaceFoldersServerCapabilities {
                supported: Some(true),
                change_notifications: Some(OneOf::Left(true)),
            }),
            file_operations: None,
        }),
        ..ServerCapabilities::default()
    }
}

fn read<P: DeserializeOwned>(params: Value) -> Result<P, Refusal> {
    serde_json::from_value(params).map_err(|why| Refusal { code: INVALID_PARAMS, message: why.to_string() })
}

fn written(answer: impl serde::Serialize) -> Result<Value, Refusal> {
    serde_json::to_value(answer).map_err(|why| failed(why.to_string()))
}

/// Answers a request.
///
/// # Errors
/// There is no such method, its parameters are no such, or it cannot be done.
pub fn answer(editor: &Editor, method: &str, params: Value) -> Result<Value, Refusal> {
    match method {
        "textDocument/completion" => {
            let CompletionParams { text_document_position: at, .. } = read(params)?;
            written(editor.about(&at.text_document.uri, false, |subject, _| completion::complete(subject, at.position)))
        }
        "textDocument/hover" => {
            let HoverParams { text_document_position_params: at, .. } = read(params)?;
            written(editor.about(&at.text_document.uri, false, |subject, project| {
                let own = hover::hover(subject, at.position);
                with_check(subject, project, at.position, own)
            }))
        }
        "textDocument/definition" => {
            let GotoDefinitionParams { text_document_position_params: at, .. } = read(params)?;
            written(editor.about(&at.text_document.uri, false, |subject, _| navigate::definition(subject, at.position)))
        }
        "textDocument/references" => {
            let ReferenceParams { text_document_position: at, context, .. } = read(params)?;
            written(editor.about(&at.text_document.uri, true, |subject, _| {
                navigate::references(subject, at.position, context.include_declaration)
            }))
        }
        "textDocument/documentHighlight" => {
            let DocumentHighlightParams { text_document_position_params: at, .. } = read(params)?;
            written(editor.about(&at.text_document.uri, false, |subject, _| navigate::highlights(subject, at.position)))
        }
        "textDocument/documentSymbol" => {
            let DocumentSymbolParams { text_document, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| outline::symbols(subject)))
        }
        "workspace/symbol" => {
            let WorkspaceSymbolParams { query, .. } = read(params)?;
            let roots = editor.roots();
            let projects = roots.iter().filter_map(|root| editor.project(root));
            let found: Vec<SymbolInformation> =
                projects.flat_map(|project| outline::of_workspace(&project.snapshot, &query, editor.client)).collect();
            written(found)
        }
        "textDocument/foldingRange" => {
            let FoldingRangeParams { text_document, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| outline::folding(subject)))
        }
        "textDocument/selectionRange" => {
            let SelectionRangeParams { text_document, positions, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| {
                positions.iter().map(|position| outline::selection(subject, *position)).collect::<Vec<_>>()
            }))
        }
        "textDocument/documentLink" => {
            let DocumentLinkParams { text_document, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| outline::links(subject)))
        }
        "textDocument/documentColor" => {
            let DocumentColorParams { text_document, .. } = read(params)?;
            let found = editor.about(&text_document.uri, false, |subject, _| colors::colors(subject));
            written(found.unwrap_or_default())
        }
        "textDocument/colorPresentation" => {
            let ColorPresentationParams { text_document, color, range, .. } = read(params)?;
            let found =
                editor.about(&text_document.uri, false, |subject, _| colors::presentations(subject, color, range));
            written(found.unwrap_or_default())
        }
        "textDocument/inlayHint" => {
            let InlayHintParams { text_document, range, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, project| {
                hints::hints(subject, range, project.figures.as_ref())
            }))
        }
        "textDocument/semanticTokens/full" => {
            let SemanticTokensParams { text_document, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| SemanticTokens {
                result_id: None,
                data: semantic::tokens(subject),
            }))
        }
        "textDocument/codeLens" => {
            let CodeLensParams { text_document, .. } = read(params)?;
            written(
                editor.about(&text_document.uri, false, |subject, project| {
                    lens::lenses(subject, project.figures.as_ref())
                }),
            )
        }
        "textDocument/formatting" => {
            let DocumentFormattingParams { text_document, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| layout::edits(subject, None)))
        }
        "textDocument/rangeFormatting" => {
            let DocumentRangeFormattingParams { text_document, range, .. } = read(params)?;
            written(editor.about(&text_document.uri, false, |subject, _| layout::edits(subject, Some(range))))
        }
        "textDocument/codeAction" => {
            let CodeActionParams { text_document, range, context, .. } = read(params)?;
            let found = editor.about(&text_document.uri, false, |subject, project| {
                actions_of(editor, subject, project, range, context.only.as_deref())
            });
            written(found.unwrap_or_default())
        }
        "textDocument/prepareRename" => {
            let TextDocumentPositionParams { text_document, position } = read(params)?;
            let found = editor.about(&text_document.uri, false, |subject, _| rename::prepare(subject, position));
            written(found.ok_or_else(|| failed("this file is of no project"))?.map_err(failed)?)
        }
        "textDocument/rename" => {
            let RenameParams { text_document_position: at, new_name, .. } = read(params)?;
            let found = editor.about(&at.text_document.uri, true, |subject, _| {
                let renaming = rename::rename(subject, at.position, &new_name)?;
                still_sound(subject, &renaming)?;
                renaming.edit(subject, &|path| editor.version(path)).ok_or_else(|| "a file cannot be named".to_owned())
            });
            written(found.ok_or_else(|| failed("this file is of no project"))?.map_err(failed)?)
        }
        "workspace/executeCommand" => {
            let ExecuteCommandParams { command, arguments, .. } = read(params)?;
            execute(editor, &command, &arguments)
        }
        _ => Err(Refusal { code: METHOD_NOT_FOUND, message: format!("there is no method `{method}`") }),
    }
}

/// What is said at a position is explained beside what stands there.
fn with_check(subject: &Subject, project: &Project, position: Position, own: Option<Hover>) -> Option<Hover> {
    let offset = subject.offset(position) as u32;
    let is_here = |one: &said::Diagnostic| {
        one.span.is_some_and(|span| Some(span.file) == subject.file && span.start <= offset && offset <= span.end)
    };
    let said = project.said();
    let check = said.iter().find(|one| is_here(one)).and_then(|one| registry::find(one.id));
    let Some(check) = check else { return own };
    let words = format!("**{}**: holds when {}.\n\n{}", check.id, check.summary, check.why);
    match own {
        Some(Hover { contents: HoverContents::Markup(MarkupContent { kind, value }), range }) => {
            let value = format!("{value}\n\n---\n\n{words}");
            Some(Hover { contents: HoverContents::Markup(MarkupContent { kind, value }), range })
        }
        _ => {
            let contents = HoverContents::Markup(MarkupContent { kind: MarkupKind::Markdown, value: words });
            Some(Hover { contents, range: None })
        }
    }
}

/// Files of a project with some texts replaced, and some under other names.
struct Changed<'c> {
    frozen: AsRead<'c>,
    texts: BTreeMap<String, String>,
    renamed: Vec<(String, String)>,
}

impl Files for Changed<'_> {
    fn read(&self, path: &str, allowed: &[String]) -> Result<FileText, FileError> {
        let before = self.renamed.iter().find(|(_, new)| new == path).map_or(path, |(old, _)| old.as_str());
        match self.texts.get(before) {
            Some(text) => Ok(FileText::own(text.clone())),
            None => self.frozen.read(before, allowed),
        }
    }

    fn list(&self, folder: &str, allowed: &[String]) -> Result<Vec<String>, FileError> {
        let mut names = self.frozen.list(folder, allowed)?;
        for (old, new) in &self.renamed {
            let inside =
                |path: &str| path.strip_prefix(folder).and_then(|rest| rest.strip_prefix('/')).map(str::to_owned);
            if let (Some(old), Some(new)) = (inside(old), inside(new)) {
                names.iter_mut().filter(|name| **name == old).for_each(|name| name.clone_from(&new));
            }
        }
        Ok(names)
    }
}

/// Texts with pieces replaced, by path in the project.
fn with_edits(
    subject: &Subject,
    edits: impl Iterator<Item = (String, std::ops::Range<usize>, String)>,
) -> BTreeMap<String, String> {
    let mut by_path: BTreeMap<String, Vec<(std::ops::Range<usize>, String)>> = BTreeMap::new();
    for (path, range, text) in edits {
        by_path.entry(path).or_default().push((range, text));
    }
    let mut texts = BTreeMap::new();
    for (path, mut edits) in by_path {
        let Some(file) = subject.snapshot.sources.find(&path) else { continue };
        let mut text = subject.snapshot.sources.file(file).text.clone();
        edits.sort_by_key(|(range, _)| range.start);
        for (range, new) in edits.into_iter().rev() {
            text.replace_range(range, &new);
        }
        texts.insert(path, text);
    }
    texts
}

/// Whether the project still makes sense after a renaming, where it does now.
fn still_sound(subject: &Subject, renaming: &Renaming) -> Result<(), String> {
    let snapshot = subject.snapshot;
    if snapshot.system.is_none() {
        return Err("the sources hold errors: what a name stands for is not sure before they are mended".to_owned());
    }
    let edits = renaming.edits.iter().flat_map(|(path, edits)| {
        let path = snapshot.relative(path).unwrap_or(path).to_owned();
        edits.iter().map(move |(range, text)| (path.clone(), range.clone(), text.clone()))
    });
    let inside = |path: &String| snapshot.relative(path).unwrap_or(path).to_owned();
    let changed = Changed {
        frozen: AsRead(&snapshot.sources),
        texts: with_edits(subject, edits),
        renamed: renaming.files.iter().map(|(old, new)| (inside(old), inside(new))).collect(),
    };
    match registry::load(&changed).diagnostics.iter().find(|one| one.level == Level::Error) {
        Some(error) => Err(format!("after it the sources would hold an error: {}", error.message)),
        None => Ok(()),
    }
}

fn actions_of(
    editor: &Editor,
    subject: &Subject,
    project: &Project,
    range: Range,
    only: Option<&[CodeActionKind]>,
) -> Vec<CodeAction> {
    let said = project.said();
    let version = |path: &str| editor.version(path);
    let errors = |said: &[said::Diagnostic]| said.iter().filter(|one| one.level == Level::Error).count();
    let now = errors(&project.snapshot.diagnostics);
    let said_after = |edits: &[Edit]| {
        let sources = &subject.snapshot.sources;
        let edits =
            edits.iter().map(|edit| (sources.file(edit.span.file).path.clone(), edit.span.range(), edit.text.clone()));
        let texts = with_edits(subject, edits);
        registry::load(&Changed { frozen: AsRead(&subject.snapshot.sources), texts, renamed: Vec::new() }).diagnostics
    };
    let holds = |edits: &[Edit]| errors(&said_after(edits)) <= now;
    let clears = |edits: &[Edit], of: &said::Diagnostic| {
        // Findings of checks are tried by checks: here only what reading says.
        if !project.snapshot.diagnostics.contains(of) {
            return false;
        }
        let later = said_after(edits);
        let is_same = |one: &said::Diagnostic| one.id == of.id && one.message == of.message && one.span == of.span;
        errors(&later) + usize::from(of.level == Level::Error) <= now && !later.iter().any(is_same)
    };
    let of_page = project.said_of_page(subject.path);
    let known = Known { said: &said, of_page, version: &version, clears: &clears, holds: &holds };
    let mut found = actions::actions(subject, range, &known);
    if let Some(only) = only {
        let is_asked = |kind: &CodeActionKind| {
            only.iter().any(|asked| {
                kind.as_str().strip_prefix(asked.as_str()).is_some_and(|rest| rest.is_empty() || rest.starts_with('.'))
            })
        };
        found.retain(|action| action.kind.as_ref().is_none_or(is_asked));
    }
    found
}

/// The commands: the HTML of a control, what a check means.
fn execute(editor: &Editor, command: &str, arguments: &[Value]) -> Result<Value, Refusal> {
    let word = |at: usize| arguments.get(at).and_then(Value::as_str);
    match command {
        lens::MARKUP => {
            let (Some(root), Some(name)) = (word(0), word(1)) else {
                return Err(failed("name a project's folder and a control"));
            };
            let project = editor.project(root).ok_or_else(|| failed("there is no such project"))?;
            let system = project.snapshot.sound().and_then(|sound| sound.system.as_ref());
            let system = system.ok_or_else(|| failed("the sources hold errors"))?;
            let control = system.control(name).ok_or_else(|| failed(format!("there is no control `{name}`")))?;
            let variant = control.default_variant();
            let states = stilk_language::system::StateSet::default();
            let request = Request { control, host: 0, variant: &variant, states: &states, plain: true };
            Ok(json!({ "language": "html", "text": snippet(system, request, name) }))
        }
        lens::EXPLAIN => {
            let id = word(0).unwrap_or_default();
            let check = CHECKS.iter().find(|check| check.id == id);
            let check = check.ok_or_else(|| failed(format!("there is no check `{id}`")))?;
            let text = format!(
                "# {}\n\nHolds when {}.\n\n{}\n\n**Mend.** {}\n\n**Source.** {}.\n",
                check.id, check.summary, check.why, check.mend, check.source
            );
            Ok(json!({ "language": "markdown", "text": text }))
        }
        _ => Err(Refusal { code: METHOD_NOT_FOUND, message: format!("there is no command `{command}`") }),
    }
}
