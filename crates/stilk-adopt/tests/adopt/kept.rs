//! What stays, and what is left as it was.

use crate::support::{adopted, has, page, request, site};
use stilk_adopt::adopt::adopt;
use stilk_survey::survey::Only;

#[test]
fn what_stays_keeps_its_text_and_order_in_a_layer() {
    let css = "@charset \"utf-8\";\n@import url(print.css) print;\n/* the base */\nbody { margin: 0 }\n\n\
               .cta, .teaser { padding: 8px; border: 0; background: #222; color: #eee }\n.card { color: red }\n";
    let adopted = adopted(&page(css, "<button class=cta>A</button> <div class=teaser>B</div>"));
    let kept = &adopted.kept[0];
    assert_eq!((kept.old.as_str(), kept.path.as_str()), ("s.css", "kept.css"));
    has(
        &kept.text,
        &["@import url(print.css) layer(kept) print;\n@layer kept {", "/* the base */\nbody { margin: 0 }"],
    );
    // A list that is for others as well stays for these.
    has(&kept.text, &[".teaser { padding: 8px", ".card { color: red }\n}"]);
}

#[test]
fn stylesheets_in_pages_have_a_file_of_their_own() {
    let html = "<!doctype html><style>.cta { padding: 8px; border: 0; background: #222; color: #eee } p { margin: 0 }</style>\
                <body><button class=cta>A</button>";
    let adopted = adopted(&site(&[("p.html", html)], &[]));
    assert!(adopted.kept[0].is_inline);
    has(&adopted.kept[0].text, &["@layer kept {", "p { margin: 0 }"]);
    assert!(!adopted.kept[0].text.contains(".cta"));
}

#[test]
fn some_families_can_be_adopted_and_the_others_stay() {
    let css = ".a { padding: 8px; border: 0; background: #222; color: #eee }\n.b { padding: 9px; border: 0; background: #333; color: #eee }";
    let site = page(css, "<button class=a>A</button> <button class=b>B</button>");
    let only = vec![Only::read(".a").expect("a selector")];
    let adopted = adopt(&site, &stilk_adopt::adopt::Request { only, ..request() }).expect("adopted");
    assert_eq!(adopted.became.iter().map(|one| one.control.as_str()).collect::<Vec<_>>(), ["a"]);
    assert!(adopted.kept[0].text.contains(".b { padding: 9px") && !adopted.kept[0].text.contains(".a {"));
    assert_eq!(adopted.proof.differing, 0);
}

#[test]
fn a_family_that_cannot_be_said_stays_with_the_reason() {
    // Where the property comes from no sheet knows.
    let css = ".card { --paint: #246 } .a { padding: 8px; border: 0; background: var(--paint); color: #eee }";
    let site = page(css, "<div class=card><button class=a>A</button></div>");
    let adopted = adopt(&site, &request()).expect("nothing is wrong with the pages");
    assert!(adopted.became.is_empty());
    assert_eq!(adopted.left.len(), 1);
    assert!(adopted.left[0].why.contains("--paint"), "{}", adopted.left[0].why);
    has(&adopted.kept[0].text, &[".a { padding: 8px;"]);
    has(&adopted.files["ADOPTED.md"], &["## What stays as it was", "`.a` (1 control)"]);
}

#[test]
fn pages_in_two_orders_are_refused() {
    let link = |one: &str, other: &str| {
        format!(
            "<!doctype html><link rel=stylesheet href={one}><link rel=stylesheet href={other}><body><button class=a>A</button>"
        )
    };
    let (ab, ba) = (link("a.css", "b.css"), link("b.css", "a.css"));
    let css = ".a { padding: 8px; border: 0; background: #222; color: #eee }";
    let site = site(&[("1.html", &ab), ("2.html", &ba)], &[("a.css", css), ("b.css", "p { margin: 0 }")]);
    assert!(adopt(&site, &request()).is_err_and(|why| why.contains("orders")));
}
