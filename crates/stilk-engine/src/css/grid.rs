//! Lines, areas and shorthands of grids (CSS Grid 2, sections 7 and 8).

use super::parse::{Expanded, Target, parse_grammar};
use super::primitive::{ValueResult, keyword, whole, wrong};
use super::property::Longhand as L;
use super::value::Value;
use cssparser::{ParseError, Parser, Token};

type Expansion = Result<Vec<Expanded>, ParseError<()>>;

/// `<grid-line>`: a number and a name in any order, counted or spanned, or `auto`.
pub(super) fn line(parser: &mut Parser) -> ValueResult {
    if let Ok(word) = parser.try_parse(|p| keyword(p, &["auto"])) {
        return Ok(word);
    }
    let [mut span, mut number, mut name] = [const { None::<Value> }; 3];
    loop {
        if span.is_none()
            && let Ok(word) = parser.try_parse(|p| keyword(p, &["span"]))
        {
            // It stands at one end.
            if number.is_some() && name.is_some() && !is_at_end(parser) {
                return wrong();
            }
            span = Some(word);
        } else if number.is_none()
            && let Ok(value) = parser.try_parse(|p| whole(p, &[], f64::NEG_INFINITY))
        {
            number = Some(value);
        } else if name.is_none()
            && let Ok(value) = parser.try_parse(custom_name)
        {
            name = Some(value);
        } else {
            break;
        }
    }
    match (&span, &number) {
        // There is no line 0, and nothing spans less than one.
        (_, Some(Value::Number(n))) if *n == 0.0 || (span.is_some() && *n < 0.0) => return wrong(),
        (_, Some(Value::Number(_))) => {}
        // What is calculated is counted once it is known.
        (_, Some(_)) => return Ok(Value::Unmodelled),
        (Some(_), None) if name.is_none() => return wrong(),
        _ => {}
    }
    // One that is named counts as the first.
    let number = number.filter(|number| span.is_none() || name.is_none() || *number != Value::Number(1.0));
    let mut words: Vec<Value> = [span, number, name].into_iter().flatten().collect();
    match words.len() {
        0 => wrong(),
        1 => Ok(words.remove(0)),
        _ => Ok(Value::Words(words)),
    }
}

fn is_at_end(parser: &mut Parser) -> bool {
    let state = parser.state();
    let is_end = matches!(parser.next(), Err(_) | Ok(Token::Delim('/')));
    parser.reset(&state);
    is_end
}

fn custom_name(parser: &mut Parser) -> ValueResult {
    const NOT: [&str; 8] = ["auto", "span", "inherit", "initial", "unset", "revert", "revert-layer", "default"];
    let word = parser.expect_ident()?;
    match NOT.iter().any(|not| word.eq_ignore_ascii_case(not)) {
        true => wrong(),
        false => Ok(Value::Ident(word.to_string().into())),
    }
}

/// `grid-area`, `grid-row` and `grid-column`: lines between slashes; a name alone is repeated.
pub(super) fn lines(targets: &[Target], parser: &mut Parser) -> Expansion {
    let mut given = vec![line(parser)?];
    while given.len() < targets.len() && parser.try_parse(|p| p.expect_delim('/')).is_ok() {
        given.push(line(parser)?);
    }
    let named = |from: &Value| match from {
        Value::Ident(_) => from.clone(),
        _ => Value::Keyword("auto"),
    };
    // The fourth is of the second, all others of the first.
    while given.len() < targets.len() {
        let from = if given.len() == 3 { &given[1] } else { &given[0] };
        given.push(named(from));
    }
    Ok(targets.iter().copied().zip(given).collect())
}

/// `grid-template-areas`: rows of names as strings; they must be rectangles.
pub(super) fn areas(parser: &mut Parser) -> ValueResult {
    if let Ok(word) = parser.try_parse(|p| keyword(p, &["none"])) {
        return Ok(word);
    }
    let mut rows = vec![parser.expect_string_cloned()?];
    while let Ok(row) = parser.try_parse(|p| p.expect_string_cloned()) {
        rows.push(row);
    }
    let rows = rows.iter().map(|row| cells(row)).collect::<Option<Vec<_>>>();
    match rows {
        Some(rows) if is_of_rectangles(&rows) => Ok(Value::Words(rows.iter().map(|row| row_text(row)).collect())),
        _ => wrong(),
    }
}

