#![no_main]

const PAGE: &str = "<!doctype html><p class=a id=t>x<b class=b>y</b><button class='a b' data-x=7px>z</button><input>";

libfuzzer_sys::fuzz_target!(|text: &str| stilk_fuzz::page(text, PAGE));
