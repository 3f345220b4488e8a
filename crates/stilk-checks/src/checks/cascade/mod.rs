//! The cascade: what is written has an effect, where it is meant to.

pub mod dead;
pub mod masked;
pub mod name;
pub mod reach;
pub mod value;
