#![no_main]

libfuzzer_sys::fuzz_target!(|steps: Vec<(u8, u16, &str)>| stilk_fuzz::editor(steps));
