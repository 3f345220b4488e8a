//! What is painted: the pixels behind a text, gradients, boxes, and what changes before people's eyes.

pub mod boxes;
pub mod drawn;
pub mod effect;
pub mod gradient;
pub mod least;
pub mod moving;
pub mod origin;
pub mod paint;
pub mod pressed;
pub mod text;
pub mod visible;
