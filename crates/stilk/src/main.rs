//! `stilk`: arguments, dispatch, exit code. The work is in `commands`; what people read is in `output`.

#[macro_use]
mod say;

mod commands;
mod disk;
mod live;
mod lsp;
mod output;
mod site;
mod watch;

use crate::output::failure::{Form, Refused, print_message};
use clap::{Parser, Subcommand, ValueEnum};
use std::ffi::OsString;
use std::path::PathBuf;
use std::process::ExitCode;
use stilk_engine::cascade::Media;
use stilk_engine::cascade::defaults::Browser;

/// Shared button and form-control styles as tokens, base classes and variants: consistent stylesheets for every theme,
/// checked in every case.
#[derive(Parser)]
#[command(name = "stilk", version, max_term_width = 80)]
#[command(after_help = "Example:\n  stilk demo            write the sample system and see all of this at work\n  \
                        stilk check           check the system in this folder")]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Write the stylesheet
    #[command(after_help = "Example:\n  stilk build --project demo/ternhaven")]
    Build {
        #[command(flatten)]
        common: Common,
        /// Leave out comments, indents and line breaks
        #[arg(long)]
        minify: bool,
        /// Print what is reset, for whom and why, and write nothing
        #[arg(long)]
        explain_resets: bool,
        /// Print what each control costs a visitor's browser and what would make it lighter, and write nothing
        #[arg(long, conflicts_with = "explain_resets")]
        weight: bool,
        #[command(flatten)]
        output: Output,
    },
    /// Check every host, variant, state and theme
    ///
    /// Exit code 0: clean. 1: there are findings. 2: it could not run.
    #[command(after_help = "Example:\n  stilk check --format json > report.json\n  stilk check --against report.json")]
    Check {
        #[command(flatten)]
        common: Common,
        /// How to print what was found
        #[arg(long, value_enum, default_value_t = ReportFormat::Text)]
        format: ReportFormat,
        /// A former report in JSON: only what is new is shown and counts
        #[arg(long, value_name = "FILE")]
        against: Option<PathBuf>,
        /// Ask this check only; may be given several times
        #[arg(long, value_name = "CHECK", conflicts_with = "mend")]
        only: Vec<String>,
        /// Check again on every save, until it is ended
        #[arg(long, conflicts_with_all = ["mend", "format", "against"])]
        watch: bool,
        /// Say of every verdict that there is none of where, in which cases and why
        #[arg(long)]
        unknown: bool,
        /// Write what can be mended into the sources: asked for one after the other on a terminal, elsewhere that of these
        /// checks or places
        #[arg(long, value_name = "CHECK|FILE:LINE", num_args = 0.., conflicts_with_all = ["against", "format"])]
        mend: Option<Vec<String>>,
        /// Write the first mend of everything
        #[arg(long, requires = "mend")]
        yes: bool,
    },
    /// Show which colours meet and their contrast, worst first; or the contrast of two
    ///
    /// Exit code 0: all pass. 1: some do not. 2: it could not run.
    #[command(
        after_help = "Examples:\n  stilk contrast\n  stilk contrast --format svg > contrast.svg\n  stilk contrast --mend\n  stilk contrast '#006d97' white\n  stilk contrast ink.strong fill.sea"
    )]
    Contrast {
        #[command(flatten)]
        common: Common,
        /// A colour in CSS or a token, over the second
        #[arg(requires = "on")]
        text: Option<String>,
        /// The colour behind it
        on: Option<String>,
        /// How to print the pairs
        #[arg(long, value_enum, default_value_t = PairFormat::Text)]
        format: PairFormat,
        /// Propose other values for the tokens at fault, tried on everything they reach; nothing is written
        #[arg(long, conflicts_with_all = ["format", "text"])]
        mend: bool,
    },
    /// Say what a check means, why, with an example and the mend
    #[command(after_help = "Example:\n  stilk explain            all checks\n  stilk explain state/leak")]
    Explain {
        /// The check's id
        check: Option<String>,
        /// How to print all of them
        #[arg(long, value_enum, default_value_t = PageFormat::Text)]
        format: PageFormat,
    },
    /// Write sheets in the plain layout; what they mean stays
    ///
    /// Exit code 0: they are in it now. 1: with --check, some are not. 2: it could not run.
    #[command(after_help = "Examples:\n  stilk format\n  stilk format controls/button.stilk\n  stilk format --check")]
    Format {
        #[command(flatten)]
        common: Common,
        /// Sheets; all of the project's without
        #[arg(value_name = "FILE")]
        files: Vec<PathBuf>,
        /// Write nothing: say which are not in it
        #[arg(long)]
        check: bool,
    },
    /// Draw every variant in every state on one page
    #[command(
        after_help = "Examples:\n  stilk specimen && xdg-open dist/specimen.html\n  stilk specimen --terminal button"
    )]
    Specimen {
        #[command(flatten)]
        common: Common,
        /// Print this control as a matrix of swatches and ratios, and write nothing
        #[arg(long, value_name = "CONTROL")]
        terminal: Option<String>,
        /// Only this theme, by the names of its contexts
        #[arg(long, value_name = "THEME", requires = "terminal")]
        theme: Option<String>,
        #[command(flatten)]
        output: Output,
    },
    /// Show the specimen in the browser and draw it anew on every save
    #[command(after_help = "Example:\n  stilk live --port 7400")]
    Live {
        #[command(flatten)]
        common: Common,
        /// The port on 127.0.0.1; 0 for any that is free
        #[arg(long, default_value_t = 7400)]
        port: u16,
        /// Open it in the browser
        #[arg(long)]
        open: bool,
        /// Show only: no value can be set and written from the page
        #[arg(long)]
        read_only: bool,
        #[command(flatten)]
        output: Output,
    },
    /// Speak with an editor: the Language Server Protocol over standard input and output
    #[command(after_help = "How editors are told of it stands in docs/editors.md.")]
    Lsp {
        /// As some editors name what they are spoken to over
        #[arg(long, hide = true)]
        stdio: bool,
    },
    /// Print the HTML of a variant, ready to paste
    #[command(after_help = "Example:\n  stilk markup button@a.outline.small\n  stilk markup button:disabled")]
    Markup {
        #[command(flatten)]
        common: Common,
        /// CONTROL[@HOST][.option…][:state…]
        case: String,
        /// What ids in it begin with; the control's name otherwise
        #[arg(long, value_name = "NAME")]
        id: Option<String>,
    },
    /// List tokens, or show one: its values, where it is used, what an edit would reach
    #[command(
        after_help = "Example:\n  stilk tokens\n  stilk tokens fill.sea\n  stilk tokens fill.sea --try 'oklch(0.6 0.11 232)' --theme night"
    )]
    Tokens {
        #[command(flatten)]
        common: Common,
        /// The token's path
        path: Option<String>,
        /// Pages that an edit is followed to; those of the manifest otherwise. May be given several times
        #[arg(long, value_name = "PAGE", requires = "path")]
        page: Vec<OsString>,
        /// Say what would come of this value, in CSS or as a reference; nothing is written
        #[arg(
            long = "try",
            value_name = "VALUE",
            requires = "path",
            conflicts_with = "page",
            allow_hyphen_values = true
        )]
        attempt: Option<String>,
        /// Try it in this context of a modifier alone, as in `night`
        #[arg(long, value_name = "CONTEXT", requires = "attempt")]
        theme: Option<String>,
    },
    /// Say why a value is what it is: what won, what lost and why
    ///
    /// A case of the system, or an element of any page with any stylesheets.
    #[command(
        after_help = "Examples:\n  stilk why button.outline:hover background-color\n  stilk why switch:checked/thumb translate \
                            --theme night\n  stilk why --page page.html --css site.css '#send' color --state '#send:hover'\n  \
                            stilk why --page page.html --all --format json"
    )]
    Why(Box<WhyArguments>),
    /// Say what differs between two versions: names, looks, contrast, the step that asks for
    ///
    /// Folders or git revisions of the project. Exit code 0: nothing differs. 1: something does. 2: it could not run.
    #[command(
        after_help = "Examples:\n  stilk compare HEAD~1\n  stilk compare v1.2 v1.3 --format markdown\n  stilk compare v1.2 --format html > changes.html"
    )]
    Compare {
        #[command(flatten)]
        common: Common,
        /// A folder or a revision
        old: String,
        /// Another one; the project as it is otherwise
        new: Option<String>,
        /// How to print it
        #[arg(long, value_enum, default_value_t = CompareFormat::Text)]
        format: CompareFormat,
    },
    /// Hold real pages against the system: what they use, what is wrong in them, what beats it
    ///
    /// Files, folders and patterns; without any, the pages that the manifest names. Exit code 0: clean. 1: there are
    /// findings. 2: it could not run.
    #[command(after_help = "Examples:\n  stilk scan 'site/**/*.html'\n  stilk scan site --format json > scan.json")]
    Scan {
        #[command(flatten)]
        common: Common,
        /// Pages, folders of pages, patterns
        pages: Vec<OsString>,
        /// How to print what was found
        #[arg(long, value_enum, default_value_t = ReportFormat::Text)]
        format: ReportFormat,
        /// A former report in JSON: only what is new is shown and counts
        #[arg(long, value_name = "FILE")]
        against: Option<PathBuf>,
    },
    /// Look at pages and stylesheets that nobody wrote for Stilk: which controls, in how many looks, what is wrong with them
    ///
    /// Needs no project. Files, folders and patterns, with the stylesheets that they link, import or hold. Exit code 0: clean.
    /// 1: there are findings. 2: it could not run.
    #[command(
        after_help = "Examples:\n  stilk survey 'site/**/*.html'\n  stilk survey page.html --css site.css --only button\n  stilk survey site --format html > inventory.html"
    )]
    Survey {
        /// Pages, folders of pages, patterns
        pages: Vec<OsString>,
        /// A stylesheet that every page uses after its own; may be given several times
        #[arg(long, value_name = "FILE")]
        css: Vec<PathBuf>,
        /// Only controls of this kind, or that this selector matches; only findings of this check; may be given several times
        #[arg(long, value_name = "KIND|SELECTOR|CHECK")]
        only: Vec<String>,
        /// How to print what was found
        #[arg(long, value_enum, default_value_t = SurveyFormat::Text)]
        format: SurveyFormat,
        /// A former report in JSON: only what is new is shown and counts
        #[arg(long, value_name = "FILE")]
        against: Option<PathBuf>,
        /// Show each finding with its lines, however many there are
        #[arg(long)]
        all: bool,
        /// Print nothing but findings and errors
        #[arg(long, short)]
        quiet: bool,
    },
    /// Turn pages and their stylesheets into a project, and prove that the pages look the same
    #[command(
        after_help = "Examples:\n  stilk adopt 'site/**/*.html' --to system\n  stilk adopt site --to system --only .cta\n\nExit codes: 0 nothing looks different, 1 something does (it stands in ADOPTED.md), 2 it could not be done."
    )]
    Adopt {
        /// Pages, folders of pages, patterns
        pages: Vec<OsString>,
        /// Folder to write the project to
        #[arg(long, value_name = "DIR")]
        to: PathBuf,
        /// What the system is called; the folder's name otherwise
        #[arg(long)]
        name: Option<String>,
        /// A stylesheet that every page uses after its own; may be given several times
        #[arg(long, value_name = "FILE")]
        css: Vec<PathBuf>,
        /// Only controls of this kind, or that this selector matches; may be given several times
        #[arg(long, value_name = "KIND|SELECTOR")]
        only: Vec<String>,
        /// Write rules in cascade layers
        #[arg(long)]
        layers: bool,
        /// Make one token of colours that are almost the same (ΔE OK below 0.02), and list them
        #[arg(long)]
        merge: bool,
        /// Adopt also what would look different then
        #[arg(long)]
        force: bool,
        /// Print nothing but errors
        #[arg(long, short)]
        quiet: bool,
    },
    /// Write a complete, accessible starting system to edit
    #[command(after_help = "Example:\n  stilk new harbour --name \"Harbour Office\" --prefix ho")]
    New {
        /// Folder to write to
        folder: PathBuf,
        /// What the system is called; the folder's name otherwise
        #[arg(long)]
        name: Option<String>,
        /// What every class begins with; the first letters of the name otherwise
        #[arg(long)]
        prefix: Option<String>,
        /// Print nothing but errors
        #[arg(long, short)]
        quiet: bool,
    },
    /// Write the sample system, then build, check and draw it
    #[command(after_help = "Example:\n  stilk demo harbour    the sample system in the folder harbour")]
    Demo {
        /// Folder to write to
        #[arg(default_value = "ternhaven")]
        folder: PathBuf,
        /// Begin with the old site alone: adopt it, build it, and link its pages to what came of it
        #[arg(long)]
        before: bool,
        /// Replace files that differ from the sample's
        #[arg(long)]
        overwrite: bool,
        /// Print nothing but findings and errors
        #[arg(long, short)]
        quiet: bool,
    },
}

