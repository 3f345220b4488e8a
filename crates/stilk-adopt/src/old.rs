//! The stylesheets that pages had, each once, in one order, with the rank of every rule of theirs.

use crate::outline::Outline;
use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;
use stilk_engine::cascade::Stylesheet;
use stilk_engine::cascade::ranking::{Ranks, ranks};
use stilk_engine::page::{Page, PageSheet, SheetSource, in_media};
use stilk_survey::site::Site;
use stilk_text::source::FileId;

/// A rule: its sheet among [`OldSheets`] and its place there.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct RuleRef {
    /// The sheet.
    pub sheet: usize,
    /// The rule.
    pub rule: u32,
}

/// A text of a stylesheet: its own, or that of one which it imports.
pub struct OldText {
    /// The file it stands in.
    pub file: FileId,
    /// The text.
    pub text: String,
    /// What is added to an offset in what was parsed to come to one in the text.
    pub shift: i64,
    /// Its blocks.
    pub outline: Outline,
}

/// A stylesheet.
pub struct OldSheet {
    /// Its rules.
    pub parsed: Arc<Stylesheet>,
    /// Its texts, its own first.
    pub texts: Vec<OldText>,
    /// The media that pages link it for.
    pub media: String,
    /// Its path, or that of the page it stands in.
    pub path: String,
    /// Whether it stands in a page.
    pub is_inline: bool,
}

/// All of them.
pub struct OldSheets {
    /// In the order in which pages have them.
    pub all: Vec<OldSheet>,
    /// By list of the site: its sheets.
    pub lists: Vec<Vec<usize>>,
    ranks: Vec<Vec<Ranks>>,
}

impl OldText {
    /// Where something that was parsed stands in the text.
    pub fn offset(&self, parsed: u32) -> Option<usize> {
        usize::try_from(i64::from(parsed) + self.shift).ok().filter(|at| *at <= self.text.len())
    }
}

impl OldSheets {
    /// Of a site.
    ///
    /// # Errors
    /// Pages have them in orders that are none, in words.
    pub fn of(site: &Site) -> Result<OldSheets, String> {
        let mut all: Vec<OldSheet> = Vec::new();
        let mut lists: Vec<Vec<usize>> = Vec::new();
        for (at, list) in site.lists.iter().enumerate() {
            let mut own = Vec::new();
            for traced in &list.sheets {
                let same = |sheet: &OldSheet| Arc::ptr_eq(&sheet.parsed, &traced.parsed);
                if let Some(known) = all.iter().position(same) {
                    own.push(known);
                    continue;
                }
                let Some((file, before)) = traced.texts.first().copied() else { continue };
                let path = site.sources.file(file).path.clone();
                let page = site.pages.iter().position(|page| page.file == file);
                let inline = page.and_then(|page| {
                    let is_it =
                        |(start, text, media): &(i64, String, String)| start - in_media(text, media).1 == before;
                    of_page(site, page).into_iter().find(is_it)
                });
                let is_inline = inline.is_some();
                let (text, shift, media) = match inline {
                    Some((start, text, media)) => (text, before - start, media),
                    None => (site.sources.file(file).text.clone(), before, media_of(site, at, &path, -before)),
                };
                let outline = Outline::of(&text);
                let mut texts = vec![OldText { file, text, shift, outline }];
                for ((_, text), (file, _)) in traced.parsed.imported.iter().zip(&traced.texts[1..]) {
                    texts.push(OldText { file: *file, text: text.clone(), shift: 0, outline: Outline::of(text) });
                }
                own.push(all.len());
                all.push(OldSheet { parsed: Arc::clone(&traced.parsed), texts, media, path, is_inline });
            }
            lists.push(own);
        }
        let order = one_order(&lists, all.len()).ok_or("pages link the same stylesheets in different orders")?;
        let place: BTreeMap<usize, usize> = order.iter().enumerate().map(|(place, sheet)| (*sheet, place)).collect();
        lists.iter_mut().flatten().for_each(|sheet| *sheet = place[sheet]);
        let mut sorted: Vec<(usize, OldSheet)> =
            all.into_iter().enumerate().map(|(at, sheet)| (place[&at], sheet)).collect();
        sorted.sort_by_key(|(at, _)| *at);
        let all: Vec<OldSheet> = sorted.into_iter().map(|(_, sheet)| sheet).collect();
        let parsed: Vec<&Stylesheet> = all.iter().map(|sheet| &*sheet.parsed).collect();
        let ranks = ranks(&parsed);
        Ok(OldSheets { all, lists, ranks })
    }

