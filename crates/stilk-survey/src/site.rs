//! Pages and the stylesheets they use, as they were read: texts with places, parsed once.

use std::collections::{BTreeMap, BTreeSet};
use std::hash::{Hash, Hasher};
use std::sync::Arc;
use stilk_checks::scan::{Linked, Reader};
use stilk_checks::trace::TracedSheet;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::cascade::media::parse_list as media_list;
use stilk_engine::dom::Document;
use stilk_engine::page::{Page, SheetSource, in_media};
use stilk_text::source::{FileId, Sources, Span};

/// Pages with their stylesheets.
#[derive(Default)]
pub struct Site {
    /// The texts of all.
    pub sources: Sources,
    /// The pages, in the order in which they were given.
    pub pages: Vec<SitePage>,
    /// Lists of stylesheets, each once: pages of a site share theirs.
    pub lists: Vec<SheetList>,
    /// Stylesheets that pages link and that cannot be had, with why, and how many pages link them.
    pub missing: BTreeMap<(String, String), u64>,
    /// Reads a page again, by its path; so that a site of many pages need not be kept in memory.
    pub again: Option<Again>,
    /// Texts of `<style>` elements that were read, by text and media, with the place of the first.
    inline: BTreeMap<(String, String), KnownSheet>,
    /// Stylesheets that were read, by path and media, with the files of what they import.
    known: BTreeMap<(String, String), KnownSheet>,
}

/// Gives the text of a page once more.
pub type Again = Box<dyn Fn(&str) -> Option<String> + Send + Sync>;

/// So many pages are kept as they were read; of more only those of which something is said.
const KEPT: usize = 256;

/// A stylesheet that was read, and where its texts stand.
type KnownSheet = (Arc<Stylesheet>, Vec<(FileId, i64)>);

/// A page.
pub struct SitePage {
    /// Its file.
    pub file: FileId,
    /// Which list of stylesheets it has.
    pub list: usize,
    /// Whether it is in quirks mode.
    pub quirks: bool,
    /// Whether a stylesheet that it links cannot be had: then nothing is known of how it looks.
    pub is_whole: bool,
    /// Whether its markup says that it is drawn in the dark as well (HTML, 4.2.5.2: `<meta name=color-scheme>`).
    pub follows_scheme: bool,
    /// A figure of its text, by which it is known again.
    hash: u64,
}

/// The stylesheets of a page, in the order of the cascade.
pub struct SheetList {
    /// Each with its places.
    pub sheets: Vec<TracedSheet>,
    /// The text of each as a page of its own may hold it, under the media it is for, with what it imports.
    pub texts: Vec<String>,
}

impl Site {
    /// Adds a page. `read` gives the stylesheets behind its addresses; `more` are added to those that it names.
    pub fn add(&mut self, path: &str, text: &str, more: &[Linked], read: Reader) {
        let text = with_line_ends(text);
        let hash = hash_of(&text);
        let mut introduces = false;
        let file = self.sources.add(path, text);
        let page = Page::parse_in(file, &self.sources.file(file).text);
        let (mut sheets, mut texts) = (Vec::new(), Vec::new());
        let mut missing = Vec::new();
        for sheet in &page.sheets {
            match &sheet.source {
                SheetSource::Inline(text) => {
                    let (text, before) = in_media(text, &sheet.media);
                    texts.push(text.to_string());
                    // Its text begins where its tag ends. Pages that hold the same have one stylesheet, that of the first.
                    let start = page.document.node(sheet.node).span.map_or(0, |span| span.end);
                    let key = (text.to_string(), sheet.media.clone());
                    let (parsed, texts) = self.inline.entry(key).or_insert_with(|| {
                        introduces = true;
                        (Arc::new(Stylesheet::parse(&text)), vec![(file, i64::from(start) - before)])
                    });
                    sheets.push(TracedSheet { parsed: Arc::clone(parsed), texts: texts.clone() });
                }
                SheetSource::Linked(address) => match read(page.base(), address, &mut missing) {
                    Ok(linked) => {
                        let text = with_imports(&linked.text, &linked.parsed.imported);
                        texts.push(in_media(&text, &sheet.media).0.into_owned());
                        sheets.push(self.linked(&linked, &sheet.media));
                    }
                    // What is for paper alone changes nothing on a screen.
                    Err(_) if !is_of_screens(&sheet.media) => {}
                    Err(why) => missing.push((address.clone(), why)),
                },
            }
        }
        texts.extend(more.iter().map(|linked| with_imports(&linked.text, &linked.parsed.imported)));
        sheets.extend(more.iter().map(|linked| self.linked(linked, "")));
        missing.sort();
        missing.dedup();
        let is_whole = missing.is_empty();
        for one in missing {
            *self.missing.entry(one).or_default() += 1;
        }
        let same = |list: &SheetList| {
            let pairs = list.sheets.iter().zip(&sheets);
            list.sheets.len() == sheets.len() && pairs.into_iter().all(|(a, b)| Arc::ptr_eq(&a.parsed, &b.parsed))
        };
        // In quirks mode the same stylesheets say something else.
        let quirks = page.document.quirks;
        let is_of_mode = |at: &usize| self.pages.iter().any(|page| page.list == *at && page.quirks == quirks);
        let known = self.lists.iter().enumerate().find(|(at, list)| same(list) && is_of_mode(at)).map(|(at, _)| at);
        let list = known.unwrap_or_else(|| {
            self.lists.push(SheetList { sheets, texts });
            self.lists.len() - 1
        });
        let follows_scheme = follows_scheme(&page.document);
        self.pages.push(SitePage { file, list, quirks, is_whole, follows_scheme, hash });
        if self.pages.len() > KEPT && !introduces && self.again.is_some() {
            self.sources.forget(file);
        }
    }

