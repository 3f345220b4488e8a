//! Math functions of CSS Values 4, section 10: parsed into a tree, typed, evaluated.

use super::context::{Context, Unknown};
use super::number::next_number;
use super::value::{Basis, LengthPercentage, Quantity, Unit, unit};
use cssparser::{ParseError, Parser, Token};

/// A calculation tree.
#[derive(Debug, Clone, PartialEq)]
pub enum Calc {
    /// A number.
    Number(f64),
    /// A percentage.
    Percentage(f64),
    /// A dimension.
    Dimension(f64, Unit),
    /// A percentage taken as a number.
    Bare(Box<Calc>),
    /// `a + b …`
    Sum(Vec<Calc>),
    /// `a * b …`
    Product(Vec<Calc>),
    /// `1 / a`
    Invert(Box<Calc>),
    /// `min()`
    Min(Vec<Calc>),
    /// `max()`
    Max(Vec<Calc>),
    /// `clamp()`
    Clamp(Box<[Calc; 3]>),
    /// `abs()`
    Abs(Box<Calc>),
    /// `sign()`
    Sign(Box<Calc>),
    /// `round()`, `mod()`, `rem()`: what is rounded, and the step.
    Step(Step, Box<[Calc; 2]>),
    /// A function of numbers, or of an angle, that gives a number or an angle.
    Function(Function, Vec<Calc>),
    /// A function that is not computed here, by what it gives.
    Open(ResultType),
}

/// How `round()` and its kin go to a step (CSS Values 4, section 10.3).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Step {
    /// To the nearest, halves up.
    Nearest,
    /// Up.
    Up,
    /// Down.
    Down,
    /// Towards zero.
    ToZero,
    /// What is left, with the step's sign.
    Mod,
    /// What is left, with the value's sign.
    Rem,
}

/// Trigonometric and exponential functions (CSS Values 4, sections 10.4 and 10.5).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum Function {
    Sin,
    Cos,
    Tan,
    Asin,
    Acos,
    Atan,
    Atan2,
    Pow,
    Sqrt,
    Hypot,
    Log,
    Exp,
}

const FUNCTIONS: [(&str, Function, std::ops::RangeInclusive<usize>); 12] = [
    ("sin", Function::Sin, 1..=1),
    ("cos", Function::Cos, 1..=1),
    ("tan", Function::Tan, 1..=1),
    ("asin", Function::Asin, 1..=1),
    ("acos", Function::Acos, 1..=1),
    ("atan", Function::Atan, 1..=1),
    ("atan2", Function::Atan2, 2..=2),
    ("pow", Function::Pow, 2..=2),
    ("sqrt", Function::Sqrt, 1..=1),
    ("hypot", Function::Hypot, 1..=64),
    ("log", Function::Log, 1..=2),
    ("exp", Function::Exp, 1..=1),
];

/// What a calculation gives.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ResultType {
    /// A number.
    Number,
    /// A percentage alone.
    Percentage,
    /// A dimension.
    Quantity(Quantity),
    /// A length and a percentage together.
    LengthPercentage,
}

/// A value in canonical units: px, seconds, degrees or a bare number in `amount`.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Linear {
    amount: f64,
    percent: f64,
    has_percent: bool,
}

/// Whether a function's name is a math function read here.
pub fn is_math(name: &str) -> bool {
    const PLAIN: [&str; 9] = ["calc", "min", "max", "clamp", "abs", "sign", "round", "mod", "rem"];
    PLAIN.iter().chain(&OPEN).chain(FUNCTIONS.iter().map(|f| &f.0)).any(|known| known.eq_ignore_ascii_case(name))
}

/// Functions of CSS Values 5 that are not computed here.
const OPEN: [&str; 4] = ["random", "progress", "sibling-index", "sibling-count"];

/// Parses the arguments of the math function that was just opened.
pub fn parse(name: &str, parser: &mut Parser) -> Result<Calc, ParseError<()>> {
    parse_with(name, parser, &|_| None)
}

