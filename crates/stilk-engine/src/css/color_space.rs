//! Conversions between colour spaces. They go through XYZ under D50 with the constants of the graphics library that
//! Chromium draws with: CSS Color 4, section 11 gives others, which differ in the fourth digit, and what counts is what is
//! painted. Read off Chromium 156; the tests hold them to what it answers.

use ::color::ColorSpaceTag as Space;

type Triple = [f64; 3];
type Matrix = [Triple; 3];

/// The white of D50 and of D65: X and Z where Y is 1.
const D50: (f64, f64) = (0.96422, 0.82521);
const D65: (f64, f64) = (0.3127 / 0.3290, (1.0 - 0.3127 - 0.3290) / 0.3290);
/// The white that `lab()` is relative to.
const LAB_WHITE: Triple = [0.9642, 1.0, 0.8251];

const SRGB: Matrix = [
    [0.436_065_674, 0.385_147_095, 0.143_066_406],
    [0.222_488_403, 0.716_873_169, 0.060_607_910],
    [0.013_916_016, 0.097_076_416, 0.714_096_069],
];
const DISPLAY_P3: Matrix =
    [[0.515_102, 0.291_965, 0.157_153], [0.241_182, 0.692_236, 0.066_581_9], [-0.001_049_41, 0.041_881_8, 0.784_378]];
const A98: Matrix =
    [[0.609_741, 0.205_276, 0.149_185], [0.311_111, 0.625_671, 0.063_217_2], [0.019_470_2, 0.060_867_3, 0.744_568]];
const REC2020: Matrix =
    [[0.673_459, 0.165_661, 0.125_100], [0.279_033, 0.675_338, 0.045_628_8], [-0.001_931_39, 0.029_979_4, 0.797_162]];
const PROPHOTO: Matrix = [
    [0.797_670, 0.135_192, 0.031_347_3],
    [0.288_039, 0.711_874, 0.000_085_653_96],
    [0.000_000_242_035, 0.000_000_144_3, 0.825_211],
];
/// Bradford's cone responses (CSS Color 4, section 10.4).
const BRADFORD: Matrix = [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]];
/// XYZ under D65 to cones, and cones to Oklab (CSS Color 4, section 11).
const OKLAB_CONES: Matrix = [
    [0.819_022_443_216_431_9, 0.361_906_256_280_122_1, -0.128_873_782_612_164_14],
    [0.032_983_667_198_027_1, 0.929_286_846_896_554_6, 0.036_144_668_169_998_44],
    [0.048_177_199_566_046_255, 0.264_239_524_944_227_64, 0.633_547_825_813_693_7],
];
const OKLAB: Matrix = [
    [0.210_454_255_3, 0.793_617_785_0, -0.004_072_046_8],
    [1.977_998_495_1, -2.428_592_205_0, 0.450_593_709_9],
    [0.025_904_037_1, 0.782_771_766_2, -0.808_675_766_0],
];

fn apply(m: &Matrix, v: Triple) -> Triple {
    [0, 1, 2].map(|row| (0..3).map(|k| m[row][k] * v[k]).sum())
}

fn inverse(m: &Matrix) -> Matrix {
    let cofactor = |r: usize, c: usize| {
        let (a, b) = ((r + 1) % 3, (r + 2) % 3);
        let (d, e) = ((c + 1) % 3, (c + 2) % 3);
        m[a][d] * m[b][e] - m[a][e] * m[b][d]
    };
    let determinant: f64 = (0..3).map(|c| m[0][c] * cofactor(0, c)).sum();
    [0, 1, 2].map(|r| [0, 1, 2].map(|c| cofactor(c, r) / determinant))
}

/// What changes with the inverses: made once.
struct Inverses {
    srgb: Matrix,
    display_p3: Matrix,
    a98: Matrix,
    rec2020: Matrix,
    prophoto: Matrix,
    oklab_cones: Matrix,
    oklab: Matrix,
    to_d65: Matrix,
    to_d50: Matrix,
}

