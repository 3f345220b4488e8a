#![no_main]

libfuzzer_sys::fuzz_target!(|bytes: &[u8]| stilk_fuzz::project("controls/x.html", bytes));
