//! TOML tables with the place of every key and value, and errors for what does not belong.

use stilk_text::diagnostic::{Diagnostic, Diagnostics, unknown_name};
use stilk_text::source::{FileId, Name, Span};
use toml::de::{DeTable, DeValue};

/// One TOML table. Keys are taken out as they are read; [`Table::finish`] reports those left over.
pub struct Table<'t> {
    file: FileId,
    /// The table's place; for a table that is not there, its parent's.
    pub span: Span,
    entries: Vec<(Name, toml::Spanned<DeValue<'t>>)>,
    known: Vec<String>,
}

/// Parses a document, reporting every syntax error.
pub fn parse<'t>(file: FileId, text: &'t str, diagnostics: &mut Diagnostics) -> Option<Table<'t>> {
    let (table, errors) = DeTable::parse_recoverable(text);
    for error in &errors {
        let range = error.span().unwrap_or(0..0);
        let span = Span::new(file, range.start, range.end);
        let words = error.message().replace('\n', "; ");
        diagnostics.push(
            Diagnostic::error("toml/syntax", span, format!("this is not TOML: {words}"))
                .label("here")
                .mend("write `key = \"value\"` under a `[table]`; strings stand in double quotes"),
        );
    }
    if errors.is_empty() { Some(Table::new(file, Span::new(file, 0, 0), table.into_inner())) } else { None }
}

impl<'t> Table<'t> {
    fn new(file: FileId, span: Span, table: DeTable<'t>) -> Self {
        let mut entries: Vec<_> = table
            .into_iter()
            .map(|(key, value)| {
                let range = key.span();
                let name = Name { value: key.into_inner().into_owned(), span: Span::new(file, range.start, range.end) };
                (name, value)
            })
            .collect();
        // The parser sorts by key; the order in the file is what the maintainer means.
        entries.sort_by_key(|(name, _)| name.span.start);
        Table { file, span, entries, known: Vec::new() }
    }

    fn take(&mut self, key: &str) -> Option<(Name, toml::Spanned<DeValue<'t>>)> {
        self.known.push(key.to_owned());
        let index = self.entries.iter().position(|(name, _)| name.value == key)?;
        Some(self.entries.remove(index))
    }

    fn value_span(&self, value: &toml::Spanned<DeValue<'t>>) -> Span {
        let range = value.span();
        Span::new(self.file, range.start, range.end)
    }

    fn wrong_type(&self, name: &Name, span: Span, wanted: &str, example: &str, diagnostics: &mut Diagnostics) {
        diagnostics.push(
            Diagnostic::error("manifest/value", span, format!("`{}` is {wanted}", name.value))
                .label(format!("not {wanted}"))
                .mend(format!("write `{} = {example}`", name.value)),
        );
    }

    fn as_string(
        &self,
        name: &Name,
        value: &toml::Spanned<DeValue<'t>>,
        diagnostics: &mut Diagnostics,
    ) -> Option<Name> {
        let span = self.value_span(value);
        match value.get_ref() {
            DeValue::String(text) => Some(Name { value: text.to_string(), span }),
            _ => {
                self.wrong_type(name, span, "a string", "\"…\"", diagnostics);
                None
            }
        }
    }