/// Gives the numbers that names stand for: the channels of a relative colour.
pub type Names<'n> = &'n dyn Fn(&str) -> Option<f64>;

/// Parses the arguments of the math function that was just opened, with names for numbers.
pub fn parse_with(name: &str, parser: &mut Parser, names: Names) -> Result<Calc, ParseError<()>> {
    let sum = |p: &mut Parser| sum(p, names);
    let name = name.to_ascii_lowercase();
    parser.parse_nested_block(|inner| match name.as_str() {
        "calc" => sum(inner),
        "abs" => Ok(Calc::Abs(Box::new(sum(inner)?))),
        "sign" => Ok(Calc::Sign(Box::new(sum(inner)?))),
        "round" => {
            let words = [("nearest", Step::Nearest), ("up", Step::Up), ("down", Step::Down), ("to-zero", Step::ToZero)];
            let named = words.into_iter().find(|(word, _)| inner.try_parse(|p| p.expect_ident_matching(word)).is_ok());
            if named.is_some() {
                inner.expect_comma()?;
            }
            let mut terms = inner.parse_comma_separated(&sum)?;
            if terms.len() == 1 {
                terms.push(Calc::Number(1.0));
            }
            step(named.map_or(Step::Nearest, |(_, step)| step), terms)
        }
        "mod" => step(Step::Mod, inner.parse_comma_separated(&sum)?),
        "rem" => step(Step::Rem, inner.parse_comma_separated(&sum)?),
        "min" => Ok(Calc::Min(inner.parse_comma_separated(&sum)?)),
        "max" => Ok(Calc::Max(inner.parse_comma_separated(&sum)?)),
        "clamp" => clamp(inner, &sum),
        "sibling-index" | "sibling-count" if inner.is_exhausted() => Ok(Calc::Open(ResultType::Number)),
        "progress" => match Calc::common(&inner.parse_comma_separated(&sum)?) {
            Some(_) => Ok(Calc::Open(ResultType::Number)),
            None => Err(ParseError::unexpected_token()),
        },
        "random" => random(inner, &sum),
        name => {
            let arguments = inner.parse_comma_separated(&sum)?;
            match FUNCTIONS.iter().find(|(known, _, count)| *known == name && count.contains(&arguments.len())) {
                Some((_, function, _)) => Ok(Calc::Function(*function, arguments)),
                None => Err(ParseError::unexpected_token()),
            }
        }
    })
}

/// `clamp()`, either of whose bounds may be `none`.
fn clamp(
    parser: &mut Parser,
    sum: &dyn Fn(&mut Parser) -> Result<Calc, ParseError<()>>,
) -> Result<Calc, ParseError<()>> {
    let bound = |p: &mut Parser| match p.try_parse(|p| p.expect_ident_matching("none")) {
        Ok(()) => Ok(None),
        Err(_) => sum(p).map(Some),
    };
    let least = bound(parser)?;
    parser.expect_comma()?;
    let value = sum(parser)?;
    parser.expect_comma()?;
    Ok(match (least, bound(parser)?) {
        (Some(least), Some(most)) => Calc::Clamp(Box::new([least, value, most])),
        (Some(least), None) => Calc::Max(vec![least, value]),
        (None, Some(most)) => Calc::Min(vec![value, most]),
        (None, None) => value,
    })
}

/// `random()`: of what is shared, and how, nothing is kept.
fn random(
    parser: &mut Parser,
    sum: &dyn Fn(&mut Parser) -> Result<Calc, ParseError<()>>,
) -> Result<Calc, ParseError<()>> {
    let mut is_shared = false;
    while parser.try_parse(|p| p.expect_ident_cloned()).is_ok() {
        is_shared = true;
    }
    if is_shared {
        parser.expect_comma()?;
    }
    let terms = parser.parse_comma_separated(sum)?;
    match Calc::common(&terms) {
        Some(kind) if (2..=3).contains(&terms.len()) => Ok(Calc::Open(kind)),
        _ => Err(ParseError::unexpected_token()),
    }
}

