#!/usr/bin/env python3
"""Writes the advance widths of the reference font (crates/stilk-engine/src/layout/reference_font.rs) from the font files.

    pip install fonttools
    scripts/measure-font.py > crates/stilk-engine/src/layout/reference_font.rs
"""
from fontTools.ttLib import TTFont

FOLDER = "/usr/share/fonts/truetype/liberation/"
RANGES = [(0x20, 0x7E), (0xA0, 0x17F), (0x2010, 0x2026)]

print("//! The reference font: Liberation Sans, whose widths are those of Arial and Helvetica. Written by `scripts/measure-font.py`.")
print("//! Widths are in 2048ths of the font size; 0 stands for a character that the font does not have.")
for name, file in [("REGULAR", "LiberationSans-Regular.ttf"), ("BOLD", "LiberationSans-Bold.ttf")]:
    font = TTFont(FOLDER + file)
    assert font["head"].unitsPerEm == 2048
    hhea, widths, characters = font["hhea"], font["hmtx"], font.getBestCmap()
    if name == "REGULAR":
        print(f"\n/// Ascent, descent and line gap, in 2048ths.\npub const VERTICAL: [u16; 3] = [{hhea.ascent}, {-hhea.descent}, {hhea.lineGap}];")
        print("\n/// The characters that are known: first and last of each range.")
        print(f"pub const RANGES: [(u32, u32); {len(RANGES)}] = [{', '.join(f'(0x{a:x}, 0x{b:x})' for a, b in RANGES)}];")
    codes = [code for first, last in RANGES for code in range(first, last + 1)]
    list_ = [widths[characters[code]][0] if code in characters else 0 for code in codes]
    print(f"\n/// Widths of the {'bold' if name == 'BOLD' else 'regular'} face, by range.\n#[rustfmt::skip]\npub const {name}: [u16; {len(list_)}] = [")
    for start in range(0, len(list_), 20):
        print("    " + " ".join(f"{w}," for w in list_[start:start + 20]))
    print("];")
    # Pairs that stand closer or further apart, from the font's own table; a pair is looked up by both characters.
    names = {name: code for code, name in sorted(characters.items(), reverse=True)}
    pairs = font["kern"].kernTables[0].kernTable.items()
    known = [(names[a], names[b], shift) for (a, b), shift in pairs if a in names and b in names]
    kept = sorted(pair for pair in known if all(any(first <= code <= last for first, last in RANGES) for code in pair[:2]))
    print(f"\n/// Pairs of the {'bold' if name == 'BOLD' else 'regular'} face that are moved together or apart, in order.\n#[rustfmt::skip]\npub const {name}_PAIRS: [(u16, u16, i16); {len(kept)}] = [")
    for start in range(0, len(kept), 8):
        print("    " + " ".join(f"({a}, {b}, {shift})," for a, b, shift in kept[start:start + 8]))
    print("];")
