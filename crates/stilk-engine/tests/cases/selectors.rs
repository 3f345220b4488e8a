//! Selectors, right and wrong, asked of one element: 1 where it matches, `auto` where it does not, or where no browser reads it.

use super::Case;

macro_rules! selectors {
    ($($selector:literal => $expected:literal;)*) => {
        &[$((
            $selector,
            concat!($selector, " { z-index: 1 }"),
            "<ul class='a list'><li id=t class='x y' data-k='one two' lang=en-GB title=Abc><b>1</b></li><li class=y>2</li><li>3</li></ul><form><input checked type=checkbox><input disabled></form>",
            "z-index",
            $expected,
        )),*]
    };
}

/// Every group with its source.
pub const SELECTORS: &[(&str, &[Case])] = &[(
    "Selectors 4: what matches",
    selectors! {
        "#t" => "1";
        "li" => "1";
        ".x" => "1";
        ".y.x" => "1";
        ".x:not(.z)" => "1";
        "ul > li" => "1";
        "ul li" => "1";
        ".list > .x" => "1";
        "li + li" => "auto";
        "li ~ li" => "auto";
        ":first-child" => "1";
        ":last-child" => "auto";
        ":nth-child(1)" => "1";
        ":nth-child(odd)" => "1";
        ":nth-child(2)" => "auto";
        ":nth-child(2n+1)" => "1";
        ":nth-child(-n+3)" => "1";
        ":nth-last-child(3)" => "1";
        ":nth-last-child(1)" => "auto";
        ":first-of-type" => "1";
        ":only-child" => "auto";
        ":nth-of-type(1)" => "1";
        ":empty" => "auto";
        ":not(:empty)" => "1";
        ":has(b)" => "1";
        ":has(> b)" => "1";
        ":has(+ .y)" => "1";
        ":has(~ li)" => "1";
        ":has(i)" => "auto";
        ":is(li, p)" => "1";
        ":where(#t)" => "1";
        ":not(li)" => "auto";
        "[data-k]" => "1";
        "[data-k='one two']" => "1";
        "[data-k~=two]" => "1";
        "[data-k~=three]" => "auto";
        "[data-k^=one]" => "1";
        "[data-k$=two]" => "1";
        "[data-k*='e t']" => "1";
        "[data-k" => "auto";
        "=one]" => "auto";
        "[lang" => "auto";
        "=en]" => "auto";
        ":lang(en)" => "1";
        ":lang(fr)" => "auto";
        ":dir(ltr)" => "1";
        ":dir(rtl)" => "auto";
        "[title=abc]" => "auto";
        "[title=abc i]" => "1";
        "[title=Abc]" => "1";
        "LI" => "1";
        ".X" => "auto";
        "#T" => "auto";
        "*" => "1";
        "ul.a > li.x:first-child" => "1";
        "body ul .x" => "1";
        "html > body li" => "1";
        "p li" => "auto";
        ":root li" => "1";
        ":scope" => "auto";
        "li:nth-child(1 of .y)" => "1";
        "li:nth-child(2 of .y)" => "auto";
        "li:nth-last-child(2 of .y)" => "1";
        ":link" => "auto";
        ":any-link" => "auto";
        ":enabled" => "auto";
        ":disabled" => "auto";
        ":checked" => "auto";
        ":hover" => "auto";
        ":focus" => "auto";
        "li:only-of-type" => "auto";
        ":is()" => "auto";
        ":where(.x, :unknown)" => "1";
        ":not(.x, .z)" => "auto";
        ":not(.q, .z)" => "1";
        ":nth-child(n)" => "1";
        ":nth-child(0n+1)" => "1";
        ":nth-child(even)" => "auto";
        ":nth-child(n+2)" => "auto";
        "ul:has(.y) li" => "1";
        "ul:not(:has(.q)) > .x" => "1";
        ".x:has(b):has(+ li)" => "1";
        "li:first-child:not(:last-child)" => "1";
        "[data-k='ONE TWO' i]" => "1";
        "[data-k=''],.none" => "auto";
        "[nope]" => "auto";
        ".x," => "auto";
        ".x y" => "auto";
        ".x>" => "auto";
        "..x" => "auto";
        "#1" => "auto";
        ".x::nope" => "auto";
        ":defined" => "1";
        ":is(.q, ul) > .y" => "1";
        ":where(ul) > :is(.x)" => "1";
        "&" => "auto";
        "ul { }" => "auto";
    },
)];
