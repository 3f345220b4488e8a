//! What the editor said and nobody has looked at yet: questions that it takes back are not answered.

use crossbeam_channel::Receiver;
use lsp_server::{Message, Notification, Request, RequestId};
use std::collections::VecDeque;

/// Messages in the order in which they came.
pub struct Queue<'c> {
    receiver: &'c Receiver<Message>,
    waiting: VecDeque<Message>,
}

impl<'c> Queue<'c> {
    /// What comes over a connection.
    pub fn new(receiver: &'c Receiver<Message>) -> Queue<'c> {
        Queue { receiver, waiting: VecDeque::new() }
    }

    /// Where messages come from.
    pub fn receiver(&self) -> &'c Receiver<Message> {
        self.receiver
    }

    /// Takes in a message, and whatever else has come by now. Questions that were taken back are given out.
    pub fn take(&mut self, first: Option<Message>) -> Vec<RequestId> {
        self.waiting.extend(first);
        self.waiting.extend(self.receiver.try_iter());
        let mut taken_back = Vec::new();
        let cancelled: Vec<RequestId> = self.waiting.iter().filter_map(cancelled_by).collect();
        self.waiting.retain(|message| match message {
            Message::Request(Request { id, .. }) if cancelled.contains(id) => {
                taken_back.push(id.clone());
                false
            }
            other => cancelled_by(other).is_none(),
        });
        taken_back
    }

    /// The next message.
    pub fn next(&mut self) -> Option<Message> {
        self.waiting.pop_front()
    }

    /// Whether the next message only changes texts: what they mean is asked for later.
    pub fn is_change_next(&self) -> bool {
        matches!(self.waiting.front(), Some(Message::Notification(Notification { method, .. })) if method.starts_with("textDocument/did"))
    }
}

fn cancelled_by(message: &Message) -> Option<RequestId> {
    let Message::Notification(Notification { method, params }) = message else { return None };
    if method != "$/cancelRequest" {
        return None;
    }
    let id = params.get("id")?;
    id.as_i64()
        .and_then(|id| i32::try_from(id).ok())
        .map(RequestId::from)
        .or_else(|| Some(RequestId::from(id.as_str()?.to_owned())))
}
