//! Completion in shells: the script that a shell reads once, and the answers to it.

use crate::arguments::Arguments;
use clap::{CommandFactory, ValueEnum};
use clap_complete::env::{Bash, CompleteEnv, Elvish, EnvCompleter, Fish, Powershell, Shells, Zsh};
use std::ffi::OsString;
use std::io::{self, Write};
use std::path::Path;

/// The variable that the scripts ask by.
const VARIABLE: &str = "STILK_COMPLETE";

/// A shell that completes what is typed.
#[derive(Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Shell {
    /// For ~/.bashrc: source <(stilk completions bash)
    Bash,
    /// For ~/.zshrc: source <(stilk completions zsh)
    Zsh,
    /// For ~/.config/fish/completions/stilk.fish
    Fish,
    /// For ~/.config/elvish/rc.elv: eval (stilk completions elvish | slurp)
    Elvish,
    /// For $PROFILE
    Powershell,
}

impl Shell {
    fn completer(self) -> &'static dyn EnvCompleter {
        match self {
            Shell::Bash => &WholeWords,
            Shell::Zsh => &Zsh,
            Shell::Fish => &Fish,
            Shell::Elvish => &Elvish,
            Shell::Powershell => &Powershell,
        }
    }
}

/// The script of a shell.
pub fn script(shell: Shell) -> String {
    let mut text = Vec::new();
    // Nothing fails in writing to memory.
    let _ = shell.completer().write_registration(VARIABLE, "stilk", "stilk", "stilk", &mut text);
    String::from_utf8_lossy(&text).into_owned()
}

/// Answers a shell that asks, and ends; comes back where none does.
pub fn answer() {
    const SHELLS: &[&dyn EnvCompleter] = &[&WholeWords, &Zsh, &Fish, &Elvish, &Powershell];
    CompleteEnv::with_factory(Arguments::command).var(VARIABLE).shells(Shells(SHELLS)).complete();
}

/// Bash breaks words at `:` and `@`; a case is one word all the same. Its script joins what was broken, and takes from the
/// answers what stands on the line already.
struct WholeWords;

impl EnvCompleter for WholeWords {
    fn name(&self) -> &'static str {
        Bash.name()
    }

    fn is(&self, name: &str) -> bool {
        Bash.is(name)
    }

    fn write_registration(
        &self,
        variable: &str,
        _: &str,
        program: &str,
        completer: &str,
        to: &mut dyn Write,
    ) -> io::Result<()> {
        const SCRIPT: &str = r#"_stilk_complete() {
    local words=() rest=${COMP_LINE:0:COMP_POINT} word joins i
    for ((i = 0; i <= COMP_CWORD; i++)); do
        if ((i > 0)) && [[ $rest != [[:space:]]* ]]; then joins=1; else joins=0; fi
        rest=${rest#"${rest%%[![:space:]]*}"}
        if ((i < COMP_CWORD)); then word=${COMP_WORDS[i]}; else word=$rest; fi
        if ((joins)); then words[${#words[@]}-1]+=$word; else words+=("$word"); fi
        rest=${rest#"$word"}
    done
    local whole=${words[${#words[@]}-1]} IFS=$'\013'
    local there=${whole%"${whole##*[:@=]}"}
    [[ $COMP_WORDBREAKS == *:* && $COMP_WORDBREAKS == *@* ]] || there=
    COMPREPLY=( $(_CLAP_IFS="$IFS" _CLAP_COMPLETE_INDEX=$((${#words[@]} - 1)) VARIABLE=bash COMPLETER -- "${words[@]}") )
    for i in "${!COMPREPLY[@]}"; do
        if [[ ${COMPREPLY[i]} == *[.:@/=] ]]; then compopt -o nospace; fi
        COMPREPLY[i]=${COMPREPLY[i]#"$there"}
    done
}
complete -o bashdefault -o nosort -F _stilk_complete PROGRAM
"#;
        let script = SCRIPT.replace("VARIABLE", variable).replace("COMPLETER", completer).replace("PROGRAM", program);
        to.write_all(script.as_bytes())
    }

    fn write_complete(
        &self,
        command: &mut clap::Command,
        words: Vec<OsString>,
        folder: Option<&Path>,
        to: &mut dyn Write,
    ) -> io::Result<()> {
        Bash.write_complete(command, words, folder, to)
    }
}
