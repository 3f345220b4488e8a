//! `markup/stylesheet`.

use crate::judged::pages::{BUTTON, of_pages};

#[test]
fn a_page_that_uses_the_system_links_it() {
    let said = |head: &str, body: &str| {
        let page = format!("<!doctype html><html lang=\"en\"><title>Ferries</title>{head}<body>{body}");
        of_pages("markup/stylesheet", &[page]).remove(0)
    };
    let nothing = Vec::<String>::new();
    for link in ["dist/example.css", "/assets/example.css?v=2", "../example.min.css"] {
        let head = format!("<link rel=\"stylesheet\" href=\"{link}\">");
        assert_eq!(said(&head, BUTTON), (nothing.clone(), 1), "{link}");
    }
    // A page without a control of the system needs nothing of it.
    assert_eq!(said("", "<button type=\"button\">Book</button>"), (nothing, 0));
    for head in ["", "<link rel=\"stylesheet\" href=\"site.css\">", "<link rel=\"preload\" href=\"dist/example.css\">"]
    {
        let (found, decided) = said(head, BUTTON);
        assert_eq!((found.len(), decided), (1, 1), "{head}");
        assert!(found[0].contains("does not link its stylesheet"), "{found:?}");
    }
}
