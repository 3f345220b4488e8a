//! Where boxes stand: small pages with the rectangles that a browser gives them in the reference font.

use stilk_engine::cascade::defaults::Browser;
use stilk_engine::cascade::{Engine, Forced, Media, PseudoElement, Styled, Styles, Stylesheet};
use stilk_engine::dom::{Document, NodeId};
use stilk_engine::layout::{Known, Layout, lay_out};
use stilk_engine::page::Page;

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
        let sides =
            layout.drawn_sides(&self.document, &self.styles, self.host, Styled::element(self.node(id))).expect("sides");
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
    let boxes = [Styled::element(drawn.node("a")), Styled::element(drawn.host)];
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

#[test]
fn what_is_compared_with_a_share_of_a_width_is_known_where_it_decides_nothing() {
    let css = |own: &str| {
        format!(
            "#host {{ position: relative; width: 200px; height: 30px; }} #a {{ position: absolute; top: 30px; left: 0; height: 20px; {own} }}"
        )
    };
    let rect = |own: &str| Drawn::new(&css(own), "<div id=host><i id=a></i></div>").rect("a");
    assert_eq!(rect("min-width: max(100%, 150px);"), "0.0 30.0 ? 20.0");
    assert_eq!(rect("width: 120px; max-width: max(100%, 150px);"), "0.0 30.0 120.0 20.0");
    assert_eq!(rect("width: 120px; min-width: min(50px, 100%);"), "0.0 30.0 120.0 20.0");
    assert_eq!(rect("width: 120px; margin-left: min(4px, 100%);"), "? 30.0 120.0 20.0");
    // Down a page a share is of a height, which may be nobody's.
    let down = Drawn::new(&css("width: 10px; min-height: max(50%, 4px);"), "<div id=host><i id=a></i></div>");
    assert_eq!(down.layout.err().as_deref(), Some("a comparison with a percentage needs a layout"));
    // What goes up and down with its argument is not known at two ends.
    let turning = Drawn::new(&css("width: mod(100%, 7px);"), "<div id=host><i id=a></i></div>");
    assert_eq!(turning.layout.err().as_deref(), Some("a function of a percentage needs a layout"));
}

#[test]
fn sizes_are_of_the_box_that_is_said() {
    let sized = |own: &str| Drawn::new(&format!("#host {{ {own} }}"), "<div id=host></div>").rect("host");
    assert_eq!(sized("width: 100px; height: 20px; padding: 5px; border: 1px solid;"), "0.0 0.0 112.0 32.0");
    assert_eq!(
        sized("box-sizing: border-box; width: 100px; height: 20px; padding: 5px; border: 1px solid;"),
        "0.0 0.0 100.0 20.0"
    );
    // Never smaller than its edges.
    assert_eq!(
        sized("box-sizing: border-box; width: 8px; height: 8px; padding: 5px; border: 1px solid;"),
        "0.0 0.0 12.0 12.0"
    );
    assert_eq!(sized("width: 50%; height: 10px; min-width: 250px;"), "0.0 0.0 250.0 10.0");
    assert_eq!(sized("width: 50%; height: 10px; max-width: 150px;"), "0.0 0.0 150.0 10.0");
    // The least wins over the most.
    assert_eq!(sized("width: 50%; height: 10px; max-width: 150px; min-width: 160px;"), "0.0 0.0 160.0 10.0");
    assert_eq!(sized("width: 100px; aspect-ratio: 4 / 1;"), "0.0 0.0 100.0 25.0");
    // Shares of paddings are of the width, above and below as well.
    assert_eq!(sized("width: 100px; padding-top: 10%;"), "0.0 0.0 100.0 40.0");
}

#[test]
fn items_share_what_room_there_is() {
    let row = |container: &str, items: &str| {
        let css = format!("#host {{ display: flex; width: 300px; {container} }} i {{ height: 10px; {items} }}");
        let drawn = Drawn::new(&css, "<div id=host><i id=a></i><i id=b></i><i id=c></i></div>");
        ["a", "b", "c"].map(|id| drawn.rect(id))
    };
    assert_eq!(row("", "flex: 1;"), ["0.0 0.0 100.0 10.0", "100.0 0.0 100.0 10.0", "200.0 0.0 100.0 10.0"]);
    assert_eq!(
        row("gap: 30px; justify-content: center;", "width: 60px;"),
        ["30.0 0.0 60.0 10.0", "120.0 0.0 60.0 10.0", "210.0 0.0 60.0 10.0"]
    );
    assert_eq!(
        row("justify-content: space-between;", "width: 60px;"),
        ["0.0 0.0 60.0 10.0", "120.0 0.0 60.0 10.0", "240.0 0.0 60.0 10.0"]
    );
    // Too wide, they shrink, or go on in another line.
    assert_eq!(row("", "width: 150px;"), ["0.0 0.0 100.0 10.0", "100.0 0.0 100.0 10.0", "200.0 0.0 100.0 10.0"]);
    assert_eq!(
        row("flex-wrap: wrap; row-gap: 5px;", "width: 150px;"),
        ["0.0 0.0 150.0 10.0", "150.0 0.0 150.0 10.0", "0.0 15.0 150.0 10.0"]
    );
    assert_eq!(
        row("flex-direction: row-reverse;", "width: 50px;"),
        ["250.0 0.0 50.0 10.0", "200.0 0.0 50.0 10.0", "150.0 0.0 50.0 10.0"]
    );
    assert_eq!(
        row("direction: rtl;", "width: 50px;"),
        ["250.0 0.0 50.0 10.0", "200.0 0.0 50.0 10.0", "150.0 0.0 50.0 10.0"]
    );
    assert_eq!(
        row("flex-direction: column; gap: 2px; align-items: end;", "width: 50px;"),
        ["250.0 0.0 50.0 10.0", "250.0 12.0 50.0 10.0", "250.0 24.0 50.0 10.0"]
    );
}

