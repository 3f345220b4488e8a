//! Pairs of colours as a page and as a picture.

use stilk_checks::gather::Pair;
use stilk_checks::painted::paint::{floor, hex};
use stilk_engine::dom::{Document, Element, NodeId};
use stilk_text::diagnostic::{clipped, grouped};

const CSS: &str = include_str!("contrast/contrast.css");

/// A ratio as it is shown.
pub fn ratio(ratio: f64) -> String {
    format!("{:.2}", floor(ratio))
}

/// The themes in the order of their names.
pub fn themes(pairs: &[Pair]) -> Vec<&str> {
    let mut themes: Vec<&str> = Vec::new();
    for pair in pairs {
        if !themes.contains(&pair.theme.as_str()) {
            themes.push(&pair.theme);
        }
    }
    themes.sort_unstable();
    themes
}

/// The pairs of a theme.
pub fn of_theme<'p>(pairs: &'p [Pair], theme: &'p str) -> impl Iterator<Item = &'p Pair> {
    pairs.iter().filter(move |pair| pair.theme == theme)
}

/// What meets in a pair.
pub fn names(pair: &Pair) -> String {
    plain(&format!("{} on {}", pair.text, pair.on))
}

fn plain(text: &str) -> String {
    text.replace('`', "")
}

fn is_failing(pair: &Pair) -> bool {
    pair.ratio < pair.needed
}

/// A failing ratio has a mark: colour alone says nothing to some.
fn marked(pair: &Pair) -> String {
    format!("{}{}", if is_failing(pair) { "✗ " } else { "" }, ratio(pair.ratio))
}

/// A page that needs nothing else.
pub fn html(name: &str, pairs: &[Pair]) -> String {
    let mut drawing = Drawing::default();
    let html = drawing.add(Document::ROOT, "html", &[("lang", "en")]);
    drawing.line(html);
    drawing.add(html, "meta", &[("charset", "utf-8")]);
    drawing.line(html);
    drawing.add(html, "meta", &[("name", "viewport"), ("content", "width=device-width, initial-scale=1")]);
    drawing.line(html);
    drawing.text(html, "title", &[], &format!("{name}: contrast"));
    drawing.line(html);
    drawing.text(html, "style", &[], &format!("\n{CSS}"));
    drawing.line(html);
    drawing.text(html, "h1", &[], &format!("{name}: contrast of text"));
    drawing.line(html);
    for theme in themes(pairs) {
        drawing.text(html, "h2", &[], theme);
        drawing.line(html);
        drawing.table(html, of_theme(pairs, theme));
        drawing.line(html);
    }
    format!("<!doctype html>\n{}\n", drawing.document.to_html(html))
}

/// A picture: a swatch for each pair, a column for each theme.
pub fn svg(name: &str, pairs: &[Pair]) -> String {
    const COLUMN: usize = 420;
    const ROW: usize = 34;
    const MONO: &str = "ui-monospace, 'DejaVu Sans Mono', monospace";
    let themes = themes(pairs);
    let most = themes.iter().map(|theme| of_theme(pairs, theme).count()).max().unwrap_or_default();
    let (width, height) = ((themes.len() * COLUMN + 20).to_string(), (most * ROW + 80).to_string());
    let title = format!("{name}: contrast of text");
    let (width, height) = (width.as_str(), height.as_str());
    let mut drawing = Drawing::default();
    let of_all = [
        ("xmlns", "http://www.w3.org/2000/svg"),
        ("width", width),
        ("height", height),
        ("viewBox", &format!("0 0 {width} {height}")),
        ("font-family", MONO),
        ("font-size", "14"),
        ("fill", "#1c1a17"),
    ];
    let svg = drawing.add(Document::ROOT, "svg", &of_all);
    drawing.line(svg);
    drawing.text(svg, "title", &[], &title);
    drawing.line(svg);
    drawing.add(svg, "rect", &[("width", width), ("height", height), ("fill", "#fffdf6")]);
    drawing.line(svg);
    let heading =
        [("x", "20"), ("y", "32"), ("font-family", "Georgia, serif"), ("font-size", "20"), ("font-style", "italic")];
    drawing.text(svg, "text", &heading, &title);
    drawing.line(svg);
    for (column, theme) in themes.iter().enumerate() {
        let x = 20 + column * COLUMN;
        drawing.text(svg, "text", &[("x", &x.to_string()), ("y", "62"), ("font-weight", "700")], theme);
        drawing.line(svg);
        for (row, pair) in of_theme(pairs, theme).enumerate() {
            drawing.swatch(svg, x, 74 + row * ROW, pair);
            drawing.line(svg);
        }
    }
    format!("{}\n", drawing.xml(svg))
}

