//! What is asked of the project while values are set by hand: what paints a place, how the pictures look with changes, what checks
//! say of them, what would be written; and writing it, which nothing does unasked.

use crate::commands::Loaded;
use crate::disk::journal;
use crate::say::plain;
use serde::Deserialize;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use stilk_checks::report::Report;
use stilk_checks::run::memory::{Memory, differing};
use stilk_checks::run::met_by;
use stilk_checks::settings::{Settings, Stop};
use stilk_checks::trace::Tracer;
use stilk_checks::trial::{Project, Trial};
use stilk_engine::cascade::{Media, Stylesheet};
use stilk_language::case::LookEngine;
use stilk_language::stylesheet::{Purpose, write};
use stilk_language::system::System;
use stilk_language::tokens::TokenType;
use stilk_nudge::change::{Change, Ground, Place, all_edits, shown};
use stilk_nudge::outcome::{KnownPart, outcome, trial};
use stilk_nudge::painting::{Asked, View};
use stilk_text::diagnostic::{Diagnostic, Edit};
use stilk_text::moved::Moved;
use stilk_text::source::{AsRead, Sources, Span};
use stilk_views::specimen;

/// So many former drawings are kept: a page may have seen one of them.
const DRAWINGS: usize = 8;
/// So many changes are made at once.
const MOST: usize = 200;
/// Bytes of a value.
const LONGEST: usize = 4096;

/// The project as it was drawn last.
pub struct Workbench {
    root: PathBuf,
    out: Option<PathBuf>,
    /// The drawings, the newest last.
    drawn: Mutex<Vec<Drawn>>,
    /// Ends the trial that runs: what is asked now is what counts.
    stop: Mutex<Stop>,
    /// What trials found out of each control.
    memory: Mutex<Memory>,
    /// What checks found in the part of the drawing that is pulled at.
    part: Mutex<KnownPart>,
    /// Held while files are written.
    busy: Arc<Mutex<()>>,
}

#[derive(Clone)]
struct Drawn {
    /// Grows with each drawing.
    number: u64,
    loaded: Arc<Loaded>,
    report: Arc<Report>,
}

/// Why nothing came of it, and the status that says so.
pub struct Refused(pub u16, pub String);

type Answer = Result<Value, Refused>;

#[derive(Deserialize)]
struct Changes {
    changes: Vec<Sent>,
}

/// A change, and the drawing in which it was made.
#[derive(Deserialize)]
struct Sent {
    #[serde(flatten)]
    change: Change,
    #[serde(default)]
    drawing: Option<u64>,
}

/// The controls whose pictures are in sight.
#[derive(Deserialize)]
struct InSight {
    shown: Vec<String>,
}

/// A token in a theme, by the theme's place.
#[derive(Deserialize)]
struct Meets {
    path: String,
    theme: usize,
}

impl Workbench {
    /// For a project that is drawn into it.
    pub fn new(root: &Path, out: Option<&Path>, busy: Arc<Mutex<()>>) -> Workbench {
        Workbench {
            root: root.to_owned(),
            out: out.map(Path::to_owned),
            drawn: Mutex::default(),
            stop: Mutex::default(),
            memory: Mutex::default(),
            part: Mutex::default(),
            busy,
        }
    }

    /// The project was drawn anew.
    pub fn set(&self, loaded: Arc<Loaded>, report: Report, memory: &Memory) {
        // What a trial runs on is gone.
        lock(&self.stop).now();
        *lock(&self.part) = KnownPart::default();
        *lock(&self.memory) = memory.clone();
        let mut drawn = lock(&self.drawn);
        let number = drawn.last().map_or(1, |last| last.number + 1);
        drawn.push(Drawn { number, loaded, report: Arc::new(report) });
        let most = drawn.len().saturating_sub(DRAWINGS);
        drawn.drain(..most);
    }

    /// Answers what a page asks: the last piece of its path, and what it sends.
    ///
    /// # Errors
    /// It makes no sense, or cannot be had.
    pub fn answer(&self, asked: &str, sent: &[u8]) -> Answer {
        match asked {
            "painting" => self.painting(&read(sent)?),
            "sheets" => self.sheets(&self.moved(&changes(sent)?)?),
            "figures" => self.figures(&self.moved(&changes(sent)?)?, &read(sent)?),
            "outcome" => self.outcome(&self.moved(&changes(sent)?)?),
            "edits" => self.edits(&self.moved(&changes(sent)?)?),
            "meets" => self.meets(&read(sent)?),
            "stop" => {
                lock(&self.stop).now();
                Ok(json!({}))
            }
            "keep" => self.keep(&changes(sent)?),
            _ => Err(Refused(404, "there is nothing of that name".to_owned())),
        }
    }