static INVERSES: std::sync::LazyLock<Inverses> = std::sync::LazyLock::new(|| {
    let cones = |white: (f64, f64)| apply(&BRADFORD, [white.0, 1.0, white.1]);
    let (from, to) = (cones(D50), cones(D65));
    let back = inverse(&BRADFORD);
    // Scales the cone responses from one white to the other.
    let scaled = |row: Triple, i: usize| row.map(|n| n * to[i] / from[i]);
    let scaled = [scaled(BRADFORD[0], 0), scaled(BRADFORD[1], 1), scaled(BRADFORD[2], 2)];
    let to_d65: Matrix = [0, 1, 2].map(|r| [0, 1, 2].map(|c| (0..3).map(|k| back[r][k] * scaled[k][c]).sum()));
    Inverses {
        srgb: inverse(&SRGB),
        display_p3: inverse(&DISPLAY_P3),
        a98: inverse(&A98),
        rec2020: inverse(&REC2020),
        prophoto: inverse(&PROPHOTO),
        oklab_cones: inverse(&OKLAB_CONES),
        oklab: inverse(&OKLAB),
        to_d50: inverse(&to_d65),
        to_d65,
    }
});

/// Applies a curve to the amount and keeps the sign.
fn signed(value: f64, curve: impl Fn(f64) -> f64) -> f64 {
    if value < 0.0 { -curve(-value) } else { curve(value) }
}

fn srgb_decode(value: f64) -> f64 {
    signed(value, |v| if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) })
}

fn srgb_encode(value: f64) -> f64 {
    signed(value, |v| if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 })
}

/// The curve of `rec2020`: ((a·v + b)^g), straight below d.
const REC2020_CURVE: (f64, f64, f64, f64, f64) = (2.222_22, 0.909_672, 0.090_327_6, 0.222_222, 0.081_242_9);

fn rec2020_decode(value: f64) -> f64 {
    let (g, a, b, c, d) = REC2020_CURVE;
    signed(value, |v| if v >= d { (a * v + b).powf(g) } else { c * v })
}

fn rec2020_encode(value: f64) -> f64 {
    let (g, a, b, c, d) = REC2020_CURVE;
    signed(value, |v| if v >= c * d { (v.powf(1.0 / g) - b) / a } else { v / c })
}

/// CSS Color 4, section 7: from a hue to sRGB.
fn hsl_to_srgb([h, s, l]: Triple) -> Triple {
    let (s, l) = (s / 100.0, l / 100.0);
    let a = s * l.min(1.0 - l);
    let channel = |n: f64| {
        let k = (n + h / 30.0).rem_euclid(12.0);
        l - a * (-1.0f64).max((k - 3.0).min(9.0 - k).min(1.0))
    };
    [channel(0.0), channel(8.0), channel(4.0)]
}

fn srgb_to_hsl([r, g, b]: Triple) -> Triple {
    let (max, min) = (r.max(g).max(b), r.min(g).min(b));
    let (l, d) = ((max + min) / 2.0, max - min);
    if d == 0.0 {
        return [0.0, 0.0, l * 100.0];
    }
    let mut s = if l == 0.0 || l == 1.0 { 0.0 } else { (max - l) / l.min(1.0 - l) };
    let mut h = if max == r {
        (g - b) / d + if g < b { 6.0 } else { 0.0 }
    } else if max == g {
        (b - r) / d + 2.0
    } else {
        (r - g) / d + 4.0
    } * 60.0;
    // Out of gamut a saturation may come out negative (CSS Color 4, section 7.2).
    if s < 0.0 {
        h += 180.0;
        s = s.abs();
    }
    [h.rem_euclid(360.0), s * 100.0, l * 100.0]
}

fn hwb_to_srgb([h, w, b]: Triple) -> Triple {
    let (w, b) = (w / 100.0, b / 100.0);
    if w + b >= 1.0 {
        return [w / (w + b); 3];
    }
    hsl_to_srgb([h, 100.0, 50.0]).map(|channel| channel * (1.0 - w - b) + w)
}

fn srgb_to_hwb(rgb: Triple) -> Triple {
    let [r, g, b] = rgb;
    [srgb_to_hsl(rgb)[0], 100.0 * r.min(g).min(b), 100.0 * (1.0 - r.max(g).max(b))]
}

