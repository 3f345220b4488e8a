//! Which elements are controls, of which kind, with which parts.

use crate::support::of_page;

/// The controls of a body, each as `kind host>part,part`.
fn found(css: &str, body: &str) -> Vec<String> {
    let (site, survey) = of_page(css, body);
    let document = site.document(0);
    let mut all: Vec<(u32, String)> = Vec::new();
    for look in survey.families.iter().flat_map(|family| &family.looks) {
        let kind = survey.families.iter().find(|family| family.family.name == look.family).map(|f| f.family.kind);
        let host = document.element(look.found.host).expect("an element").local().to_owned();
        let parts: Vec<&str> = look.found.parts.iter().map(|(name, _)| name.as_str()).collect();
        let span = look.tag.map_or(0, |span| span.start);
        all.push((span, format!("{} {host}>{}", kind.expect("a kind").noun(), parts.join(","))));
    }
    all.sort();
    all.into_iter().map(|(_, text)| text).collect()
}

#[test]
fn what_the_language_has_controls_for_are_controls() {
    for (body, expected) in [
        ("<button>x</button>", "button button>"),
        ("<button type=button role=switch aria-checked=true>x</button>", "switch button>"),
        ("<button role=tab>x</button>", "tab button>"),
        ("<input aria-label=x>", "field input>"),
        ("<input type=SUBMIT value=x>", "button input>"),
        ("<input type=image alt=x src=x.png>", "button input>"),
        ("<input type=checkbox aria-label=x>", "checkbox input>"),
        ("<input type=checkbox role=switch aria-label=x>", "switch input>"),
        ("<input type=radio aria-label=x>", "radio input>"),
        ("<input type=range aria-label=x>", "range input>"),
        ("<input type=color aria-label=x>", "picker input>"),
        ("<input type=nonsense aria-label=x>", "field input>"),
        ("<select aria-label=x><option>y</select>", "select select>"),
        ("<textarea aria-label=x></textarea>", "field textarea>"),
        ("<details><summary>x</summary>y</details>", "disclosure summary>"),
        ("<meter aria-label=x></meter>", "gauge meter>"),
        ("<progress aria-label=x></progress>", "gauge progress>"),
        ("<div role=button tabindex=0>x</div>", "button div>"),
        ("<li role='menuitem x'>x</li>", "menu item li>"),
    ] {
        assert_eq!(found("", body), [expected], "{body}");
    }
}

#[test]
fn what_nobody_operates_is_none() {
    for body in [
        "<input type=hidden>",
        "<p><a href=/>a link in text</a>",
        "<details><p>x</p><summary>not the first</summary></details>",
        "<div><summary>of nothing</summary></div>",
        "<div role=presentation>x</div>",
        "<label>alone</label>",
        "<template><button>x</button></template>",
    ] {
        assert_eq!(found("", body), Vec::<String>::new(), "{body}");
    }
}

#[test]
fn a_link_that_is_painted_as_a_button_is_one_and_no_other_link() {
    let painted = [
        ".a { background: #14536b; padding: 4px 8px }",
        ".a { border: 1px solid #14536b; padding: 4px 8px }",
        ".a { display: inline-block; background: linear-gradient(red, blue); height: 30px }",
    ];
    for css in painted {
        assert_eq!(found(css, "<a class=a href=/>Book</a>"), ["button a>"], "{css}");
    }
    for (css, body) in [
        // A line below is no edge; a mark in text has no room; what leads nowhere is no link.
        (".a { border-bottom: 1px solid red; padding: 4px 8px }", "<a class=a href=/>x</a>"),
        (".a { background: yellow }", "<a class=a href=/>x</a>"),
        (".a { background: #14536b; padding: 4px 8px }", "<a class=a>x</a>"),
        (".a { background: #14536b00; padding: 4px 8px }", "<a class=a href=/>x</a>"),
        // A card and a long text are more than a button.
        (".a { background: #eee; padding: 8px }", "<a class=a href=/><h3>Skerry</h3><p>Twice a day</p></a>"),
        (".a { background: #eee; padding: 8px }", "<a class=a href=/>one two three four five six seven eight nine</a>"),
        (".a { background: #eee; padding: 8px }", "<a class=a href=/></a>"),
    ] {
        assert_eq!(found(css, body), Vec::<String>::new(), "{css} {body}");
    }
}

#[test]
fn a_label_stands_for_the_native_control_that_it_hides() {
    let box_after = "<label class=l><input type=checkbox><span class=box></span> Dogs</label>";
    let ways = [
        "position: absolute; opacity: 0",
        "display: none",
        "position: absolute; left: -9999px",
        "position: absolute; clip: rect(0 0 0 0); width: 5px",
        "position: absolute; width: 1px; height: 1px; overflow: hidden",
        "clip-path: inset(50%)",
        "visibility: hidden",
    ];
    for way in ways {
        let css =
            format!("input {{ {way} }} .box {{ display: inline-block; width: 9px; height: 9px; border: 1px solid }}");
        assert_eq!(found(&css, box_after), ["checkbox label>input,box"], "{way}");
    }
    // One that is seen is the control itself.
    assert_eq!(found("", box_after), ["checkbox input>"]);
    // A label beside it stands for it together with it.
    let beside = "<div class=row><input type=radio id=a name=r><label for=a class=l>Adult</label></div>";
    assert_eq!(found("input { opacity: 0; position: absolute }", beside), ["radio div>input,l"]);
    // A field that is hidden is drawn by nobody.
    assert_eq!(found("input { opacity: 0 }", "<label><input> Name</label>"), ["field input>"]);
}

#[test]
fn parts_are_what_is_in_a_control_and_in_no_other() {
    for (body, expected) in [
        ("<button><svg class=icon><path d=''/></svg><span>Book</span></button>", "button button>icon,span"),
        ("<button><b>a</b><b>b</b></button>", "button button>b,b#2"),
        ("<select aria-label=x><optgroup label=y><option>z</select>", "select select>"),
    ] {
        assert_eq!(found("", body), [expected], "{body}");
    }
    let nested = "<div role=button tabindex=0><i class=a></i><button><i class=b></i>x</button></div>";
    assert_eq!(found("", nested), ["button div>a", "button button>b"]);
}
