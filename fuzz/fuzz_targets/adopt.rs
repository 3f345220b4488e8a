#![no_main]

libfuzzer_sys::fuzz_target!(|parts: (&str, &str)| stilk_fuzz::adopt(parts.0, parts.1));