fn from_polar([l, c, h]: Triple) -> Triple {
    let (sin, cos) = h.to_radians().sin_cos();
    [l, c * cos, c * sin]
}

fn to_polar([l, a, b]: Triple) -> Triple {
    [l, a.hypot(b), b.atan2(a).to_degrees().rem_euclid(360.0)]
}

const EPSILON: f64 = 216.0 / 24389.0;
const KAPPA: f64 = 24389.0 / 27.0;

fn lab_to_xyz([l, a, b]: Triple) -> Triple {
    let y = (l + 16.0) / 116.0;
    let f = [y + a / 500.0, y, y - b / 200.0];
    [0, 1, 2].map(|i| {
        let cube = f[i].powi(3);
        LAB_WHITE[i] * if cube > EPSILON { cube } else { (116.0 * f[i] - 16.0) / KAPPA }
    })
}

fn xyz_to_lab(xyz: Triple) -> Triple {
    let f = [0, 1, 2].map(|i| {
        let v = xyz[i] / LAB_WHITE[i];
        if v > EPSILON { v.cbrt() } else { (KAPPA * v + 16.0) / 116.0 }
    });
    [116.0 * f[1] - 16.0, 500.0 * (f[0] - f[1]), 200.0 * (f[1] - f[2])]
}

fn to_xyz_d50(space: Space, v: Triple) -> Triple {
    let k = &*INVERSES;
    match space {
        Space::Srgb => apply(&SRGB, v.map(srgb_decode)),
        Space::LinearSrgb => apply(&SRGB, v),
        Space::DisplayP3 => apply(&DISPLAY_P3, v.map(srgb_decode)),
        Space::A98Rgb => apply(&A98, v.map(|v| signed(v, |v| v.powf(2.2)))),
        Space::ProphotoRgb => apply(&PROPHOTO, v.map(|v| signed(v, |v| v.powf(1.8)))),
        Space::Rec2020 => apply(&REC2020, v.map(rec2020_decode)),
        Space::Hsl => to_xyz_d50(Space::Srgb, hsl_to_srgb(v)),
        Space::Hwb => to_xyz_d50(Space::Srgb, hwb_to_srgb(v)),
        Space::Lab => lab_to_xyz(v),
        Space::Lch => lab_to_xyz(from_polar(v)),
        Space::Oklab => {
            let cones = apply(&k.oklab, v).map(|n| n.powi(3));
            apply(&k.to_d50, apply(&k.oklab_cones, cones))
        }
        Space::Oklch => to_xyz_d50(Space::Oklab, from_polar(v)),
        Space::XyzD65 => apply(&k.to_d50, v),
        // XYZ under D50; there is no other space.
        _ => v,
    }
}

fn from_xyz_d50(space: Space, v: Triple) -> Triple {
    let k = &*INVERSES;
    match space {
        Space::Srgb => apply(&k.srgb, v).map(srgb_encode),
        Space::LinearSrgb => apply(&k.srgb, v),
        Space::DisplayP3 => apply(&k.display_p3, v).map(srgb_encode),
        Space::A98Rgb => apply(&k.a98, v).map(|v| signed(v, |v| v.powf(1.0 / 2.2))),
        Space::ProphotoRgb => apply(&k.prophoto, v).map(|v| signed(v, |v| v.powf(1.0 / 1.8))),
        Space::Rec2020 => apply(&k.rec2020, v).map(rec2020_encode),
        Space::Hsl => srgb_to_hsl(from_xyz_d50(Space::Srgb, v)),
        Space::Hwb => srgb_to_hwb(from_xyz_d50(Space::Srgb, v)),
        Space::Lab => xyz_to_lab(v),
        Space::Lch => to_polar(xyz_to_lab(v)),
        Space::Oklab => apply(&OKLAB, apply(&OKLAB_CONES, apply(&k.to_d65, v)).map(f64::cbrt)),
        Space::Oklch => to_polar(from_xyz_d50(Space::Oklab, v)),
        Space::XyzD65 => apply(&k.to_d65, v),
        _ => v,
    }
}

