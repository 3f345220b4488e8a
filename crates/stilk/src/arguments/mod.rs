//! What can be typed: commands, their arguments and options, with the words of their help.

mod candidates;
pub mod format;
pub mod media;
pub mod shell;

use crate::arguments::format::{CompareFormat, Format, PageFormat, PairFormat, ReportFormat, SurveyFormat};
use crate::arguments::media::{BrowserName, MediaOptions};
use crate::arguments::shell::Shell;
use clap::{Parser, Subcommand};
use clap_complete::ArgValueCompleter;
use std::ffi::OsString;
use std::path::PathBuf;

/// The version, with the commit that it was built from and its date where they are known.
pub const VERSION: &str = env!("STILK_VERSION");

/// Shared button and form-control styles as tokens, base classes and variants: consistent stylesheets for every theme,
/// checked in every case.
#[derive(Parser)]
#[command(name = "stilk", version = VERSION, max_term_width = 80)]
#[command(after_help = "Example:\n  stilk demo            write the sample system and see all of this at work\n  \
                        stilk check           check the system in this folder")]
pub struct Arguments {
    #[command(subcommand)]
    pub command: Command,
}

#[derive(Subcommand)]
pub enum Command {
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
        #[arg(long, value_name = "CHECK", conflicts_with = "mend", add = ArgValueCompleter::new(candidates::checks))]
        only: Vec<String>,
        /// Check again on every save, until it is ended
        #[arg(long, conflicts_with_all = ["mend", "format", "against"])]
        watch: bool,
        /// Say of every verdict that there is none of where, in which cases and why
        #[arg(long)]
        unknown: bool,
        /// Write what can be mended into the sources: asked for one after the other on a terminal, elsewhere that of these
        /// checks or places
        #[arg(long, value_name = "CHECK|FILE:LINE", num_args = 0.., conflicts_with_all = ["against", "format"], add = ArgValueCompleter::new(candidates::checks))]
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
        #[arg(requires = "on", add = ArgValueCompleter::new(candidates::tokens))]
        text: Option<String>,
        /// The colour behind it
        #[arg(add = ArgValueCompleter::new(candidates::tokens))]
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
        #[arg(add = ArgValueCompleter::new(candidates::checks))]
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
        #[arg(long, value_name = "CONTROL", add = ArgValueCompleter::new(candidates::controls))]
        terminal: Option<String>,
        /// Only this theme, by the names of its contexts
        #[arg(long, value_name = "THEME", requires = "terminal", add = ArgValueCompleter::new(candidates::themes))]
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
    /// Print what a shell reads to complete commands, and controls, options, states, tokens and checks of the project
    #[command(after_help = "Example:\n  source <(stilk completions bash)")]
    Completions {
        /// The shell
        shell: Shell,
    },
    /// Write the manual pages, one a command
    #[command(hide = true)]
    Manual {
        /// The folder to write them to
        #[arg(value_name = "DIR")]
        to: PathBuf,
    },
    /// Print the HTML of a variant, ready to paste
    #[command(after_help = "Example:\n  stilk markup button@a.outline.small\n  stilk markup button:disabled")]
    Markup {
        #[command(flatten)]
        common: Common,
        /// CONTROL[@HOST][.option…][:state…]
        #[arg(add = ArgValueCompleter::new(candidates::cases))]
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
        #[arg(add = ArgValueCompleter::new(candidates::tokens))]
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
        #[arg(long, value_name = "CONTEXT", requires = "attempt", add = ArgValueCompleter::new(candidates::themes))]
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
        /// Read pages from standard input, as lines of JSON or a web archive, and print a line of JSON for each
        #[arg(long, conflicts_with_all = ["pages", "format", "against"])]
        stream: bool,
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
        /// Read pages from standard input, as lines of JSON or a web archive, and print a line of JSON for each
        #[arg(long, conflicts_with_all = ["pages", "css", "format", "against", "all"])]
        stream: bool,
        /// Show each finding with its lines, however many there are
        #[arg(long)]
        all: bool,
        /// Print nothing but findings and errors
        #[arg(long, short)]
        quiet: bool,
    },
    /// Put together what `scan --stream` and `survey --stream` printed
    #[command(subcommand)]
    Report(ReportCommand),
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
    ///
    /// Thirteen controls in two themes and two densities.
    #[command(
        after_help = "Example:\n  stilk new harbour --name \"Harbour Office\" --prefix ho\n  stilk new harbour --bare"
    )]
    New {
        /// Folder to write to
        folder: PathBuf,
        /// What the system is called; the folder's name otherwise
        #[arg(long)]
        name: Option<String>,
        /// What every class begins with; the first letters of the name otherwise
        #[arg(long)]
        prefix: Option<String>,
        /// Write the smallest system: a button, a field and a checkbox in two themes
        #[arg(long)]
        bare: bool,
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

/// What can be done with reports.
#[derive(Subcommand)]
pub enum ReportCommand {
    /// Put the lines of pages together into one report: counts, one cause once, the worst case of each
    ///
    /// What comes of it does not depend on how the lines are spread over files, nor on their order. Exit code 0: clean. 1: there
    /// are findings. 2: it could not run, or pages could not be read.
    #[command(after_help = "Example:\n  stilk report merge part-*.jsonl > report.json")]
    Merge {
        /// Files of such lines; standard input without
        files: Vec<PathBuf>,
        /// How to print it
        #[arg(long, value_enum, default_value_t = Format::Json)]
        format: Format,
    },
}

/// What every command takes.
#[derive(clap::Args)]
pub struct Common {
    /// Folder that holds stilk.toml
    #[arg(long, value_name = "DIR", default_value = ".")]
    pub project: PathBuf,
    /// Print nothing but findings and errors
    #[arg(long, short)]
    pub quiet: bool,
}

/// What `why` takes.
#[derive(clap::Args)]
pub struct WhyArguments {
    #[command(flatten)]
    pub common: Common,
    /// CONTROL[@HOST][.option…][:state…][/part][::pseudo-element], or a selector with --page
    #[arg(add = ArgValueCompleter::new(candidates::cases_and_parts))]
    pub subject: Option<String>,
    /// A property, a shorthand or a custom property
    #[arg(allow_hyphen_values = true)]
    pub property: Option<String>,
    /// Only this theme, by the names of its contexts
    #[arg(long, add = ArgValueCompleter::new(candidates::themes))]
    pub theme: Option<String>,
    /// A page to look at instead of the system
    #[arg(long, value_name = "FILE")]
    pub page: Option<PathBuf>,
    /// A stylesheet that the page uses after its own; may be given several times
    #[arg(long, value_name = "FILE")]
    pub css: Vec<PathBuf>,
    /// Force states of what a selector matches, as in '#id:hover'; may be given several times
    #[arg(long, value_name = "SELECTOR")]
    pub state: Vec<String>,
    /// Every element that has an id, with all that is known of it
    #[arg(long)]
    pub all: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t = Format::Text)]
    pub format: Format,
    /// Whose defaults lie under the page's styles
    #[arg(long, value_enum, default_value_t = BrowserName::Chromium)]
    pub browser: BrowserName,
    #[command(flatten)]
    pub media: MediaOptions,
}

/// Where outputs go.
#[derive(clap::Args)]
pub struct Output {
    /// The folder to write to, wherever it is; that of the manifest otherwise
    #[arg(long, value_name = "DIR")]
    pub out: Option<PathBuf>,
}