/// What every command takes.
#[derive(clap::Args)]
struct Common {
    /// Folder that holds stilk.toml
    #[arg(long, value_name = "DIR", default_value = ".")]
    project: PathBuf,
    /// Print nothing but findings and errors
    #[arg(long, short)]
    quiet: bool,
}

/// What `why` takes.
#[derive(clap::Args)]
struct WhyArguments {
    #[command(flatten)]
    common: Common,
    /// CONTROL[@HOST][.option…][:state…][/part][::pseudo-element], or a selector with --page
    subject: Option<String>,
    /// A property, a shorthand or a custom property
    #[arg(allow_hyphen_values = true)]
    property: Option<String>,
    /// Only this theme, by the names of its contexts
    #[arg(long)]
    theme: Option<String>,
    /// A page to look at instead of the system
    #[arg(long, value_name = "FILE")]
    page: Option<PathBuf>,
    /// A stylesheet that the page uses after its own; may be given several times
    #[arg(long, value_name = "FILE")]
    css: Vec<PathBuf>,
    /// Force states of what a selector matches, as in '#id:hover'; may be given several times
    #[arg(long, value_name = "SELECTOR")]
    state: Vec<String>,
    /// Every element that has an id, with all that is known of it
    #[arg(long)]
    all: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = Format::Text)]
    format: Format,
    /// Whose defaults lie under the page's styles
    #[arg(long, value_enum, default_value_t = BrowserName::Chromium)]
    browser: BrowserName,
    #[command(flatten)]
    media: MediaOptions,
}