fn step(how: Step, terms: Vec<Calc>) -> Result<Calc, ParseError<()>> {
    match <[Calc; 2]>::try_from(terms) {
        Ok(two) => Ok(Calc::Step(how, Box::new(two))),
        Err(_) => Err(ParseError::unexpected_token()),
    }
}

fn sum(parser: &mut Parser, names: Names) -> Result<Calc, ParseError<()>> {
    let mut terms = vec![product(parser, names)?];
    loop {
        let state = parser.state();
        // `+` and `-` need white space on both sides.
        let spaced = matches!(parser.next_including_whitespace(), Ok(Token::WhiteSpace(_)));
        // A comment parts white space into two.
        let sign = match parser.next() {
            Ok(Token::Delim('+')) if spaced => 1.0,
            Ok(Token::Delim('-')) if spaced => -1.0,
            _ => {
                parser.reset(&state);
                break;
            }
        };
        if !matches!(parser.next_including_whitespace(), Ok(Token::WhiteSpace(_))) {
            return Err(ParseError::unexpected_token());
        }
        let term = product(parser, names)?;
        terms.push(if sign < 0.0 { Calc::Product(vec![Calc::Number(-1.0), term]) } else { term });
    }
    Ok(if terms.len() == 1 { terms.remove(0) } else { Calc::Sum(terms) })
}

fn product(parser: &mut Parser, names: Names) -> Result<Calc, ParseError<()>> {
    let mut factors = vec![operand(parser, names)?];
    loop {
        let state = parser.state();
        match parser.next() {
            Ok(Token::Delim('*')) => factors.push(operand(parser, names)?),
            Ok(Token::Delim('/')) => factors.push(Calc::Invert(Box::new(operand(parser, names)?))),
            _ => {
                parser.reset(&state);
                break;
            }
        }
    }
    Ok(if factors.len() == 1 { factors.remove(0) } else { Calc::Product(factors) })
}

fn operand(parser: &mut Parser, names: Names) -> Result<Calc, ParseError<()>> {
    parser.skip_whitespace();
    let state = parser.state();
    let token = parser.next()?.clone();
    match token {
        Token::Number { .. } | Token::Percentage { .. } | Token::Dimension { .. } => {
            parser.reset(&state);
            let (number, name) = next_number(parser)?;
            match name {
                None => Ok(Calc::Number(number)),
                Some("%") => Ok(Calc::Percentage(number)),
                Some(name) => {
                    unit(name).map(|unit| Calc::Dimension(number, unit)).ok_or_else(ParseError::unexpected_token)
                }
            }
        }
        Token::Ident(name) if names(&name).is_some() => Ok(Calc::Number(names(&name).unwrap_or(0.0))),
        Token::Ident(name) => match name.to_ascii_lowercase().as_str() {
            "infinity" => Ok(Calc::Number(f64::INFINITY)),
            "-infinity" => Ok(Calc::Number(f64::NEG_INFINITY)),
            "nan" => Ok(Calc::Number(f64::NAN)),
            "pi" => Ok(Calc::Number(std::f64::consts::PI)),
            "e" => Ok(Calc::Number(std::f64::consts::E)),
            _ => Err(ParseError::unexpected_token()),
        },
        Token::ParenthesisBlock => parser.parse_nested_block(|p| sum(p, names)),
        Token::Function(name) if is_math(&name) => parse_with(&name, parser, names),
        _ => Err(ParseError::unexpected_token()),
    }
}

