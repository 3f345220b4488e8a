//! Which controls and traits mean the same by a name: a copy of a control shares its parts, options and locals, and so
//! does a trait with those that use it, as far as it speaks of them.

use super::OwnKind;
use std::collections::{BTreeMap, BTreeSet, HashMap};

/// Who mentions which names, and who is made of whom.
#[derive(Debug, Default)]
pub struct Scopes {
    /// The control that each is a copy of.
    pub from: HashMap<String, String>,
    /// The traits that each control or trait uses; traits begin with `@`.
    pub traits: HashMap<String, BTreeSet<String>>,
    /// Controls and traits by the names that they mention.
    mentions: BTreeMap<(OwnKind, String), BTreeSet<String>>,
}

/// Controls and traits that share a name, by the one that stands for them.
#[derive(Debug, Default)]
pub struct Shared(HashMap<(OwnKind, String, String), String>);

impl Scopes {
    /// Notes that a control, or a trait by `@NAME`, speaks of something.
    pub fn mention(&mut self, kind: OwnKind, owner: &str, name: &str) {
        self.mentions.entry((kind, name.to_owned())).or_default().insert(owner.to_owned());
    }

    /// Finds out who shares what.
    pub fn shared(&self) -> Shared {
        let mut shared = HashMap::new();
        for ((kind, name), owners) in &self.mentions {
            let mut of: HashMap<&str, &str> = owners.iter().map(|owner| (owner.as_str(), owner.as_str())).collect();
            for owner in owners {
                // Through the chain of originals, whether each of them mentions it or not.
                let mut original = self.from.get(owner);
                let mut steps = 0;
                while let Some(other) = original.filter(|_| steps < 64) {
                    // Two copies of one original share what that has, and nothing else.
                    if owners.contains(other) {
                        join(&mut of, owner, other);
                    }
                    original = self.from.get(other);
                    steps += 1;
                }
                for used in self.traits.get(owner).into_iter().flatten().filter(|used| owners.contains(*used)) {
                    join(&mut of, owner, used);
                }
            }
            for owner in owners {
                let all = owners.iter().filter(|other| root(&of, other) == root(&of, owner));
                // A control stands for them, where there is one.
                let stands = all.min_by_key(|name| (name.starts_with('@'), name.as_str()));
                if let Some(stands) = stands {
                    shared.insert((*kind, owner.clone(), name.clone()), stands.clone());
                }
            }
        }
        Shared(shared)
    }
}

fn root<'n>(of: &HashMap<&'n str, &'n str>, name: &'n str) -> &'n str {
    let mut name = name;
    while let Some(next) = of.get(name).filter(|next| **next != name) {
        name = next;
    }
    name
}

fn join<'n>(of: &mut HashMap<&'n str, &'n str>, one: &'n str, other: &'n str) {
    let (one, other) = (root(of, one), root(of, other));
    if one != other {
        of.insert(one, other);
    }
}

impl Shared {
    /// Who stands for what an owner means by a name.
    pub fn stands_for(&self, kind: OwnKind, owner: &str, name: &str) -> String {
        self.find(kind, owner, name).unwrap_or_else(|| owner.to_owned())
    }

    /// The same; nothing where the owner does not speak of it.
    pub fn find(&self, kind: OwnKind, owner: &str, name: &str) -> Option<String> {
        self.0.get(&(kind, owner.to_owned(), name.to_owned())).cloned()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn copies_and_traits_share_what_they_speak_of() {
        let mut scopes = Scopes::default();
        scopes.from.insert("date".into(), "field".into());
        for user in ["field", "button"] {
            scopes.traits.insert(user.into(), BTreeSet::from(["@ring".to_owned()]));
        }
        for (owner, name) in [("field", "box"), ("date", "box"), ("button", "label"), ("field", "label")] {
            scopes.mention(OwnKind::Part, owner, name);
        }
        for owner in ["field", "button", "@ring"] {
            scopes.mention(OwnKind::Local, owner, "--gap");
        }
        let shared = scopes.shared();
        let of = |kind, owner, name| shared.stands_for(kind, owner, name);
        assert_eq!(of(OwnKind::Part, "date", "box"), of(OwnKind::Part, "field", "box"));
        assert_ne!(of(OwnKind::Part, "button", "label"), of(OwnKind::Part, "field", "label"));
        assert_eq!(of(OwnKind::Local, "button", "--gap"), of(OwnKind::Local, "field", "--gap"));
    }
}
