//! Pages as documents, parsed when they are asked for and kept while there is room.

use rustc_hash::FxHashMap;
use std::cell::RefCell;
use std::rc::Rc;
use stilk_engine::dom::Document;
use stilk_survey::site::Site;

/// So many are kept: what one thing asks for in a row is there.
const MOST: usize = 256;

/// The pages of a site.
pub struct Documents<'d> {
    site: &'d Site,
    known: RefCell<FxHashMap<usize, Rc<Document>>>,
}

impl<'d> Documents<'d> {
    /// Of a site.
    pub fn of(site: &'d Site) -> Documents<'d> {
        Documents { site, known: RefCell::default() }
    }

    /// A page.
    pub fn get(&self, page: usize) -> Rc<Document> {
        if let Some(known) = self.known.borrow().get(&page) {
            return Rc::clone(known);
        }
        let document = Rc::new(self.site.document(page));
        let mut known = self.known.borrow_mut();
        if known.len() >= MOST {
            known.clear();
        }
        known.insert(page, Rc::clone(&document));
        document
    }
}
