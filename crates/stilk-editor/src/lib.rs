//! What an editor shows while people write: diagnostics, completion, hover, names across all files, mends.
//!
//! It promises answers of the Language Server Protocol 3.17 for whatever stands in the buffers, half-written as it may be,
//! and that what it says is what `stilk check` says of the same files. It reads no file, opens no connection and asks no
//! clock: the program gives it texts, and carries messages.
//!
//! 1. [`place`]: lines and columns of the protocol, URIs.
//! 2. [`trees`], [`names`]: what stands in files, by itself; every name with its definition and its uses.
//! 3. [`snapshot`]: a project as its buffers have it at one moment, and the last one that made sense.
//! 4. [`context`]: what stands at the cursor, in text that may not parse.
//! 5. [`feature`]: one file for each thing that an editor asks for.
//! 6. [`work`]: what takes longer than a key: the checks, their mends, figures; done elsewhere, and stopped by the next key.
//! 7. [`editor`]: buffers and projects, what is published of them; [`answer`]: from a request by its method to its answer.

pub mod answer;
pub mod context;
pub mod editor;
pub mod feature;
pub mod names;
pub mod place;
pub mod snapshot;
pub mod trees;
pub mod work;
