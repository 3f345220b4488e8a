//! Which form the answers of a command have, and what there is to say where there are none.

use crate::arguments::Command;
use crate::arguments::format::{CompareFormat, Format, PairFormat, ReportFormat, SurveyFormat};
use crate::output::failure::Form;

impl Command {
    /// The form.
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