/// A colour's components in another space; hues in degrees.
pub fn convert(from: Space, to: Space, components: Triple) -> Triple {
    match (from, to) {
        (from, to) if from == to => components,
        // Where one is the other in another notation nothing is lost on the way.
        (Space::Hsl, Space::Srgb) => hsl_to_srgb(components),
        (Space::Hwb, Space::Srgb) => hwb_to_srgb(components),
        (Space::Srgb, Space::Hsl) => srgb_to_hsl(components),
        (Space::Srgb, Space::Hwb) => srgb_to_hwb(components),
        (Space::Hsl, Space::Hwb) => srgb_to_hwb(hsl_to_srgb(components)),
        (Space::Hwb, Space::Hsl) => srgb_to_hsl(hwb_to_srgb(components)),
        (Space::Srgb, Space::LinearSrgb) => components.map(srgb_decode),
        (Space::LinearSrgb, Space::Srgb) => components.map(srgb_encode),
        (Space::Lch, Space::Lab) | (Space::Oklch, Space::Oklab) => from_polar(components),
        (Space::Lab, Space::Lch) | (Space::Oklab, Space::Oklch) => to_polar(components),
        _ => from_xyz_d50(to, to_xyz_d50(from, components)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn colours_are_those_of_chromium() {
        let red = [1.0, 0.0, 0.0];
        for (from, components, to, expected) in [
            (Space::Srgb, red, Space::Oklch, [0.627_966, 0.257_704, 29.2346]),
            (Space::Srgb, red, Space::Lab, [54.29, 80.8198, 69.8997]),
            (Space::Srgb, [0.0, 0.0, 1.0], Space::XyzD65, [0.180_452, 0.072_174_6, 0.950_405]),
            (Space::Srgb, red, Space::DisplayP3, [0.917_53, 0.200_241, 0.138_502]),
            (Space::DisplayP3, red, Space::Srgb, [1.093_02, -0.226_69, -0.150_073]),
            (Space::Lab, [50.0, 20.0, -30.0], Space::XyzD65, [0.223_2, 0.186_301, 0.406_797]),
            (Space::Oklab, [0.5, 0.1, 0.0], Space::XyzD65, [0.160_712, 0.115_547, 0.126_483]),
            (Space::XyzD65, red, Space::XyzD50, [1.047_86, 0.029_570_4, -0.009_240_47]),
            (Space::Rec2020, [0.5; 3], Space::XyzD50, [0.250_427, 0.259_72, 0.214_323]),
            (Space::A98Rgb, [0.5; 3], Space::XyzD50, [0.209_847, 0.217_638, 0.179_53]),
            (Space::ProphotoRgb, [0.5; 3], Space::XyzD50, [0.276_899, 0.287_175, 0.236_979]),
            (Space::Hsl, [120.0, 50.0, 40.0], Space::Srgb, [0.2, 0.6, 0.2]),
            (Space::Hwb, [90.0, 10.0, 20.0], Space::Srgb, [0.45, 0.8, 0.1]),
        ] {
            let found = convert(from, to, components);
            for (a, b) in found.iter().zip(expected) {
                assert!(
                    (a - b).abs() < 2e-4_f64.max(b.abs() * 5e-6),
                    "{from:?} to {to:?}: {found:?}, not {expected:?}"
                );
            }
        }
    }

    #[test]
    fn there_and_back_is_the_same() {
        let start = [0.3, 0.5, 0.7];
        for space in [
            Space::Lab,
            Space::Lch,
            Space::Oklab,
            Space::Oklch,
            Space::Hsl,
            Space::Hwb,
            Space::Rec2020,
            Space::A98Rgb,
            Space::ProphotoRgb,
            Space::DisplayP3,
            Space::XyzD50,
            Space::XyzD65,
            Space::LinearSrgb,
        ] {
            let back = convert(space, Space::Srgb, convert(Space::Srgb, space, start));
            assert!(start.iter().zip(back).all(|(a, b)| (a - b).abs() < 1e-9), "{space:?}: {back:?}");
        }
    }
}