    fn drawn(&self) -> Result<Drawn, Refused> {
        let last = lock(&self.drawn).last().cloned();
        last.ok_or_else(|| Refused(409, "the sources cannot be drawn yet".to_owned()))
    }

    /// The drawing in which a change was made; the last one where nothing is said.
    fn seen(&self, sent: &Sent) -> Result<Arc<Loaded>, String> {
        let drawn = lock(&self.drawn);
        let found = match sent.drawing {
            Some(number) => drawn.iter().find(|one| one.number == number),
            None => drawn.last(),
        };
        found
            .map(|one| Arc::clone(&one.loaded))
            .ok_or_else(|| "the sources have changed often since: set the value again".to_owned())
    }

    /// Changes with their places in the last drawing.
    fn moved(&self, sent: &[Sent]) -> Result<Vec<Change>, Refused> {
        let now = self.drawn()?.loaded;
        let of = |one: &Sent| moved_along(&one.change, ground(&*self.seen(one)?), ground(&now));
        sent.iter().map(of).collect::<Result<_, _>>().map_err(|why| Refused(422, why))
    }

    fn painting(&self, asked: &Asked) -> Answer {
        let Drawn { loaded, number, .. } = self.drawn()?;
        let written = loaded.stylesheet();
        let parsed = Stylesheet::parse(&written.text);
        let tracer = Tracer::new(&loaded.system, &loaded.sources, &written, &parsed);
        let look_engine = LookEngine::new(&loaded.system, &written, &parsed, Media::default());
        let (system, sources) = (&loaded.system, &loaded.sources);
        let view = View { system, sources, tracer: &tracer, look_engine: &look_engine };
        let painting = view.painting(asked).map_err(|why| Refused(404, why))?;
        let mut answer = json!(painting);
        answer["drawing"] = json!(number);
        // What may be written as a reference, with its value here.
        let themes = system.tokens.themes();
        let theme = themes.get(asked.theme).unwrap_or(&themes[0]);
        let listed = system.tokens.list.iter().enumerate();
        let tokens = listed.filter_map(|(index, token)| {
            let value = system.tokens.literal(stilk_language::tokens::TokenId(index), theme)?;
            let kind = token.kind?;
            Some(json!({ "path": shown(&token.path), "type": kind.name(), "value": value, "member": token.is_member }))
        });
        answer["tokens"] = tokens.collect();
        Ok(answer)
    }

    /// What the colour of a token meets in a theme, and the contrast that each needs: the computation that mends are made by.
    fn meets(&self, asked: &Meets) -> Answer {
        let Drawn { loaded, .. } = self.drawn()?;
        let system = &loaded.system;
        let themes = system.tokens.themes();
        let theme = themes.get(asked.theme).ok_or_else(|| Refused(404, "there is no such theme".to_owned()))?;
        let token = system.tokens.find_path(&asked.path).map(|id| system.tokens.get(id));
        let definition =
            token.filter(|token| token.kind == Some(TokenType::Color)).and_then(|token| token.in_theme(theme));
        let Some(definition) = definition else {
            return Err(Refused(404, format!("`{}` is no colour that is a token", asked.path)));
        };
        let met = met_by(system, &loaded.sources, &loaded.stylesheet(), &Loaded::settings(), definition.span);
        let met = met.into_iter().map(|met| json!({ "with": met.with, "needed": met.needed, "case": met.case }));
        Ok(json!({ "meets": met.collect::<Vec<_>>() }))
    }

    /// The stylesheets of the page with changes, and how the value of the last of them is written in these.
    fn sheets(&self, changes: &[Change]) -> Answer {
        let Drawn { loaded, .. } = self.drawn()?;
        let files = AsRead(&loaded.sources);
        let (_, trial) = trial(as_drawn(&loaded, &files), changes).map_err(|why| Refused(422, why))?;
        let written = changes.last().map(|change| written_as(&trial.system, change));
        Ok(json!({ "styles": specimen::stylesheets(&trial.system, &trial.sources), "value": written }))
    }

    /// The figures of pictures that changes reach, of those in sight.
    fn figures(&self, changes: &[Change], in_sight: &InSight) -> Answer {
        let Drawn { loaded, .. } = self.drawn()?;
        let files = AsRead(&loaded.sources);
        let (_, trial) = trial(as_drawn(&loaded, &files), changes).map_err(|why| Refused(422, why))?;
        let (before, after) = ((&loaded.system, &loaded.sources), (&trial.system, &trial.sources));
        let mut changed = differing(before, after, &Loaded::settings());
        changed.retain(|name| in_sight.shown.contains(name));
        let written = write(&trial.system, &trial.sources, Purpose::Page);
        Ok(specimen::figures_of(&trial.system, &trial.sources, &written, &changed))
    }

