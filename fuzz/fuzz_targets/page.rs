#![no_main]

const SHEET: &str = ".a :is(b, i) { color: red } @media (width > 1px) { * { all: revert } } input:checked ~ * { inset: 0 }";

libfuzzer_sys::fuzz_target!(|html: &str| stilk_fuzz::page(SHEET, html));
