//! The tree of cascade layers (CSS Cascade 5, section 6.4).

use super::stylesheet::Condition;
use std::sync::Arc;

/// Index of a layer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct LayerId(u32);

/// The tree of cascade layers (CSS Cascade 5, section 6.4).
#[derive(Debug, Default)]
pub struct Layers {
    list: Vec<Layer>,
    /// Where layers are named, in order, with the conditions there: a layer that is named only where a condition does not
    /// hold is not there yet.
    mentions: Vec<(LayerId, Arc<[Condition]>)>,
}

#[derive(Debug)]
struct Layer {
    name: Option<String>,
    parent: Option<LayerId>,
}

impl Layers {
    /// The layer with a dotted name inside another, made if it is new.
    pub(super) fn enter(&mut self, parent: Option<LayerId>, name: &str) -> LayerId {
        let mut at = parent;
        for part in name.split('.') {
            let found = self.list.iter().position(|l| l.parent == at && l.name.as_deref() == Some(part));
            let index = found.unwrap_or_else(|| {
                self.list.push(Layer { name: Some(part.to_owned()), parent: at });
                self.list.len() - 1
            });
            at = Some(LayerId(index as u32));
        }
        at.unwrap_or(LayerId(0))
    }

    /// A layer of its own without a name.
    pub(super) fn anonymous(&mut self, parent: Option<LayerId>) -> LayerId {
        self.list.push(Layer { name: None, parent });
        LayerId(self.list.len() as u32 - 1)
    }

    /// Adds another sheet's layers, as far as they are named where `holds` says so; layers of one name are one layer.
    /// Returns the layer here for each of the other's.
    pub fn merge(&mut self, other: &Layers, holds: impl Fn(&[Condition]) -> bool) -> Vec<Option<LayerId>> {
        let mut here = vec![None; other.list.len()];
        for (id, _) in other.mentions.iter().filter(|(_, conditions)| holds(conditions)) {
            self.adopt(other, *id, &mut here);
        }
        here
    }

    fn adopt(&mut self, other: &Layers, id: LayerId, here: &mut [Option<LayerId>]) -> LayerId {
        if let Some(known) = here[id.index()] {
            return known;
        }
        let layer = &other.list[id.index()];
        let parent = layer.parent.map(|parent| self.adopt(other, parent, here));
        let own = match &layer.name {
            // A name holds no dot here.
            Some(name) => self.enter(parent, name),
            None => self.anonymous(parent),
        };
        here[id.index()] = Some(own);
        own
    }

    /// Notes that a layer is named where some conditions must hold.
    pub(super) fn mention(&mut self, layer: LayerId, conditions: Arc<[Condition]>) {
        self.mentions.push((layer, conditions));
    }

    /// The rank of every layer, lowest first: a layer's own rules come after those of the layers inside it.
    pub fn ranks(&self) -> Vec<u32> {
        let mut children: Vec<Vec<usize>> = vec![Vec::new(); self.list.len() + 1];
        for (i, layer) in self.list.iter().enumerate() {
            children[layer.parent.map_or(self.list.len(), LayerId::index)].push(i);
        }
        let mut ranks = vec![0; self.list.len()];
        let mut next = 0;
        // Each layer is met twice: on the way down, and after everything in it.
        let mut stack: Vec<(usize, bool)> = children[self.list.len()].iter().rev().map(|i| (*i, false)).collect();
        while let Some((i, done)) = stack.pop() {
            if done {
                ranks[i] = next;
                next += 1;
            } else {
                stack.push((i, true));
                stack.extend(children[i].iter().rev().map(|child| (*child, false)));
            }
        }
        ranks
    }

    /// A layer's full name; `(anonymous)` for those without one.
    pub fn name(&self, id: LayerId) -> String {
        let layer = &self.list[id.0 as usize];
        let own = layer.name.as_deref().unwrap_or("(anonymous)");
        match layer.parent {
            Some(parent) => format!("{}.{own}", self.name(parent)),
            None => own.to_owned(),
        }
    }
}

impl LayerId {
    /// Index into [`Layers::ranks`].
    pub fn index(self) -> usize {
        self.0 as usize
    }
}
