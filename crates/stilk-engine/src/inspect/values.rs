//! Every value of every element: what many elements have is computed and written once.

use super::Inspector;
use crate::cascade::resolved::{is_of_value_alone, resolved};
use crate::cascade::{SharedValue, Style, Styled};
use crate::css::context::Unknown;
use crate::css::property::Longhand;
use crate::dom::Document;
use rustc_hash::FxHashMap;
use std::collections::{BTreeMap, HashSet};
use std::rc::Rc;

/// Appends a longhand's name and its value to a text.
pub type Write<'w> = &'w dyn Fn(&'static str, &str, &mut String);

/// A value that several styles have, kept so that no other one gets its address, and what is written of it.
type Text = (SharedValue, Rc<str>);

/// What is known of one style.
#[derive(Debug, Default)]
struct Known {
    values: String,
    unknown: Vec<(&'static str, u64)>,
}

/// Values that were written already.
struct Cache<'w> {
    write: Write<'w>,
    /// Longhands by name.
    order: Vec<Longhand>,
    /// By longhand, the value that was met last: most are met again at once.
    last: Vec<Option<Text>>,
    /// What is written of values that several styles have.
    texts: FxHashMap<*const Result<crate::css::value::Value, Unknown>, Text>,
    /// What is known of styles that several elements have; and of their pseudo-elements, of which no rule speaks.
    styles: FxHashMap<(*const Style, bool), Rc<Known>>,
}

impl Inspector<'_> {
    /// Hands over every known longhand of every element that has an id, and of its `::before` and `::after`, in the order of
    /// their names, `id`, `id::after` and `id::before`: what was written of them, in the order of the longhands' names. Says
    /// how many values are not known, by reason.
    pub fn each(&self, write: Write, mut take: impl FnMut(&str, &str)) -> BTreeMap<&'static str, u64> {
        let mut cache = Cache::new(write);
        let mut unknown = BTreeMap::new();
        for (name, styled) in self.named() {
            let Some(known) = cache.known(self, styled) else { continue };
            take(&name, &known.values);
            for (reason, count) in &known.unknown {
                *unknown.entry(*reason).or_default() += count;
            }
        }
        unknown
    }

    /// What has a name, by name.
    fn named(&self) -> Vec<(String, Styled)> {
        let mut named = Vec::new();
        let mut ids: HashSet<&str> = HashSet::new();
        for node in self.document.descendants(Document::ROOT) {
            let Some(id) = self.document.element(node).and_then(|element| element.attribute("id")) else { continue };
            // The first element with an id is the one that it names.
            if id.is_empty() || !ids.insert(id) {
                continue;
            }
            named.extend(Styled::with_generated(node).into_iter().map(|styled| {
                let name = styled.pseudo.map_or_else(|| id.to_owned(), |pseudo| format!("{id}::{}", pseudo.name()));
                (name, styled)
            }));
        }
        named.sort_by(|(one, _), (other, _)| one.cmp(other));
        named
    }
}

impl<'w> Cache<'w> {
    fn new(write: Write<'w>) -> Cache<'w> {
        let mut order = Longhand::ALL.to_vec();
        order.sort_by_key(|longhand| longhand.name());
        Cache { write, last: vec![None; order.len()], order, texts: FxHashMap::default(), styles: FxHashMap::default() }
    }

    fn known(&mut self, inspector: &Inspector, styled: Styled) -> Option<Rc<Known>> {
        // Bounded: the lists of a page whose elements all differ are not kept.
        const MOST: usize = 1 << 10;
        let own = inspector.styles.element(styled.node)?;
        let spoken_of = styled.pseudo.and_then(|_| inspector.styles.of(styled));
        let of = spoken_of.unwrap_or(own);
        // Where no rule speaks of it, one generated box is as the other.
        let key = (Rc::as_ptr(of), styled.pseudo.is_some() && spoken_of.is_none());
        if let Some(known) = self.styles.get(&key) {
            return Some(Rc::clone(known));
        }
        let style = inspector.style(styled)?;
        let known = Rc::new(self.of(&style));
        if self.styles.len() >= MOST {
            self.styles.clear();
        }
        self.styles.insert(key, Rc::clone(&known));
        Some(known)
    }

    fn of(&mut self, style: &Style) -> Known {
        let mut values = String::with_capacity(1 << 14);
        let mut unknown: Vec<(&'static str, u64)> = Vec::new();
        for (at, longhand) in self.order.iter().enumerate() {
            let shared = style.shared(*longhand);
            if let Some((_, text)) = self.last[at].as_ref().filter(|(last, _)| Rc::ptr_eq(last, shared)) {
                values.push_str(text);
                continue;
            }
            if let Some(known) = self.texts.get(&Rc::as_ptr(shared)) {
                values.push_str(&known.1);
                self.last[at] = Some(known.clone());
                continue;
            }
            match resolved(style, *longhand) {
                Ok(value) => {
                    let start = values.len();
                    (self.write)(longhand.name(), &value, &mut values);
                    if Rc::strong_count(shared) > 1 && is_of_value_alone(*longhand, shared) {
                        self.texts.insert(Rc::as_ptr(shared), (Rc::clone(shared), values[start..].into()));
                    }
                }
                Err(reason) => match unknown.iter_mut().find(|(known, _)| *known == reason.0) {
                    Some((_, count)) => *count += 1,
                    None => unknown.push((reason.0, 1)),
                },
            }
        }
        Known { values, unknown }
    }
}