    /// What checks say of changes.
    fn outcome(&self, changes: &[Change]) -> Answer {
        let Drawn { loaded, report, .. } = self.drawn()?;
        let files = AsRead(&loaded.sources);
        let project = as_drawn(&loaded, &files);
        let (_, trial) = trial(project, changes).map_err(|why| Refused(422, why))?;
        let stop = Stop::default();
        std::mem::replace(&mut *lock(&self.stop), stop.clone()).now();
        let settings = Settings { stop: stop.clone(), ..Loaded::settings() };
        // One trial at a time: the one before ends soon, for it was told to.
        let (mut part, mut memory) = (lock(&self.part), lock(&self.memory));
        let outcome = outcome(project, &report, trial, &settings, &mut part, Some(&mut memory));
        if stop.is_said() {
            return Ok(json!({ "stale": true }));
        }
        let said = |list: &[Diagnostic], sources: &Sources| -> Vec<Value> {
            let one = |finding: &Diagnostic| {
                let evidence = finding.evidence.as_ref();
                json!({
                    "id": finding.id,
                    "level": finding.level.word(),
                    "message": finding.message,
                    "mend": finding.mend,
                    "at": finding.span.map(|span| sources.place(span)),
                    "cases": evidence.map(|evidence| evidence.cases),
                    "worst": evidence.map(|evidence| evidence.worst.clone()),
                    "figures": evidence.map(|evidence| evidence.figures.clone()),
                })
            };
            list.iter().map(one).collect()
        };
        Ok(json!({
            "come": said(&outcome.come, &outcome.trial.sources),
            "gone": said(&outcome.gone, &loaded.sources),
            "left": outcome.left,
        }))
    }

    /// What would be written, by change.
    fn edits(&self, changes: &[Change]) -> Answer {
        let Drawn { loaded, .. } = self.drawn()?;
        let of = |change: &Change| match change.edits(ground(&loaded)) {
            Ok(edits) => json!({ "lines": lines(&loaded.sources, &edits) }),
            Err(why) => json!({ "why": why }),
        };
        Ok(json!({ "edits": changes.iter().map(of).collect::<Vec<_>>() }))
    }

    /// Writes changes into the sources as they are now. What somebody else has changed meanwhile is not written over.
    fn keep(&self, changes: &[Sent]) -> Answer {
        let _held = lock(&self.busy);
        let reading = Loaded::load(&self.root);
        let Some(now) = reading.loaded.map(|loaded| loaded.with_out(self.out.as_deref())) else {
            return Err(Refused(
                409,
                format!("the sources hold errors by now: nothing was written\n{}", plain(&reading.said)),
            ));
        };
        let after = ground(&now);
        let mut moved: Vec<Change> = Vec::new();
        let mut conflicts: Vec<Value> = Vec::new();
        for (index, one) in changes.iter().enumerate() {
            match self.seen(one).and_then(|seen| laid_over(&one.change, ground(&seen), after)) {
                Ok(change) => moved.push(change),
                Err(why) => conflicts.push(json!({ "change": index, "why": why })),
            }
        }
        if !conflicts.is_empty() {
            return Ok(json!({ "conflicts": conflicts }));
        }
        let edits = all_edits(after, &moved).map_err(|(_, why)| Refused(422, why))?;
        if edits.is_empty() {
            return Ok(json!({ "kept": 0, "files": [] }));
        }
        let trial = Trial::new(now.project(), &edits);
        let trial = trial.map_err(|why| Refused(422, format!("the sources would no longer load: {why}")))?;
        let edited = trial.files.iter().map(|(path, text)| now.edited(path, text)).collect::<Result<Vec<_>, _>>();
        let edited = edited.map_err(|why| Refused(409, plain(&why.to_string())))?;
        journal::write_all(&self.root, &edited).map_err(|why| Refused(409, format!("{why}: nothing was written")))?;
        Ok(json!({ "kept": moved.len(), "files": trial.files.keys().collect::<Vec<_>>() }))
    }
}

