//! Text, edges, marks and focus rings on what is painted behind them.

mod boundary;
mod focus;
mod indicator;
mod placeholder;
mod text;
