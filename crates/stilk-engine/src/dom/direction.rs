//! Which way text runs by what stands in it (HTML, section 3.2.6.4).

use super::{Document, NodeData, NodeId};

impl Document {
    /// Whether the first strong character in an element with `dir=auto` is of a script that runs from right to left.
    pub fn runs_right_to_left(&self, root: NodeId) -> bool {
        let Some(element) = self.element(root) else { return false };
        if element.local() == "input" {
            return first_strong(element.attribute("value").unwrap_or_default()) == Some(true);
        }
        let mut stack = vec![root];
        while let Some(node) = stack.pop() {
            match &self.node(node).data {
                NodeData::Text(text) => {
                    if let Some(answer) = first_strong(text) {
                        return answer;
                    }
                }
                NodeData::Element(element) => {
                    let is_own = element.attribute("dir").is_some() || element.local() == "bdi";
                    let is_skipped = matches!(element.local(), "script" | "style" | "textarea") || is_own;
                    if node != root && is_skipped {
                        continue;
                    }
                    stack.extend(self.node(node).children.iter().rev());
                }
                NodeData::Document => {}
            }
        }
        false
    }
}

/// Whether the first character with a direction runs from right to left; nothing where there is none.
fn first_strong(text: &str) -> Option<bool> {
    text.chars().find_map(|c| match c {
        _ if is_right_to_left(c) => Some(true),
        _ if c.is_alphabetic() => Some(false),
        _ => None,
    })
}

/// Letters of bidirectional class R and AL (Unicode Standard Annex 9), by their blocks.
fn is_right_to_left(c: char) -> bool {
    let is_digit_or_mark = matches!(c, '\u{0600}'..='\u{0607}' | '\u{0609}'..='\u{060a}' | '\u{060c}' | '\u{0610}'..='\u{061a}'
        | '\u{064b}'..='\u{066c}' | '\u{06d6}'..='\u{06e4}' | '\u{06e7}'..='\u{06ed}' | '\u{06f0}'..='\u{06f9}' | '\u{0591}'..='\u{05bd}');
    let is_of_script = matches!(c, '\u{0590}'..='\u{08ff}' | '\u{200f}' | '\u{fb1d}'..='\u{fdff}' | '\u{fe70}'..='\u{fefe}'
        | '\u{10800}'..='\u{10fff}' | '\u{1e800}'..='\u{1efff}');
    is_of_script && !is_digit_or_mark
}

#[cfg(test)]
mod tests {
    use super::first_strong;

    #[test]
    fn the_first_letter_says_which_way() {
        let texts = ["12: \u{5d0}bc", "a\u{5d0}", "1, 2!", "\u{0661} \u{0628}", "\u{4e2d}\u{0627}"];
        assert_eq!(texts.map(first_strong), [Some(true), Some(false), None, Some(true), Some(false)]);
    }
}