fn row_text(cells: &[String]) -> Value {
    Value::String(cells.join(" ").into())
}

/// The cells of a row; what is left empty is a dot.
fn cells(row: &str) -> Option<Vec<String>> {
    let mut cells = Vec::new();
    let mut rest = row.trim_start_matches(char::is_whitespace);
    while let Some(first) = rest.chars().next() {
        let is_dot = first == '.';
        let fits = |c: char| match is_dot {
            true => c == '.',
            false => c.is_alphanumeric() || matches!(c, '-' | '_') || !c.is_ascii(),
        };
        let end = rest.find(|c| !fits(c)).unwrap_or(rest.len());
        if end == 0 {
            return None;
        }
        cells.push(if is_dot { ".".to_owned() } else { rest[..end].to_owned() });
        rest = rest[end..].trim_start_matches(char::is_whitespace);
    }
    (!cells.is_empty()).then_some(cells)
}

fn is_of_rectangles(rows: &[Vec<String>]) -> bool {
    if rows.iter().any(|row| row.len() != rows[0].len()) {
        return false;
    }
    let places = |name: &str| {
        let of_row = |(y, row): (usize, &Vec<String>)| {
            let cells = row.iter().enumerate().filter(|(_, cell)| cell.as_str() == name);
            cells.map(|(x, _)| (x, y)).collect::<Vec<_>>()
        };
        rows.iter().enumerate().flat_map(of_row).collect::<Vec<_>>()
    };
    let names = rows.iter().flatten().filter(|cell| cell.as_str() != ".");
    names.into_iter().all(|name| {
        let places = places(name);
        let span = |axis: fn(&(usize, usize)) -> usize| {
            let all = || places.iter().map(axis);
            all().max().unwrap_or(0) - all().min().unwrap_or(0) + 1
        };
        span(|place| place.0) * span(|place| place.1) == places.len()
    })
}

/// `grid-template`, and what `grid` sets of it: tracks, or rows of areas with their sizes.
pub(super) fn template(parser: &mut Parser) -> Expansion {
    let set = |areas: Value, rows: Value, columns: Value| {
        vec![
            (Target::Physical(L::GridTemplateRows), rows),
            (Target::Physical(L::GridTemplateColumns), columns),
            (Target::Physical(L::GridTemplateAreas), areas),
        ]
    };
    let none = || Value::Keyword("none");
    if parser.try_parse(|p| p.parse_entirely(|p| keyword(p, &["none"]))).is_ok() {
        return Ok(set(none(), none(), none()));
    }
    if has(parser, |token| matches!(token, Token::QuotedString(_))) {
        return with_areas(parser).map(|(areas, rows, columns)| set(areas, rows, columns));
    }
    let rows = before_slash(parser, L::GridTemplateRows)?;
    parser.expect_delim('/')?;
    let columns = parse_grammar(L::GridTemplateColumns.grammar(), parser)?;
    Ok(set(none(), rows, columns))
}

/// Whether some token of what is left is one of these.
fn has(parser: &mut Parser, is_one: impl Fn(&Token) -> bool) -> bool {
    let state = parser.state();
    let mut any = false;
    while let Ok(token) = parser.next() {
        any |= is_one(token);
    }
    parser.reset(&state);
    any
}

/// A list of tracks up to a slash: its grammar reads to the end.
fn before_slash(parser: &mut Parser, longhand: L) -> ValueResult {
    let start = parser.position();
    let mut end = start;
    loop {
        let state = parser.state();
        match parser.next() {
            Ok(Token::Delim('/')) => {
                parser.reset(&state);
                break;
            }
            Ok(_) => end = parser.position(),
            Err(_) => return wrong(),
        }
    }
    let text = parser.slice(start..end).to_owned();
    super::parse::parse_longhand(longhand, &text)
}

