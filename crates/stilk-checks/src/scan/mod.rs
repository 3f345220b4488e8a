//! Scanning: real pages against the system. Which controls, options and states they use, what is wrong with their markup,
//! and what on the page beats the system or reaches into it.
//!
//! A page is read as browsers do, with the place of every element; its stylesheets and the system's are computed by the same
//! engine as everything else. Each check of a page is one file in `check/markup` or `check/page`.

mod gather;
mod outside;

use crate::registry::page_checks;
pub use crate::scan::gather::Gathered;
use crate::visit::classes::Classes;
use crate::visit::instance::{Instance, instances};
use crate::visit::usage::Usage;
use crate::visit::{PageSink, PageStyle, VisitedPage};
use std::cell::{OnceCell, RefCell};
use std::collections::{BTreeMap, HashMap, HashSet};
use std::hash::{DefaultHasher, Hash, Hasher};
use std::rc::Rc;
use std::sync::Arc;
use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Engine, Forced, Media, Styles, Stylesheet};
use stilk_engine::css::Unknown;
use stilk_engine::dom::{Document, NodeId};
use stilk_engine::page::{Page, SheetSource, in_media};
use stilk_language::stylesheet::Written;
use stilk_language::system::System;
use stilk_text::diagnostic::Diagnostic;
use stilk_text::source::{FileId, Sources};

/// What pages are held against.
pub struct Scanner<'s> {
    system: &'s System,
    classes: Classes,
    own: Arc<Stylesheet>,
    /// File names of the system's stylesheets, by which pages link them.
    names: Vec<String>,
}

/// A stylesheet that pages link.
#[derive(Clone)]
pub struct Linked {
    /// Its path, for people.
    pub path: String,
    /// Its text.
    pub text: Arc<str>,
    /// Its rules.
    pub parsed: Arc<Stylesheet>,
}

/// What there is to say of one page.
pub struct PageReport {
    /// Its path.
    pub path: String,
    /// What it uses.
    pub usage: Usage,
    /// How many controls it has that are none of the system's.
    pub outside: u64,
    /// What is wrong with it, each with what makes it one with others.
    pub found: Vec<(String, Diagnostic)>,
    /// The page and its stylesheets.
    pub sources: Sources,
    /// How much each check decided.
    pub decided: BTreeMap<&'static str, u64>,
    /// Stylesheets that it links and that cannot be had, each with why.
    pub missing: Vec<(String, String)>,
    /// How much it could not, and why.
    pub reasons: BTreeMap<(&'static str, &'static str), u64>,
}

impl<'s> Scanner<'s> {
    /// A scanner for a system, its stylesheet, and the names of the files that it is written to.
    pub fn new(system: &'s System, written: &Written, names: Vec<String>) -> Scanner<'s> {
        Scanner { system, classes: Classes::new(system), own: Arc::new(Stylesheet::parse(&written.text)), names }
    }

    /// Whether an address is that of the system's stylesheet.
    pub fn is_own(&self, address: &str) -> bool {
        let path = address.split(['?', '#']).next().unwrap_or_default();
        let name = path.rsplit('/').next().unwrap_or_default();
        self.names
            .iter()
            .any(|known| known == name || known.trim_end_matches(".css") == name.trim_end_matches(".min.css"))
    }
}

/// Gives the stylesheet behind an address, or why it cannot be had; with the base address of the page, and a list for what the
/// stylesheet imports and cannot be had.
pub type Reader<'r> = &'r mut dyn FnMut(Option<&str>, &str, &mut Vec<(String, String)>) -> Result<Linked, String>;

/// The stylesheets of a page, and those that cannot be had.
struct Styled {
    sheets: Vec<PageStyle>,
    missing: Vec<(String, String)>,
}

const MISSING: Unknown = Unknown("a stylesheet that the page links cannot be had");

/// Scans page after page; each thread has its own. What pages share is read once.
pub struct Worker<'s> {
    scanner: &'s Scanner<'s>,
    engines: Vec<Kept>,
    alone: Engine,
    inline: ParsedTexts,
}

/// The engine of some stylesheets.
struct Kept {
    /// Where these stand in memory.
    key: Vec<usize>,
    /// As long as the engine is kept, so are its sheets: another one cannot come to stand at the same place.
    _held: Vec<Arc<Stylesheet>>,
    engine: Engine,
    forced: OnceCell<Engine>,
}

/// Texts of stylesheets that were parsed, by their hash.
#[derive(Default)]
struct ParsedTexts(HashMap<u64, Arc<Stylesheet>>);

