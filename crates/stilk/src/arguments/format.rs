//! How answers are printed: the values of `--format`.

use clap::ValueEnum;

/// How a report is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum ReportFormat {
    /// For people
    Text,
    /// For programs
    Json,
    /// For code hosts and editors: SARIF 2.1.0
    Sarif,
    /// For a pull request
    Markdown,
    /// For test reports: JUnit XML
    Junit,
}

/// How a survey is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum SurveyFormat {
    /// For people
    Text,
    /// For programs
    Json,
    /// For code hosts and editors: SARIF 2.1.0
    Sarif,
    /// For a pull request
    Markdown,
    /// For test reports: JUnit XML
    Junit,
    /// As a page: the inventory, with each look drawn
    Html,
}

/// How a text is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum PageFormat {
    /// For a terminal
    Text,
    /// As a page
    Markdown,
}

/// How pairs of colours are printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum PairFormat {
    /// For a terminal
    Text,
    /// As a page
    Html,
    /// As a picture
    Svg,
    /// For programs
    Json,
}

/// How a comparison is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum CompareFormat {
    /// For people
    Text,
    /// For programs
    Json,
    /// For a changelog
    Markdown,
    /// As a page with before and after side by side
    Html,
}

/// How answers are printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// For people
    Text,
    /// For programs
    Json,
}