    fn linked(&mut self, linked: &Linked, media: &str) -> TracedSheet {
        let key = (linked.path.clone(), media.to_owned());
        if let Some((parsed, texts)) = self.known.get(&key) {
            return TracedSheet { parsed: Arc::clone(parsed), texts: texts.clone() };
        }
        let (text, before) = in_media(&linked.text, media);
        let parsed = if before == 0 { Arc::clone(&linked.parsed) } else { Arc::new(Stylesheet::parse(&text)) };
        let find = |sources: &mut Sources, path: String, text: &str| {
            sources.find(&path).unwrap_or_else(|| sources.add(path, text))
        };
        let mut texts = vec![(find(&mut self.sources, linked.path.clone(), &linked.text), -before)];
        let folder = linked.path.rsplit_once('/').map_or("", |(folder, _)| folder);
        for (address, text) in &parsed.imported {
            let path = if folder.is_empty() { address.clone() } else { format!("{folder}/{address}") };
            texts.push((find(&mut self.sources, path, text), 0));
        }
        self.known.insert(key, (Arc::clone(&parsed), texts.clone()));
        TracedSheet { parsed, texts }
    }

    /// A page's document, parsed anew: it is not kept, so that a thousand pages need no room for a thousand documents.
    ///
    /// A page whose text is not kept is read again; where it is another one by now, it is empty.
    pub fn document(&self, page: usize) -> Document {
        let file = self.pages[page].file;
        match (&self.sources.file(file).text, self.read_again(page)) {
            (text, _) if !text.is_empty() => Page::parse_in(file, text).document,
            (_, Some(text)) => Page::parse_in(file, &text).document,
            (_, None) => Document::new(),
        }
    }

    /// The text of a page that is not kept; nothing where it is kept, or has changed since.
    fn read_again(&self, page: usize) -> Option<String> {
        let SitePage { file, hash, .. } = &self.pages[page];
        let source = self.sources.file(*file);
        if !source.text.is_empty() {
            return None;
        }
        let text = with_line_ends(&self.again.as_ref()?(&source.path)?);
        (hash_of(&text) == *hash).then_some(text)
    }

    /// Keeps the texts of some pages: something is said of them.
    pub fn keep(&mut self, pages: impl IntoIterator<Item = usize>) {
        for page in pages {
            if let Some(text) = self.read_again(page) {
                self.sources.restore(self.pages[page].file, text);
            }
        }
    }

    /// The pages that some places stand on.
    pub fn pages_of(&self, spans: impl IntoIterator<Item = Span>) -> BTreeSet<usize> {
        let files: BTreeSet<FileId> = spans.into_iter().map(|span| span.file).collect();
        let is_it = |(_, page): &(usize, &SitePage)| files.contains(&page.file);
        self.pages.iter().enumerate().filter(is_it).map(|(index, _)| index).collect()
    }

    /// Whether the pages that have a list are in quirks mode.
    pub fn has_quirks(&self, list: usize) -> bool {
        self.pages.iter().any(|page| page.list == list && page.quirks)
    }

    /// The path of a page.
    pub fn path(&self, page: usize) -> &str {
        &self.sources.file(self.pages[page].file).path
    }
}

fn follows_scheme(document: &Document) -> bool {
    let is_it = |element: &stilk_engine::dom::Element| {
        element.local() == "meta"
            && element.attribute("name").is_some_and(|name| name.eq_ignore_ascii_case("color-scheme"))
            && element.attribute("content").is_some_and(|schemes| schemes.to_ascii_lowercase().contains("dark"))
    };
    document.descendants(Document::ROOT).into_iter().filter_map(|node| document.element(node)).any(is_it)
}

/// A text as browsers read it: line ends are one character.
fn with_line_ends(text: &str) -> String {
    if text.contains('\r') { text.replace("\r\n", "\n").replace('\r', "\n") } else { text.to_owned() }
}

fn hash_of(text: &str) -> u64 {
    let mut hasher = rustc_hash::FxHasher::default();
    text.hash(&mut hasher);
    hasher.finish()
}

/// Whether the `media` attribute of a link lets it be used on a screen at all.
fn is_of_screens(media: &str) -> bool {
    media_list(media).is_none_or(|list| list.is_of_screens())
}

/// A stylesheet with what it imports in place of the rules that import it, so that it needs no other file.
fn with_imports(text: &str, imported: &[(String, String)]) -> String {
    let mut whole = text.to_owned();
    for (address, inner) in imported {
        let Some(start) = whole.find("@import").filter(|start| whole[*start..].find(address.as_str()).is_some()) else {
            continue;
        };
        let Some(at) = whole[start..].find(address.as_str()).map(|at| start + at) else { continue };
        let start = whole[..at].rfind("@import").unwrap_or(start);
        let end = whole[at..].find(';').map_or(whole.len(), |end| at + end + 1);
        let rest = whole[at + address.len()..end]
            .trim_matches(|c: char| c.is_whitespace() || matches!(c, ')' | '"' | '\'' | ';'));
        let block = match rest.strip_prefix("layer") {
            Some(name) => format!("@layer {} {{ {inner} }}", name.trim_matches(['(', ')', ' '])),
            None if rest.is_empty() => inner.clone(),
            None => format!("@media {rest} {{ {inner} }}"),
        };
        whole.replace_range(start..end, &block);
    }
    whole
}
