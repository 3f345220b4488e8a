//! What can be written at the cursor.

mod json;
mod manifest;
mod markup;
mod sheet;
mod values;

use super::{FileKind, Subject};
use lsp_types::{
    CompletionItem, CompletionItemKind, CompletionList, CompletionTextEdit, Documentation, InsertTextFormat,
    MarkupContent, MarkupKind, Position, TextEdit,
};
use std::ops::Range;

/// So many are offered at once; of more, those that fit what is typed, and the editor asks again.
const MOST: usize = 400;

/// What can be written at a position.
pub fn complete(subject: &Subject, position: Position) -> CompletionList {
    let offset = subject.offset(position);
    let mut offers = Offers { subject, list: Vec::new() };
    match subject.kind() {
        FileKind::Sheet => sheet::offer(&mut offers, offset),
        FileKind::Template => markup::offer(&mut offers, offset, true),
        FileKind::Page => markup::offer(&mut offers, offset, false),
        FileKind::Tokens => json::offer_tokens_at(&mut offers, offset),
        FileKind::Resolver => json::offer_resolver(&mut offers, offset),
        FileKind::Manifest => manifest::offer(&mut offers, offset),
        FileKind::Other => {}
    }
    offers.finish(offset)
}

/// Something that can be written.
struct Offer {
    label: String,
    kind: CompletionItemKind,
    /// What stands beside it in the list.
    detail: Option<String>,
    /// In Markdown.
    words: Option<String>,
    /// What is written instead of what stands there; `$0` is where the cursor goes.
    text: String,
    replaced: Range<usize>,
    /// What comes first: a smaller number.
    rank: u8,
    is_deprecated: bool,
}

struct Offers<'s> {
    subject: &'s Subject<'s>,
    list: Vec<Offer>,
}

impl Offers<'_> {
    /// Offers a word as it is.
    fn word(&mut self, label: &str, kind: CompletionItemKind, replaced: &Range<usize>, rank: u8) -> &mut Offer {
        self.text(label, label.to_owned(), kind, replaced, rank)
    }

    /// Offers words as they are.
    fn words<W: AsRef<str>>(
        &mut self,
        words: impl IntoIterator<Item = W>,
        kind: CompletionItemKind,
        replaced: &Range<usize>,
        rank: u8,
    ) {
        for word in words {
            self.word(word.as_ref(), kind, replaced, rank);
        }
    }

    /// Offers a text by another label.
    fn text(
        &mut self,
        label: &str,
        text: String,
        kind: CompletionItemKind,
        replaced: &Range<usize>,
        rank: u8,
    ) -> &mut Offer {
        let (detail, words, is_deprecated) = (None, None, false);
        let (label, replaced) = (label.to_owned(), replaced.clone());
        self.list.push(Offer { label, kind, detail, words, text, replaced, rank, is_deprecated });
        let last = self.list.len() - 1;
        &mut self.list[last]
    }

    fn finish(self, offset: usize) -> CompletionList {
        let Offers { subject, mut list } = self;
        let mut is_incomplete = false;
        if list.len() > MOST {
            let fits = |offer: &Offer| {
                let typed = subject.text.get(offer.replaced.start..offset).unwrap_or_default();
                holds_in_order(&offer.label.to_lowercase(), &typed.to_lowercase())
            };
            list.retain(fits);
            is_incomplete = true;
        }
        list.sort_by_key(|offer| offer.rank);
        list.truncate(MOST);
        let mut items: Vec<CompletionItem> = Vec::new();
        let lines = subject.lines();
        for (at, offer) in list.into_iter().enumerate() {
            let has_stop = offer.text.contains("$0");
            let is_snippet = has_stop && subject.client.takes_snippets;
            let new_text = if is_snippet { offer.text } else { offer.text.replace("$0", "") };
            items.push(CompletionItem {
                kind: Some(offer.kind),
                detail: offer.detail,
                documentation: offer
                    .words
                    .map(|value| Documentation::MarkupContent(MarkupContent { kind: MarkupKind::Markdown, value })),
                tags: offer.is_deprecated.then(|| vec![lsp_types::CompletionItemTag::DEPRECATED]),
                // In the order of the list, whatever the labels are.
                sort_text: Some(format!("{at:04}")),
                filter_text: Some(offer.label.clone()),
                insert_text_format: Some(if is_snippet {
                    InsertTextFormat::SNIPPET
                } else {
                    InsertTextFormat::PLAIN_TEXT
                }),
                text_edit: Some(CompletionTextEdit::Edit(TextEdit { range: lines.range(offer.replaced), new_text })),
                label: offer.label,
                ..CompletionItem::default()
            });
        }
        CompletionList { is_incomplete, items }
    }
}

/// Whether all characters of one text stand in another in this order: as editors filter.
fn holds_in_order(text: &str, typed: &str) -> bool {
    let mut left = text.chars();
    typed.chars().all(|c| left.any(|other| other == c))
}