#[derive(Default)]
struct Drawing {
    document: Document,
}

impl Drawing {
    fn add(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)]) -> NodeId {
        self.document.append_element(parent, Element::html_with(name, attributes))
    }

    fn text(&mut self, parent: NodeId, name: &str, attributes: &[(&str, &str)], text: &str) {
        let node = self.add(parent, name, attributes);
        self.document.append_text(node, text);
    }

    /// A line of its own for what follows: the files are read by people too.
    fn line(&mut self, parent: NodeId) {
        self.document.append_text(parent, "\n");
    }

    fn table<'p>(&mut self, parent: NodeId, pairs: impl Iterator<Item = &'p Pair>) {
        let table = self.add(parent, "table", &[]);
        self.line(table);
        let head = self.add(table, "tr", &[]);
        for column in ["Looks", "Ratio", "Needs", "Text", "On", "Cases", "Worst case"] {
            self.text(head, "th", &[], column);
        }
        self.line(table);
        for pair in pairs {
            let class: &[_] = if is_failing(pair) { &[("class", "fails")] } else { &[] };
            let row = self.add(table, "tr", class);
            let look = format!("color:{};background:{}", hex(pair.text_pixel), hex(pair.behind));
            self.text(row, "td", &[("style", &look)], "Aa");
            let cells = [
                marked(pair),
                pair.needed.to_string(),
                plain(&pair.text),
                plain(&pair.on),
                grouped(pair.cases),
                pair.worst.clone(),
            ];
            for cell in cells {
                self.text(row, "td", &[], &cell);
            }
            self.line(table);
        }
    }

    /// A pair in a picture, its upper left corner here.
    fn swatch(&mut self, svg: NodeId, x: usize, y: usize, pair: &Pair) {
        let at = |x: usize, y: usize| (x.to_string(), y.to_string());
        let (text, behind) = (hex(pair.text_pixel), hex(pair.behind));
        let (left, top) = at(x, y);
        self.add(svg, "rect", &[("x", &left), ("y", &top), ("width", "52"), ("height", "26"), ("fill", &behind)]);
        let (left, top) = at(x + 26, y + 18);
        let look = [("x", &*left), ("y", &*top), ("fill", &*text), ("text-anchor", "middle"), ("font-weight", "600")];
        self.text(svg, "text", &look, "Aa");
        let (left, top) = at(x + 112, y + 18);
        let mut figure = vec![("x", &*left), ("y", &*top), ("text-anchor", "end")];
        if is_failing(pair) {
            figure.extend([("fill", "#a3231b"), ("font-weight", "700")]);
        }
        self.text(svg, "text", &figure, &marked(pair));
        let (left, top) = at(x + 122, y + 17);
        self.text(svg, "text", &[("x", &left), ("y", &top), ("font-size", "12")], &clipped(&names(pair), 40));
    }

    /// A picture as XML, which knows empty elements, and of the entities of HTML its own five only.
    fn xml(&self, node: NodeId) -> String {
        self.document.to_html(node).replace("></rect>", "/>").replace("&nbsp;", "&#160;")
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn pair(text: &str, ratio: f64) -> Pair {
        Pair {
            theme: "day".to_owned(),
            text: format!("`{text}`"),
            on: "`<fill>`".to_owned(),
            text_pixel: [0.0; 3],
            behind: [1.0; 3],
            ratio,
            needed: 4.5,
            cases: 1200,
            worst: "button.\"calm\"".to_owned(),
        }
    }

    #[test]
    fn names_stay_text_in_pages_and_pictures() {
        let pairs = [pair("a&b\u{a0}c", 2.0), pair("plain", 7.0)];
        let page = html("<i>Line</i>", &pairs);
        assert!(page.contains("<title>&lt;i&gt;Line&lt;/i&gt;: contrast</title>"), "{page}");
        assert!(page.contains("<tr class=\"fails\">") && page.contains("<td>✗ 2.00</td>"), "{page}");
        assert!(page.contains("<td>&lt;fill&gt;</td><td>1,200</td>"), "{page}");
        assert_eq!(page.matches("class=\"fails\"").count(), 1, "{page}");
        let picture = svg("Line", &pairs);
        assert!(picture.contains("a&amp;b&#160;c on &lt;fill&gt;"), "{picture}");
        assert!(picture.contains("height=\"26\" fill=\"#ffffff\"/><text"), "{picture}");
    }
}