impl Calc {
    /// What it gives, or `None` when the types do not fit (`1px + 1s`, `1px * 1px`).
    pub fn kind(&self) -> Option<ResultType> {
        match self {
            Calc::Number(_) => Some(ResultType::Number),
            Calc::Percentage(_) => Some(ResultType::Percentage),
            Calc::Bare(_) => Some(ResultType::Number),
            Calc::Dimension(_, unit) => Some(ResultType::Quantity(unit.quantity)),
            Calc::Sum(terms) | Calc::Min(terms) | Calc::Max(terms) => Self::common(terms),
            Calc::Clamp(terms) => Self::common(terms.as_slice()),
            Calc::Abs(inner) => inner.kind(),
            Calc::Sign(inner) => inner.kind().map(|_| ResultType::Number),
            Calc::Step(_, terms) => Self::common(terms.as_slice()),
            Calc::Function(function, arguments) => function.kind(arguments),
            Calc::Open(kind) => Some(*kind),
            Calc::Invert(inner) => inner.kind().filter(|kind| *kind == ResultType::Number),
            Calc::Product(_) => match self.exponents()? {
                [0, 0, 0, 0] => Some(ResultType::Number),
                [1, 0, 0, 0] => Some(ResultType::Quantity(Quantity::Length)),
                [0, 1, 0, 0] => Some(ResultType::Quantity(Quantity::Time)),
                [0, 0, 1, 0] => Some(ResultType::Quantity(Quantity::Angle)),
                // A length and a percentage together can only be multiplied by a number.
                [0, 0, 0, 1] => match self {
                    Calc::Product(factors) => {
                        factors.iter().find_map(|f| f.kind().filter(|k| *k != ResultType::Number))
                    }
                    _ => None,
                },
                _ => None,
            },
        }
    }

    /// How often each type takes part: lengths, times, angles, and percentages (CSS Values 4, section 10.9).
    fn exponents(&self) -> Option<[i32; 4]> {
        match self {
            Calc::Product(factors) => {
                let mut total = [0; 4];
                for factor in factors {
                    let one = factor.exponents()?;
                    total.iter_mut().zip(one).for_each(|(sum, n)| *sum += n);
                }
                Some(total)
            }
            Calc::Invert(inner) => {
                let one = inner.exponents()?;
                // Dividing by a percentage needs to know of what.
                if one[3] != 0 { None } else { Some(one.map(|n| -n)) }
            }
            other => Some(match other.kind()? {
                ResultType::Number => [0; 4],
                ResultType::Quantity(Quantity::Length) => [1, 0, 0, 0],
                ResultType::Quantity(Quantity::Time) => [0, 1, 0, 0],
                ResultType::Quantity(Quantity::Angle) => [0, 0, 1, 0],
                ResultType::Percentage | ResultType::LengthPercentage => [0, 0, 0, 1],
            }),
        }
    }

    fn common(terms: &[Calc]) -> Option<ResultType> {
        let mut kinds = terms.iter().map(Calc::kind);
        let mut result = kinds.next()??;
        for kind in kinds {
            let kind = kind?;
            result = match (result, kind) {
                (a, b) if a == b => a,
                (ResultType::Percentage | ResultType::LengthPercentage, ResultType::Quantity(Quantity::Length))
                | (ResultType::Quantity(Quantity::Length), ResultType::Percentage | ResultType::LengthPercentage)
                | (ResultType::LengthPercentage, ResultType::Percentage)
                | (ResultType::Percentage, ResultType::LengthPercentage) => ResultType::LengthPercentage,
                _ => return None,
            };
        }
        Some(result)
    }

    /// The number it gives.
    pub fn number(&self, context: &Context) -> Result<f64, Unknown> {
        let amount = self.eval(context)?.amount;
        // Numbers have 32 bits.
        Ok(if amount.is_nan() { 0.0 } else { amount.clamp(f64::from(f32::MIN), f64::from(f32::MAX)) })
    }

    /// The length it gives, in px, with its percentage.
    pub fn length(&self, context: &Context) -> Result<LengthPercentage, Unknown> {
        let Linear { amount, percent, has_percent } = self.eval(context)?;
        Ok(LengthPercentage { px: finite(amount), percent, has_percent })
    }

