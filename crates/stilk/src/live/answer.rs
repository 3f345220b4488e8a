//! What is answered, and to whom: this machine's own browser and nobody else.

use super::body::{Answered, file, news, whole};
use super::connections::Connection;
use super::page::page;
use super::state::State;
use crate::disk;
use hyper::body::{Body, Bytes};
use hyper::header::{self, HeaderName, HeaderValue};
use hyper::{Method, Request, Response, StatusCode, Uri};
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Bytes of an address.
const LONGEST: usize = 2048;
/// Bytes of a font or a picture.
const LARGEST: u64 = 16 << 20;

/// What is served.
pub struct Site {
    /// What is known.
    pub state: Arc<State>,
    /// The project's folder.
    pub root: PathBuf,
    /// The port.
    pub port: u16,
}

impl Site {
    /// Answers a request; its body is never read.
    pub fn answer<B: Body>(&self, request: &Request<B>, connection: &Connection) -> Response<Answered> {
        let mut response = match self.refusal(request) {
            Some((status, words)) => refuse(status, words),
            None => self.find(request, connection),
        };
        let headers = response.headers_mut();
        let policy = HeaderValue::from_str(&self.state.frame.policy());
        for (name, value) in [
            (header::CACHE_CONTROL, HeaderValue::from_static("no-store")),
            (header::X_CONTENT_TYPE_OPTIONS, HeaderValue::from_static("nosniff")),
            (header::X_FRAME_OPTIONS, HeaderValue::from_static("DENY")),
            (header::REFERRER_POLICY, HeaderValue::from_static("no-referrer")),
            (HeaderName::from_static("cross-origin-resource-policy"), HeaderValue::from_static("same-origin")),
            (HeaderName::from_static("cross-origin-opener-policy"), HeaderValue::from_static("same-origin")),
            (header::CONTENT_SECURITY_POLICY, policy.unwrap_or(HeaderValue::from_static("default-src 'none'"))),
        ] {
            headers.insert(name, value);
        }
        response
    }

    /// Only this machine's own pages may ask, and only to read: a name that leads here from elsewhere, a page from
    /// elsewhere, and whoever sends something are refused.
    fn refusal<B: Body>(&self, request: &Request<B>) -> Option<(StatusCode, &'static str)> {
        let header = |name: HeaderName| request.headers().get_all(name).iter();
        let own = [format!("127.0.0.1:{}", self.port), format!("localhost:{}", self.port)];
        let is_own = |host: &[u8]| own.iter().any(|own| own.as_bytes().eq_ignore_ascii_case(host));
        let mut hosts = header(header::HOST);
        let is_for_us = matches!((hosts.next(), hosts.next()), (Some(host), None) if is_own(host.as_bytes()))
            && request.uri().authority().is_none_or(|authority| is_own(authority.as_str().as_bytes()));
        if !is_for_us {
            return Some((StatusCode::FORBIDDEN, "this server answers to 127.0.0.1 and localhost only"));
        }
        let is_from_us = header(header::ORIGIN)
            .all(|origin| origin.as_bytes().strip_prefix(b"http://").is_some_and(is_own))
            // Another port of this machine is the same site, and another one's pages (Fetch Metadata, section 2.3).
            && header(HeaderName::from_static("sec-fetch-site"))
                .all(|site| matches!(site.as_bytes(), b"same-origin" | b"none"));
        if !is_from_us {
            return Some((StatusCode::FORBIDDEN, "pages from elsewhere get no answer"));
        }
        if !matches!(*request.method(), Method::GET | Method::HEAD) {
            return Some((StatusCode::METHOD_NOT_ALLOWED, "there is nothing to write here"));
        }
        if !request.body().is_end_stream() {
            return Some((StatusCode::PAYLOAD_TOO_LARGE, "nothing that is sent is read"));
        }
        if request.uri().to_string().len() > LONGEST {
            return Some((StatusCode::URI_TOO_LONG, "the address is too long"));
        }
        None
    }

    fn find<B>(&self, request: &Request<B>, connection: &Connection) -> Response<Answered> {
        match request.uri().path() {
            "/" => body("text/html; charset=utf-8", whole(page(&self.state))),
            "/changes" => {
                let last = request.headers().get("last-event-id").and_then(|id| id.to_str().ok());
                let Some(since) = since(request.uri(), last, &self.state.run) else {
                    return refuse(StatusCode::BAD_REQUEST, "ask for /changes?since=RUN-VERSION");
                };
                body("text/event-stream", news(&self.state, since, connection.follow()))
            }
            path => self.file(path).unwrap_or_else(|| refuse(StatusCode::NOT_FOUND, "there is no such file")),
        }
    }

    /// A font or a picture that the stylesheet asks for, from the folder that it is written to.
    fn file(&self, path: &str) -> Option<Response<Answered>> {
        let folder = self.state.known().folder.as_ref()?.canonicalize().ok()?;
        let root = self.root.canonicalize().ok()?;
        let path = percent_encoding::percent_decode_str(path.trim_start_matches('/')).decode_utf8().ok()?;
        let found = folder.join(Path::new(&*path)).canonicalize().ok()?;
        let kind = match found.extension()?.to_str()? {
            "woff2" => "font/woff2",
            "woff" => "font/woff",
            "svg" => "image/svg+xml",
            "png" => "image/png",
            _ => return None,
        };
        // Links are followed before this is asked.
        if !found.starts_with(&folder) || !found.starts_with(&root) {
            return None;
        }
        let (opened, length) = disk::open_regular(&found).ok().filter(|(_, length)| *length <= LARGEST)?;
        Some(body(kind, file(opened, length)))
    }
}

/// The version that is known to who asks: of another run of the program, nothing is.
fn since(uri: &Uri, last: Option<&str>, run: &str) -> Option<u64> {
    let asked = uri.query()?.split('&').find_map(|pair| pair.strip_prefix("since="))?;
    let (of, version) = last.unwrap_or(asked).split_once('-')?;
    let version = version.parse().ok()?;
    Some(if of == run { version } else { 0 })
}

fn body(kind: &'static str, body: Answered) -> Response<Answered> {
    let mut response = Response::new(body);
    response.headers_mut().insert(header::CONTENT_TYPE, HeaderValue::from_static(kind));
    response
}

/// What is refused ends the connection: whatever else is on its way is not read.
fn refuse(status: StatusCode, words: &'static str) -> Response<Answered> {
    let mut response = body("text/plain; charset=utf-8", whole(Bytes::from(format!("{words}\n"))));
    *response.status_mut() = status;
    if status != StatusCode::NOT_FOUND {
        response.headers_mut().insert(header::CONNECTION, HeaderValue::from_static("close"));
    }
    response
}
