//! Where rules stand in the cascade, whatever media say: for whoever writes them anew in another order.

use super::layering::{Layering, Origin};
use super::layers::Layers;
use super::stylesheet::Stylesheet;

/// Where declarations of a rule stand in the cascade; compares as the cascade does (CSS Cascade 5, section 6.1), scopes left out.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Rank {
    layering: Layering,
    specificity: u32,
    order: (u16, u32),
}

impl Rank {
    /// Whether it is that of `!important` declarations.
    pub fn is_important(self) -> bool {
        self.layering.is_important()
    }
}

/// The ranks of a rule's declarations: of those that are not important, and of those that are.
pub type Ranks = [Rank; 2];

/// The ranks of all rules of a page's stylesheets, by sheet and rule.
pub fn ranks(sheets: &[&Stylesheet]) -> Vec<Vec<Ranks>> {
    let mut layers = Layers::default();
    let here: Vec<_> = sheets.iter().map(|sheet| layers.merge(&sheet.layers, |_| true)).collect();
    let of_layers = layers.ranks();
    let of_sheet = |(index, sheet): (usize, &&Stylesheet)| {
        let rules = sheet.rules.iter().enumerate();
        let ranks = rules.map(|(at, rule)| {
            let layer = rule.layer.and_then(|layer| here[index][layer.index()]).map(|id| of_layers[id.index()]);
            [false, true].map(|important| Rank {
                layering: Layering::new(Origin::Author, important, false, layer),
                specificity: rule.selector.specificity(),
                order: (index as u16, at as u32),
            })
        });
        ranks.collect()
    };
    sheets.iter().enumerate().map(of_sheet).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn ranks_compare_as_the_cascade_does() {
        let one = Stylesheet::parse("@layer low { #x { color: red } } .a { color: red } p.a { color: red }");
        let other = Stylesheet::parse("p.a { color: red } @layer low { p { color: red } }");
        let ranks = ranks(&[&one, &other]);
        let [in_layer, class, both] = [ranks[0][0], ranks[0][1], ranks[0][2]];
        let [later, weak] = [ranks[1][0], ranks[1][1]];
        assert!(in_layer[0] < class[0] && class[0] < both[0] && both[0] < later[0]);
        assert!(weak[0] < in_layer[0], "one layer of two sheets: specificity decides");
        assert!(class[1] < in_layer[1], "what is important in a layer beats what is so outside of it");
        assert!(both[0] < class[1] && class[1].is_important() && !class[0].is_important());
    }
}