#[test]
fn what_is_drawn_elsewhere_is_drawn_there() {
    let css = |own: &str| format!("#host {{ width: 100px; height: 40px; }} #a {{ width: 20px; height: 10px; {own} }}");
    let rect = |own: &str| Drawn::new(&css(own), "<div id=host><div id=a></div></div>").rect("a");
    assert_eq!(rect("translate: 5px -3px;"), "5.0 -3.0 20.0 10.0");
    assert_eq!(rect("translate: 50% 100%;"), "10.0 10.0 20.0 10.0");
    assert_eq!(rect("transform: translate(5px, 2px);"), "5.0 2.0 20.0 10.0");
    assert_eq!(rect("scale: 2;"), "-10.0 -5.0 40.0 20.0");
    assert_eq!(rect("scale: 2; transform-origin: 0 0;"), "0.0 0.0 40.0 20.0");
    assert_eq!(rect("transform: scale(2, 1) translate(10%, 0); transform-origin: left;"), "4.0 0.0 40.0 10.0");
    assert_eq!(rect("rotate: 90deg;"), "5.0 -5.0 10.0 20.0");
    assert_eq!(rect("rotate: 180deg; transform-origin: 0 0;"), "-20.0 -10.0 20.0 10.0");
    // First it is turned, then moved along the page.
    assert_eq!(rect("rotate: 90deg; translate: 5px 0;"), "10.0 -5.0 10.0 20.0");
    assert_eq!(rect("position: relative; top: 4px; left: -2px;"), "-2.0 4.0 20.0 10.0");
    assert_eq!(rect("margin: 3px auto 0;"), "40.0 0.0 20.0 10.0", "the upper margin is the host's own");
}

#[test]
fn what_is_turned_a_little_is_drawn_on_no_rectangle() {
    for own in
        ["rotate: 45deg;", "transform: skewX(10deg);", "rotate: x 60deg;", "transform: rotate3d(1, 1, 0, 10deg);"]
    {
        let drawn = Drawn::new(&format!("#host {{ width: 20px; height: 10px; {own} }}"), "<div id=host></div>");
        let layout = drawn.layout.as_ref().expect("a layout");
        let sides = layout.drawn_sides(&drawn.document, &drawn.styles, drawn.host, Styled::element(drawn.host));
        assert!(sides.is_err(), "{own}: {sides:?}");
    }
}

#[test]
fn generated_boxes_are_boxes() {
    let css = "#host { position: relative; width: 40px; height: 20px; } #host::after { content: ''; position: absolute; inset: -4px; } #host::before { content: ''; display: block; width: 10px; height: 6px; margin-left: 3px; }";
    let drawn = Drawn::new(css, "<div id=host></div>");
    let layout = drawn.layout.as_ref().expect("a layout");
    let rect = |pseudo| {
        let placed = layout.of(Styled::pseudo(drawn.host, pseudo)).expect("a box").rect().expect("a known one");
        [placed.x, placed.y, placed.width, placed.height]
    };
    assert_eq!(rect(PseudoElement::After), [-4.0, -4.0, 48.0, 28.0]);
    assert_eq!(rect(PseudoElement::Before), [3.0, 0.0, 10.0, 6.0]);
    // Without content there is none.
    let none = Drawn::new(&css.replace("content: ''; display", "display"), "<div id=host></div>");
    assert!(none.layout.as_ref().expect("a layout").of(Styled::pseudo(none.host, PseudoElement::Before)).is_none());
}

#[test]
fn lines_are_as_high_as_what_stands_in_them() {
    let lines = |css: &str, html: &str| {
        let css = format!("#host {{ width: 200px; font: 16px/20px serif; }} {css}");
        Drawn::new(&css, &format!("<div id=host>{html}</div>")).rect("host")
    };
    assert_eq!(lines("", "one"), "0.0 0.0 200.0 20.0");
    assert_eq!(lines("", "one<br>two"), "0.0 0.0 200.0 40.0");
    assert_eq!(lines("", "one<br>"), "0.0 0.0 200.0 20.0");
    assert_eq!(lines("", "<br>"), "0.0 0.0 200.0 20.0");
    assert_eq!(lines("", "one<br><br><b>two</b>"), "0.0 0.0 200.0 60.0");
    assert_eq!(lines("br { display: none; }", "one<br>two"), "0.0 0.0 200.0 20.0");
    assert_eq!(lines("", "   "), "0.0 0.0 200.0 0.0");
    // Vertical padding of an inline box takes no room, that of a block in a line does.
    assert_eq!(lines("b { padding: 9px 0; }", "<b>one</b>"), "0.0 0.0 200.0 20.0");
    assert_eq!(lines("b { display: inline-block; padding: 9px 0; }", "<b>one</b>"), "0.0 0.0 200.0 38.0");
}