    /// The amount in canonical units: seconds for times, degrees for angles, a percentage's own number.
    pub fn canonical(&self, context: &Context) -> Result<f64, Unknown> {
        let linear = self.eval(context)?;
        Ok(finite(if linear.has_percent { linear.percent } else { linear.amount }))
    }

    fn eval(&self, context: &Context) -> Result<Linear, Unknown> {
        let plain = |amount| Linear { amount, percent: 0.0, has_percent: false };
        match self {
            Calc::Number(n) => Ok(plain(*n)),
            Calc::Percentage(n) => Ok(match context.whole {
                Some(whole) => plain(whole * n / 100.0),
                None => Linear { amount: 0.0, percent: *n, has_percent: true },
            }),
            Calc::Dimension(n, unit) => Ok(plain(context.canonical(*n, *unit)?)),
            Calc::Bare(inner) => Ok(plain(inner.eval(&Context { whole: None, ..*context })?.percent)),
            Calc::Open(_) => Err(Unknown("a function in it is not computed")),
            Calc::Sum(terms) => {
                let mut total = plain(0.0);
                for term in terms {
                    let term = term.eval(context)?;
                    total.amount += term.amount;
                    total.percent += term.percent;
                    total.has_percent |= term.has_percent;
                }
                Ok(total)
            }
            Calc::Product(factors) => {
                let mut total = plain(1.0);
                for factor in factors {
                    let other = factor.eval(context)?;
                    // At most one factor is no number: the type was checked when it was parsed.
                    total = match (total.has_percent, other.has_percent) {
                        (false, true) => Linear { percent: other.percent * total.amount, amount: 0.0, ..other },
                        (true, _) => Linear {
                            percent: total.percent * other.amount,
                            amount: total.amount * other.amount,
                            has_percent: true,
                        },
                        _ => plain(total.amount * other.amount),
                    };
                    if !total.has_percent {
                        continue;
                    }
                    if other.has_percent && other.amount != 0.0 {
                        return Err(Unknown("a product of a mixed length is not computed"));
                    }
                }
                Ok(total)
            }
            Calc::Invert(inner) => Ok(plain(1.0 / inner.eval(context)?.amount)),
            Calc::Abs(inner) => of_plain(&[inner.eval(context)?], |v| v[0].abs()),
            Calc::Sign(inner) => of_plain(&[inner.eval(context)?], |v| if v[0] == 0.0 { 0.0 } else { v[0].signum() }),
            Calc::Step(how, terms) => of_plain(&Self::eval_all(terms.as_slice(), context)?, |v| how.apply(v[0], v[1])),
            Calc::Function(function, arguments) => {
                // Angles are in degrees by now; a bare number given to a trigonometric function is in radians.
                let angles = arguments[0].kind() == Some(ResultType::Quantity(Quantity::Angle));
                of_plain(&Self::eval_all(arguments, context)?, |v| function.apply(v, angles))
            }
            Calc::Min(terms) => {
                pick(&Self::eval_all(terms, context)?, |v| v.iter().copied().fold(f64::INFINITY, f64::min))
            }
            Calc::Max(terms) => {
                pick(&Self::eval_all(terms, context)?, |v| v.iter().copied().fold(f64::NEG_INFINITY, f64::max))
            }
            Calc::Clamp(terms) => pick(&Self::eval_all(terms.as_slice(), context)?, |v| v[0].max(v[1].min(v[2]))),
        }
    }

    fn eval_all(terms: &[Calc], context: &Context) -> Result<Vec<Linear>, Unknown> {
        terms.iter().map(|term| term.eval(context)).collect()
    }
}

impl Step {
    fn apply(self, value: f64, step: f64) -> f64 {
        match self {
            Step::Nearest => (value / step + 0.5).floor() * step,
            Step::Up => (value / step).ceil() * step,
            Step::Down => (value / step).floor() * step,
            Step::ToZero => (value / step).trunc() * step,
            Step::Mod => value - (value / step).floor() * step,
            Step::Rem => value - (value / step).trunc() * step,
        }
    }
}