    /// The ranks of a rule's declarations.
    pub fn ranks(&self, rule: RuleRef) -> Ranks {
        self.ranks[rule.sheet][rule.rule as usize]
    }

    /// The conditional rules around a rule.
    ///
    /// # Errors
    /// It stands in one that sheets do not have.
    pub fn groups(&self, rule: RuleRef) -> Result<Vec<(String, String)>, &'static str> {
        let sheet = &self.all[rule.sheet];
        let mut groups = Vec::new();
        if !matches!(sheet.media.trim(), "" | "all" | "screen") {
            groups.push(("media".to_owned(), sheet.media.trim().to_owned()));
        }
        let Some((text, block)) = self.block(rule) else { return Err("its place is not found") };
        let style = &sheet.parsed.rules[rule.rule as usize];
        if !style.scopes.is_empty() {
            return Err("it stands in a scope");
        }
        for prelude in text.outline.around(&text.text, block) {
            let kind = prelude[1..].split(|c: char| c.is_whitespace() || c == '(').next().unwrap_or_default();
            let kind = kind.to_ascii_lowercase();
            let rest = prelude[1 + kind.len()..].trim();
            match kind.as_str() {
                "media" if matches!(rest, "all" | "screen") => {}
                "media" | "supports" | "container" => groups.push((kind, rest.to_owned())),
                "layer" => {}
                _ => return Err("it stands in a rule that sheets do not have"),
            }
        }
        if style.file > 0 && !style.conditions.is_empty() && groups.is_empty() {
            return Err("it is imported under a condition");
        }
        Ok(groups)
    }

    /// The text that a rule stands in, and the block there.
    pub fn block(&self, rule: RuleRef) -> Option<(&OldText, usize)> {
        let sheet = &self.all[rule.sheet];
        let style = sheet.parsed.rules.get(rule.rule as usize)?;
        let text = sheet.texts.get(usize::from(style.file))?;
        Some((text, text.outline.at(text.offset(style.offset)?)?))
    }
}

/// The media that pages link a stylesheet for, where so many bytes stand before its text for them.
fn media_of(site: &Site, list: usize, path: &str, before: i64) -> String {
    if before == 0 {
        return String::new();
    }
    let Some(page) = site.pages.iter().find(|page| page.list == list) else { return String::new() };
    let parsed = Page::parse_in(page.file, &site.sources.file(page.file).text);
    let name = |path: &str| path.split(['?', '#']).next().and_then(|path| path.rsplit('/').next()).map(str::to_owned);
    let is_it = |sheet: &&PageSheet| match &sheet.source {
        SheetSource::Linked(address) => name(address) == name(path) && in_media("", &sheet.media).1 == before,
        SheetSource::Inline(_) => false,
    };
    parsed.sheets.iter().find(is_it).map(|sheet| sheet.media.clone()).unwrap_or_default()
}

/// A page's `<style>` elements: where the text of each begins, the text, and its media.
fn of_page(site: &Site, page: usize) -> Vec<(i64, String, String)> {
    let file = site.pages[page].file;
    let parsed = Page::parse_in(file, &site.sources.file(file).text);
    let inline = parsed.sheets.iter().filter_map(|sheet| match &sheet.source {
        SheetSource::Inline(text) => {
            let start = parsed.document.node(sheet.node).span.map_or(0, |span| span.end);
            Some((i64::from(start), text.clone(), sheet.media.clone()))
        }
        SheetSource::Linked(_) => None,
    });
    inline.collect()
}

/// One order in which every list has its sheets; nothing where there is none.
fn one_order(lists: &[Vec<usize>], count: usize) -> Option<Vec<usize>> {
    let mut before: Vec<BTreeSet<usize>> = vec![BTreeSet::new(); count];
    for list in lists {
        for pair in list.windows(2) {
            before[pair[1]].insert(pair[0]);
        }
    }
    let (mut order, mut left): (Vec<usize>, BTreeSet<usize>) = (Vec::new(), (0..count).collect());
    while !left.is_empty() {
        let next = left.iter().copied().find(|sheet| before[*sheet].iter().all(|other| !left.contains(other)))?;
        left.remove(&next);
        order.push(next);
    }
    Some(order)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_order_holds_for_all_pages_or_there_is_none() {
        assert_eq!(one_order(&[vec![0, 1], vec![2, 1], vec![0, 2]], 3), Some(vec![0, 2, 1]));
        assert_eq!(one_order(&[vec![0, 1], vec![1, 0]], 2), None);
    }
}
