//! The server: on loopback, for this machine's own browser and nobody else.

use super::page::{news, page};
use super::state::State;
use crate::Failure;
use std::net::SocketAddr;
use std::path::Path;
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;
use tiny_http::{Header, Method, Request, Response, ResponseBox, Server};

/// Requests at once; a browser has six for one address.
const MOST: usize = 32;
/// Bytes of an address.
const LONGEST: usize = 2048;
/// Bytes of a font or a picture.
const LARGEST: u64 = 16 << 20;
/// How long a question for news waits: shorter than what lies between may wait.
const PATIENCE: Duration = Duration::from_secs(20);

/// Opens a port on loopback.
///
/// # Errors
/// It is in use, or may not be opened.
pub fn open(port: u16) -> Result<Server, Failure> {
    Server::http(SocketAddr::from(([127, 0, 0, 1], port))).map_err(|why| {
        let in_use = why.downcast_ref::<std::io::Error>().is_some_and(|e| e.kind() == std::io::ErrorKind::AddrInUse);
        Failure::Message(match in_use {
            true => format!(
                "error: port {port} is in use, perhaps by another `stilk live`\n  write `--port {}`, or `--port 0` for any that is free",
                port.saturating_add(1)
            ),
            false => format!("error: port {port} cannot be opened: {why}"),
        })
    })
}

/// `127.0.0.1:PORT`.
pub fn address(server: &Server) -> String {
    server.server_addr().to_string()
}

/// Answers until the server is unblocked.
pub fn serve(server: &Server, state: &Arc<State>, root: &Path) {
    let port = server.server_addr().to_ip().map_or(0, |address| address.port());
    let open = Arc::new(AtomicUsize::new(0));
    while let Ok(request) = server.recv() {
        if open.fetch_add(1, Ordering::Relaxed) >= MOST {
            open.fetch_sub(1, Ordering::Relaxed);
            respond(request, text(503, "too many requests at once"));
            continue;
        }
        let (state, open, root) = (Arc::clone(state), Arc::clone(&open), root.to_owned());
        std::thread::spawn(move || {
            let response = answer(&request, &state, &root, port);
            respond(request, response);
            open.fetch_sub(1, Ordering::Relaxed);
        });
    }
}

fn respond(request: Request, response: ResponseBox) {
    // A browser that has gone away needs no answer.
    let _ = request.respond(response);
}

fn answer(request: &Request, state: &State, root: &Path, port: u16) -> ResponseBox {
    if let Some(refused) = refusal(request, port) {
        return refused;
    }
    let (path, query) = request.url().split_once('?').unwrap_or((request.url(), ""));
    match path {
        "/" => body("text/html; charset=utf-8", page(&state.known()).into_bytes()),
        "/changes" => {
            let since = query.split('&').find_map(|pair| pair.strip_prefix("since=")?.parse().ok());
            let Some(since) = since else { return text(400, "ask for /changes?since=VERSION") };
            let news = news(&state.newer(since, PATIENCE), since);
            body("application/json", news.to_string().into_bytes())
        }
        path => file(path, state, root),
    }
}

/// Only this machine's own pages may ask: a name that leads here from elsewhere, and a page from elsewhere, are refused.
fn refusal(request: &Request, port: u16) -> Option<ResponseBox> {
    let header = |name: &'static str| {
        let found = request.headers().iter().filter(move |header| header.field.equiv(name));
        found.map(|header| header.value.as_str()).collect::<Vec<_>>()
    };
    let own = [format!("127.0.0.1:{port}"), format!("localhost:{port}")];
    let is_own = |host: &str| own.iter().any(|own| own.eq_ignore_ascii_case(host));
    if !matches!(header("Host").as_slice(), [host] if is_own(host)) {
        return Some(text(403, "this server answers to 127.0.0.1 and localhost only"));
    }
    if !header("Origin").iter().all(|origin| origin.strip_prefix("http://").is_some_and(is_own)) {
        return Some(text(403, "pages from elsewhere get no answer"));
    }
    if !matches!(request.method(), Method::Get | Method::Head) {
        return Some(text(405, "there is nothing to write here"));
    }
    if request.url().len() > LONGEST {
        return Some(text(414, "the address is too long"));
    }
    None
}

/// A font or a picture that the stylesheet asks for, from the folder that it is written to.
fn file(path: &str, state: &State, root: &Path) -> ResponseBox {
    let missing = || text(404, "there is no such file");
    let Some(folder) = state.known().folder else { return missing() };
    let (Ok(folder), Ok(root)) = (folder.canonicalize(), root.canonicalize()) else { return missing() };
    let Ok(found) = folder.join(path.trim_start_matches('/')).canonicalize() else { return missing() };
    let kind = match found.extension().and_then(|extension| extension.to_str()) {
        Some("woff2") => "font/woff2",
        Some("woff") => "font/woff",
        Some("svg") => "image/svg+xml",
        Some("png") => "image/png",
        _ => return missing(),
    };
    // Links are followed before this is asked.
    if !found.starts_with(&folder)
        || !found.starts_with(&root)
        || std::fs::metadata(&found).map_or(0, |m| m.len()) > LARGEST
    {
        return missing();
    }
    std::fs::read(&found).map_or_else(|_| missing(), |bytes| body(kind, bytes))
}

fn body(kind: &str, bytes: Vec<u8>) -> ResponseBox {
    let mut response = Response::from_data(bytes);
    for (name, value) in [("Content-Type", kind), ("Cache-Control", "no-store"), ("X-Content-Type-Options", "nosniff")]
    {
        if let Ok(header) = Header::from_bytes(name, value) {
            response.add_header(header);
        }
    }
    response.boxed()
}

fn text(status: u16, words: &str) -> ResponseBox {
    Response::from_string(format!("{words}\n")).with_status_code(status).boxed()
}
