//! Reading: regular files only, opened without waiting for anybody, never more of them than was agreed.

use std::fs::{File, OpenOptions};
use std::io::{Error, ErrorKind, Read};
use std::path::Path;
use stilk_text::source::FileError;

/// Opens a regular file and gives its length; links are followed. A pipe is not waited for.
///
/// # Errors
/// It is not there, may not be read, or is something else.
pub fn open_regular(path: &Path) -> Result<(File, u64), FileError> {
    let mut options = OpenOptions::new();
    options.read(true);
    #[cfg(unix)]
    {
        use std::os::unix::fs::OpenOptionsExt;
        options.custom_flags(libc::O_NONBLOCK | libc::O_NOCTTY);
    }
    // What is plainly no file is not opened at all: opening a device does things.
    let is_regular = |file: std::fs::Metadata| if file.is_file() { Ok(file.len()) } else { Err(FileError::NotRegular) };
    is_regular(std::fs::metadata(path).map_err(|error| file_error(&error))?)?;
    let file = options.open(path).map_err(|error| file_error(&error))?;
    let length = is_regular(file.metadata().map_err(|error| file_error(&error))?)?;
    Ok((file, length))
}

/// Reads a regular file of at most so many bytes.
///
/// # Errors
/// It is not there, may not be read, is something else, or larger.
pub fn read(path: &Path, most: u64) -> Result<Vec<u8>, FileError> {
    let (file, length) = open_regular(path)?;
    if length > most {
        return Err(FileError::TooLarge);
    }
    let mut bytes = Vec::with_capacity(length as usize);
    // A length may be wrong: of what grows, and of what the system makes up, no more is taken either.
    file.take(most + 1).read_to_end(&mut bytes).map_err(|error| file_error(&error))?;
    if bytes.len() as u64 > most { Err(FileError::TooLarge) } else { Ok(bytes) }
}

pub(super) fn file_error(error: &Error) -> FileError {
    match error.kind() {
        ErrorKind::NotFound => FileError::Missing,
        _ => FileError::Other(error.to_string()),
    }
}