/// How a value is written in the stylesheet: that of a token in its theme, in the unit and notation of its file.
fn written_as(system: &System, change: &Change) -> String {
    let (path, theme) = match &change.place {
        Place::Token { path } | Place::TokenBase { path } => (path, system.tokens.default_theme()),
        Place::TokenIn { path, modifier, context } => {
            let mut theme = system.tokens.default_theme();
            let modifiers = system.tokens.modifiers.iter().zip(&mut theme.contexts);
            for (known, chosen) in modifiers.filter(|(known, _)| known.name.value == *modifier) {
                let at = known.contexts.iter().position(|name| name.value == *context);
                *chosen = at.unwrap_or(*chosen);
            }
            (path, theme)
        }
        Place::Declaration { .. } | Place::Own { .. } => return change.value.clone(),
    };
    let literal = system.tokens.find_path(path).and_then(|id| system.tokens.literal(id, &theme));
    literal.unwrap_or_else(|| change.value.clone())
}

/// The project as it was drawn: what is pulled at is judged on that, also while the sources on the disk are broken.
fn as_drawn<'l>(loaded: &'l Loaded, files: &'l AsRead<'l>) -> Project<'l> {
    Project { files, sources: &loaded.sources, system: &loaded.system }
}

fn ground(loaded: &Loaded) -> Ground<'_> {
    Ground { system: &loaded.system, sources: &loaded.sources }
}

/// A change with its place in a newer text of its file.
fn moved_along(change: &Change, before: Ground, after: Ground) -> Result<Change, String> {
    let mut moved = change.clone();
    if let Place::Declaration { file, start, .. } = &mut moved.place {
        let gone = || format!("`{file}` was changed there meanwhile: look at it and set the value again");
        let old = before.sources.find(file).ok_or_else(gone)?;
        let new = after.sources.find(file).ok_or_else(gone)?;
        let text = &before.sources.file(old).text;
        if *start > text.len() {
            return Err(gone());
        }
        let span = Span::new(old, *start, *start);
        let place = Moved::new(text, new, &after.sources.file(new).text).place(span).ok_or_else(gone)?;
        *start = place.start as usize;
    }
    Ok(moved)
}

/// The same where what stands there is what stood there.
fn laid_over(change: &Change, before: Ground, after: Ground) -> Result<Change, String> {
    let moved = moved_along(change, before, after)?;
    let replaced = |ground: Ground, change: &Change| -> Result<Vec<String>, String> {
        Ok(change.edits(ground)?.iter().map(|edit| ground.sources.text(edit.span).to_owned()).collect())
    };
    let (was, is) = (replaced(before, change)?, replaced(after, &moved)?);
    if was != is {
        let (was, is) = (was.join(", "), is.join(", "));
        return Err(format!("it was `{was}` and is `{is}` by now: look at it and set the value again"));
    }
    Ok(moved)
}

/// The lines that edits change, before and after, by place.
fn lines(sources: &Sources, edits: &[Edit]) -> Vec<Value> {
    let mut edits: Vec<&Edit> = edits.iter().collect();
    edits.sort();
    let mut found: Vec<(usize, usize, Vec<&Edit>)> = Vec::new();
    for edit in edits {
        let text = &sources.file(edit.span.file).text;
        let range = edit.span.range();
        let start = text[..range.start].rfind('\n').map_or(0, |at| at + 1);
        let end = text[range.end..].find('\n').map_or(text.len(), |at| range.end + at);
        match found.last_mut() {
            Some((_, last, several)) if several[0].span.file == edit.span.file && start <= *last => {
                *last = end.max(*last);
                several.push(edit);
            }
            _ => found.push((start, end, vec![edit])),
        }
    }
    let of = |(start, end, edits): (usize, usize, Vec<&Edit>)| {
        let text = &sources.file(edits[0].span.file).text;
        let before = text[start..end].to_owned();
        let mut after = before.clone();
        for edit in edits.iter().rev() {
            let range = edit.span.range();
            after.replace_range(range.start - start..range.end - start, &edit.text);
        }
        json!({ "at": sources.place(edits[0].span), "before": before, "after": after })
    };
    found.into_iter().map(of).collect()
}

fn read<'s, T: Deserialize<'s>>(sent: &'s [u8]) -> Result<T, Refused> {
    serde_json::from_slice(sent).map_err(|why| Refused(400, format!("this is not what is understood here: {why}")))
}

fn changes(sent: &[u8]) -> Result<Vec<Sent>, Refused> {
    let Changes { changes } = read(sent)?;
    if changes.len() > MOST {
        return Err(Refused(413, format!("at most {MOST} changes are made at once")));
    }
    if changes.iter().any(|sent| sent.change.value.len() > LONGEST) {
        return Err(Refused(413, format!("a value has at most {LONGEST} bytes")));
    }
    Ok(changes)
}

fn lock<T>(held: &Mutex<T>) -> MutexGuard<'_, T> {
    held.lock().unwrap_or_else(PoisonError::into_inner)
}
