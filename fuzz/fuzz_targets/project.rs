#![no_main]

libfuzzer_sys::fuzz_target!(|bytes: &[u8]| stilk_fuzz::whole(bytes));