/// What a page is shown on.
#[derive(clap::Args)]
#[command(next_help_heading = "What the page is shown on")]
struct MediaOptions {
    /// Width of the viewport in CSS px
    #[arg(long, value_name = "PX", default_value_t = 1280.0)]
    width: f64,
    /// Height of the viewport in CSS px
    #[arg(long, value_name = "PX", default_value_t = 800.0)]
    height: f64,
    /// prefers-color-scheme
    #[arg(long, value_name = "SCHEME", value_parser = ["light", "dark"], default_value = "light")]
    scheme: String,
    /// prefers-contrast
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "more", "less", "custom"], default_value = "no-preference")]
    contrast: String,
    /// prefers-reduced-motion
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "reduce"], default_value = "no-preference")]
    motion: String,
    /// prefers-reduced-transparency
    #[arg(long, value_name = "WORD", value_parser = ["no-preference", "reduce"], default_value = "no-preference")]
    transparency: String,
    /// Whether a pointer can hover
    #[arg(long, value_name = "WORD", value_parser = ["hover", "none"], default_value = "hover")]
    hover: String,
    /// The pointer
    #[arg(long, value_name = "WORD", value_parser = ["fine", "coarse", "none"], default_value = "fine")]
    pointer: String,
    /// Whether forced colours are active
    #[arg(long, value_name = "WORD", value_parser = ["none", "active"], default_value = "none")]
    forced_colors: String,
    /// Whether scripts run
    #[arg(long, value_name = "WORD", value_parser = ["enabled", "none"], default_value = "enabled")]
    scripting: String,
    /// Device pixels per CSS px
    #[arg(long, value_name = "NUMBER", default_value_t = 1.0)]
    resolution: f64,
}

