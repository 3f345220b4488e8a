//! `markup/form`.

use crate::judged::pages::{fails, passes};

#[test]
fn forms_keep_secrets_and_entries() {
    passes(
        "markup/form",
        &[
            "<form method=\"POST\"><label>Password <input type=\"password\"></label></form>",
            "<form><label>From <input></label><button>Search</button></form>",
            "<form method=\"dialog\"><button>Close</button></form>",
            "<form method=\"post\"><button type=\"reset\">Clear</button></form>",
        ],
    );
    fails(
        "markup/form",
        &[
            ("<form method=\"get\"><label>Password <input type=\"password\"></label></form>", "password"),
            ("<form><div><label>Password <input type=\"password\"></label></div></form>", "password"),
            ("<form method=\"post\"><input type=\"reset\"><button>Send</button></form>", "reset"),
        ],
    );
}
