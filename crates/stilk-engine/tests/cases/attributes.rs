//! What attributes of HTML and SVG stand for, and what elements bring along: pieces of pages without any stylesheet.

use super::Case;

macro_rules! pieces {
    ($($html:literal $property:literal => $expected:literal;)*) => {
        &[$((concat!($html, " ", $property), "", $html, $property, $expected)),*]
    };
}

/// Every group with its source.
pub const ATTRIBUTES: &[(&str, &[Case])] = &[
    (
        "HTML, sections 15.3.1 to 15.3.7: flow and phrasing content",
        pieces! {
            "<p id=t align=left>x" "text-align" => "-webkit-left";
            "<div id=t align=left>x" "text-align" => "-webkit-left";
            "<h2 id=t align=left>x" "text-align" => "left";
            "<p id=t align=right>x" "text-align" => "-webkit-right";
            "<div id=t align=right>x" "text-align" => "-webkit-right";
            "<h2 id=t align=right>x" "text-align" => "right";
            "<p id=t align=center>x" "text-align" => "-webkit-center";
            "<div id=t align=center>x" "text-align" => "-webkit-center";
            "<h2 id=t align=center>x" "text-align" => "center";
            "<p id=t align=justify>x" "text-align" => "justify";
            "<div id=t align=justify>x" "text-align" => "justify";
            "<h2 id=t align=justify>x" "text-align" => "justify";
            "<p id=t align=middle>x" "text-align" => "-webkit-center";
            "<div id=t align=middle>x" "text-align" => "-webkit-center";
            "<h2 id=t align=middle>x" "text-align" => "center";
            "<p id=t align=CENTER>x" "text-align" => "-webkit-center";
            "<div id=t align=CENTER>x" "text-align" => "-webkit-center";
            "<h2 id=t align=CENTER>x" "text-align" => "center";
            "<font id=t color=\"chucknorris\">x" "color" => "rgb(192, 0, 0)";
            "<font id=t color=\"#f\">x" "color" => "rgb(15, 0, 0)";
            "<font id=t color=\"123\">x" "color" => "rgb(1, 2, 3)";
            "<font id=t color=\"ffcc33\">x" "color" => "rgb(255, 204, 51)";
            "<font id=t color=\"RED\">x" "color" => "rgb(255, 0, 0)";
            "<font id=t color=\"transparent\">x" "color" => "rgb(0, 0, 0)";
            "<font id=t color=\"#ABCDEF\">x" "color" => "rgb(171, 205, 239)";
            "<font id=t color=\"rgb(1,2,3)\">x" "color" => "rgb(0, 16, 48)";
            "<font id=t color=\"0x112233\">x" "color" => "rgb(0, 18, 51)";
            "<font id=t color=\"lightgrey\">x" "color" => "rgb(211, 211, 211)";
            "<font id=t size=\"1\">x" "font-size" => "10px";
            "<font id=t size=\"3\">x" "font-size" => "16px";
            "<font id=t size=\"7\">x" "font-size" => "48px";
            "<font id=t size=\"9\">x" "font-size" => "48px";
            "<font id=t size=\"+1\">x" "font-size" => "18px";
            "<font id=t size=\"-1\">x" "font-size" => "13px";
            "<font id=t size=\"+9\">x" "font-size" => "48px";
            "<font id=t size=\"-9\">x" "font-size" => "10px";
            "<font id=t size=\"x\">x" "font-size" => "16px";
            "<font id=t face=\"Arial, serif\">x" "font-family" => "Arial, serif";
            "<br id=t clear=all>" "clear" => "both";
            "<br id=t clear=left>" "clear" => "left";
            "<br id=t clear=right>" "clear" => "right";
            "<br id=t clear=none>" "clear" => "none";
            "<pre id=t wrap>x" "text-wrap-mode" => "wrap";
            "<textarea id=t wrap=off></textarea>" "text-wrap-mode" => "nowrap";
            "<textarea id=t wrap=hard></textarea>" "text-wrap-mode" => "wrap";
            "<p id=t hidden>x" "display" => "none";
            "<p id=t hidden=until-found>x" "display" => "block";
            "<p id=t hidden=until-found>x" "content-visibility" => "hidden";
            "<p id=t contenteditable>x" "overflow-wrap" => "break-word";
            "<p id=t contenteditable>x" "line-break" => "after-white-space";
            "<p id=t contenteditable=plaintext-only>x" "white-space-collapse" => "preserve";
            "<p id=t contenteditable=false>x" "overflow-wrap" => "normal";
            "<p id=t draggable=true>x" "user-select" => "none";
            "<p id=t popover>x" "display" => "none";
            "<details open><summary id=t>x</summary></details>" "list-style-type" => "disclosure-open";
            "<details><summary id=t>x</summary></details>" "list-style-type" => "disclosure-closed";
            "<details><summary id=t>x</summary></details>" "display" => "list-item";
            "<abbr id=t title=x>x" "text-decoration-line" => "underline";
            "<abbr id=t title=x>x" "text-decoration-style" => "dotted";
            "<ruby>x<rt id=t>y</ruby>" "display" => "ruby-text";
            "<ruby>x<rt id=t>y</ruby>" "font-size" => "8px";
            "<fieldset><legend id=t align=right>x</legend></fieldset>" "justify-self" => "right";
            "<marquee id=t>x</marquee>" "display" => "inline-block";
            "<marquee id=t>x</marquee>" "overflow-x" => "hidden";
            "<dialog id=t>x</dialog>" "display" => "none";
            "<dialog id=t open>x</dialog>" "display" => "block";
            "<dialog id=t open>x</dialog>" "position" => "absolute";
            "<p><font id=t size=2 style=\"font-size: 3px\">x" "font-size" => "3px";
        },
    ),
    (
        "HTML, section 15.3.9: tables",
        pieces! {
            "<table ><tr><td id=t align=left>x</table>" "text-align" => "-webkit-left";
            "<table ><tr><td id=t align=right>x</table>" "text-align" => "-webkit-right";
            "<table ><tr><td id=t align=center>x</table>" "text-align" => "-webkit-center";
            "<table ><tr><td id=t align=justify>x</table>" "text-align" => "justify";
            "<table ><tr><td id=t align=middle>x</table>" "text-align" => "-webkit-center";
            "<table ><tr><td id=t align=CENTER>x</table>" "text-align" => "-webkit-center";
            "<table ><tr valign=top><td id=t>x</table>" "vertical-align" => "top";
            "<table ><tr><td id=t valign=top>x</table>" "vertical-align" => "top";
            "<table ><tr valign=middle><td id=t>x</table>" "vertical-align" => "middle";
            "<table ><tr><td id=t valign=middle>x</table>" "vertical-align" => "middle";
            "<table ><tr valign=bottom><td id=t>x</table>" "vertical-align" => "bottom";
            "<table ><tr><td id=t valign=bottom>x</table>" "vertical-align" => "bottom";
            "<table ><tr valign=baseline><td id=t>x</table>" "vertical-align" => "baseline";
            "<table ><tr><td id=t valign=baseline>x</table>" "vertical-align" => "baseline";
            "<table border=1><tr><td id=t>x</table>" "border-top-width" => "1px";
            "<table border=1><tr><td id=t>x</table>" "border-left-style" => "inset";
            "<table border=3 id=t><tr><td>x</table>" "border-top-width" => "3px";
            "<table border=3 id=t><tr><td>x</table>" "border-left-style" => "outset";
            "<table border id=t><tr><td>x</table>" "border-top-width" => "1px";
            "<table border=0 id=t><tr><td>x</table>" "border-top-width" => "0px";
            "<table border=0 id=t><tr><td>x</table>" "border-top-style" => "none";
            "<table border=1 bordercolor=red><tr><td id=t>x</table>" "border-top-color" => "rgb(255, 0, 0)";
            "<table border=1 bordercolor=red><tr><td id=t>x</table>" "border-top-style" => "solid";
            "<table cellpadding=7><tr><td id=t>x</table>" "padding-left" => "7px";
            "<table cellpadding=7><tr><td id=t>x</table>" "padding-top" => "7px";
            "<table cellspacing=7 id=t><tr><td>x</table>" "border-collapse" => "separate";
            "<table rules=all><tr><td id=t>x</table>" "border-top-width" => "1px";
            "<table rules=all><tr><td id=t>x</table>" "border-left-style" => "solid";
            "<table rules=rows><tr><td id=t>x</table>" "border-top-style" => "solid";
            "<table rules=rows><tr><td id=t>x</table>" "border-left-style" => "none";
            "<table rules=cols><tr><td id=t>x</table>" "border-top-style" => "none";
            "<table rules=cols><tr><td id=t>x</table>" "border-left-style" => "solid";
            "<table rules=all id=t><tr><td>x</table>" "border-collapse" => "collapse";
            "<table rules=all id=t><tr><td>x</table>" "border-top-style" => "hidden";
            "<table rules=groups><tbody id=t><tr><td>x</table>" "border-top-style" => "solid";
            "<table rules=groups><tbody id=t><tr><td>x</table>" "border-left-style" => "none";
            "<table frame=void id=t><tr><td>x</table>" "border-top-style" => "hidden";
            "<table frame=void id=t><tr><td>x</table>" "border-right-style" => "hidden";
            "<table frame=above id=t><tr><td>x</table>" "border-top-style" => "solid";
            "<table frame=above id=t><tr><td>x</table>" "border-right-style" => "hidden";
            "<table frame=hsides id=t><tr><td>x</table>" "border-top-style" => "solid";
            "<table frame=hsides id=t><tr><td>x</table>" "border-right-style" => "hidden";
            "<table frame=vsides id=t><tr><td>x</table>" "border-top-style" => "hidden";
            "<table frame=vsides id=t><tr><td>x</table>" "border-right-style" => "solid";
            "<table frame=box id=t><tr><td>x</table>" "border-top-style" => "solid";
            "<table frame=box id=t><tr><td>x</table>" "border-right-style" => "solid";
            "<table frame=lhs id=t><tr><td>x</table>" "border-top-style" => "hidden";
            "<table frame=lhs id=t><tr><td>x</table>" "border-right-style" => "hidden";
            "<table align=center id=t width=30><tr><td>x</table>" "float" => "none";
            "<table align=right id=t><tr><td>x</table>" "float" => "right";
            "<table bgcolor=tan id=t><tr><td>x</table>" "background-color" => "rgb(210, 180, 140)";
            "<table width=200 id=t><tr><td>x</table>" "box-sizing" => "border-box";
            "<table ><tr bgcolor=\"#abc\" id=t><td>x</table>" "background-color" => "rgb(170, 187, 204)";
            "<table ><tr><td id=t nowrap>x</table>" "text-wrap-mode" => "nowrap";
            "<table ><tr><th id=t>x</table>" "text-align" => "center";
            "<table ><tr><th id=t>x</table>" "font-weight" => "700";
            "<table ><tr align=right><th id=t>x</table>" "text-align" => "-webkit-right";
            "<table style=\"text-align:right\"><tr><th id=t>x</table>" "text-align" => "right";
            "<center><table id=t><tr><td>x</table>" "text-align" => "start";
            "<div align=center><table ><tr><td id=t>x</table>" "text-align" => "start";
        },
    ),
    (
        "HTML, section 15.3.12: rules",
        pieces! {
            "<hr id=t size=5>" "height" => "3px";
            "<hr id=t size=5>" "border-bottom-width" => "1px";
            "<hr id=t size=5>" "background-color" => "rgba(0, 0, 0, 0)";
            "<hr id=t size=1>" "border-bottom-width" => "0px";
            "<hr id=t size=1>" "background-color" => "rgba(0, 0, 0, 0)";
            "<hr id=t size=0>" "border-bottom-width" => "0px";
            "<hr id=t size=0>" "background-color" => "rgba(0, 0, 0, 0)";
            "<hr id=t noshade>" "border-bottom-width" => "1px";
            "<hr id=t noshade>" "background-color" => "rgb(128, 128, 128)";
            "<hr id=t color=red>" "border-bottom-width" => "1px";
            "<hr id=t color=red>" "background-color" => "rgb(255, 0, 0)";
            "<hr id=t width=30 align=left>" "border-bottom-width" => "1px";
            "<hr id=t width=30 align=left>" "background-color" => "rgba(0, 0, 0, 0)";
            "<hr id=t size=9 noshade>" "height" => "7px";
            "<hr id=t size=9 noshade>" "border-bottom-width" => "1px";
            "<hr id=t size=9 noshade>" "background-color" => "rgb(128, 128, 128)";
        },
    ),
    (
        "HTML, section 15.3.8: lists",
        pieces! {
            "<ol id=t type=a>" "list-style-type" => "lower-alpha";
            "<ul><li id=t type=a>" "list-style-type" => "lower-alpha";
            "<ol id=t type=A>" "list-style-type" => "upper-alpha";
            "<ul><li id=t type=A>" "list-style-type" => "upper-alpha";
            "<ol id=t type=i>" "list-style-type" => "lower-roman";
            "<ul><li id=t type=i>" "list-style-type" => "lower-roman";
            "<ol id=t type=I>" "list-style-type" => "upper-roman";
            "<ul><li id=t type=I>" "list-style-type" => "upper-roman";
            "<ol id=t type=1>" "list-style-type" => "decimal";
            "<ul><li id=t type=1>" "list-style-type" => "decimal";
            "<ul id=t type=disc>" "list-style-type" => "disc";
            "<ul id=t type=CIRCLE>" "list-style-type" => "circle";
            "<ul id=t type=square>" "list-style-type" => "square";
            "<ul id=t type=none>" "list-style-type" => "none";
            "<ul id=t type=x>" "list-style-type" => "disc";
            "<ul><li><ul id=t><li>x</ul></ul>" "list-style-type" => "circle";
            "<ul><li><ul id=t><li>x</ul></ul>" "margin-top" => "0px";
            "<ul><li><ul><li><ul id=t><li>x</ul></ul></ul>" "list-style-type" => "square";
            "<ol><li><ul id=t><li>x</ul></ol>" "list-style-type" => "circle";
            "<ul><li><ol id=t><li>x</ol></ul>" "list-style-type" => "decimal";
            "<ul><li><ol id=t><li>x</ol></ul>" "margin-top" => "0px";
            "<dl><dd><dl id=t><dt>x</dl></dl>" "margin-top" => "0px";
            "<ul><li><dl id=t><dt>x</dl></ul>" "margin-bottom" => "0px";
        },
    ),
    (
        "HTML, section 15.4: what is replaced",
        pieces! {
            "<img id=t alt=\"\" align=left>" "float" => "left";
            "<img id=t align=absmiddle>" "vertical-align" => "middle";
            "<img id=t align=middle>" "vertical-align" => "-webkit-baseline-middle";
            "<img id=t align=texttop>" "vertical-align" => "text-top";
            "<img id=t hspace=3 vspace=4>" "margin-left" => "3px";
            "<img id=t hspace=3 vspace=4>" "margin-top" => "4px";
            "<img id=t border=2>" "border-top-width" => "2px";
            "<img id=t border=2>" "border-top-style" => "solid";
            "<video id=t width=30 height=20></video>" "aspect-ratio" => "auto 30 / 20";
            "<canvas id=t width=30 height=20></canvas>" "aspect-ratio" => "auto 30 / 20";
            "<iframe id=t frameborder=0></iframe>" "border-top-width" => "0px";
        },
    ),
    (
        "HTML, sections 3.2.6.4 and 15.3.5: directions",
        pieces! {
            "<p id=t dir=rtl>x" "direction" => "rtl";
            "<p id=t dir=rtl>x" "unicode-bidi" => "isolate";
            "<p id=t dir=ltr>x" "direction" => "ltr";
            "<p id=t dir=ltr>x" "unicode-bidi" => "isolate";
            "<p id=t dir=auto>x" "direction" => "ltr";
            "<p id=t dir=auto>x" "unicode-bidi" => "isolate";
            "<p id=t dir=auto>\u{5d0}bc" "direction" => "rtl";
            "<p id=t dir=auto>12 \u{627}" "direction" => "rtl";
            "<p id=t dir=auto><b dir=ltr>\u{5d0}</b>abc" "direction" => "ltr";
            "<bdi id=t>\u{5d0}</bdi>" "direction" => "rtl";
            "<p dir=auto>\u{5d0}<b id=t>x" "direction" => "rtl";
        },
    ),
    (
        "HTML, section 15.5, and CSS UI 4, section 5: controls and their native look",
        pieces! {
            "<select multiple><option id=t>x</select>" "min-height" => "16px";
            "<select multiple><option id=t>x</select>" "padding-left" => "2px";
            "<select><option id=t>x</select>" "display" => "block";
            "<select multiple><optgroup><option id=t>x</select>" "padding-left" => "20px";
            "<select><option>a<option id=t disabled>x</select>" "color" => "rgb(0, 0, 0)";
            "<input type=checkbox id=t style=\"border: 3px solid red; padding: 4px\">" "border-top-width" => "0px";
            "<input type=checkbox id=t style=\"border: 3px solid red; padding: 4px\">" "padding-left" => "0px";
            "<input type=checkbox id=t style=\"border: 3px solid red; padding: 4px\">" "border-top-style" => "none";
            "<input type=radio id=t style=\"border-radius: 3px\">" "border-top-left-radius" => "50%";
            "<input type=checkbox id=t style=\"appearance: none; border: 3px solid red\">" "border-top-width" => "3px";
            "<input id=t style=\"display: inline\">" "display" => "inline-block";
            "<input id=t style=\"display: inline; appearance: none\">" "display" => "inline";
            "<span id=t style=\"appearance: button\">x</span>" "display" => "inline-block";
            "<button id=t style=\"display: table\">x</button>" "display" => "block";
        },
    ),
    (
        "CSS Overflow 3, section 3.1, and CSS 2.2, section 17: tables that overflow",
        pieces! {
            "<div id=t style=\"display: table; overflow: auto\">x</div>" "overflow-x" => "visible";
            "<div id=t style=\"display: table; overflow: hidden\">x</div>" "overflow-x" => "hidden";
            "<div id=t style=\"display: table; overflow-x: hidden\">x</div>" "overflow-x" => "visible";
        },
    ),
    (
        "SVG 2, sections 6.6 and 8.5: presentation attributes",
        pieces! {
            "<svg id=t width=30 height=\"20\"></svg>" "overflow-x" => "hidden";
            "<svg><g id=t fill=red></g></svg>" "fill" => "rgb(255, 0, 0)";
            "<svg><g id=t fill=\"#00f\"></g></svg>" "fill" => "rgb(0, 0, 255)";
            "<svg><g id=t stroke-width=3></g></svg>" "stroke-width" => "3px";
            "<svg><g id=t stroke=blue></g></svg>" "stroke" => "rgb(0, 0, 255)";
            "<svg><g id=t opacity=.5></g></svg>" "opacity" => "0.5";
            "<svg><g id=t visibility=hidden></g></svg>" "visibility" => "hidden";
            "<svg><g id=t font-size=12></g></svg>" "font-size" => "12px";
            "<svg><g id=t fill-rule=evenodd></g></svg>" "fill-rule" => "evenodd";
            "<svg><g id=t transform=\"translate(3 4)\"></g></svg>" "transform" => "matrix(1, 0, 0, 1, 3, 4)";
            "<svg><g id=t transform=\"rotate(90)\"></g></svg>" "transform" => "matrix(0, 1, -1, 0, 0, 0)";
            "<svg><g id=t transform=\"scale(2) translate(1)\"></g></svg>" "transform" => "matrix(2, 0, 0, 2, 2, 0)";
            "<svg><g id=t fill=red style=\"fill:blue\"></g></svg>" "fill" => "rgb(0, 0, 255)";
            "<svg><g id=t fill=nonsense></g></svg>" "fill" => "rgb(0, 0, 0)";
            "<svg><g fill=red><rect id=t></rect></g></svg>" "fill" => "rgb(255, 0, 0)";
            "<svg><rect id=t width=3 height=4></rect></svg>" "width" => "3px";
            "<svg><a href=x><g id=t></g></a></svg>" "color" => "rgb(0, 0, 0)";
            "<svg><a href=x><g id=t></g></a></svg>" "cursor" => "pointer";
            "<svg><text id=t>x</text></svg>" "display" => "block";
            "<svg><foreignObject id=t></foreignObject></svg>" "overflow-x" => "hidden";
            "<svg><foreignObject id=t></foreignObject></svg>" "display" => "block";
        },
    ),
];