impl MediaOptions {
    fn media(&self) -> Media {
        // The parsers of the options let nothing else through.
        let one_of = |text: &str, words: &'static [&'static str]| {
            words.iter().find(|word| **word == text).copied().unwrap_or(words[0])
        };
        Media {
            width: self.width,
            height: self.height,
            hover: self.hover == "hover",
            pointer: one_of(&self.pointer, &["fine", "coarse", "none"]),
            dark: self.scheme == "dark",
            contrast: one_of(&self.contrast, &["no-preference", "more", "less", "custom"]),
            reduced_motion: self.motion == "reduce",
            reduced_transparency: self.transparency == "reduce",
            forced_colors: self.forced_colors == "active",
            scripting: self.scripting == "enabled",
            resolution: self.resolution,
        }
    }
}

/// Whose defaults are taken.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum BrowserName {
    /// As measured in Chromium
    Chromium,
    /// As measured in Firefox ESR
    Firefox,
    /// As measured in WebKitGTK
    Webkit,
    /// The HTML Standard's rendering section
    Standard,
}

impl BrowserName {
    fn browser(self) -> Browser {
        match self {
            BrowserName::Chromium => Browser::Chromium,
            BrowserName::Firefox => Browser::Firefox,
            BrowserName::Webkit => Browser::WebKit,
            BrowserName::Standard => Browser::Standard,
        }
    }
}

