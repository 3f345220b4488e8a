//! Values: how browsers compute and write them, by the specification that defines them. Each stands alone on a block whose
//! `color` is `rgb(1, 2, 3)` and whose font size is 20px; what is not valid leaves the property at its initial value.

use super::Case;

macro_rules! values {
    ($($property:literal $value:literal => $expected:literal;)*) => {
        &[$((
            concat!($property, ": ", $value),
            concat!("#t { color: rgb(1, 2, 3); font-size: 20px; ", $property, ": ", $value, " }"),
            "<div id=t>x</div>",
            $property,
            $expected,
        )),*]
    };
}

/// Every group with its source.
pub const VALUES: &[(&str, &[Case])] = &[
    (
        "CSS Color 4: notations and how they are written",
        values! {
            "color" "rgb(calc(100 + 1) 0 0)" => "rgb(101, 0, 0)";
            "color" "hsl(none 50% 50%)" => "rgb(191, 64, 64)";
            "color" "rgb(none 0 0)" => "rgb(0, 0, 0)";
            "color" "rgb(300 0 0)" => "rgb(255, 0, 0)";
            "color" "rgb(-10 0 0)" => "rgb(0, 0, 0)";
            "color" "hsl(120 150% 50%)" => "rgb(0, 255, 0)";
            "color" "hsl(480 50% 50%)" => "rgb(64, 191, 64)";
            "color" "hsl(120deg, 50%, 50%, 0.5)" => "rgba(64, 191, 64, 0.5)";
            "color" "rgb(10%, 20%, 30%)" => "rgb(26, 51, 77)";
            "color" "rgba(0 0 0 / 12.5%)" => "rgba(0, 0, 0, 0.125)";
            "color" "oklch(150% 0.1 20)" => "oklch(1 0.1 20)";
            "color" "oklch(0.5 -0.1 20)" => "oklch(0.5 0 20)";
            "color" "oklch(0.5 0.1 20 / 150%)" => "oklch(0.5 0.1 20)";
            "color" "lab(50% 50% -50%)" => "lab(50 62.5 -62.5)";
            "color" "oklab(50% 50% -50%)" => "oklab(0.5 0.2 -0.2)";
            "color" "color(srgb 1 0 0)" => "color(srgb 1 0 0)";
            "color" "color(xyz 0.1 0.2 0.3)" => "color(xyz-d65 0.1 0.2 0.3)";
            "color" "color(display-p3 0.1 0.2 none / 50%)" => "color(display-p3 0.1 0.2 none / 0.5)";
            "color" "hwb(90 10% 20%)" => "rgb(115, 204, 26)";
            "color" "hwb(90 60% 60%)" => "rgb(128, 128, 128)";
            "color" "hsl(330 100% 50%)" => "rgb(255, 0, 128)";
            "color" "rgb(1, 2, 3, 0.5)" => "rgba(1, 2, 3, 0.5)";
            "color" "rgb(1, 2%, 3)" => "rgb(1, 2, 3)";
            "color" "rgb(1 2, 3)" => "rgb(1, 2, 3)";
            "color" "hsl(0.5turn 50% 50%)" => "rgb(64, 191, 191)";
            "color" "lch(20 200 -20)" => "lch(20 200 340)";
            "color" "oklch(60% 50% 30deg / 0.5)" => "oklch(0.6 0.2 30 / 0.5)";
            "color" "#abcd" => "rgba(170, 187, 204, 0.867)";
            "color" "#abcde" => "rgb(1, 2, 3)";
            "color" "RebeccaPurple" => "rgb(102, 51, 153)";
            "color" "color(nonsense 1 0 0)" => "rgb(1, 2, 3)";
            "color" "hwb(90, 10%, 20%)" => "rgb(1, 2, 3)";
        },
    ),
    (
        "CSS Color 5: mixes and relative colours",
        values! {
            "color" "color-mix(in hsl, red, blue)" => "color(srgb 1 0 1)";
            "color" "color-mix(in hwb, red, blue)" => "color(srgb 1 0 1)";
            "color" "color-mix(in srgb, rgb(0 0 0), white)" => "color(srgb 0.5 0.5 0.5)";
            "color" "color-mix(in oklch, red, transparent)" => "oklch(0.627966 0.257704 29.2346 / 0.5)";
            "color" "color-mix(in oklch, red 30%, blue 30%)" => "oklch(0.539974 0.285457 326.643 / 0.6)";
            "color" "color-mix(in xyz, blue, red)" => "color(xyz-d65 0.296439 0.142411 0.484861)";
            "color" "color-mix(in hsl, hsl(120 50% 40%), lab(40 -20% 10%))" => "color(srgb 0.20327 0.502208 0.263438)";
            "color" "color-mix(in xyz, lab(50% 20 -30), red)" => "color(xyz-d65 0.317813 0.199475 0.213057)";
            "color" "color-mix(in hsl longer hue, red, blue)" => "color(srgb 0 1 0)";
            "color" "color-mix(in lch increasing hue, red, blue)" => "lch(41.9277 119.034 171.112)";
            "color" "color-mix(in srgb longer hue, red, blue)" => "rgb(1, 2, 3)";
            "color" "color-mix(in oklab, red 0%, blue)" => "oklab(0.451981 -0.0324624 -0.311523)";
            "color" "color-mix(in oklab, red -10%, blue)" => "rgb(1, 2, 3)";
            "color" "rgb(from red r g b / 50%)" => "color(srgb 1 0 0 / 0.5)";
            "color" "rgb(from red calc(r - 100) g 50)" => "color(srgb 0.607843 0 0.196078)";
            "color" "hsl(from red calc(h + 120) s l)" => "color(srgb 0 1 0)";
            "color" "hwb(from red h w b)" => "color(srgb 1 0 0)";
            "color" "oklch(from red l c h)" => "oklch(0.627966 0.257704 29.2346)";
            "color" "oklch(from red calc(l * 0.8) c calc(h + 40))" => "oklch(0.502373 0.257704 69.2346)";
            "color" "lab(from red l a b)" => "lab(54.29 80.8198 69.8997)";
            "color" "color(from red srgb r g b)" => "color(srgb 1 0 0)";
            "color" "color(from red display-p3 r g calc(b + 0.2) / 0.5)" => "color(display-p3 0.91753 0.200241 0.338502 / 0.5)";
            "color" "oklch(from oklch(0.5 0.1 none) l c h)" => "oklch(0.5 0.1 0)";
            "color" "hsl(from blue h s calc(l + 20) / alpha)" => "color(srgb 0.4 0.4 1)";
            "color" "rgb(from rgb(0 0 0 / 0.3) 255 g b / calc(alpha * 2))" => "color(srgb 1 0 0 / 0.6)";
            "color" "lch(from lch(50 30 400deg) l c h)" => "lch(50 30 40)";
            "color" "rgb(from color(display-p3 1 0 0) r g b)" => "color(srgb 1.09302 -0.22669 -0.150073)";
            "color" "oklch(from rebeccapurple calc(l + 0.1) 0.2 h)" => "oklch(0.540263 0.2 303.381)";
            "color" "color(from #f80 xyz x y z)" => "color(xyz-d65 0.500474 0.388717 0.0486583)";
            "color" "rgb(from red x g b)" => "rgb(1, 2, 3)";
            "color" "light-dark(red, blue)" => "rgb(255, 0, 0)";
            "color" "light-dark(light-dark(lime, red), blue)" => "rgb(0, 255, 0)";
        },
    ),
    (
        "CSS Images 4: gradients",
        values! {
            "background-image" "linear-gradient(red, blue)" => "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(to bottom, red, blue)" => "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(180deg, red, blue)" => "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(to right, red 10%, blue 2em, lime calc(50% + 1px))" => "linear-gradient(to right, rgb(255, 0, 0) 10%, rgb(0, 0, 255) 40px, rgb(0, 255, 0) calc(50% + 1px))";
            "background-image" "linear-gradient(to top right, red, 30%, blue)" => "linear-gradient(to right top, rgb(255, 0, 0), 30%, rgb(0, 0, 255))";
            "background-image" "linear-gradient(0.25turn in oklch longer hue, red, blue)" => "linear-gradient(90deg in oklch longer hue, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(in oklab, red, blue)" => "linear-gradient(in oklab, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(in srgb, red, blue)" => "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "linear-gradient(in oklab, oklch(0.5 0.1 30), blue)" => "linear-gradient(oklch(0.5 0.1 30), rgb(0, 0, 255))";
            "background-image" "linear-gradient(in srgb, oklch(0.5 0.1 30), blue)" => "linear-gradient(in srgb, oklch(0.5 0.1 30), rgb(0, 0, 255))";
            "background-image" "linear-gradient(currentcolor, color-mix(in srgb, red, currentcolor))" => "linear-gradient(rgb(1, 2, 3), color(srgb 0.501961 0.00392157 0.00588235))";
            "background-image" "repeating-linear-gradient(45deg, red 0 10px, blue 10px 20px)" => "repeating-linear-gradient(45deg, rgb(255, 0, 0) 0px, rgb(255, 0, 0) 10px, rgb(0, 0, 255) 10px, rgb(0, 0, 255) 20px)";
            "background-image" "linear-gradient(right top, red, blue)" => "none";
            "background-image" "linear-gradient(red)" => "linear-gradient(rgb(255, 0, 0))";
            "background-image" "linear-gradient(30%, red, blue)" => "none";
            "background-image" "linear-gradient(red, 30%, 40%, blue)" => "none";
            "background-image" "radial-gradient(red, blue)" => "radial-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(circle, red, blue)" => "radial-gradient(circle, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(ellipse farthest-corner at center, red, blue)" => "radial-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(circle closest-side at 10px 20%, red, blue)" => "radial-gradient(circle closest-side at 10px 20%, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(10px at left, red, blue)" => "radial-gradient(10px at 0% 50%, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(10px 2em at top right 5px, red, blue)" => "none";
            "background-image" "radial-gradient(circle 3em, red, blue)" => "radial-gradient(60px, rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "radial-gradient(circle 10px 20px, red, blue)" => "none";
            "background-image" "radial-gradient(at right 1em bottom 2px, red, blue)" => "radial-gradient(at calc(100% - 20px) calc(100% - 2px), rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "conic-gradient(red, blue)" => "conic-gradient(rgb(255, 0, 0), rgb(0, 0, 255))";
            "background-image" "conic-gradient(from 45deg at 10% 20%, red 0deg, blue 50%)" => "conic-gradient(from 45deg at 10% 20%, rgb(255, 0, 0) 0deg, rgb(0, 0, 255) 50%)";
            "background-image" "conic-gradient(at center, red 0.25turn 90deg, blue)" => "conic-gradient(rgb(255, 0, 0) 90deg, rgb(255, 0, 0) 90deg, rgb(0, 0, 255))";
            "background-image" "conic-gradient(from 1turn in hsl, red, blue)" => "conic-gradient(from 360deg in hsl, rgb(255, 0, 0), rgb(0, 0, 255))";
        },
    ),
    (
        "CSS Transforms 2",
        values! {
            "transform" "translate(10px, 2em)" => "matrix(1, 0, 0, 1, 10, 40)";
            "transform" "rotate(45deg) scale(2)" => "matrix(1.41421, 1.41421, -1.41421, 1.41421, 0, 0)";
            "transform" "translate(50%)" => "matrix(1, 0, 0, 1, 632, 0)";
            "transform" "translateX(0)" => "matrix(1, 0, 0, 1, 0, 0)";
            "transform" "perspective(100px) rotateX(30deg)" => "matrix3d(1, 0, 0, 0, 0, 0.866025, 0.5, -0.005, 0, -0.5, 0.866025, -0.00866025, 0, 0, 0, 1)";
            "transform" "skew(10deg, 20deg)" => "matrix(1, 0.36397, 0.176327, 1, 0, 0)";
            "transform" "matrix(1, 2, 3, 4, 5, 6)" => "matrix(1, 2, 3, 4, 5, 6)";
            "transform" "scale3d(1, 1, 1)" => "matrix(1, 0, 0, 1, 0, 0)";
            "transform" "translate3d(1px, 2px, 3px)" => "matrix3d(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 1, 2, 3, 1)";
            "transform" "rotate3d(1, 1, 1, 45deg)" => "matrix3d(0.804738, 0.505879, -0.310617, 0, -0.310617, 0.804738, 0.505879, 0, 0.505879, -0.310617, 0.804738, 0, 0, 0, 0, 1)";
            "transform" "scale(150%)" => "matrix(1.5, 0, 0, 1.5, 0, 0)";
            "transform" "rotate(90deg)" => "matrix(0, 1, -1, 0, 0, 0)";
            "transform" "rotate(0)" => "matrix(1, 0, 0, 1, 0, 0)";
            "transform" "rotate(1)" => "none";
            "transform" "scaleX(-1) skewY(5deg)" => "matrix(-1, 0.0874887, 0, 1, 0, 0)";
            "transform" "rotate(100grad) translateY(2px)" => "matrix(0, 1, -1, 0, -2, 0)";
            "transform-origin" "left 10px" => "0px 10px";
            "transform-origin" "10px 20px 5px" => "10px 20px 5px";
            "rotate" "x 45deg" => "x 45deg";
            "rotate" "1 0 0 45deg" => "x 45deg";
            "rotate" "z 0.1turn" => "36deg";
            "rotate" "1 2 3 0.5turn" => "1 2 3 180deg";
            "scale" "1.5 1.5" => "1.5";
            "scale" "1 1 1" => "1";
            "scale" "2 3 4" => "2 3 4";
            "translate" "0 0 3px" => "0px 0px 3px";
            "translate" "10px 0" => "10px";
            "translate" "10px 20%" => "10px 20%";
        },
    ),
    (
        "Filter Effects 1",
        values! {
            "filter" "blur(2px) brightness(1.5)" => "blur(2px) brightness(1.5)";
            "filter" "drop-shadow(1px 2px 3px red)" => "drop-shadow(rgb(255, 0, 0) 1px 2px 3px)";
            "filter" "drop-shadow(red 1px 2px)" => "drop-shadow(rgb(255, 0, 0) 1px 2px 0px)";
            "filter" "grayscale() hue-rotate(90deg)" => "grayscale(1) hue-rotate(90deg)";
            "filter" "opacity(50%) invert(2) saturate(150%)" => "opacity(0.5) invert(1) saturate(1.5)";
            "filter" "blur(1em)" => "blur(20px)";
            "filter" "sepia(200%) contrast(0)" => "sepia(1) contrast(0)";
            "filter" "opacity(calc(20% + 10%))" => "opacity(0.3)";
            "filter" "blur(-1px)" => "none";
            "filter" "brightness(-1)" => "none";
            "backdrop-filter" "blur(4px)" => "blur(4px)";
        },
    ),
    (
        "CSS Shapes 1 and CSS Masking 1",
        values! {
            "clip-path" "inset(50%)" => "inset(50%)";
            "clip-path" "inset(1px 2em 3% round 4px)" => "inset(1px 40px 3% round 4px)";
            "clip-path" "inset(1px 2px 1px 2px round 3px / 4px)" => "inset(1px 2px round 3px / 4px)";
            "clip-path" "circle(50%)" => "circle(50%)";
            "clip-path" "circle()" => "circle()";
            "clip-path" "circle(10px at left top)" => "circle(10px at 0% 0%)";
            "clip-path" "circle(closest-side at 10px 20px)" => "circle(at 10px 20px)";
            "clip-path" "ellipse(10px 20% at 1em 50%)" => "ellipse(10px 20% at 20px 50%)";
            "clip-path" "ellipse(closest-side farthest-side)" => "ellipse(closest-side farthest-side)";
            "clip-path" "polygon(0 0, 100% 0, 50% 2em)" => "polygon(0px 0px, 100% 0px, 50% 40px)";
            "clip-path" "polygon(evenodd, 0 0, 1px 1px)" => "polygon(evenodd, 0px 0px, 1px 1px)";
            "clip-path" "border-box" => "border-box";
            "clip-path" "inset(0) content-box" => "inset(0px) content-box";
            "clip-path" "padding-box inset(1px)" => "inset(1px) padding-box";
            "clip-path" "circle(-1px)" => "none";
        },
    ),
    (
        "CSS Easing 2",
        values! {
            "transition-timing-function" "steps(4, end)" => "steps(4)";
            "transition-timing-function" "steps(4, jump-both)" => "steps(4, jump-both)";
            "transition-timing-function" "steps(2, jump-start)" => "steps(2, jump-start)";
            "transition-timing-function" "step-start" => "steps(1, start)";
            "transition-timing-function" "linear(0, 0.5 20%, 1)" => "linear(0 0%, 0.5 20%, 1 100%)";
            "transition-timing-function" "linear(0, 0.2, 0.4 60%, 1)" => "linear(0 0%, 0.2 30%, 0.4 60%, 1 100%)";
            "transition-timing-function" "cubic-bezier(0.1, 2, 0.3, 1)" => "cubic-bezier(0.1, 2, 0.3, 1)";
            "transition-timing-function" "cubic-bezier(2, 0, 1, 1)" => "ease";
            "transition-timing-function" "steps(0)" => "ease";
            "transition-timing-function" "ease-in, linear" => "ease-in, linear";
        },
    ),
    (
        "CSS Values 4: math functions and units",
        values! {
            "padding-left" "calc(1em + 2 * 3px)" => "26px";
            "padding-left" "min(1em, 1rem)" => "16px";
            "padding-left" "clamp(1px, 5em, 30px)" => "30px";
            "padding-left" "round(7px, 2px)" => "8px";
            "padding-left" "round(down, 7.9px, 2px)" => "6px";
            "padding-left" "mod(11px, 4px)" => "3px";
            "padding-left" "rem(11px, 4px)" => "3px";
            "padding-left" "hypot(3px, 4px)" => "5px";
            "padding-left" "calc(1px * pow(2, 3))" => "8px";
            "padding-left" "calc(10px * sin(30deg))" => "5px";
            "padding-left" "calc(10px * cos(0.5turn) * -1)" => "10px";
            "padding-left" "calc(1px * tan(45deg))" => "1px";
            "padding-left" "calc(1px * atan2(1, 1) / 1deg)" => "45px";
            "padding-left" "calc(1px * sqrt(16))" => "4px";
            "padding-left" "calc(1px * exp(0))" => "1px";
            "padding-left" "calc(1px * log(8, 2))" => "3px";
            "padding-left" "abs(-3px)" => "3px";
            "padding-left" "calc(3px * sign(-1em) * -1)" => "3px";
            "padding-left" "calc(-5px)" => "0px";
            "padding-left" "calc(infinity * 1px)" => "3.35544e+07px";
            "padding-left" "calc(1px + 1)" => "0px";
            "padding-left" "calc(1px+1px)" => "0px";
            "padding-left" "calc(pi * 1px)" => "3.14159px";
            "padding-left" "1in" => "96px";
            "padding-left" "1q" => "0.944882px";
            "padding-left" "2vw" => "25.6px";
            "padding-left" "1e1px" => "10px";
            "padding-left" "10" => "0px";
            "z-index" "calc(1.5)" => "2";
            "z-index" "99999999999" => "2147483647";
            "z-index" "2.5" => "auto";
            "order" "calc(-1.5)" => "-1";
            "opacity" "calc(10% + 20%)" => "0.3";
            "opacity" "150%" => "1";
            "opacity" "-1" => "0";
            "flex-grow" "calc(1 / 4)" => "0.25";
            "orphans" "0" => "2";
            "column-count" "99999999" => "65535";
            "line-height" "calc(-1em)" => "0px";
            "font-size" "max(1em, 30px)" => "30px";
            "border-top-left-radius" "1em 10%" => "20px 10%";
            "tab-size" "2em" => "40px";
        },
    ),
    (
        "CSS Box Alignment 3, CSS Display 3, CSS Text 3 and others",
        values! {
            "justify-content" "safe center" => "safe center";
            "justify-content" "baseline" => "normal";
            "align-items" "first baseline" => "baseline";
            "align-items" "last baseline" => "last baseline";
            "justify-items" "legacy center" => "legacy center";
            "justify-self" "safe start" => "safe start";
            "align-content" "unsafe end" => "unsafe end";
            "display" "inline flow-root" => "inline-block";
            "display" "block flow-root" => "flow-root";
            "display" "list-item block" => "list-item";
            "display" "inline flex" => "inline-flex";
            "display" "flow" => "block";
            "display" "block inline" => "block";
            "text-decoration-line" "overline underline" => "underline overline";
            "text-decoration-line" "none underline" => "none";
            "touch-action" "pan-y pan-x" => "pan-x pan-y";
            "touch-action" "pinch-zoom pan-left" => "pan-left pinch-zoom";
            "font-style" "oblique 10deg" => "oblique 10deg";
            "font-stretch" "condensed" => "75%";
            "font-stretch" "62.5%" => "62.5%";
            "font-variant-numeric" "slashed-zero tabular-nums" => "tabular-nums slashed-zero";
            "color-scheme" "only light" => "light only";
            "color-scheme" "dark inside" => "dark inside";
            "aspect-ratio" "16 / 9" => "16 / 9";
            "aspect-ratio" "auto 1/2" => "auto 1 / 2";
            "object-position" "right 1em bottom 2px" => "calc(100% - 20px) calc(100% - 2px)";
            "object-position" "left" => "0% 50%";
            "background-position-x" "right 1em" => "calc(100% - 20px)";
            "background-size" "1em" => "20px auto";
            "background-repeat" "repeat no-repeat" => "repeat-x";
            "scrollbar-gutter" "both-edges stable" => "stable both-edges";
            "grid-auto-flow" "dense column" => "column dense";
            "box-shadow" "inset 0 1px red" => "rgb(255, 0, 0) 0px 1px 0px 0px inset";
            "box-shadow" "1px 1px 2px -3px, 0 0 blue" => "rgb(1, 2, 3) 1px 1px 2px -3px, rgb(0, 0, 255) 0px 0px 0px 0px";
            "text-shadow" "1px 1px" => "rgb(1, 2, 3) 1px 1px 0px";
            "content" "\"a\"" => "\"a\"";
            "content" "\"a\" / \"b\"" => "\"a\" / \"b\"";
            "cursor" "pointer" => "pointer";
            "word-spacing" "10%" => "10%";
            "letter-spacing" "0" => "normal";
            "text-indent" "10%" => "10%";
            "font-family" "\"A B\", serif, \"sans-serif\"" => "\"A B\", serif, \"sans-serif\"";
            "font-weight" "1001" => "400";
            "will-change" "opacity, transform" => "opacity, transform";
            "border-top-width" "2.6px" => "0px";
        },
    ),
];
