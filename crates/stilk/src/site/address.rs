//! Where an address on a page leads, as far as that is this disk (URL Standard; HTML, section 2.4.3).

use percent_encoding::percent_decode_str;
use std::path::{Path, PathBuf};

/// Where an address leads.
pub enum Address {
    /// A file, which may not be there.
    File(PathBuf),
    /// A text that the address itself holds.
    Text(String),
}

/// Where an address leads that stands in a file, in a page with a base address or in a stylesheet.
///
/// # Errors
/// Somewhere else than this disk.
pub fn resolve(file: &Path, base: Option<&str>, address: &str) -> Result<Address, String> {
    let address = address.trim_matches(|c: char| c.is_ascii_whitespace());
    if let Some(data) = strip_scheme(address, "data:") {
        return text_of(data).map(Address::Text);
    }
    let base = base.map(|base| base.trim_matches(|c: char| c.is_ascii_whitespace())).filter(|base| !base.is_empty());
    let folder = match base {
        // What follows the last slash of a base does not count.
        Some(base) if !has_authority(address) => {
            let folder = &base[..base.rfind('/').map_or(0, |at| at + 1)];
            return path_of(file, &format!("{folder}{}", address.trim_start_matches("./"))).map(Address::File);
        }
        _ => address,
    };
    path_of(file, folder).map(Address::File)
}

fn path_of(file: &Path, address: &str) -> Result<PathBuf, String> {
    let without_query = address.split(['?', '#']).next().unwrap_or_default();
    if without_query.is_empty() {
        return Err("its address is empty".to_owned());
    }
    let local = strip_scheme(without_query, "file://").map(|rest| rest.strip_prefix("localhost").unwrap_or(rest));
    if local.is_none() && has_authority(without_query) {
        return Err("it is not on this disk".to_owned());
    }
    let decoded = percent_decode_str(local.unwrap_or(without_query)).collect::<Vec<u8>>();
    let path = path_from(decoded).ok_or("its address is no path")?;
    if local.is_some() {
        return Ok(path);
    }
    let folder = file.parent().unwrap_or(Path::new("."));
    let Ok(below) = path.strip_prefix("/") else { return Ok(folder.join(path)) };
    // Which folder a site's addresses begin at is not known: the nearest one that has such a file.
    let found = folder.ancestors().map(|folder| folder.join(below)).find(|path| path.is_file());
    Ok(found.unwrap_or_else(|| folder.join(below)))
}

#[cfg(unix)]
fn path_from(bytes: Vec<u8>) -> Option<PathBuf> {
    use std::os::unix::ffi::OsStringExt;
    (!bytes.contains(&0)).then(|| std::ffi::OsString::from_vec(bytes).into())
}

#[cfg(not(unix))]
fn path_from(bytes: Vec<u8>) -> Option<PathBuf> {
    String::from_utf8(bytes).ok().filter(|text| !text.contains('\0')).map(PathBuf::from)
}

/// Whether an address names its scheme or its host.
fn has_authority(address: &str) -> bool {
    let scheme = address.split_once(':').map(|(scheme, _)| scheme);
    let is_scheme = |text: &str| {
        text.starts_with(|c: char| c.is_ascii_alphabetic())
            && text.len() > 1
            && text.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '+' | '-' | '.'))
    };
    address.starts_with("//") || scheme.is_some_and(is_scheme)
}

fn strip_scheme<'a>(address: &'a str, scheme: &str) -> Option<&'a str> {
    let start = address.get(..scheme.len())?;
    start.eq_ignore_ascii_case(scheme).then(|| &address[scheme.len()..])
}

/// The text of a `data:` address (RFC 2397).
fn text_of(data: &str) -> Result<String, String> {
    let (kind, text) = data.split_once(',').ok_or("its address holds no data")?;
    if kind.to_ascii_lowercase().ends_with(";base64") {
        return Err("its text is packed into its address".to_owned());
    }
    Ok(percent_decode_str(text).decode_utf8_lossy().into_owned())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_lead_where_a_browser_goes() {
        let at = |base: Option<&str>, address: &str| match resolve(Path::new("site/a/page.html"), base, address) {
            Ok(Address::File(path)) => path.to_string_lossy().into_owned(),
            Ok(Address::Text(text)) => format!("text {text}"),
            Err(why) => format!("not: {why}"),
        };
        for (base, address, path) in [
            (None, "x.css", "site/a/x.css"),
            (None, " ../x%20y.css?v=1#top", "site/a/../x y.css"),
            (None, "file:///srv/a%2Bb.css", "/srv/a+b.css"),
            (None, "FILE://localhost/srv/a.css", "/srv/a.css"),
            (None, "https://example.org/x.css", "not: it is not on this disk"),
            (None, "//example.org/x.css", "not: it is not on this disk"),
            (None, "c:x.css", "site/a/c:x.css"),
            (None, "", "not: its address is empty"),
            (None, "data:text/css,a%7Bcolor:red%7D", "text a{color:red}"),
            (Some("../css/"), "x.css", "site/a/../css/x.css"),
            (Some("../css/index.html"), "x.css", "site/a/../css/x.css"),
            (Some("https://example.org/"), "x.css", "not: it is not on this disk"),
            (Some("../css/"), "file:///x.css", "/x.css"),
        ] {
            assert_eq!(at(base, address), path, "{base:?} {address}");
        }
    }
}
