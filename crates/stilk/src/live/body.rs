//! What answers are made of: texts that are there, files piece by piece, news as they come.

use super::connections::Following;
use super::state::{Known, State};
use http_body_util::{Either, Full};
use hyper::body::{Body, Bytes, Frame, SizeHint};
use std::fs::File;
use std::future::Future;
use std::io::{Error, ErrorKind, Read};
use std::pin::Pin;
use std::sync::Arc;
use std::task::{Context, Poll};
use std::time::Duration;
use tokio::sync::watch::Receiver;

/// The body of an answer.
pub type Answered = Either<Full<Bytes>, Either<FileBody, NewsBody>>;

/// A text or bytes that are there.
pub fn whole(bytes: impl Into<Bytes>) -> Answered {
    Either::Left(Full::new(bytes.into()))
}

/// A regular file of a length, read as the browser takes it: who does not read holds a piece of it, not the whole.
pub fn file(file: File, length: u64) -> Answered {
    Either::Right(Either::Left(FileBody { file, left: length }))
}

/// Bytes of a file that are read at once.
const PIECE: u64 = 64 << 10;

/// The rest of a file.
pub struct FileBody {
    file: File,
    left: u64,
}

impl Body for FileBody {
    type Data = Bytes;
    type Error = Error;

    fn poll_frame(mut self: Pin<&mut Self>, _: &mut Context) -> Poll<Option<Result<Frame<Bytes>, Error>>> {
        if self.left == 0 {
            return Poll::Ready(None);
        }
        let mut piece = vec![0; self.left.min(PIECE) as usize];
        Poll::Ready(Some(match self.file.read(&mut piece) {
            // A length was promised: a file that became shorter breaks the answer off.
            Ok(0) => Err(ErrorKind::UnexpectedEof.into()),
            Ok(read) => {
                self.left -= read as u64;
                piece.truncate(read);
                Ok(Frame::data(piece.into()))
            }
            Err(error) => Err(error),
        }))
    }

    fn size_hint(&self) -> SizeHint {
        SizeHint::with_exact(self.left)
    }
}

/// News of what is newer than a version, as long as somebody listens (HTML, section 9.2: server-sent events).
pub fn news(state: &Arc<State>, since: u64, following: Following) -> Answered {
    let (run, mut known) = (state.run.clone(), state.follow());
    // What is known now may be news already.
    known.mark_changed();
    Either::Right(Either::Right(NewsBody { news: Box::pin(next(known)), run, since, _following: following }))
}

/// A line that says nothing, so that nothing between takes the connection for dead.
const PAUSE: Duration = Duration::from_secs(15);

type Next = Pin<Box<dyn Future<Output = (Receiver<Arc<Known>>, Option<Arc<Known>>)>>>;

/// What is told to one who listens.
pub struct NewsBody {
    news: Next,
    run: String,
    since: u64,
    _following: Following,
}

/// Waits for news, for a while.
async fn next(mut known: Receiver<Arc<Known>>) -> (Receiver<Arc<Known>>, Option<Arc<Known>>) {
    let news = match tokio::time::timeout(PAUSE, known.changed()).await {
        Ok(Ok(())) => Some(Arc::clone(&known.borrow_and_update())),
        // Nothing else changes where nobody tells any more.
        Ok(Err(_)) => std::future::pending().await,
        Err(_) => None,
    };
    (known, news)
}

impl Body for NewsBody {
    type Data = Bytes;
    type Error = Error;

    fn poll_frame(mut self: Pin<&mut Self>, context: &mut Context) -> Poll<Option<Result<Frame<Bytes>, Error>>> {
        loop {
            let Poll::Ready((known, news)) = self.news.as_mut().poll(context) else { return Poll::Pending };
            self.news = Box::pin(next(known));
            let line = match news {
                Some(known) if known.version > self.since => {
                    let news = known.news(self.since);
                    self.since = known.version;
                    format!("id: {}-{}\ndata: {news}\n\n", self.run, known.version)
                }
                Some(_) => continue,
                None => ":\n\n".to_owned(),
            };
            return Poll::Ready(Some(Ok(Frame::data(line.into()))));
        }
    }
}
