//! How answers are printed: the values of `--format`.

use crate::arguments::Command;
use crate::output::failure::Form;
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

impl Command {
    /// The form that its answers have, and what there is to say where there are none.
    pub fn form(&self) -> Form {
        let of_report = |format: &ReportFormat| match format {
            ReportFormat::Text => Form::Text,
            ReportFormat::Json => Form::Json,
            ReportFormat::Sarif => Form::Sarif,
            ReportFormat::Markdown => Form::Markdown,
            ReportFormat::Junit => Form::Junit,
        };
        match self {
            Command::Check { format, .. } | Command::Scan { format, .. } => of_report(format),
            Command::Survey { format, .. } => match format {
                SurveyFormat::Text | SurveyFormat::Html => Form::Text,
                SurveyFormat::Json => Form::Json,
                SurveyFormat::Sarif => Form::Sarif,
                SurveyFormat::Markdown => Form::Markdown,
                SurveyFormat::Junit => Form::Junit,
            },
            Command::Contrast { format: PairFormat::Json, .. }
            | Command::Compare { format: CompareFormat::Json, .. } => Form::Json,
            Command::Why(why) if why.format == Format::Json => Form::Json,
            Command::Compare { format: CompareFormat::Markdown, .. } => Form::Markdown,
            _ => Form::Text,
        }
    }
}