fn with_areas(parser: &mut Parser) -> Result<(Value, Value, Value), ParseError<()>> {
    let mut rows = Vec::new();
    let mut sizes = Some(Vec::new());
    while !parser.is_exhausted() && !is_slash(parser) {
        let name = |p: &mut Parser| {
            p.expect_square_bracket_block()?;
            p.parse_nested_block(|inner| {
                while inner.next().is_ok() {}
                Ok::<_, ParseError<()>>(())
            })
        };
        let is_named = parser.try_parse(name).is_ok();
        let row = parser.expect_string_cloned()?;
        rows.push(cells(&row).ok_or_else(ParseError::unexpected_token)?);
        let size = parser.try_parse(super::tracks::track).unwrap_or(Value::Keyword("auto"));
        let is_named = parser.try_parse(name).is_ok() || is_named;
        match &mut sizes {
            Some(sizes) if !is_named => sizes.push(size),
            _ => sizes = None,
        }
    }
    if rows.is_empty() || !is_of_rectangles(&rows) {
        return wrong();
    }
    let columns = match parser.try_parse(|p| p.expect_delim('/')) {
        Ok(()) => parse_grammar(L::GridTemplateColumns.grammar(), parser)?,
        Err(_) => Value::Keyword("none"),
    };
    let areas = Value::Words(rows.iter().map(|row| row_text(row)).collect());
    Ok((areas, sizes.map_or(Value::Unmodelled, Value::Words), columns))
}

fn is_slash(parser: &mut Parser) -> bool {
    let state = parser.state();
    let is = matches!(parser.next(), Ok(Token::Delim('/')));
    parser.reset(&state);
    is
}

/// `grid`: a template, or one side of it and how the other is filled.
pub(super) fn shorthand(parser: &mut Parser) -> Expansion {
    let auto = || vec![Value::Keyword("auto")];
    let rest = |flow: Value, rows: Value, columns: Value| {
        [
            (Target::Physical(L::GridAutoFlow), flow),
            (Target::Physical(L::GridAutoRows), rows),
            (Target::Physical(L::GridAutoColumns), columns),
        ]
    };
    let plain = || rest(Value::Keyword("row"), Value::Words(auto()), Value::Words(auto()));
    if !has(parser, |token| matches!(token, Token::Ident(word) if word.eq_ignore_ascii_case("auto-flow"))) {
        let mut found = template(parser)?;
        found.extend(plain());
        return Ok(found);
    }
    let set = |rows: Value, columns: Value| {
        [
            (Target::Physical(L::GridTemplateRows), rows),
            (Target::Physical(L::GridTemplateColumns), columns),
            (Target::Physical(L::GridTemplateAreas), Value::Keyword("none")),
        ]
    };
    // `auto-flow` stands on the side that is filled.
    let flow = |p: &mut Parser| -> Result<bool, ParseError<()>> {
        let dense = p.try_parse(|p| p.expect_ident_matching("dense")).is_ok();
        p.expect_ident_matching("auto-flow")?;
        Ok(dense || p.try_parse(|p| p.expect_ident_matching("dense")).is_ok())
    };
    let none = || Value::Keyword("none");
    if let Ok(dense) = parser.try_parse(flow) {
        let rows = match is_slash(parser) {
            true => Value::Words(auto()),
            false => before_slash(parser, L::GridAutoRows)?,
        };
        parser.expect_delim('/')?;
        let columns = parse_grammar(L::GridTemplateColumns.grammar(), parser)?;
        let flow = Value::Keyword(if dense { "dense" } else { "row" });
        return Ok(set(none(), columns).into_iter().chain(rest(flow, rows, Value::Words(auto()))).collect());
    }
    let rows = before_slash(parser, L::GridTemplateRows)?;
    parser.expect_delim('/')?;
    let dense = flow(parser)?;
    let columns = match parser.is_exhausted() {
        true => Value::Words(auto()),
        false => parse_grammar(L::GridAutoColumns.grammar(), parser)?,
    };
    let column = Value::Keyword("column");
    let flow = if dense { Value::Words(vec![column, Value::Keyword("dense")]) } else { column };
    Ok(set(rows, none()).into_iter().chain(rest(flow, Value::Words(auto()), columns)).collect())
}
