//! `stilk`: arguments, dispatch, exit code. The work is in `commands`; what people read is in `output`.

#[macro_use]
mod say;

mod arguments;
mod commands;
mod disk;
mod embedded;
mod form;
mod live;
mod lsp;
mod output;
mod site;
mod stream;
mod watch;

use crate::arguments::{Arguments, Command, ReportCommand};
use crate::output::failure::{Refused, print_message};
use clap::Parser;
use std::ffi::OsString;
use std::process::ExitCode;

/// A build makes and drops many small values: this allocator halves what that costs. It asks for no huge pages: most runs
/// are over before they would pay, and each one counts as used when its first byte is.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
    arguments::shell::answer();
    let (form, outcome) = match read_arguments() {
        Ok(arguments) => (arguments.command.form(), run(arguments.command)),
        Err(code) => {
            say::flush();
            return code;
        }
    };
    say::flush();
    match outcome {
        Ok(Outcome::Clean) => ExitCode::SUCCESS,
        Ok(Outcome::Findings) => ExitCode::from(1),
        Err(failure) => {
            match failure {
                Failure::Said => {}
                Failure::Message(message) => print_message(&message, form),
                Failure::Sources(refused) => refused.print(form),
            }
            say::flush();
            ExitCode::from(2)
        }
    }
}

/// Reads the arguments; help and what is wrong with them is printed.
fn read_arguments() -> Result<Arguments, ExitCode> {
    let given: Vec<OsString> = std::env::args_os().collect();
    Arguments::try_parse_from(&given).map_err(|error| {
        // What was typed is repeated in errors: a terminal must not obey it.
        let visible = given.iter().map(|argument| say::in_line(&argument.to_string_lossy()));
        let error = Arguments::try_parse_from(visible).err().unwrap_or(error);
        let text = say::marked(&error.render().ansi().to_string());
        match error.use_stderr() {
            true => say::error(format_args!("{text}"), ""),
            false => say::out(format_args!("{text}"), ""),
        }
        ExitCode::from(u8::try_from(error.exit_code()).unwrap_or(2))
    })
}

fn run(command: Command) -> Result<Outcome, Failure> {
    match command {
        Command::Build { common, explain_resets: true, .. } => commands::build::explain_resets(&common.project),
        Command::Build { common, weight: true, .. } => commands::build::weigh(&common.project),
        Command::Build { common, minify, output, .. } => {
            commands::build::run(&common.project, output.out.as_deref(), minify, common.quiet)
        }
        Command::Check { common, mend: Some(named), yes, .. } => {
            commands::mend::run(&common.project, &commands::mend::Request { named: &named, yes })
        }
        Command::Check { common, watch: true, only, unknown, .. } => {
            commands::check::watch(&common.project, &only, (common.quiet, unknown))
        }
        Command::Check { common, format, against, only, unknown, .. } => {
            commands::check::run(&common.project, format, against.as_deref(), &only, (common.quiet, unknown))
        }
        Command::Contrast { common, text: Some(text), on: Some(on), .. } => {
            commands::contrast::two(&common.project, &text, &on)
        }
        Command::Contrast { common, mend: true, .. } => commands::contrast::propose(&common.project),
        Command::Contrast { common, format, .. } => commands::contrast::run(&common.project, format),
        Command::Explain { check, format } => commands::explain::run(check.as_deref(), format),
        Command::Format { common, files, check } => commands::format::run(
            &common.project,
            &commands::format::Request { files: &files, check, quiet: common.quiet },
        ),
        Command::Specimen { common, terminal: Some(control), theme, .. } => {
            commands::specimen::print(&common.project, &control, theme.as_deref())
        }
        Command::Specimen { common, output, .. } => {
            commands::specimen::run(&common.project, output.out.as_deref(), common.quiet)
        }
        Command::Live { common, port, open, read_only, output } => {
            let request = live::Request { out: output.out.as_deref(), port, open, quiet: common.quiet, read_only };
            live::run(&common.project, &request)
        }
        Command::Lsp { stdio: _ } => lsp::run(),
        Command::Completions { shell } => {
            put!("{}", arguments::shell::script(shell));
            Ok(Outcome::Clean)
        }
        Command::Manual { to } => commands::manual::run(&to),
        Command::Markup { common, case, id } => commands::markup::run(&common.project, &case, id.as_deref()),
        Command::Tokens { common, path, page, attempt, theme } => match (path, attempt) {
            (Some(path), Some(value)) => commands::tokens_try::run(&common.project, &path, &value, theme.as_deref()),
            (path, _) => commands::tokens::run(&common.project, path.as_deref(), &page),
        },
        Command::Why(why) => {
            let question = commands::why::Question {
                subject: why.subject.as_deref(),
                property: why.property.as_deref(),
                page: why.page.as_deref(),
                css: &why.css,
                states: &why.state,
                all: why.all,
                media: &why.media,
                browser: why.browser.browser(),
                theme: why.theme.as_deref(),
            };
            commands::why::run(&why.common.project, &question, why.format)
        }
        Command::Compare { common, old, new, format } => {
            commands::compare::run(&common.project, &old, new.as_deref(), format)
        }
        Command::Scan { common, stream: true, .. } => commands::stream::scan(&common.project),
        Command::Scan { common, pages, format, against, stream: _ } => {
            let request =
                commands::scan::Request { pages: &pages, format, against: against.as_deref(), quiet: common.quiet };
            commands::scan::run(&common.project, &request)
        }
        Command::Adopt { pages, to, name, css, only, layers, merge, force, quiet } => {
            let request = commands::adopt::Request {
                pages: &pages,
                to: &to,
                name: name.as_deref(),
                css: &css,
                only: &only,
                layers,
                merge,
                force,
                quiet,
            };
            commands::adopt::run(&request)
        }
        Command::Survey { stream: true, only, .. } => commands::stream::survey(&only),
        Command::Report(ReportCommand::Merge { files, format }) => commands::report::merge(&files, format),
        Command::Survey { pages, css, only, format, against, all, quiet, stream: _ } => {
            let against = against.as_deref();
            commands::survey::run(&commands::survey::Request {
                pages: &pages,
                css: &css,
                only: &only,
                format,
                against,
                reading: output::survey::Reading { quiet, whole: all },
            })
        }
        Command::New { folder, name, prefix, bare, quiet } => {
            let (name, prefix) = (name.as_deref(), prefix.as_deref());
            commands::new::run(&folder, &commands::new::Request { name, prefix, bare, quiet })
        }
        Command::Demo { folder, before: true, quiet, .. } => commands::demo::adopted(&folder, quiet),
        Command::Demo { folder, overwrite, quiet, .. } => commands::demo::run(&folder, overwrite, quiet),
    }
}

/// How a command ended when it could run.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Outcome {
    /// Nothing to mend.
    Clean,
    /// Something to mend.
    Findings,
}

/// Why a command could not run.
enum Failure {
    /// It was said already.
    Said,
    /// The sources are wrong.
    Sources(Box<Refused>),
    /// What to say.
    Message(String),
}

impl std::fmt::Display for Failure {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Failure::Said => Ok(()),
            Failure::Sources(refused) => f.write_str(&refused.consequence),
            Failure::Message(message) => f.write_str(message),
        }
    }
}
