//! Declarations that do nothing, colours behind pictures, rules that reach too far, values that do not fit.

mod dead;
mod masked;
mod name;
mod reach;
mod value;
