//! The server: on loopback, for this machine's own browser and nobody else. What is allowed is little and bounded: bytes of a
//! request, time for it, connections.

use super::answer::Site;
use super::connections::{Connection, Connections};
use crate::Failure;
use hyper::server::conn::http1;
use hyper::service::service_fn;
use hyper_util::rt::{TokioIo, TokioTimer};
use std::convert::Infallible;
use std::io::ErrorKind;
use std::net::{Ipv4Addr, TcpListener};
use std::rc::Rc;
use std::time::Duration;
use tokio::net::TcpStream;
use tokio::task::LocalSet;

/// Bytes of a request with its headers.
const LONGEST: usize = 16 << 10;
/// Headers of a request; a browser sends fewer than twenty.
const HEADERS: usize = 64;
/// How long a request may take to arrive.
const PATIENCE: Duration = Duration::from_secs(5);

/// Opens a port on loopback.
///
/// # Errors
/// It is in use, or may not be opened.
pub fn open(port: u16) -> Result<TcpListener, Failure> {
    let opened = TcpListener::bind((Ipv4Addr::LOCALHOST, port)).and_then(|listener| {
        listener.set_nonblocking(true)?;
        Ok(listener)
    });
    opened.map_err(|why| {
        Failure::Message(match why.kind() {
            ErrorKind::AddrInUse => format!(
                "error: port {port} is in use, perhaps by another `stilk live`\n  write `--port {}`, or `--port 0` for any that is free",
                port.checked_add(1).unwrap_or(0)
            ),
            _ => format!("error: port {port} cannot be opened: {why}"),
        })
    })
}

/// Answers until the program is told to end; `begun` is called when it can be.
///
/// # Errors
/// The system has no means to wait for connections or signals.
pub fn serve(listener: TcpListener, site: Site, begun: impl FnOnce()) -> Result<(), Failure> {
    let refused = |why: std::io::Error| Failure::Message(format!("error: connections cannot be waited for: {why}"));
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build().map_err(refused)?;
    let all = LocalSet::new();
    let ended = all.block_on(&runtime, async {
        let listener = tokio::net::TcpListener::from_std(listener)?;
        let told = told_to_end()?;
        begun();
        tokio::select! {
            () = accept(&listener, Rc::new(site)) => {}
            () = told => {}
        }
        Ok(())
    });
    ended.map_err(refused)
}

/// Waits for Ctrl-C, and for what ends programs from outside.
#[cfg(unix)]
fn told_to_end() -> std::io::Result<impl Future<Output = ()>> {
    use tokio::signal::unix::{SignalKind, signal};
    let mut interrupt = signal(SignalKind::interrupt())?;
    let mut terminate = signal(SignalKind::terminate())?;
    let mut hangup = signal(SignalKind::hangup())?;
    Ok(async move {
        tokio::select! {
            _ = interrupt.recv() => {}
            _ = terminate.recv() => {}
            _ = hangup.recv() => {}
        }
    })
}

#[cfg(not(unix))]
fn told_to_end() -> std::io::Result<impl Future<Output = ()>> {
    Ok(async {
        let _ = tokio::signal::ctrl_c().await;
    })
}

async fn accept(listener: &tokio::net::TcpListener, site: Rc<Site>) {
    let connections = Connections::default();
    loop {
        match listener.accept().await {
            Ok((stream, _)) => {
                let connection = Connection::default();
                let served = serve_one(stream, Rc::clone(&site), connection.clone());
                let task = tokio::task::spawn_local(served);
                connections.add(connection, task.abort_handle());
            }
            // The system has no more files to give: one connection gives back its own.
            Err(_) => {
                connections.make_room_for_one();
                tokio::time::sleep(Duration::from_millis(20)).await;
            }
        }
    }
}

async fn serve_one(stream: TcpStream, site: Rc<Site>, connection: Connection) {
    let answer = service_fn(|request| async { Ok::<_, Infallible>(site.answer(request, &connection).await) });
    let served = http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(PATIENCE)
        .max_buf_size(LONGEST)
        .max_headers(HEADERS)
        .serve_connection(TokioIo::new(stream), answer);
    // A browser that has gone away, or that says what nobody understands, needs no answer.
    tokio::select! {
        _ = served => {}
        () = connection.end() => {}
    }
}
