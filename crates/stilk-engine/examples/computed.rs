//! What a browser would compute: `cargo run -p stilk-engine --example computed`.
//!
//! Reads a page and a stylesheet as text, forces a state, and says of a few values what they are, why, and where boxes stand.

use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Forced, Media, PseudoClass, Styled};
use stilk_engine::css::Longhand;
use stilk_engine::inspect::{Inspector, SourceSheet};
use stilk_engine::layout::lay_out;
use stilk_engine::page::Page;

const PAGE: &str = "<!doctype html><p id=note>Ferries run <b>hourly</b>.</p><button id=book>Book</button>";
const CSS: &str = "
    :root { --sea: oklch(0.5 0.11 232); }
    button { color: white; background: var(--sea); padding: 4px 12px; font: 16px/24px sans-serif; }
    button:hover { background: color-mix(in oklab, var(--sea), black 20%); }
    @layer reset { button { color: red !important; } }";

fn main() {
    let page = Page::parse(PAGE);
    let sheet = SourceSheet::new("page.css", CSS);
    let defaults = SourceSheet::defaults(Browser::Chromium);
    let book = page.by_id("book").expect("the button");
    let mut forced = Forced::default();
    forced.add(book, PseudoClass::Hover);
    let inspection = Inspector::new(&page.document, &defaults, vec![&sheet], Media::default(), &forced);
    let style = inspection.style(Styled::element(book)).expect("a style");
    for longhand in [Longhand::BackgroundColor, Longhand::Color, Longhand::Cursor] {
        let explained = inspection.explain(&style, longhand);
        match &explained.value {
            Ok(value) => println!("{}: {value}", longhand.name()),
            Err(unknown) => println!("{}: unknown: {}", longhand.name(), unknown.0),
        }
        for declaration in &explained.said {
            let line = declaration.place.as_ref().map_or(0, |place| place.line);
            println!("  line {line}: {} {{ {} }}: {:?}", declaration.selector, declaration.text, declaration.fate);
        }
    }
    let layout = lay_out(&page.document, &inspection.styles, book, 400.0).expect("nothing in it is unknown");
    let placed = layout.of(Styled::element(book)).expect("a box");
    println!("height: {:?}px", placed.height().map_err(|unknown| unknown.0));
}