impl ParsedTexts {
    fn parse(&mut self, text: &str) -> Arc<Stylesheet> {
        let mut hasher = DefaultHasher::new();
        text.hash(&mut hasher);
        if self.0.len() >= INLINE {
            self.0.clear();
        }
        Arc::clone(self.0.entry(hasher.finish()).or_insert_with(|| Arc::new(Stylesheet::parse(text))))
    }
}

/// So many engines are kept: pages of a site share their stylesheets.
const ENGINES: usize = 8;

/// So many texts of `<style>` elements are kept.
const INLINE: usize = 64;

impl<'s> Worker<'s> {
    /// A worker of a scanner.
    pub fn new(scanner: &'s Scanner<'s>) -> Worker<'s> {
        let alone = Engine::new(Browser::Chromium.sheet(), &[&scanner.own], Media::default());
        Worker { scanner, engines: Vec::new(), alone, inline: ParsedTexts::default() }
    }

    /// Scans a page. `read` gives the stylesheet behind an address as the page has it.
    pub fn scan(&mut self, path: &str, text: &str, read: Reader) -> PageReport {
        // Browsers read line ends as one character; so that places stay, the text is brought to that before.
        let text = if text.contains('\r') { text.replace("\r\n", "\n").replace('\r', "\n") } else { text.to_owned() };
        let mut sources = Sources::default();
        let file = sources.add(path, text);
        let page = Page::parse_in(file, &sources.file(file).text);
        let Styled { sheets, missing } = self.styles_of(&page, file, &mut sources, read);
        let Page { document, sheets: named, .. } = page;
        let document = Rc::new(document);
        let instances = instances(self.scanner.system, &self.scanner.classes, &document);
        let usage = Usage::of(self.scanner.system, &document, &instances);
        let outside = outside::outside(&document, &instances);
        let mut sink = PageSink::default();
        let (system, classes, alone) = (self.scanner.system, &self.scanner.classes, self.alone.clone());
        let Kept { engine, forced: forced_colors, .. } = self.engine(&sheets);
        let near = near(&document, &instances);
        let alone = match without_style_attributes(&document, &instances) {
            Some(bare) => styles_of(&alone, &bare, &near),
            None => styles_of(&alone, &document, &near),
        };
        let elements = document.descendants(Document::ROOT);
        let visit = VisitedPage {
            system,
            classes,
            named: &named,
            elements: elements.into_iter().filter(|node| document.element(*node).is_some()).collect(),
            file,
            sources: &sources,
            sheets: &sheets,
            instances: &instances,
            engine,
            forced: forced_colors,
            control_at: instances.iter().map(|instance| (instance.node, instance.control)).collect(),
            surroundings: RefCell::default(),
            likeness: RefCell::default(),
            styles: &styles_of(engine, &document, &near),
            by_system: &alone,
            document,
        };
        for (id, run) in page_checks(system) {
            match missing.is_empty() || !id.starts_with("page/") {
                true => run(&visit, &mut sink),
                // What a stylesheet that is not there says may change every look.
                false => {
                    let mut asked = PageSink::default();
                    run(&visit, &mut asked);
                    sink.unknown(id, asked.decided.values().chain(asked.reasons.values()).sum(), MISSING);
                }
            }
        }
        let PageSink { found, decided, reasons } = sink;
        PageReport { path: path.to_owned(), usage, outside, found, sources, decided, missing, reasons }
    }

    /// The stylesheets of a page, in the order of the cascade.
    fn styles_of(&mut self, page: &Page, page_file: FileId, sources: &mut Sources, read: Reader) -> Styled {
        let own = |is_linked| PageStyle {
            parsed: Arc::clone(&self.scanner.own),
            file: page_file,
            start: 0,
            is_system: true,
            is_linked,
            length: 0,
        };
        let mut sheets = Vec::new();
        let mut missing = Vec::new();
        for sheet in &page.sheets {
            match &sheet.source {
                SheetSource::Inline(text) => {
                    let (text, before) = in_media(text, &sheet.media);
                    // Its text begins where its tag ends.
                    let start = page.document.node(sheet.node).span.map_or(0, |span| span.end);
                    sheets.push(PageStyle {
                        parsed: self.inline.parse(&text),
                        file: page_file,
                        start: i64::from(start) - before,
                        is_system: false,
                        is_linked: true,
                        length: text.len(),
                    });
                }
                SheetSource::Linked(address) if self.scanner.is_own(address) => sheets.push(own(true)),
                SheetSource::Linked(address) => {
                    let linked = match read(page.base(), address, &mut missing) {
                        Ok(linked) => linked,
                        Err(why) => {
                            // What is for paper alone changes nothing on a screen.
                            let media = stilk_engine::cascade::media::parse_list(&sheet.media);
                            if media.is_none_or(|list| list.is_of_screens()) {
                                missing.push((address.clone(), why));
                            }
                            continue;
                        }
                    };
                    let (text, before) = in_media(&linked.text, &sheet.media);
                    let parsed = if before == 0 { linked.parsed } else { self.inline.parse(&text) };
                    let length = linked.text.len();
                    let file = sources.find(&linked.path).unwrap_or_else(|| sources.add(linked.path, &*linked.text));
                    sheets.push(PageStyle { parsed, file, start: -before, is_system: false, is_linked: true, length });
                }
            }
        }
        if !sheets.iter().any(|sheet| sheet.is_system) {
            // What is said of looks is said as if it were there; that it is not is a finding of its own.
            sheets.insert(0, own(false));
        }
        missing.sort();
        missing.dedup();
        Styled { sheets: without_repeats(sheets), missing }
    }

    fn engine(&mut self, sheets: &[PageStyle]) -> &Kept {
        let key: Vec<usize> = sheets.iter().map(|sheet| Arc::as_ptr(&sheet.parsed) as usize).collect();
        if let Some(index) = self.engines.iter().position(|kept| kept.key == key) {
            return &self.engines[index];
        }
        if self.engines.len() >= ENGINES {
            self.engines.remove(0);
        }
        let parsed: Vec<&Stylesheet> = sheets.iter().map(|sheet| &*sheet.parsed).collect();
        let engine = Engine::new(Browser::Chromium.sheet(), &parsed, Media::default());
        let held = sheets.iter().map(|sheet| Arc::clone(&sheet.parsed)).collect();
        self.engines.push(Kept { key, _held: held, engine, forced: OnceCell::new() });
        &self.engines[self.engines.len() - 1]
    }
}