impl Function {
    fn kind(self, arguments: &[Calc]) -> Option<ResultType> {
        let common = Calc::common(arguments)?;
        let angle = ResultType::Quantity(Quantity::Angle);
        match self {
            Function::Sin | Function::Cos | Function::Tan => {
                (common == ResultType::Number || common == angle).then_some(ResultType::Number)
            }
            Function::Asin | Function::Acos | Function::Atan => (common == ResultType::Number).then_some(angle),
            Function::Atan2 => Some(angle),
            Function::Hypot => Some(common),
            Function::Pow | Function::Sqrt | Function::Log | Function::Exp => {
                (common == ResultType::Number).then_some(ResultType::Number)
            }
        }
    }

    fn apply(self, v: &[f64], degrees: bool) -> f64 {
        let angle = if degrees { v[0].to_radians() } else { v[0] };
        match self {
            Function::Sin => angle.sin(),
            Function::Cos => angle.cos(),
            Function::Tan => angle.tan(),
            Function::Asin => v[0].asin().to_degrees(),
            Function::Acos => v[0].acos().to_degrees(),
            Function::Atan => v[0].atan().to_degrees(),
            Function::Atan2 => v[0].atan2(v[1]).to_degrees(),
            Function::Pow => v[0].powf(v[1]),
            Function::Sqrt => v[0].sqrt(),
            Function::Hypot => v.iter().map(|x| x * x).sum::<f64>().sqrt(),
            Function::Log => v.get(1).map_or_else(|| v[0].ln(), |base| v[0].log(*base)),
            Function::Exp => v[0].exp(),
        }
    }
}

/// Why a comparison of lengths with shares of something is not computed.
pub const COMPARED: Unknown = Unknown("a comparison with a percentage needs a layout");

/// Comparisons need one kind of amount: mixed ones wait for a layout.
fn pick(values: &[Linear], choose: impl Fn(&[f64]) -> f64) -> Result<Linear, Unknown> {
    if values.iter().all(|v| !v.has_percent) {
        let amounts: Vec<f64> = values.iter().map(|v| v.amount).collect();
        return Ok(Linear { amount: choose(&amounts), percent: 0.0, has_percent: false });
    }
    Err(COMPARED)
}

/// The same for functions that neither grow nor shrink with what they are given.
fn of_plain(values: &[Linear], choose: impl Fn(&[f64]) -> f64) -> Result<Linear, Unknown> {
    pick(values, choose).map_err(|_| Unknown("a function of a percentage needs a layout"))
}

/// The largest length that Chromium lays out, in px.
pub(super) const LARGEST: f64 = 33_554_428.0;

/// Browsers clamp what is not finite (CSS Values 4, section 10.9.2); NaN becomes 0.
fn finite(value: f64) -> f64 {
    if value.is_nan() { 0.0 } else { value.clamp(-LARGEST, LARGEST) }
}

impl Context {
    /// An amount of a unit in canonical units.
    pub fn canonical(&self, amount: f64, unit: Unit) -> Result<f64, Unknown> {
        Ok(match unit.basis {
            Basis::Canonical(factor) => amount * factor,
            Basis::FontSize => amount * self.font_size?,
            Basis::RootFontSize => amount * self.root_font_size?,
            Basis::LineHeight => amount * self.line_height?,
            Basis::ViewportWidth => amount * self.viewport.0 / 100.0,
            Basis::ViewportHeight => amount * self.viewport.1 / 100.0,
            Basis::ViewportMin => amount * self.viewport.0.min(self.viewport.1) / 100.0,
            Basis::ViewportMax => amount * self.viewport.0.max(self.viewport.1) / 100.0,
            Basis::Metrics(reason) => return Err(Unknown(reason)),
        })
    }
}
