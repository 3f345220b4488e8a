//! What stands together on pages.

use crate::draft::{Draft, Workshop};
use crate::when::When;
use rustc_hash::FxHashMap;
use std::collections::BTreeSet;
use std::rc::Rc;
use stilk_engine::cascade::matching::matches;
use stilk_engine::cascade::selector::parse_list;
use stilk_engine::dom::Document;
use stilk_language::system::StateId;
use stilk_survey::family::{Chooser, Member};

/// Which options and places stand together on pages: what never does is not written out.
pub struct Seen<'s> {
    members: Vec<(BTreeSet<usize>, usize, &'s Member)>,
    documents: FxHashMap<usize, Rc<Document>>,
    /// States by classes that pages have, with the hosts that have them.
    bearers: Vec<(StateId, BTreeSet<usize>)>,
    /// By condition: the controls that meet it; nothing where it may come and go.
    known: FxHashMap<String, Option<BTreeSet<usize>>>,
}

impl<'s> Seen<'s> {
    /// Of the controls of a family.
    pub fn of(draft: &Draft, shop: &'s Workshop, members: &[(usize, &'s Member)]) -> Seen<'s> {
        let mut documents = FxHashMap::default();
        let mut all = Vec::new();
        for (_, member) in members {
            documents.entry(member.page).or_insert_with(|| shop.documents.get(member.page));
            let has = |chooser: &Chooser| match chooser {
                Chooser::Class(class) => member.element.classes.iter().any(|own| **own == **class),
                Chooser::Id(id) => member.element.attribute("id") == Some(id),
                Chooser::Attribute(_) | Chooser::Place(_) => member.options.contains(chooser),
            };
            let options: BTreeSet<usize> =
                (0..draft.options.len()).filter(|at| has(&draft.options[*at].chooser)).collect();
            let host = draft.hosts.iter().position(|host| {
                host.sample.local() == member.element.local()
                    && host.sample.attribute("type") == member.element.attribute("type")
            });
            all.push((options, host.unwrap_or(0), *member));
        }
        let of_class = |id: StateId| {
            let class = shop.own.states.get(id).selectors.first()?.strip_prefix('.')?;
            let names = shop.ground.bearers.get(class)?;
            let hosts = draft.hosts.iter().enumerate().filter(|(_, host)| names.contains(host.sample.local()));
            Some((id, hosts.map(|(at, _)| at).collect()))
        };
        let bearers = shop.own.states.own().filter_map(|state| of_class(state.id)).collect();
        Seen { members: all, documents, bearers, known: FxHashMap::default() }
    }

    /// Whether some control is what is asked for, as far as it lasts.
    pub fn is_seen(&mut self, when: &When) -> bool {
        // A class that says a state is asked of the kinds of elements that have it on pages.
        let of_class = |id: &StateId| self.bearers.iter().find(|(of, _)| of == id).map(|(_, hosts)| hosts);
        let may_have = |hosts: &BTreeSet<usize>| when.hosts.is_empty() || !when.hosts.is_disjoint(hosts);
        if !when.states.ids().iter().filter_map(of_class).all(may_have) {
            return false;
        }
        if when.options.len() < 2 && when.nested.is_empty() {
            return true;
        }
        let mut left: BTreeSet<usize> = (0..self.members.len()).collect();
        left.retain(|at| {
            let (options, host, _) = &self.members[*at];
            when.options.is_subset(options) && (when.hosts.is_empty() || when.hosts.contains(host))
        });
        for condition in &when.nested {
            if let Some(meeting) = self.meeting(condition) {
                left.retain(|at| meeting.contains(at));
            }
        }
        !left.is_empty()
    }

    fn meeting(&mut self, condition: &str) -> Option<&BTreeSet<usize>> {
        if !self.known.contains_key(condition) {
            const LASTING: [&str; 8] = [":is(", ":where(", ":not(", ":first-", ":last-", ":nth-", ":only-", ":empty"];
            let comes_and_goes = condition
                .match_indices(':')
                .any(|(at, _)| !LASTING.iter().any(|lasting| condition[at..].starts_with(lasting)));
            let list = parse_list(condition).filter(|_| !comes_and_goes);
            let meeting = list.map(|list| {
                let all = self.members.iter().enumerate();
                let meets = |(_, (_, _, member)): &(usize, &(BTreeSet<usize>, usize, &Member))| {
                    matches(&list, &self.documents[&member.page], member.found.host)
                };
                all.filter(meets).map(|(at, _)| at).collect()
            });
            self.known.insert(condition.to_owned(), meeting);
        }
        self.known.get(condition).and_then(Option::as_ref)
    }
}
