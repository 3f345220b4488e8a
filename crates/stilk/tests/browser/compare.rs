//! Whether two values written by `getComputedStyle` and by the engine say the same.

/// Equal up to what browsers round away: everything but numbers to the letter, numbers to one part in ten thousand,
/// hues to a twentieth of a degree. (Chromium's computed colours carry 32-bit rounding of about 4e-5 in lightness and
/// chroma and up to 0.02° in hue.)
pub fn same(ours: &str, theirs: &str) -> bool {
    if ours == theirs {
        return true;
    }
    let (a, b) = (pieces(ours), pieces(theirs));
    if a.len() != b.len() {
        return false;
    }
    // Where a hue stands in `oklch(L C H)` and `lch(L C H)`.
    let mut numbers_in_polar: Option<usize> = None;
    for (x, y) in a.iter().zip(&b) {
        match (x, y) {
            (Piece::Text(x), Piece::Text(y)) => {
                if x != y {
                    return false;
                }
                if x.contains("lch(") {
                    numbers_in_polar = Some(0);
                } else if x.contains(')') {
                    numbers_in_polar = None;
                }
            }
            (Piece::Number(x), Piece::Number(y)) => {
                let is_hue = numbers_in_polar == Some(2);
                numbers_in_polar = numbers_in_polar.map(|n| n + 1);
                let tolerance = if is_hue { 0.05 } else { 1e-4 * x.abs().max(1.0) };
                // A whole turn is none.
                let apart = (x - y).abs();
                let apart = if is_hue { apart.min(360.0 - apart) } else { apart };
                if apart > tolerance {
                    return false;
                }
            }
            _ => return false,
        }
    }
    true
}

enum Piece<'t> {
    Text(&'t str),
    Number(f64),
}

fn pieces(text: &str) -> Vec<Piece<'_>> {
    let mut pieces = Vec::new();
    let bytes = text.as_bytes();
    let mut start = 0;
    let mut i = 0;
    while i < bytes.len() {
        let sign = usize::from(bytes[i] == b'-' || bytes[i] == b'+');
        let digit = bytes.get(i + sign).is_some_and(u8::is_ascii_digit);
        let inside_word = i > 0 && (bytes[i - 1].is_ascii_alphanumeric() || bytes[i - 1] == b'-');
        if !digit || inside_word {
            i += 1;
            continue;
        }
        let mut end = i + sign;
        while end < bytes.len() && (bytes[end].is_ascii_digit() || bytes[end] == b'.') {
            end += 1;
        }
        // An exponent, as in 3.35544e+07; the e of `1em` is none.
        if matches!(bytes.get(end), Some(b'e')) && matches!(bytes.get(end + 1), Some(b'+' | b'-')) {
            end += 2;
            while end < bytes.len() && bytes[end].is_ascii_digit() {
                end += 1;
            }
        }
        match text[i..end].parse() {
            Ok(number) => {
                if start < i {
                    pieces.push(Piece::Text(&text[start..i]));
                }
                pieces.push(Piece::Number(number));
                start = end;
                i = end;
            }
            Err(_) => i += 1,
        }
    }
    if start < text.len() {
        pieces.push(Piece::Text(&text[start..]));
    }
    pieces
}

/// The comparison itself must tell things apart.
pub fn self_test() {
    assert!(same("oklch(0.5 0.1 232)", "oklch(0.50003 0.10004 232.02)"));
    assert!(!same("oklch(0.5 0.1 232)", "oklch(0.5 0.1 233)"));
    assert!(!same("oklch(0.5 0.1 232)", "oklch(0.501 0.1 232)"));
    assert!(!same("10px", "10.1px"));
    assert!(!same("rgb(1, 2, 3)", "rgb(1, 2, 4)"));
    assert!(!same("none", "auto"));
    assert!(!same("1px 2px", "1px"));
}