/// A document in which no control has a `style` attribute; nothing where none has one anyway.
fn without_style_attributes(document: &Document, instances: &[Instance]) -> Option<Document> {
    let has_style = |node: &NodeId| document.element(*node).is_some_and(|element| element.attribute("style").is_some());
    let styled: Vec<NodeId> =
        instances.iter().flat_map(|instance| instance.elements().map(|(_, node)| node)).filter(has_style).collect();
    if styled.is_empty() {
        return None;
    }
    let mut bare = document.clone();
    for node in styled {
        if let Some(element) = bare.element_mut(node) {
            element.remove("style");
        }
    }
    Some(bare)
}

/// Of a stylesheet that is linked again and again the first place counts, which orders its layers, and the last, which wins.
fn without_repeats(sheets: Vec<PageStyle>) -> Vec<PageStyle> {
    let mut places: HashMap<*const Stylesheet, [usize; 2]> = HashMap::new();
    for (index, sheet) in sheets.iter().enumerate() {
        places.entry(Arc::as_ptr(&sheet.parsed)).or_insert([index; 2])[1] = index;
    }
    let counts = |(index, sheet): &(usize, PageStyle)| {
        places.get(&Arc::as_ptr(&sheet.parsed)).is_some_and(|places| places.contains(index))
    };
    sheets.into_iter().enumerate().filter(counts).map(|(_, sheet)| sheet).collect()
}

/// The styles of some elements of a page at rest.
fn styles_of(engine: &Engine, document: &Document, nodes: &[NodeId]) -> Styles {
    let matches = engine.matches_of(document, &Forced::default(), nodes.iter().copied());
    engine.styles_of(document, &matches, Styles::default())
}

/// Controls with everything in them, and the elements around them, in document order: styles are needed of these;
/// most of a page is neither.
fn near(document: &Document, instances: &[Instance]) -> Vec<NodeId> {
    let near = around(document, instances);
    document.descendants(Document::ROOT).into_iter().filter(|node| near.contains(node)).collect()
}

fn around(document: &Document, instances: &[Instance]) -> HashSet<NodeId> {
    let mut around = HashSet::new();
    for instance in instances {
        around.extend(document.descendants(instance.node));
        let mut at = document.node(instance.node).parent;
        // What is around one that was met is there already.
        while let Some(above) = at.filter(|above| around.insert(*above)) {
            at = document.node(above).parent;
        }
    }
    around
}
