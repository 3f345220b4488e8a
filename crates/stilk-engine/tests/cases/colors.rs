//! Colours that are calculated: mixed, taken from others, and with components that are missing.

use super::Case;

macro_rules! colors {
    ($($color:literal => $expected:literal;)*) => {
        &[$((
            $color,
            concat!("#t { color: rgb(1, 2, 3); border: 1px solid lightblue; border-top-color: ", $color, " }"),
            "<div id=t>x</div>",
            "border-top-color",
            $expected,
        )),*]
    };
}

/// Every group with its source.
pub const COLORS: &[(&str, &[Case])] = &[
    (
        "CSS Color 5, section 3: color-mix()",
        colors! {
            "color-mix(in hwb, hsl(-30 100 50) 0%, transparent)" => "color(srgb 1 0 0.5 / 0)";
            "color-mix(in hwb, hsl(-30 100 50), transparent)" => "color(srgb 1 0 0.5 / 0.5)";
            "color-mix(in hsl, hsl(-30 100 50) 0%, transparent)" => "color(srgb 0 0 0 / 0)";
            "color-mix(in hwb, #2a6 0%, transparent)" => "color(srgb 0 1 0.5 / 0)";
            "color-mix(in hwb, #2a6 30%, rgb(0 0 0 / 0))" => "color(srgb 0.133333 0.666667 0.4 / 0.3)";
            "color-mix(in hwb, oklch(0.6 0.15 250) 80%, hwb(400 60% 60%) 100%)" => "color(srgb 0.418784 0.593971 0.402012)";
            "color-mix(in hwb, red, hwb(400 60% 60%))" => "color(srgb 0.7 0.433333 0.3)";
            "color-mix(in hwb, hwb(40 20% 60%), hwb(400 60% 60%))" => "color(srgb 0.4 0.4 0.4)";
            "color-mix(in hwb, hwb(none 20% 60%) 30%, hwb(90 20% 50%))" => "color(srgb 0.335 0.47 0.2)";
            "color-mix(in hsl, hsl(40 0% 50%), hsl(80 50% 50%))" => "color(srgb 0.625 0.625 0.375)";
            "color-mix(in hsl, hsl(from hsl(40 0% 50%) h s l), hsl(80 50% 50%))" => "color(srgb 0.625 0.625 0.375)";
            "color-mix(in hsl, light-dark(hsl(40 0% 50%), red), hsl(80 50% 50%))" => "color(srgb 0.625 0.625 0.375)";
            "color-mix(in hsl, color-mix(in hsl, hsl(40 0% 50%), hsl(40 0% 50%)), hsl(80 50% 50%))" => "color(srgb 0.625 0.625 0.375)";
            "color-mix(in oklch, hsl(none 50% 50%), oklch(.5 .1 80))" => "oklch(0.526172 0.131846 80)";
            "color-mix(in oklch, hsl(40 none 50%), oklch(.5 .1 80))" => "oklch(0.549088 0.1 80)";
            "color-mix(in hsl, hsl(40 150% 50%), hsl(80 50% 50%))" => "color(srgb 1 1 0)";
            "color-mix(in hsl, hsl(40 50% 150%), hsl(80 50% 50%))" => "color(srgb 1 1 1)";
            "color-mix(in hwb, hwb(40 150% 0%), hwb(80 20% 30%))" => "color(srgb 0.85 0.85 0.85)";
            "color-mix(in hsl, hsl(40 50% 50% / none), hsl(80 50% 50%))" => "color(srgb 0.75 0.75 0.25)";
            "color-mix(in srgb, hsl(40 120% 50%), red)" => "color(srgb 1.05 0.35 -0.05)";
            "color-mix(in hsl, rgb(255 200 100), hsl(none 50% 50%))" => "color(srgb 0.89951 0.685563 0.296569)";
            "color-mix(in oklch, contrast-color(blue), red)" => "oklch(0.81398 0.128877 29.2346)";
            "color-mix(in srgb, rgb(255 0 0 / none), rgb(0 0 255 / .5))" => "color(srgb 0.5 0 0.5 / 0.5)";
            "color-mix(in srgb, rgb(255 0 0 / none), rgb(0 0 255 / none))" => "color(srgb 0.5 0 0.5 / none)";
            "color-mix(in srgb, rgb(255 0 0 / none) 30%, rgb(0 0 255 / none) 40%)" => "color(srgb 0.428571 0 0.571429 / none)";
            "color-mix(in srgb, rgb(255 0 0 / none) 30%, rgb(0 0 255 / .5) 40%)" => "color(srgb 0.428571 0 0.571429 / 0.35)";
            "color-mix(in srgb, color-mix(in srgb, rgb(255 0 0 / none), rgb(0 0 255 / none)), rgb(0 255 0 / .5))" => "color(srgb 0.25 0.5 0.25 / 0.5)";
            "color-mix(in oklch, color-mix(in srgb, rgb(255 0 0 / none), rgb(0 0 255 / none)), oklch(.5 .1 30 / .5))" => "oklch(0.459862 0.146457 359.185 / 0.5)";
            "color-mix(in srgb, rgb(from rgb(255 0 0 / none) r g b), rgb(0 0 255 / .5))" => "color(srgb 0 0 1 / 0.25)";
            "color-mix(in srgb, rgb(from rgb(255 0 0 / none) r g b / alpha), rgb(0 0 255 / .5))" => "color(srgb 0 0 1 / 0.25)";
            "color-mix(in srgb, rgb(from rgb(255 0 0 / .5) r g b / none), rgb(0 0 255 / .5))" => "color(srgb 0.5 0 0.5 / 0.5)";
            "color-mix(in oklch, rgb(255 0 0 / none), oklch(.5 .1 30 / .5))" => "oklch(0.563983 0.178852 29.6173 / 0.5)";
            "color-mix(in oklch, light-dark(rgb(255 0 0 / none), red), oklch(.5 .1 30 / .5))" => "oklch(0.563983 0.178852 29.6173 / 0.5)";
            "color-mix(in oklch, oklch(none none none / none), oklch(.5 .1 30 / .5))" => "oklch(0.5 0.1 30 / 0.5)";
            "color-mix(in oklch, transparent, oklch(.5 .1 30 / 0))" => "oklch(0 0 30 / 0)";
            "color-mix(in srgb, hsl(40 100% 50% / 0), hsl(40 100% 50% / 0) )" => "color(srgb 0 0 0 / 0)";
            "color-mix(in oklab, red 0%, transparent)" => "oklab(0 0 0 / 0)";
            "color-mix(in xyz, color(xyz .1 .2 .3 / 0), color(xyz .1 .2 .3 / 0))" => "color(xyz-d65 0 0 0 / 0)";
            "color-mix(in hsl, hsl(40 50% 50%) 40%, hsl(none none none) 60%)" => "color(srgb 0.75 0.583333 0.25)";
            "color-mix(in hsl, lch(50 0 none), hsl(80 50% 50%))" => "color(srgb 0.523425 0.603967 0.362341)";
            "color-mix(in hsl, lch(50 30 none), hsl(80 50% 50%))" => "color(srgb 0.57216 0.698757 0.318967)";
            "color-mix(in hsl, oklch(none .1 30), hsl(80 50% 50%))" => "color(srgb -0.291327 1.29133 0.523105)";
            "color-mix(in oklch, hsl(40 50% none), oklch(.5 .1 80))" => "oklch(0.5 0.05 80)";
            "color-mix(in oklab, hsl(40 50% none), oklab(.5 .1 .1))" => "oklab(0.5 0.05 0.05)";
            "color-mix(in lab, oklab(.5 none .1), lab(50 10 20))" => "lab(46.1105 10 33.6962)";
            "color-mix(in hsl, alpha(from hsl(40 0% 50%) / .5), hsl(80 50% 50%))" => "color(srgb 0.666667 0.666667 0.333333 / 0.75)";
            "color-mix(in srgb, alpha(from red / none), rgb(0 0 255 / .5))" => "color(srgb 0.5 0 0.5 / 0.5)";
            "color-mix(in srgb, rgb(300 -20 30), rgb(0 0 0))" => "color(srgb 0.5 0 0.0588235)";
            "color-mix(in hsl, hsl(40 50% 50%), hwb(none none none))" => "color(srgb 0.75 0.583333 0.25)";
            "color-mix(in hsl, hsl(40 50% 50%), hwb(90 none none))" => "color(srgb 0.708333 0.75 0.25)";
            "color-mix(in hsl, hsl(40 50% 50%), hwb(90 none 20%))" => "color(srgb 0.73125 0.7875 0.1125)";
            "color-mix(in hsl, hsl(40 50% 50%), hwb(90 20% none))" => "color(srgb 0.83125 0.8875 0.2125)";
            "color-mix(in oklch, oklch(.5 .1 40), hwb(none none none))" => "oklch(0.5 0.1 40)";
            "color-mix(in oklch, oklch(.5 .1 40), hwb(90 none none))" => "oklch(0.5 0.1 87.971)";
            "color-mix(in srgb, red, hwb(none none none))" => "color(srgb 1 0 0)";
            "color-mix(in srgb, red, hsl(none none none))" => "color(srgb 1 0 0)";
            "color-mix(in oklch, oklch(.5 .1 40), rgb(none none none))" => "oklch(0.5 0.1 40)";
            "color-mix(in oklch, oklch(.5 .1 40), lab(none none none))" => "oklch(0.5 0.1 40)";
            "color-mix(in oklch, oklch(.5 .1 40), lab(50 none none))" => "oklch(0.534482 0.1 40)";
            "color-mix(in lab, lab(50 20 30), oklch(none none none))" => "lab(50 20 30)";
            "color-mix(in lab, lab(50 20 30), oklch(.5 none none))" => "lab(46 20 30)";
            "color-mix(in hsl, hsl(40 50% 50%), lch(50 none none))" => "color(srgb 0.724731 0.56368 0.241577)";
            "color-mix(in hwb, hwb(40 20% 20%), hsl(none none none))" => "color(srgb 0.8 0.6 0.2)";
            "color-mix(in xyz, color(xyz .1 .2 .3), rgb(none none none))" => "color(xyz-d65 0.1 0.2 0.3)";
            "color-mix(in lab, lab(50 20 30), hsl(none none 40%))" => "lab(46.5958 20 30)";
            "color-mix(in hsl, hsl(40 50% 50%), lab(40 none none))" => "color(srgb 0.652141 0.507221 0.21738)";
            "color-mix(in oklch, oklch(.5 .1 40), hsl(30 none none))" => "oklch(0.5 0.1 40)";
            "color-mix(in oklab, oklab(.5 .1 .1), hwb(30 none none))" => "oklab(0.615575 0.106308 0.124104)";
            "color-mix(in hwb, hwb(40 20% 20%), oklch(none none 40))" => "color(srgb 0.8 0.6 0.2)";
            "color-mix(in hwb, hwb(40 20% 20%), hsl(80 none none))" => "color(srgb 0.8 0.6 0.2)";
            "color-mix(in hwb, hwb(40 20% 20%), hsl(80 none 40%))" => "color(srgb 0.6 0.5 0.3)";
            "color-mix(in srgb, red, lab(none none none))" => "color(srgb 1 0 0)";
            "color-mix(in oklab, oklab(.5 .1 .1), oklch(.6 none 40))" => "oklab(0.55 0.05 0.05)";
            "color-mix(in oklab, oklab(.5 .1 .1), oklch(.6 .1 none))" => "oklab(0.55 0.1 0.05)";
            "color-mix(in oklch, oklch(.5 .1 40), oklab(.6 none .1))" => "oklch(0.55 0.1 65)";
            "color-mix(in srgb, red, lime)" => "color(srgb 0.5 0.5 0)";
            "color-mix(in srgb, hsl(120 50% 40%) 30%, transparent)" => "color(srgb 0.2 0.6 0.2 / 0.3)";
            "color-mix(in srgb, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(srgb 0.963072 0.162144 0.164788)";
            "color-mix(in srgb, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(srgb 0.217226 0.241396 0.265532 / 0.26)";
            "color-mix(in srgb-linear, red, lime)" => "color(srgb-linear 0.5 0.5 2.79397e-9)";
            "color-mix(in srgb-linear, hsl(120 50% 40%) 30%, transparent)" => "color(srgb-linear 0.0331048 0.318547 0.0331048 / 0.3)";
            "color-mix(in srgb-linear, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(srgb-linear 0.972748 0.143803 0.173296)";
            "color-mix(in srgb-linear, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(srgb-linear 0.0849203 0.0873918 0.0910797 / 0.26)";
            "color-mix(in display-p3, red, lime)" => "color(display-p3 0.68805 0.592734 0.218383)";
            "color-mix(in display-p3, hsl(120 50% 40%) 30%, transparent)" => "color(display-p3 0.320549 0.591787 0.25709 / 0.3)";
            "color-mix(in display-p3, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(display-p3 0.90376 0.359363 0.307994)";
            "color-mix(in display-p3, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(display-p3 0.222525 0.240735 0.263425 / 0.26)";
            "color-mix(in a98-rgb, red, lime)" => "color(a98-rgb 0.711908 0.496775 0.114605)";
            "color-mix(in a98-rgb, hsl(120 50% 40%) 30%, transparent)" => "color(a98-rgb 0.373325 0.594501 0.243922 / 0.3)";
            "color-mix(in a98-rgb, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(a98-rgb 0.860756 0.142323 0.14734)";
            "color-mix(in a98-rgb, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(a98-rgb 0.242587 0.256137 0.276379 / 0.26)";
            "color-mix(in prophoto-rgb, red, lime)" => "color(prophoto-rgb 0.621303 0.601632 0.204023)";
            "color-mix(in prophoto-rgb, hsl(120 50% 40%) 30%, transparent)" => "color(prophoto-rgb 0.318266 0.495374 0.222158 / 0.3)";
            "color-mix(in prophoto-rgb, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(prophoto-rgb 0.741734 0.410262 0.277309)";
            "color-mix(in prophoto-rgb, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(prophoto-rgb 0.199172 0.20254 0.217156 / 0.26)";
            "color-mix(in rec2020, red, lime)" => "color(rec2020 0.67982 0.595099 0.171321)";
            "color-mix(in rec2020, hsl(120 50% 40%) 30%, transparent)" => "color(rec2020 0.335233 0.535893 0.206469 / 0.3)";
            "color-mix(in rec2020, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(rec2020 0.80957 0.383078 0.259579)";
            "color-mix(in rec2020, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(rec2020 0.187172 0.192761 0.207998 / 0.26)";
            "color-mix(in lab, red, lime)" => "lab(71.054 0.781166 75.4473)";
            "color-mix(in lab, hsl(120 50% 40%) 30%, transparent)" => "lab(55.8597 -45.783 42.7915 / 0.3)";
            "color-mix(in lab, color(display-p3 1 0.2 0.1), #abc 30%)" => "lab(63.431 60.286 56.5901)";
            "color-mix(in lab, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "lab(24.2158 -0.918294 -5.08222 / 0.26)";
            "color-mix(in lch, red, lime)" => "lch(71.054 110.088 87.6174)";
            "color-mix(in lch, hsl(120 50% 40%) 30%, transparent)" => "lch(55.8597 62.6674 136.934 / 0.3)";
            "color-mix(in lch, color(display-p3 1 0.2 0.1), #abc 30%)" => "lch(63.431 89.0038 358.736)";
            "color-mix(in lch, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "lch(24.2158 8.38928 259.745 / 0.26)";
            "color-mix(in oklab, red, lime)" => "oklab(0.7472 -0.00448011 0.152681)";
            "color-mix(in oklab, hsl(120 50% 40%) 30%, transparent)" => "oklab(0.602608 -0.134663 0.101025 / 0.3)";
            "color-mix(in oklab, color(display-p3 1 0.2 0.1), #abc 30%)" => "oklab(0.701451 0.165823 0.0905083)";
            "color-mix(in oklab, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "oklab(0.345838 -0.00550025 -0.0145846 / 0.26)";
            "color-mix(in oklch, red, lime)" => "oklch(0.7472 0.276248 85.8619)";
            "color-mix(in oklch, hsl(120 50% 40%) 30%, transparent)" => "oklch(0.602608 0.168345 143.122 / 0.3)";
            "color-mix(in oklch, color(display-p3 1 0.2 0.1), #abc 30%)" => "oklch(0.701451 0.205274 347.719)";
            "color-mix(in oklch, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "oklch(0.345838 0.0253293 249.558 / 0.26)";
            "color-mix(in hsl, red, lime)" => "color(srgb 1 1 0)";
            "color-mix(in hsl, hsl(120 50% 40%) 30%, transparent)" => "color(srgb 0.2 0.6 0.2 / 0.3)";
            "color-mix(in hsl, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(srgb 0.968637 0.159222 0.754552)";
            "color-mix(in hwb, red, lime)" => "color(srgb 1 1 0)";
            "color-mix(in hwb, hsl(120 50% 40%) 30%, transparent)" => "color(srgb 0.2 0.6 0.2 / 0.3)";
            "color-mix(in hwb, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(srgb 1.00307 0.124788 0.770771)";
            "color-mix(in hwb, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(srgb 0.217226 0.248038 0.265532 / 0.26)";
            "color-mix(in xyz, red, lime)" => "color(xyz-d65 0.385027 0.463895 0.0692461)";
            "color-mix(in xyz, hsl(120 50% 40%) 30%, transparent)" => "color(xyz-d65 0.133548 0.237235 0.0700652 / 0.3)";
            "color-mix(in xyz, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(xyz-d65 0.483886 0.3222 0.20063)";
            "color-mix(in xyz, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(xyz-d65 0.0827126 0.0871293 0.098618 / 0.26)";
            "color-mix(in xyz-d50, red, lime)" => "color(xyz-d50 0.410606 0.469681 0.0554962)";
            "color-mix(in xyz-d50, hsl(120 50% 40%) 30%, transparent)" => "color(xyz-d50 0.141859 0.23773 0.0550241 / 0.3)";
            "color-mix(in xyz-d50, color(display-p3 1 0.2 0.1), #abc 30%)" => "color(xyz-d50 0.50436 0.330017 0.151247)";
            "color-mix(in xyz-d50, oklch(0.6 none 250 / 0.5) 20%, rgb(10 20 30 / 40%) 40%)" => "color(xyz-d50 0.08372 0.0870628 0.0747051 / 0.26)";
            "color-mix(in lch shorter hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "lch(53.7219 62.9315 33.6078)";
            "color-mix(in oklch shorter hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "oklch(0.613966 0.161412 30.0016)";
            "color-mix(in hsl shorter hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.8 0.25 0.2)";
            "color-mix(in hwb shorter hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.8 0.25 0.2)";
            "color-mix(in lch longer hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "lch(53.7219 62.9315 123.608)";
            "color-mix(in oklch longer hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "oklch(0.613966 0.161412 120.002)";
            "color-mix(in hsl longer hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.45 0.8 0.2)";
            "color-mix(in hwb longer hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.45 0.8 0.2)";
            "color-mix(in lch increasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "lch(53.7219 62.9315 123.608)";
            "color-mix(in oklch increasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "oklch(0.613966 0.161412 120.002)";
            "color-mix(in hsl increasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.45 0.8 0.2)";
            "color-mix(in hwb increasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.45 0.8 0.2)";
            "color-mix(in lch decreasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "lch(53.7219 62.9315 33.6078)";
            "color-mix(in oklch decreasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "oklch(0.613966 0.161412 30.0016)";
            "color-mix(in hsl decreasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.8 0.25 0.2)";
            "color-mix(in hwb decreasing hue, hsl(20 60% 50%), hsl(320 60% 50%) 25%)" => "color(srgb 0.8 0.25 0.2)";
            "color-mix(red, blue)" => "oklab(0.539974 0.0962086 -0.0928316)";
            "color-mix(in oklab, red 120%, blue)" => "rgb(173, 216, 230)";
            "color-mix(in oklab, red 0%, blue 0%)" => "oklab(0.539974 0.0962086 -0.0928316 / 0)";
            "color-mix(in srgb, red calc(10% + 15%), blue)" => "color(srgb 0.25 0 0.75)";
            "color-mix(in srgb, currentcolor, white)" => "color(srgb 0.501961 0.503922 0.505882)";
            "color-mix(in oklch, white, blue)" => "oklch(0.725987 0.15663 264.051)";
            "color-mix(in hsl, white, blue)" => "color(srgb 0.625 0.625 0.875)";
            "color-mix(in hwb, black, blue)" => "color(srgb 0 0 0.5)";
        },
    ),
    (
        "CSS Color 5, section 4: relative colours",
        colors! {
            "color(from rgb(none 5 6) display-p3 r g b)" => "color(display-p3 0.00348378 0.0189551 0.0228404)";
            "rgb(from contrast-color(blue) r g b / .5)" => "color(srgb 1 1 1 / 0.5)";
            "rgb(from rgb(255 0 0 / none) r g b)" => "color(srgb 1 0 0 / 0)";
            "oklch(from oklch(.5 .1 30 / none) l c h)" => "oklch(0.5 0.1 30 / 0)";
            "oklch(from rgb(255 0 0 / none) l c h)" => "oklch(0.627966 0.257704 29.2346 / 0)";
            "oklch(from rgb(255 0 0 / none) l c h / calc(alpha + .1))" => "oklch(0.627966 0.257704 29.2346 / 0.1)";
            "rgb(from hsl(40 150% 50%) r g b)" => "color(srgb 1.25 0.75 -0.25)";
            "rgb(from hwb(40 150% 50%) r g b)" => "color(srgb 0.75 0.75 0.75)";
            "hsl(from hsl(40 150% 50%) h s l)" => "color(srgb 1.25 0.75 -0.25)";
            "hsl(from hsl(40 150% 50%) h calc(s / 2) l)" => "color(srgb 0.875 0.625 0.125)";
            "hsl(from rgb(300 20 30) h s l)" => "color(srgb 1 0.0784314 0.117647)";
            "oklch(from hsl(none 50% 50%) l c h)" => "oklch(0.552344 0.163692 24.2139)";
            "lab(from hsl(40 120% 50%) l a b)" => "lab(81.6773 31.1296 87.9973)";
            "hsl(from hsl(40 50% 50%) h calc(s - 100) l)" => "color(srgb 0.25 0.416667 0.75)";
            "hsl(from hsl(40 50% 50%) h calc(s + 100) l)" => "color(srgb 1.25 0.75 -0.25)";
            "hwb(from hsl(40 50% 50%) h calc(w - 100) b)" => "color(srgb 0.75 0.25 -0.75)";
            "hwb(from hwb(40 50% 50%) h w calc(b + 100))" => "color(srgb 0.25 0.25 0.25)";
            "hsl(from hsl(40 50% 50%) h s calc(l + 100))" => "color(srgb 1.25 1.41667 1.75)";
            "rgb(from alpha(from red / .5) r g b)" => "color(srgb 1 0 0 / 0.5)";
            "rgb(from #2a6 r g b)" => "color(srgb 0.133333 0.666667 0.4)";
            "rgb(from #2a6 b calc(g * 0.5) r / calc(alpha / 2))" => "color(srgb 0.4 0.333333 0.133333 / 0.5)";
            "hsl(from #2a6 calc(h + 30) s l)" => "color(srgb 0.133333 0.666667 0.666667)";
            "hwb(from #2a6 h w 10%)" => "color(srgb 0.133333 0.9 0.516667)";
            "lab(from #2a6 l a b)" => "lab(61.6351 -48.4464 24.7016)";
            "lch(from #2a6 l calc(c * 2) h)" => "lch(61.6351 108.761 152.984)";
            "oklab(from #2a6 calc(l + 0.1) a b)" => "oklab(0.75246 -0.136876 0.0631242)";
            "oklch(from #2a6 l 0.1 h)" => "oklch(0.65246 0.1 155.242)";
            "color(from #2a6 srgb-linear r g b)" => "color(srgb-linear 0.0159963 0.401978 0.132868)";
            "color(from #2a6 display-p3 g r b / none)" => "color(display-p3 0.656966 0.321947 0.424024 / none)";
            "color(from #2a6 xyz x y z)" => "color(xyz-d65 0.174332 0.300463 0.174493)";
            "rgb(from oklch(0.6 0.15 250) r g b)" => "color(srgb 0.154526 0.515885 0.836435)";
            "rgb(from oklch(0.6 0.15 250) b calc(g * 0.5) r / calc(alpha / 2))" => "color(srgb 0.836435 0.257943 0.154526 / 0.5)";
            "hsl(from oklch(0.6 0.15 250) calc(h + 30) s l)" => "color(srgb 0.154526 0.174931 0.836435)";
            "hwb(from oklch(0.6 0.15 250) h w 10%)" => "color(srgb 0.154526 0.54957 0.9)";
            "lab(from oklch(0.6 0.15 250) l a b)" => "lab(52.8664 -4.50107 -50.4129)";
            "lch(from oklch(0.6 0.15 250) l calc(c * 2) h)" => "lch(52.8664 101.227 264.898)";
            "oklab(from oklch(0.6 0.15 250) calc(l + 0.1) a b)" => "oklab(0.7 -0.051303 -0.140954)";
            "oklch(from oklch(0.6 0.15 250) l 0.1 h)" => "oklch(0.6 0.1 250)";
            "color(from oklch(0.6 0.15 250) srgb-linear r g b)" => "color(srgb-linear 0.0206616 0.22904 0.667435)";
            "color(from oklch(0.6 0.15 250) display-p3 g r b / none)" => "color(display-p3 0.50861 0.266393 0.812113 / none)";
            "color(from oklch(0.6 0.15 250) xyz x y z)" => "color(xyz-d65 0.210872 0.216362 0.662029)";
            "rgb(from color(display-p3 0.2 0.8 0.4) r g b)" => "color(srgb -0.341307 0.814033 0.345483)";
            "rgb(from color(display-p3 0.2 0.8 0.4) b calc(g * 0.5) r / calc(alpha / 2))" => "color(srgb 0.345483 0.407017 -0.341307 / 0.5)";
            "hsl(from color(display-p3 0.2 0.8 0.4) calc(h + 30) s l)" => "color(srgb -0.341307 0.704913 0.814033)";
            "hwb(from color(display-p3 0.2 0.8 0.4) h w 10%)" => "color(srgb -0.341307 0.9 0.396586)";
            "lab(from color(display-p3 0.2 0.8 0.4) l a b)" => "lab(71.881 -75.9616 43.6438)";
            "lch(from color(display-p3 0.2 0.8 0.4) l calc(c * 2) h)" => "lch(71.881 175.214 150.12)";
            "oklab(from color(display-p3 0.2 0.8 0.4) calc(l + 0.1) a b)" => "oklab(0.83201 -0.2115 0.106997)";
            "oklch(from color(display-p3 0.2 0.8 0.4) l 0.1 h)" => "oklch(0.73201 0.1 153.165)";
            "color(from color(display-p3 0.2 0.8 0.4) srgb-linear r g b)" => "color(srgb-linear -0.0953826 0.627887 0.0978131)";
            "color(from color(display-p3 0.2 0.8 0.4) display-p3 g r b / none)" => "color(display-p3 0.8 0.2 0.4 / none)";
            "color(from color(display-p3 0.2 0.8 0.4) xyz x y z)" => "color(xyz-d65 0.202862 0.435805 0.165948)";
            "rgb(from hsl(40 150% 50%) b calc(g * 0.5) r / calc(alpha / 2))" => "color(srgb -0.25 0.375 1.25 / 0.5)";
            "hsl(from hsl(40 150% 50%) calc(h + 30) s l)" => "color(srgb 1 1.25 -0.25)";
            "hwb(from hsl(40 150% 50%) h w 10%)" => "color(srgb 0.9 0.516666 -0.25)";
            "lab(from hsl(40 150% 50%) l a b)" => "lab(89.024 39.6266 109.653)";
            "lch(from hsl(40 150% 50%) l calc(c * 2) h)" => "lch(89.024 233.187 70.1311)";
            "oklab(from hsl(40 150% 50%) calc(l + 0.1) a b)" => "oklab(1 0.0830078 0.204069)";
            "oklch(from hsl(40 150% 50%) l 0.1 h)" => "oklch(0.911064 0.1 67.8653)";
            "color(from hsl(40 150% 50%) srgb-linear r g b)" => "color(srgb-linear 1.66594 0.522521 -0.0508761)";
            "color(from hsl(40 150% 50%) display-p3 g r b / none)" => "color(display-p3 0.773826 1.1813 0.151452 / none)";
            "color(from hsl(40 150% 50%) xyz x y z)" => "color(xyz-d65 0.864764 0.724263 0.0461)";
            "rgb(from rgb(10 20 30 / 40%) r g b)" => "color(srgb 0.0392157 0.0784314 0.117647 / 0.4)";
            "rgb(from rgb(10 20 30 / 40%) b calc(g * 0.5) r / calc(alpha / 2))" => "color(srgb 0.117647 0.0392157 0.0392157 / 0.2)";
            "hsl(from rgb(10 20 30 / 40%) calc(h + 30) s l)" => "color(srgb 0.0392157 0.0392157 0.117647 / 0.4)";
            "hwb(from rgb(10 20 30 / 40%) h w 10%)" => "color(srgb 0.0392157 0.469608 0.9 / 0.4)";
            "lab(from rgb(10 20 30 / 40%) l a b)" => "lab(5.85066 -1.49351 -8.25527 / 0.4)";
            "lch(from rgb(10 20 30 / 40%) l calc(c * 2) h)" => "lch(5.85066 16.7786 259.745 / 0.4)";
            "oklab(from rgb(10 20 30 / 40%) calc(l + 0.1) a b)" => "oklab(0.286986 -0.00893791 -0.0236999 / 0.4)";
            "oklch(from rgb(10 20 30 / 40%) l 0.1 h)" => "oklch(0.186986 0.1 249.337 / 0.4)";
            "color(from rgb(10 20 30 / 40%) srgb-linear r g b)" => "color(srgb-linear 0.00303527 0.00699541 0.012983 / 0.4)";
            "color(from rgb(10 20 30 / 40%) display-p3 g r b / none)" => "color(display-p3 0.0773748 0.047784 0.114247 / none)";
            "color(from rgb(10 20 30 / 40%) xyz x y z)" => "color(xyz-d65 0.00609639 0.0065852 0.0132315 / 0.4)";
            "rgb(from currentcolor r g b)" => "color(srgb 0.00392157 0.00784314 0.0117647)";
            "oklch(from light-dark(#2a6, red) l c h)" => "oklch(0.65246 0.15073 155.242)";
            "hsl(from red h s l / 50%)" => "color(srgb 1 0 0 / 0.5)";
            "oklch(from red l c none)" => "oklch(0.627966 0.257704 none)";
            "lab(from red l 0 alpha)" => "lab(54.29 0 1)";
            "rgb(from red 300 -20 g)" => "color(srgb 1.17647 -0.0784314 0)";
            "lch(from red 120 c h)" => "lch(100 106.854 40.856)";
        },
    ),
    (
        "CSS Color 5, sections 5 and 8: alpha(), contrast-color()",
        colors! {
            "contrast-color(red)" => "rgb(0, 0, 0)";
            "contrast-color(#767676)" => "rgb(0, 0, 0)";
            "contrast-color(#757575)" => "rgb(255, 255, 255)";
            "contrast-color(rgb(255 0 0 / .2))" => "rgb(0, 0, 0)";
            "contrast-color(transparent)" => "rgb(255, 255, 255)";
            "contrast-color(currentcolor)" => "rgb(255, 255, 255)";
            "contrast-color(Canvas)" => "rgb(0, 0, 0)";
            "contrast-color(light-dark(red, blue))" => "rgb(0, 0, 0)";
            "alpha(from red / .5)" => "rgba(255, 0, 0, 0.5)";
            "alpha(from red / calc(alpha * .5))" => "rgba(255, 0, 0, 0.5)";
            "alpha(from rgb(1 2 3 / .6) / calc(alpha * .5))" => "rgba(1, 2, 3, 0.3)";
            "alpha(from red)" => "rgb(173, 216, 230)";
            "alpha(from rgb(1 2 3 / .6))" => "rgb(173, 216, 230)";
            "alpha(from currentcolor / .3)" => "color(srgb 0.00392157 0.00784314 0.0117647 / 0.3)";
            "alpha(from color-mix(in oklch, red, blue) / .3)" => "oklch(0.539974 0.285457 326.643 / 0.3)";
            "alpha(from oklch(.5 .1 none) / .3)" => "oklch(0.5 0.1 0 / 0.3)";
            "alpha(from oklch(.5 .1 none) / none)" => "oklch(0.5 0.1 0 / none)";
            "alpha(from hsl(none 50% 50%) / 50%)" => "rgba(191, 64, 64, 0.5)";
            "alpha(from light-dark(red, blue) / 50%)" => "rgba(255, 0, 0, 0.5)";
            "alpha(from red / 150%)" => "rgb(255, 0, 0)";
            "alpha(from red 50%)" => "rgb(173, 216, 230)";
            "alpha(red / 50%)" => "rgb(173, 216, 230)";
            "alpha(from hsl(from red h s 40) / 50%)" => "rgba(204, 0, 0, 0.5)";
            "contrast-color(#fff)" => "rgb(0, 0, 0)";
            "contrast-color(#000)" => "rgb(255, 255, 255)";
            "contrast-color(hsl(210 60% 40%))" => "rgb(255, 255, 255)";
            "contrast-color(contrast-color(red))" => "rgb(255, 255, 255)";
        },
    ),
    (
        "CSS Color 4, sections 4 and 7: notations, missing components",
        colors! {
            "rgb(255 0 0 / none)" => "rgba(255, 0, 0, 0)";
            "color(srgb 1 0 0 / none)" => "color(srgb 1 0 0 / none)";
            "oklch(.5 .1 30 / none)" => "oklch(0.5 0.1 30 / none)";
            "light-dark(hsl(40 150% 50%), red)" => "rgb(255, 191, 0)";
            "hsl(40 150% 50%)" => "rgb(255, 191, 0)";
            "hsl(40 50% 150%)" => "rgb(255, 255, 255)";
            "hsl(40 -50% 50%)" => "rgb(128, 128, 128)";
            "hsl(40 50% -50%)" => "rgb(0, 0, 0)";
            "hwb(40 -50% 20%)" => "rgb(204, 136, 0)";
            "hwb(40 150% 20%)" => "rgb(225, 225, 225)";
            "hwb(40 150% -20%)" => "rgb(255, 255, 255)";
            "hsl(none 50% 50%)" => "rgb(191, 64, 64)";
            "hsl(40 none 50%)" => "rgb(128, 128, 128)";
            "hsl(40 50% 50% / none)" => "rgba(191, 149, 64, 0)";
            "hsl(40 50% 120% / .5)" => "rgba(255, 255, 255, 0.5)";
            "hsl(40 180% 60%)" => "rgb(255, 214, 0)";
            "hsl(400 50% 60%)" => "rgb(204, 170, 102)";
            "hsl(-400 50% 60%)" => "rgb(204, 102, 170)";
        },
    ),
];