/// Where outputs go.
#[derive(clap::Args)]
struct Output {
    /// The folder to write to, wherever it is; that of the manifest otherwise
    #[arg(long, value_name = "DIR")]
    out: Option<PathBuf>,
}

/// How a report is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum ReportFormat {
    /// For people
    Text,
    /// For programs
    Json,
    /// For code hosts and editors: SARIF 2.1.0
    Sarif,
    /// For a pull request
    Markdown,
}

/// How a survey is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum SurveyFormat {
    /// For people
    Text,
    /// For programs
    Json,
    /// For code hosts and editors: SARIF 2.1.0
    Sarif,
    /// For a pull request
    Markdown,
    /// As a page: the inventory, with each look drawn
    Html,
}

/// How a text is printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum PageFormat {
    /// For a terminal
    Text,
    /// As a page
    Markdown,
}

/// How pairs of colours are printed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
enum PairFormat {
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
enum CompareFormat {
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
enum Format {
    /// For people
    Text,
    /// For programs
    Json,
}

/// A build makes and drops many small values: this allocator halves what that costs.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> ExitCode {
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

impl Command {
    /// The form that its answers have, and what there is to say where there are none.
    fn form(&self) -> Form {
        let of_report = |format: &ReportFormat| match format {
            ReportFormat::Text => Form::Text,
            ReportFormat::Json => Form::Json,
            ReportFormat::Sarif => Form::Sarif,
            ReportFormat::Markdown => Form::Markdown,
        };
        match self {
            Command::Check { format, .. } | Command::Scan { format, .. } => of_report(format),
            Command::Survey { format, .. } => match format {
                SurveyFormat::Text | SurveyFormat::Html => Form::Text,
                SurveyFormat::Json => Form::Json,
                SurveyFormat::Sarif => Form::Sarif,
                SurveyFormat::Markdown => Form::Markdown,
            },
            Command::Contrast { format: PairFormat::Json, .. }
            | Command::Compare { format: CompareFormat::Json, .. } => Form::Json,
            Command::Why(why) if why.format == Format::Json => Form::Json,
            Command::Compare { format: CompareFormat::Markdown, .. } => Form::Markdown,
            _ => Form::Text,
        }
    }
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
        Command::Scan { common, pages, format, against } => {
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
        Command::Survey { pages, css, only, format, against, all, quiet } => {
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
        Command::New { folder, name, prefix, quiet } => {
            commands::new::run(&folder, name.as_deref(), prefix.as_deref(), quiet)
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
