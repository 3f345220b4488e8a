//! Pseudo-elements that have a style of their own, and what has a style at all.

use crate::dom::NodeId;

macro_rules! pseudo_elements {
    ($($id:ident $name:literal $doc:literal;)*) => {
        /// A pseudo-element whose style is computed when a rule matches it.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        pub enum PseudoElement {
            $(#[doc = $doc] $id,)*
        }

        impl PseudoElement {
            /// All of them, in the order in which they are listed.
            pub const ALL: &[PseudoElement] = &[$(PseudoElement::$id),*];

            /// Its name without colons.
            pub fn name(self) -> &'static str {
                match self { $(PseudoElement::$id => $name,)* }
            }
        }
    };
}

pseudo_elements! {
    Before "before" "`::before`";
    After "after" "`::after`";
    Placeholder "placeholder" "`::placeholder`";
    FileSelectorButton "file-selector-button" "`::file-selector-button`";
    WebkitSliderThumb "-webkit-slider-thumb" "A slider's thumb in Chromium and WebKit.";
    WebkitSliderTrack "-webkit-slider-runnable-track" "A slider's track in Chromium and WebKit.";
    MozRangeThumb "-moz-range-thumb" "A slider's thumb in Firefox.";
    MozRangeTrack "-moz-range-track" "A slider's track in Firefox.";
}

impl PseudoElement {
    /// The two that `content` brings about.
    pub const GENERATED: [PseudoElement; 2] = [PseudoElement::Before, PseudoElement::After];

    /// The one with this name, without colons.
    pub fn find(name: &str) -> Option<PseudoElement> {
        PseudoElement::ALL.iter().copied().find(|pseudo| pseudo.name() == name)
    }

    /// Whether `content` brings it about.
    pub fn is_generated(self) -> bool {
        PseudoElement::GENERATED.contains(&self)
    }
}

/// An element, or one of its pseudo-elements: whatever has a style.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Styled {
    /// The element.
    pub node: NodeId,
    /// Its pseudo-element; nothing for the element itself.
    pub pseudo: Option<PseudoElement>,
}

impl Styled {
    /// An element itself.
    pub fn element(node: NodeId) -> Styled {
        Styled { node, pseudo: None }
    }

    /// A pseudo-element of an element.
    pub fn pseudo(node: NodeId, pseudo: PseudoElement) -> Styled {
        Styled { node, pseudo: Some(pseudo) }
    }

    /// An element, and what `content` brings about in it.
    pub fn with_generated(node: NodeId) -> [Styled; 3] {
        [None, Some(PseudoElement::Before), Some(PseudoElement::After)].map(|pseudo| Styled { node, pseudo })
    }

    /// Whether `content` brings it about.
    pub fn is_generated(self) -> bool {
        self.pseudo.is_some_and(PseudoElement::is_generated)
    }
}