    /// An optional string.
    pub fn string(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<Name> {
        let (name, value) = self.take(key)?;
        self.as_string(&name, &value, diagnostics)
    }

    /// A string that must be there.
    pub fn required_string(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<Name> {
        if !self.entries.iter().any(|(name, _)| name.value == key) {
            let message = format!("`{key}` is missing");
            diagnostics.push(
                Diagnostic::error("manifest/key", self.span, message)
                    .label("in this table")
                    .mend(format!("write `{key} = \"…\"`")),
            );
        }
        self.string(key, diagnostics)
    }

    /// One string, or a list of strings.
    pub fn string_or_strings(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<Result<Name, Vec<Name>>> {
        let is_array =
            self.entries.iter().any(|(name, value)| name.value == key && matches!(value.get_ref(), DeValue::Array(_)));
        if is_array { Some(Err(self.strings(key, diagnostics))) } else { self.string(key, diagnostics).map(Ok) }
    }

    /// A list of strings; empty when the key is missing.
    pub fn strings(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Vec<Name> {
        let Some((name, value)) = self.take(key) else { return Vec::new() };
        match value.get_ref() {
            DeValue::Array(items) => items.iter().filter_map(|item| self.as_string(&name, item, diagnostics)).collect(),
            _ => {
                self.wrong_type(&name, self.value_span(&value), "a list of strings", "[\"…\"]", diagnostics);
                Vec::new()
            }
        }
    }

    /// A list of pairs of strings, `[["a", "b"]]`.
    pub fn pairs(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Vec<(Name, Name)> {
        let Some((name, value)) = self.take(key) else { return Vec::new() };
        let mut pairs = Vec::new();
        let DeValue::Array(items) = value.get_ref() else {
            self.wrong_type(&name, self.value_span(&value), "a list of pairs", "[[\"night\", \"(…)\"]]", diagnostics);
            return pairs;
        };
        for item in items.iter() {
            let pair = match item.get_ref() {
                DeValue::Array(pair) if pair.len() == 2 => pair,
                _ => {
                    let span = self.value_span(item);
                    self.wrong_type(&name, span, "a list of pairs", "[[\"night\", \"(…)\"]]", diagnostics);
                    continue;
                }
            };
            let first = self.as_string(&name, &pair[0], diagnostics);
            let second = self.as_string(&name, &pair[1], diagnostics);
            pairs.extend(first.zip(second));
        }
        pairs
    }

    /// An optional boolean.
    pub fn boolean(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<bool> {
        let (name, value) = self.take(key)?;
        match value.get_ref() {
            DeValue::Boolean(value) => Some(*value),
            _ => {
                self.wrong_type(&name, self.value_span(&value), "true or false", "true", diagnostics);
                None
            }
        }
    }

    /// An optional integer and its place.
    pub fn integer(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<(i64, Span)> {
        let (name, value) = self.take(key)?;
        let span = self.value_span(&value);
        match value.get_ref() {
            DeValue::Integer(digits) => i64::from_str_radix(digits.as_str(), digits.radix()).ok().map(|n| (n, span)),
            _ => {
                self.wrong_type(&name, span, "a whole number", "1", diagnostics);
                None
            }
        }
    }

    /// A table, if there is one.
    pub fn get_table(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<Table<'t>> {
        let (name, value) = self.take(key)?;
        self.open_table(&name, value, diagnostics)
    }

    /// A table; an empty one when it is missing.
    pub fn table(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Table<'t> {
        let missing = Table { file: self.file, span: self.span, entries: Vec::new(), known: Vec::new() };
        self.get_table(key, diagnostics).unwrap_or(missing)
    }

    /// A table that must be there.
    pub fn required_table(&mut self, key: &str, diagnostics: &mut Diagnostics) -> Option<Table<'t>> {
        if !self.entries.iter().any(|(name, _)| name.value == key) {
            diagnostics.push(
                Diagnostic::error("manifest/key", self.span, format!("the manifest has no `[{key}]`"))
                    .label("it begins here")
                    .mend(format!("write a table `[{key}]`")),
            );
        }
        self.get_table(key, diagnostics)
    }

    fn open_table(
        &self,
        name: &Name,
        value: toml::Spanned<DeValue<'t>>,
        diagnostics: &mut Diagnostics,
    ) -> Option<Table<'t>> {
        match value.into_inner() {
            DeValue::Table(table) => Some(Table::new(self.file, name.span, table)),
            _ => {
                self.wrong_type(name, name.span, "a table", "{ … }", diagnostics);
                None
            }
        }
    }

    /// Every entry that is a table.
    pub fn table_entries(&mut self, diagnostics: &mut Diagnostics) -> Vec<(Name, Table<'t>)> {
        let entries = std::mem::take(&mut self.entries);
        entries
            .into_iter()
            .filter_map(|(name, value)| {
                let table = self.open_table(&name, value, diagnostics)?;
                Some((name, table))
            })
            .collect()
    }

    /// Every entry that is a string, in the order of the file.
    pub fn string_entries(&mut self, diagnostics: &mut Diagnostics) -> Vec<(Name, Name)> {
        let entries = std::mem::take(&mut self.entries);
        entries
            .into_iter()
            .filter_map(|(name, value)| {
                let text = self.as_string(&name, &value, diagnostics)?;
                Some((name, text))
            })
            .collect()
    }

    /// All entries that are left, each a whole number of at least one.
    pub fn count_entries(&mut self, diagnostics: &mut Diagnostics) -> Vec<(Name, u64)> {
        let entries = std::mem::take(&mut self.entries);
        let mut counts = Vec::new();
        for (name, value) in entries {
            let number = match value.get_ref() {
                DeValue::Integer(integer) => u64::from_str_radix(integer.as_str(), integer.radix()).ok(),
                _ => None,
            };
            match number {
                Some(count) => counts.push((name, count)),
                None => self.wrong_type(&name, self.value_span(&value), "a whole number", "1", diagnostics),
            }
        }
        counts
    }

    /// Reports keys that nothing asked for.
    pub fn finish(self, place: &str, diagnostics: &mut Diagnostics) {
        for (name, _) in &self.entries {
            let what = format!("key {{}} in {place}");
            diagnostics.push(unknown_name("manifest/key", &what, name, self.known.iter().map(String::as_str)));
        }
    }
}
