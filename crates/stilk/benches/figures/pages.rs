//! Pages to scan: text with some of the sample's controls in it, all of a size.

use std::fmt::Write;
use std::path::Path;

/// The size of a page in bytes.
pub const SIZE: usize = 50_000;

const PARAGRAPH: &str = "<p>Ferries leave <a href=\"/lines\">the harbour</a> at <b>nine</b> and at <em>noon</em>; dogs travel on the car deck, cars below it, and everybody else wherever there is room to sit and to look at the water.</p>\n";

/// Writes so many pages into a folder.
pub fn write(folder: &Path, pages: usize) {
    std::fs::create_dir_all(folder).expect("a folder");
    let options = ["", " tern-button-outline", " tern-button-small", " tern-button-bare"];
    let mut random = fastrand::Rng::with_seed(7);
    for page in 0..pages {
        let mut text = String::from(
            "<!doctype html>\n<html lang=\"en\">\n<title>Ferries</title>\n<link rel=\"stylesheet\" href=\"../dist/ternhaven.css\">\n<link rel=\"stylesheet\" href=\"../pages/site.css\">\n<body><main>\n",
        );
        while text.len() < SIZE {
            if random.u8(..100) < 94 {
                text.push_str(PARAGRAPH);
                continue;
            }
            let option = options[random.usize(..options.len())];
            // Writing to a String does not fail.
            let _ = writeln!(
                text,
                "<button class=\"tern-button{option}\" type=\"button\"><span class=\"tern-button_label\">Book</span> <span class=\"tern-button_spinner\" aria-hidden=\"true\"></span></button>"
            );
        }
        std::fs::write(folder.join(format!("{page:05}.html")), text).expect("a page");
    }
}

/// Writes so many pages in the habits of the sample's old site into a folder, and its main stylesheet beside them.
pub fn write_old(folder: &Path, pages: usize, size: usize) {
    std::fs::create_dir_all(folder).expect("a folder");
    for name in ["site.css", "print.css"] {
        let css = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/before/css").join(name);
        std::fs::copy(css, folder.join(name)).expect("a stylesheet");
    }
    let controls = [
        "<a class=\"cta\" href=\"book\">Book now</a>",
        "<button class=\"cta cta-ghost\" type=\"button\">Timetable</button>",
        "<button class=\"cta cta-small cta-calm\" type=\"button\">Later</button>",
        "<span class=\"chip is-on\" role=\"button\" tabindex=\"0\">North</span>",
        "<a class=\"tab\" href=\"#a\">Summer</a>",
        "<form class=\"search\"><input type=\"text\" placeholder=\"Harbour\"><button>Search</button></form>",
    ];
    let mut random = fastrand::Rng::with_seed(7);
    for page in 0..pages {
        let mut text = String::from(
            "<!doctype html>\n<html lang=\"en\">\n<title>Ferries</title>\n<link rel=\"stylesheet\" href=\"site.css\">\n<body><div class=\"wrap\">\n",
        );
        while text.len() < size {
            match random.u8(..100) {
                0..6 => text.push_str(controls[random.usize(..controls.len())]),
                _ => text.push_str(PARAGRAPH),
            }
        }
        std::fs::write(folder.join(format!("{page:05}.html")), text).expect("a page");
    }
}
