//! What is answered, and to whom: this machine's own browser and nobody else.

use super::body::{Answered, file, news, whole};
use super::connections::Connection;
use super::page::page;
use super::state::State;
use super::workbench::{Refused, Workbench};
use crate::disk;
use http_body_util::{BodyExt, Limited};
use hyper::body::{Body, Bytes};
use hyper::header::{self, HeaderName, HeaderValue};
use hyper::{Method, Request, Response, StatusCode, Uri};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;

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
    /// What is asked while values are set by hand.
    pub workbench: Arc<Workbench>,
}

/// Where the page asks while values are set by hand.
const NUDGE: &str = "/nudge/";
/// Bytes of what it sends.
const LONGEST_SENT: usize = 256 << 10;
/// How long that may take to arrive.
const PATIENCE: Duration = Duration::from_secs(5);

impl Site {
    /// Answers a request. What is sent is read only where the page sets values, and then only from the page itself.
    pub async fn answer<B>(&self, request: Request<B>, connection: &Connection) -> Response<Answered>
    where
        B: Body + Unpin,
        B::Error: Into<Box<dyn std::error::Error + Send + Sync>>,
    {
        let mut response = match self.refusal(&request) {
            Some((status, words)) => refuse(status, words),
            None if request.method() == Method::POST => self.set_by_hand(request).await,
            None => self.find(&request, connection),
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
        if *request.method() == Method::POST && request.uri().path().starts_with(NUDGE) {
            return self.refusal_to_write(request);
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

    /// Whoever asks about values is this run's own page: it knows the secret, says where it is from, and sends JSON, which no form
    /// of another page can.
    fn refusal_to_write<B: Body>(&self, request: &Request<B>) -> Option<(StatusCode, &'static str)> {
        let header = |name: &str| request.headers().get(name).map(HeaderValue::as_bytes);
        let Some(secret) = &self.state.secret else {
            return Some((StatusCode::METHOD_NOT_ALLOWED, "this run only shows"));
        };
        let is_ours = request.headers().contains_key(header::ORIGIN)
            && header("sec-fetch-site").is_none_or(|site| site == b"same-origin")
            && header("sec-fetch-mode").is_none_or(|mode| matches!(mode, b"cors" | b"same-origin"))
            && header("sec-fetch-dest").is_none_or(|dest| dest == b"empty")
            && header("x-stilk-secret").is_some_and(|said| is_same(said, secret.as_bytes()));
        if !is_ours {
            return Some((StatusCode::FORBIDDEN, "only the page of this run may set values: load it again"));
        }
        if header("content-type").is_none_or(|kind| !kind.starts_with(b"application/json")) {
            return Some((StatusCode::UNSUPPORTED_MEDIA_TYPE, "send JSON"));
        }
        let length = request.body().size_hint();
        if length.lower() > LONGEST_SENT as u64 || request.uri().to_string().len() > LONGEST {
            return Some((StatusCode::PAYLOAD_TOO_LARGE, "that is too much at once"));
        }
        None
    }

    async fn set_by_hand<B>(&self, request: Request<B>) -> Response<Answered>
    where
        B: Body + Unpin,
        B::Error: Into<Box<dyn std::error::Error + Send + Sync>>,
    {
        let asked = request.uri().path().trim_start_matches(NUDGE).to_owned();
        let reading = Limited::new(request.into_body(), LONGEST_SENT).collect();
        let sent = match tokio::time::timeout(PATIENCE, reading).await {
            Ok(Ok(sent)) => sent.to_bytes(),
            Ok(Err(_)) => return refuse(StatusCode::PAYLOAD_TOO_LARGE, "that is too much at once"),
            Err(_) => return refuse(StatusCode::REQUEST_TIMEOUT, "it did not arrive in time"),
        };
        let workbench = Arc::clone(&self.workbench);
        // Pages and news go on meanwhile.
        let answer = tokio::task::spawn_blocking(move || workbench.answer(&asked, &sent)).await;
        let (status, value) = match answer {
            Ok(Ok(value)) => (StatusCode::OK, value),
            Ok(Err(Refused(status, why))) => {
                let status = StatusCode::from_u16(status).unwrap_or(StatusCode::BAD_REQUEST);
                (status, serde_json::json!({ "why": why }))
            }
            Err(_) => (StatusCode::INTERNAL_SERVER_ERROR, serde_json::json!({ "why": "this broke: say how, please" })),
        };
        let mut response = body("application/json", whole(value.to_string()));
        *response.status_mut() = status;
        response
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

/// Whether two texts are the same, in a time that says nothing of where they differ.
fn is_same(one: &[u8], other: &[u8]) -> bool {
    one.len() == other.len() && one.iter().zip(other).fold(0, |differs, (a, b)| differs | (a ^ b)) == 0
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
