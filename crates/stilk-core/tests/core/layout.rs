//! Where boxes stand: small pages with the rectangles that a browser gives them in the reference font.

use stilk_core::dom::{Document, NodeId};
use stilk_core::engine::defaults::Browser;
use stilk_core::engine::{Engine, Forced, Media, Styles, Stylesheet};
use stilk_core::layout::{Known, Layout, lay_out};
use stilk_core::page::Page;

struct Drawn {
    document: Document,
    styles: Styles,
    host: NodeId,
    layout: Result<Layout, String>,
}

impl Drawn {
    fn new(css: &str, html: &str) -> Drawn {
        let page = Page::parse(&format!("<!doctype html><body>{html}"));
        let host = page.by_id("host").expect("a host");
        let engine = Engine::new(Browser::Chromium.sheet(), &[&Stylesheet::parse(css)], Media::default());
        let styles = engine.styles(&page.document, &Forced::default());
        let layout = lay_out(&page.document, &styles, host, 400.0).map_err(|reason| reason.0.to_owned());
        Drawn { document: page.document, styles, host, layout }
    }

    fn node(&self, id: &str) -> NodeId {
        let has_id = |node: &NodeId| self.document.element(*node).is_some_and(|e| e.attribute("id") == Some(id));
        self.document.descendants(Document::ROOT).into_iter().find(has_id).expect("an element")
    }

    /// x, y, width and height, rounded to tenths; `?` where it is not known, `~` where the font decides.
    fn rect(&self, id: &str) -> String {
        let layout = self.layout.as_ref().expect("a layout");
        let sides = layout.drawn_sides(&self.document, &self.styles, self.host, (self.node(id), None)).expect("sides");
        let side = |(px, known): &(f32, Known)| match known {
            Known::Values => format!("{:.1}", px),
            Known::Font => format!("~{:.1}", px),
            Known::No => "?".to_owned(),
        };
        sides.iter().map(side).collect::<Vec<_>>().join(" ")
    }
}

#[test]
fn blocks_and_their_edges() {
    let css = "#host { padding: 10px; border: 2px solid; width: 100px; } #a { height: 20px; margin: 5px 0; } #b { height: 10px; margin-top: 8px; }";
    let drawn = Drawn::new(css, "<div id=host><div id=a></div><div id=b></div></div>");
    assert_eq!(drawn.rect("host"), "0.0 0.0 124.0 67.0");
    // Margins of neighbours collapse.
    assert_eq!((drawn.rect("a"), drawn.rect("b")), ("12.0 17.0 100.0 20.0".into(), "12.0 45.0 100.0 10.0".into()));
}

#[test]
fn items_stand_beside_each_other_and_are_centred() {
    let css = "#host { display: inline-flex; gap: 6px; align-items: center; padding: 4px; } #a { width: 30px; height: 10px; } #b { width: 20px; height: 20px; }";
    let drawn = Drawn::new(css, "<button id=host style='border: 0'><span id=a></span><span id=b></span></button>");
    assert_eq!(drawn.rect("host"), "0.0 0.0 64.0 28.0");
    assert_eq!((drawn.rect("a"), drawn.rect("b")), ("4.0 9.0 30.0 10.0".into(), "40.0 4.0 20.0 20.0".into()));
}

#[test]
fn text_is_as_wide_as_in_the_reference_font() {
    let css = "#host { display: inline-block; font: 16px/20px serif; padding: 2px 5px; }";
    let drawn = Drawn::new(css, "<span id=host>Yo</span>");
    // Y and o stand closer together than their advances say.
    assert_eq!(drawn.rect("host"), "0.0 0.0 ~28.1 24.0");
    let wide = Drawn::new("#host { width: 60px; font: 16px/20px serif; }", "<p id=host>one two three four</p>");
    assert_eq!(wide.rect("host"), "0.0 0.0 60.0 ~60.0");
    // A line height of the font's own depends on the page's font.
    assert_eq!(Drawn::new("#host { font-size: 16px; }", "<p id=host>one</p>").rect("host"), "0.0 0.0 400.0 ~18.0");
}

#[test]
fn placed_boxes_stand_in_what_contains_them() {
    let css = "#host { position: relative; width: 40px; height: 20px; border: 2px solid; } #a { position: absolute; inset: 0; margin: auto; width: 10px; height: 10px; } #b { position: absolute; right: 0; bottom: 0; width: 4px; height: 4px; translate: 50% 50%; }";
    let drawn = Drawn::new(css, "<div id=host><i id=a></i><i id=b></i></div>");
    assert_eq!((drawn.rect("a"), drawn.rect("b")), ("17.0 7.0 10.0 10.0".into(), "40.0 20.0 4.0 4.0".into()));
    let layout = drawn.layout.as_ref().expect("a layout");
    let boxes = [(drawn.node("a"), None), (drawn.host, None)];
    let gaps = layout.gaps(&drawn.document, &drawn.styles, drawn.host, boxes).expect("gaps");
    assert_eq!(gaps, [17.0, 7.0, 17.0, 7.0]);
}

#[test]
fn what_a_browser_decides_is_not_known_and_the_rest_is() {
    let css = "#host { display: flex; } #a { appearance: none; border: 0; padding: 0; font: 16px/20px serif; } #b { flex: none; width: 10px; height: 10px; }";
    let drawn = Drawn::new(css, "<div id=host><input id=a><i id=b></i></div>");
    assert_eq!((drawn.rect("a"), drawn.rect("b")), ("0.0 0.0 ? 20.0".into(), "? 0.0 10.0 10.0".into()));
    let table = Drawn::new("", "<table id=host><tr><td>x</table>");
    assert_eq!(table.layout.err(), Some("a layout of tables".into()));
}

#[test]
fn tracks_of_a_grid() {
    let css = "#host { display: grid; width: 100px; grid-template-columns: 20px repeat(2, minmax(0, 1fr)); gap: 10px; } i { height: 5px; }";
    let drawn = Drawn::new(css, "<div id=host><i id=a></i><i id=b></i><i id=c></i><i id=d></i></div>");
    assert_eq!(drawn.rect("b"), "30.0 0.0 30.0 5.0");
    assert_eq!((drawn.rect("c"), drawn.rect("d")), ("70.0 0.0 30.0 5.0".into(), "0.0 15.0 20.0 5.0".into()));
}
