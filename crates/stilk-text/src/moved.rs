//! Where places are after an edit: so much at the beginning and at the end of a text is the same.

use crate::source::{FileId, Span};

/// How a text became another one.
#[derive(Debug, Clone, Copy)]
pub struct Moved {
    file: FileId,
    same_until: usize,
    same_from: usize,
    /// Bytes that came or went in between.
    by: i64,
    /// Lines that came or went.
    lines: i64,
}

impl Moved {
    /// From an old text to the one that a file has now.
    pub fn new(old: &str, file: FileId, new: &str) -> Moved {
        let same_until = old.bytes().zip(new.bytes()).take_while(|(a, b)| a == b).count();
        let most = old.len().min(new.len()) - same_until;
        let same_end = old.bytes().rev().zip(new.bytes().rev()).take(most).take_while(|(a, b)| a == b).count();
        let lines = |text: &str| text.bytes().skip(same_until).filter(|byte| *byte == b'\n').count() as i64;
        Moved {
            file,
            same_until,
            same_from: old.len() - same_end,
            by: new.len() as i64 - old.len() as i64,
            lines: lines(new) - lines(old),
        }
    }

    /// Where a place is now; nothing where the edit touched it.
    pub fn place(&self, span: Span) -> Option<Span> {
        let range = span.range();
        if range.end <= self.same_until {
            return Some(Span { file: self.file, ..span });
        }
        let moved = |at: usize| usize::try_from(at as i64 + self.by).ok();
        match range.start >= self.same_from {
            true => Some(Span::new(self.file, moved(range.start)?, moved(range.end)?)),
            false => None,
        }
    }

    /// The same, where it stands on the line on which it stood.
    pub fn on_its_line(&self, span: Span) -> Option<Span> {
        let is_before = span.range().end <= self.same_until;
        self.place(span).filter(|_| is_before || self.lines == 0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::source::Sources;

    #[test]
    fn places_move_with_their_text_and_are_gone_where_it_changed() {
        let mut sources = Sources::default();
        let (file, later) = (sources.add("a", ""), sources.add("b", ""));
        let moved = Moved::new("one two\nthree", later, "one 2\nthree");
        let at = |start, end| Span::new(file, start, end);
        assert_eq!(moved.place(at(0, 3)), Some(Span::new(later, 0, 3)));
        assert_eq!(moved.place(at(4, 7)), None);
        assert_eq!(moved.place(at(8, 13)), Some(Span::new(later, 6, 11)));
        assert_eq!(moved.on_its_line(at(8, 13)), Some(Span::new(later, 6, 11)));
        let moved = Moved::new("one two three", later, "one\ntwo three");
        assert_eq!((moved.on_its_line(at(0, 3)), moved.on_its_line(at(8, 13))), (Some(Span::new(later, 0, 3)), None));
    }
}
