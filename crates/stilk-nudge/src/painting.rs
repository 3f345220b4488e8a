//! What paints an element of a case, and where each of its values may be put: the declaration that wins, the local that chose, the
//! tokens behind it, each with what it reaches.

use crate::change::{Place, shown, value_span};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use stilk_checks::painted::visible::element_name;
use stilk_checks::trace::Tracer;
use stilk_engine::cascade::{PseudoElement, Style, Styled};
use stilk_engine::css::color::whole;
use stilk_engine::css::compute::resolve_colors;
use stilk_engine::css::parse::parse_declaration;
use stilk_engine::css::property::{Longhand, PropertyName};
use stilk_engine::css::serialize::to_css;
use stilk_engine::dom::NodeId;
use stilk_language::case::{Look, LookEngine, Unit, case_name};
use stilk_language::dependents::{Use, cases_of, dependents};
use stilk_language::system::{BoundDeclaration, Control, Rule, StateSet, System, Variant};
use stilk_language::tokens::{Theme, Token, TokenId, TokenType, members};
use stilk_text::source::{Sources, Span};

/// An element of a case, as a page names it.
#[derive(Debug, Clone, Deserialize)]
pub struct Asked {
    /// The control.
    pub control: String,
    /// The host, by its place.
    #[serde(default)]
    pub host: usize,
    /// The options that are chosen; those of axes with a default are the default where none is named.
    #[serde(default)]
    pub options: Vec<String>,
    /// A picture of the specimen instead, by row and column.
    #[serde(default)]
    pub cell: Option<[usize; 2]>,
    /// The theme, by its place among all themes.
    #[serde(default)]
    pub theme: usize,
    /// The element, by its place among those of the control, the control itself being the first.
    #[serde(default)]
    pub element: usize,
    /// One of its pseudo-elements, without colons.
    #[serde(default)]
    pub pseudo: Option<String>,
}

/// What paints an element.
#[derive(Debug, Serialize)]
pub struct Painting {
    /// The case, as findings name it.
    pub case: String,
    /// The element, for people.
    pub name: String,
    /// What else of the case may be chosen.
    pub elements: Vec<Element>,
    /// Its values, by the declaration that gives them.
    pub values: Vec<Painted>,
}

/// An element or pseudo-element of a case.
#[derive(Debug, Serialize)]
pub struct Element {
    /// Its place among the elements of the control.
    pub element: usize,
    /// The pseudo-element, without colons.
    pub pseudo: Option<&'static str>,
    /// For people.
    pub name: String,
}

/// Values that one declaration gives an element.
#[derive(Debug, Serialize)]
pub struct Painted {
    /// The property as it is declared.
    pub property: String,
    /// What it comes to, the values of its longhands one after the other where they differ.
    pub value: String,
    /// Where it is declared; nothing where a reset or the browser says it.
    pub at: Option<String>,
    /// Where its value may be put, the innermost choice first.
    pub choices: Vec<Choice>,
}

/// Somewhere a value may be put.
#[derive(Debug, Serialize)]
pub struct Choice {
    /// Where.
    pub place: Place,
    /// The same for people.
    pub words: String,
    /// File, line and column; nothing where there is none yet.
    pub at: Option<String>,
    /// The value there, as CSS without references where it can be had.
    pub value: String,
    /// The value as it is written.
    pub written: String,
    /// What kind of value it is.
    pub kind: Kind,
    /// In how many cases it shows.
    pub cases: u64,
    /// Whether these are all.
    pub is_exact: bool,
    /// The controls that these are of.
    pub controls: Vec<String>,
    /// The words that it may be, where it is one of a list.
    #[serde(skip_serializing_if = "<[&str]>::is_empty")]
    pub keywords: &'static [&'static str],
}

/// What kind of value something is: which editor fits it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Kind {
    /// A colour.
    Color,
    /// A number and a unit of length.
    Length,
    /// A number.
    Number,
    /// A time.
    Time,
    /// A cubic Bézier curve or a word for one.
    Easing,
    /// Shadows.
    Shadow,
    /// Stops of a gradient.
    Gradient,
    /// Names of fonts.
    Font,
    /// One of a list of words.
    Keyword,
    /// Anything else.
    Text,
}

impl Kind {
    fn of_token(kind: Option<TokenType>) -> Kind {
        match kind {
            Some(TokenType::Color) => Kind::Color,
            Some(TokenType::Dimension) => Kind::Length,
            Some(TokenType::Number | TokenType::FontWeight) => Kind::Number,
            Some(TokenType::Duration) => Kind::Time,
            Some(TokenType::CubicBezier) => Kind::Easing,
            Some(TokenType::Shadow) => Kind::Shadow,
            Some(TokenType::Gradient) => Kind::Gradient,
            Some(TokenType::FontFamily) => Kind::Font,
            _ => Kind::Text,
        }
    }

    /// Of a value as it is written.
    pub fn of_value(property: &str, value: &str) -> Kind {
        let number = |text: &str| text.parse::<f64>().is_ok();
        let with_unit = |units: &[&str]| units.iter().any(|unit| value.strip_suffix(unit).is_some_and(number));
        match value {
            _ if whole(value).is_some() => Kind::Color,
            _ if property == "box-shadow" => Kind::Shadow,
            _ if property == "font-family" => Kind::Font,
            // A bare 0 is a length where a length may stand.
            "0" if takes(property, "1px") => Kind::Length,
            value if number(value) => Kind::Number,
            _ if with_unit(&["ms", "s"]) => Kind::Time,
            _ if with_unit(&["px", "rem", "em", "%", "ch", "lh", "vw", "vh", "cqi"]) => Kind::Length,
            value if value.starts_with("cubic-bezier(") => Kind::Easing,
            value if !value.is_empty() && value.chars().all(|c| c.is_ascii_alphabetic() || c == '-') => Kind::Keyword,
            _ => Kind::Text,
        }
    }
}

/// So many tokens of one value are offered.
const TOKENS: usize = 4;
/// So many places of tokens.
const MOST_CHOICES: usize = 16;

/// What is looked at.
pub struct View<'v> {
    /// The system.
    pub system: &'v System,
    /// Its sources.
    pub sources: &'v Sources,
    /// Follows values to their sources.
    pub tracer: &'v Tracer<'v>,
    /// Draws cases.
    pub look_engine: &'v LookEngine<'v>,
}

/// A case that was asked for.
struct Case<'v> {
    unit: Unit<'v>,
    states: StateSet,
}

/// A box of a case.
struct Chosen<'c> {
    case: &'c Case<'c>,
    look: &'c Look,
    at: Styled,
    style: &'c Style,
    tracer: &'c Tracer<'c>,
}

/// What one declaration, or a reset, says of a box.
struct Said<'c> {
    property: &'c str,
    longhands: &'c [Longhand],
    /// The value that may be declared again.
    value: &'c str,
    declared: Option<(&'c Control, &'c Rule, &'c BoundDeclaration)>,
}

impl<'v> View<'v> {
    /// What paints an element.
    ///
    /// # Errors
    /// There is no such case or element.
    pub fn painting(&self, asked: &Asked) -> Result<Painting, String> {
        let case = self.case(asked)?;
        let look = self.look_engine.look(&case.unit, &case.states);
        let nodes = elements(&look);
        let node = *nodes.get(asked.element).ok_or("there is no such element in this case")?;
        let pseudo = match &asked.pseudo {
            Some(name) => Some(PseudoElement::find(name).ok_or_else(|| format!("there is no `::{name}`"))?),
            None => None,
        };
        let at = Styled { node, pseudo };
        let style = look.styles.of(at).ok_or("it has no style in this case")?;
        let all = nodes.iter().enumerate().flat_map(|(element, node)| {
            let look = &look;
            look.styles.boxes(*node).filter(|at| is_there(look, *at)).map(move |at| Element {
                element,
                pseudo: at.pseudo.map(PseudoElement::name),
                name: element_name(look, at).replace('`', ""),
            })
        });
        let tracer = self.tracer.in_theme(&case.unit.theme);
        Ok(Painting {
            case: case_name(self.system, &case.unit, &case.states),
            name: element_name(&look, at).replace('`', ""),
            elements: all.collect(),
            values: self.values(&Chosen { case: &case, look: &look, at, style, tracer: &tracer }),
        })
    }

    fn case(&self, asked: &Asked) -> Result<Case<'v>, String> {
        let control = self.system.control(&asked.control);
        let control = control.ok_or_else(|| format!("there is no control `{}`", asked.control))?;
        let theme = self.system.tokens.themes().get(asked.theme).cloned().ok_or("there is no such theme")?;
        let (host, variant, states) = match asked.cell {
            Some([row, column]) => stilk_views::specimen::table::case_at(self.system, control, row, column)
                .ok_or("there is no such picture")?,
            None => {
                if asked.host >= control.template.hosts.len() {
                    return Err("there is no such host".to_owned());
                }
                (asked.host, variant(control, &asked.options)?, StateSet::default())
            }
        };
        Ok(Case { unit: Unit { control, host, variant, theme }, states })
    }

    /// The values that pages see, one for each declaration that wins something, in the order in which longhands stand.
    fn values(&self, chosen: &Chosen) -> Vec<Painted> {
        let Chosen { style, tracer, .. } = *chosen;
        let mut found: Vec<(Option<Span>, Vec<Longhand>)> = Vec::new();
        for longhand in style.set_by_author().iter() {
            let Some(winner) = style.winner(longhand) else { continue };
            if winner.sheet == 0 {
                continue;
            }
            // What a reset says is many things in one declaration.
            let span = tracer.span(winner).filter(|span| declaration_at(self.system, *span).is_some());
            match found.iter_mut().find(|(known, _)| *known == span && span.is_some()) {
                Some((_, longhands)) => longhands.push(longhand),
                None => found.push((span, vec![longhand])),
            }
        }
        let painted = found.into_iter().filter_map(|(span, longhands)| {
            let declared = span.and_then(|span| declaration_at(self.system, span));
            let first = *longhands.first()?;
            // What resets say is nobody's choice; a value of one's own may take its place.
            let property = declared.as_ref().map_or(first.name(), |(_, _, one)| one.name.value.as_str()).to_owned();
            let mut values: Vec<String> = longhands
                .iter()
                .map(|longhand| match style.get(*longhand) {
                    Ok(value) => to_css(&resolve_colors(value, style.surroundings())),
                    Err(reason) => format!("unknown: {}", reason.0),
                })
                .collect();
            values.dedup();
            // Of a shorthand what is nothing says nothing.
            if values.len() > 4 {
                values.retain(|value| !["none", "normal", "auto", "0px", "0s", "initial"].contains(&value.as_str()));
                values.truncate(4);
            }
            let value = values.join(" ");
            let at_place = declared.as_ref().map(|(_, _, one)| self.sources.place(one.span));
            // What is declared can be declared again; what several longhands come to cannot.
            let again = declared.as_ref().and_then(|(_, _, one)| value_span(self.sources, one.span));
            let again = again.map_or_else(|| value.clone(), |span| self.sources.text(span).to_owned());
            let said = Said { property: &property, longhands: &longhands, value: &again, declared };
            let choices = self.choices(chosen, &said);
            Some(Painted { property, value, at: at_place, choices })
        });
        painted.collect()
    }

    fn choices(&self, chosen: &Chosen, said: &Said) -> Vec<Choice> {
        let Chosen { case, style, tracer, .. } = *chosen;
        let mut found: Vec<Choice> = Vec::new();
        let origins: Vec<_> = said.longhands.iter().map(|longhand| tracer.all_tokens(style, *longhand)).collect();
        let mut paths: Vec<&str> = Vec::new();
        for (_, path) in origins.iter().flat_map(|origin| &origin.tokens) {
            if !paths.contains(&path.as_str()) {
                paths.push(path);
            }
        }
        for path in paths.into_iter().take(TOKENS) {
            self.token_choices(path, &case.unit.theme, &mut found);
        }
        // The local in which the choice was made, then the declaration of the property itself.
        let declared = said.declared;
        let mut locals = origins.iter().filter_map(|origin| origin.declaration);
        let local = locals.find(|span| Some(*span) != declared.map(|(_, _, one)| one.span));
        let local = local.and_then(|span| declaration_at(self.system, span));
        for one in local.into_iter().chain(declared) {
            found.extend(self.declaration_choice(one));
        }
        found.extend(self.own_choice(chosen, said.property, said.value));
        found
    }

    /// A token in this theme and everywhere, and the tokens that it stands for; of one that is changed member by member its members.
    fn token_choices(&self, path: &str, theme: &Theme, found: &mut Vec<Choice>) {
        let tokens = &self.system.tokens;
        let kind_of = |path: &str| tokens.find_path(path).and_then(|id| tokens.get(id).kind);
        // All members of a text style stand in one place: where one of them is named, all are meant.
        let whole =
            path.rsplit_once('.').map(|(whole, _)| whole).filter(|whole| kind_of(whole) == Some(TokenType::Typography));
        let whole = whole.unwrap_or(path);
        if let Some(kind @ (TokenType::Typography | TokenType::Border)) = kind_of(whole) {
            for (name, ..) in members::of(kind) {
                if let Some(id) = tokens.find(&format!("{whole}.{name}")) {
                    found.push(self.token_choice(id, theme, None));
                }
            }
            return;
        }
        let mut next = tokens.find_path(path);
        let mut is_named = true;
        while let Some(id) = next.take() {
            let token = tokens.get(id);
            let own = token.overrides.iter().rev().find_map(|one| {
                let context = theme.contexts[one.modifier];
                one.contexts[context].as_ref().map(|_| (one.modifier, context))
            });
            let definitions = token.definitions().count();
            // Where it is said once and for all themes, a theme of the first modifier may say it otherwise.
            let first = tokens.modifiers.first().map(|_| (0, theme.contexts.first().copied().unwrap_or_default()));
            let (here, everywhere) = match own {
                Some(own) => (Some(own), definitions > 1),
                // What others stand for is what it is in every theme: only the one that is named is set apart.
                // Where modifiers say it already, what is said first would not win.
                None => (first.filter(|_| is_named && !token.is_member && token.overrides.is_empty()), true),
            };
            is_named = false;
            if own.is_some() {
                found.extend(here.map(|here| self.token_choice(id, theme, Some(here))));
            }
            if own.is_none() && definitions > 1 {
                let everywhere = self.token_choice(id, theme, None);
                let place = Place::TokenBase { path: token.path.clone() };
                let words = format!("the token {} where no theme says otherwise", shown(&token.path));
                found.push(Choice { place, words, ..everywhere });
            }
            if everywhere {
                found.push(self.token_choice(id, theme, None));
            }
            if own.is_none() {
                found.extend(here.map(|here| self.token_choice(id, theme, Some(here))));
            }
            let definition = token.in_theme(theme);
            next = definition.and_then(|definition| match &definition.value {
                stilk_language::tokens::TokenValue::Alias(name) => tokens.find_path(&name.value),
                _ => None,
            });
            if found.len() > MOST_CHOICES {
                break;
            }
        }
    }

    fn token_choice(&self, id: TokenId, theme: &Theme, context: Option<(usize, usize)>) -> Choice {
        let tokens = &self.system.tokens;
        let token: &Token = tokens.get(id);
        let path = shown(&token.path).to_owned();
        // Whoever reads the whole reads the member.
        let whole =
            token.path.rsplit_once('.').filter(|_| token.is_member).and_then(|(whole, _)| tokens.find_path(whole));
        let reach = dependents(self.system, whole.unwrap_or(id));
        let mut controls: Vec<String> = reach.uses.iter().map(|one| one.control.name.value.clone()).collect();
        controls.dedup();
        let definition = token.in_theme(theme);
        let place_of = |span: Span| self.sources.place(span);
        let (place, words, share) = match context {
            None => {
                let words = match token.overrides.is_empty() {
                    true => format!("the token {path}"),
                    false => format!("the token {path} in every theme"),
                };
                (Place::Token { path: token.path.clone() }, words, 1)
            }
            Some((modifier, context)) => {
                let known = &tokens.modifiers[modifier];
                let (modifier_name, name) = (known.name.value.clone(), known.contexts[context].value.clone());
                let words = format!("the token {path} in {name} alone");
                let place = Place::TokenIn { path: token.path.clone(), modifier: modifier_name, context: name };
                (place, words, known.contexts.len().max(1) as u64)
            }
        };
        let is_new = context.is_some_and(|(modifier, context)| {
            let own = token.overrides.iter().filter(|one| one.modifier == modifier);
            !own.into_iter().any(|one| one.contexts[context].is_some())
        });
        let written = definition.map(|definition| self.sources.text(definition.span).to_owned()).unwrap_or_default();
        Choice {
            place,
            words,
            at: definition.filter(|_| !is_new).map(|definition| place_of(definition.span)),
            value: tokens.literal(id, theme).unwrap_or_default(),
            written: match definition.map(|definition| &definition.value) {
                Some(stilk_language::tokens::TokenValue::Alias(name)) => format!("{{{}}}", name.value),
                _ => written,
            },
            kind: Kind::of_token(token.kind),
            cases: reach.cases / share,
            is_exact: reach.is_exact,
            controls,
            keywords: &[],
        }
    }

    fn declaration_choice(&self, (control, rule, one): (&Control, &Rule, &BoundDeclaration)) -> Option<Choice> {
        let source = self.sources.file(one.span.file);
        let written = self.sources.text(value_span(self.sources, one.span)?).to_owned();
        let when = self.words_of(control, rule);
        let property = one.name.value.clone();
        let what = if one.is_local() { "the local" } else { "the declaration" };
        let uses = vec![Use { control, rule, property: &one.name.value, span: one.span }];
        let uses: Vec<Use> = match one.is_local() {
            // A trait's declaration stands in several controls.
            true => uses,
            false => uses_at(self.system, one.span),
        };
        let (cases, is_exact) = cases_of(self.system, &uses);
        let mut controls: Vec<String> = uses.iter().map(|one| one.control.name.value.clone()).collect();
        controls.dedup();
        let kind = Kind::of_value(&property, &written);
        Some(Choice {
            place: Place::Declaration { file: source.path.clone(), start: one.span.start as usize, property },
            words: format!("{what} {}{when}", one.name.value),
            at: Some(self.sources.place(one.span)),
            value: written.clone(),
            written,
            kind,
            cases,
            is_exact,
            controls,
            keywords: keywords(&one.name.value, kind),
        })
    }

    /// Which options and states a rule asks for, in words.
    fn words_of(&self, control: &Control, rule: &Rule) -> String {
        let mut words: Vec<String> = rule.options.iter().map(|id| control.option_name(*id).to_owned()).collect();
        if !rule.states.is_rest() {
            words.push(self.system.states.set_name(&rule.states).replace('+', " and "));
        }
        if words.is_empty() { String::new() } else { format!(" in {}", words.join(", ")) }
    }

    /// A declaration of its own, for the options and states of the case.
    fn own_choice(&self, chosen: &Chosen, property: &str, value: &str) -> Option<Choice> {
        let Chosen { case, look, at, .. } = *chosen;
        let control = case.unit.control;
        let part = look.mounted.elements().find(|(_, node)| *node == at.node).map(|(name, _)| name.to_owned())?;
        // A control that is placed in this one is changed where it is its own.
        if !case.states.of_parts().is_empty() || !case.states.absent().is_empty() || property.starts_with("--") {
            return None;
        }
        let is_placed = look.mounted.placed.iter().any(|(placed, _)| look.document.is_within(at.node, *placed));
        if is_placed {
            return None;
        }
        let options: Vec<String> =
            control.spoken_options(&case.unit.variant).map(|id| control.option_name(id).to_owned()).collect();
        let states: Vec<String> = case.states.ids().iter().map(|id| self.system.states.get(*id).name.clone()).collect();
        let mut when: Vec<String> = options.clone();
        when.extend(states.clone());
        let words = match when.is_empty() {
            true => format!("{property} of its own in {}", control.name.value),
            false => format!("{property} of its own in {} that is {}", control.name.value, when.join(" and ")),
        };
        let place = Place::Own {
            control: control.name.value.clone(),
            options,
            states,
            part: (!part.is_empty()).then_some(part),
            pseudo: at.pseudo.map(|pseudo| pseudo.name().to_owned()),
            property: property.to_owned(),
        };
        let kind = Kind::of_value(property, value);
        // In every theme, on every host.
        let themes = self.system.tokens.themes().len() as u64;
        let hosts = 0..control.template.hosts.len();
        let choice: Vec<_> =
            control.spoken_options(&case.unit.variant).map(|id| stilk_language::system::space::chosen(&id)).collect();
        let sets = stilk_language::case::state_sets(self.system, control);
        let sets = sets.iter().filter(|set| case.states.ids().iter().all(|id| set.has(*id))).count() as u64;
        let cases = hosts.map(|host| control.space(host).count_with(&choice)).fold(0, u64::saturating_add);
        Some(Choice {
            place,
            words,
            at: None,
            value: value.to_owned(),
            written: String::new(),
            kind,
            cases: cases.saturating_mul(sets * themes),
            is_exact: true,
            controls: vec![control.name.value.clone()],
            keywords: keywords(property, kind),
        })
    }
}

/// Elements of a control in a look, itself first.
fn elements(look: &Look) -> Vec<NodeId> {
    let all = look.document.descendants(look.mounted.host);
    all.into_iter().filter(|node| look.document.element(*node).is_some()).collect()
}

/// Whether a box may be chosen: generated ones only where they are generated.
fn is_there(look: &Look, at: Styled) -> bool {
    at.pseudo.is_none() || look.styles.of(at).is_some_and(|style| !style.is_empty_generated())
}

/// The variant with these options.
fn variant(control: &Control, options: &[String]) -> Result<Variant, String> {
    let mut variant = control.default_variant();
    for name in options {
        let id = control.find_option(name);
        let id = id.ok_or_else(|| format!("`{}` has no option `{name}`", control.name.value))?;
        variant.choices[id.axis] = Some(id.option);
    }
    Ok(variant)
}

/// The declaration at a place, in the first control that has it.
fn declaration_at(system: &System, span: Span) -> Option<(&Control, &Rule, &BoundDeclaration)> {
    let rules = system.controls.iter().flat_map(|control| control.rules.iter().map(move |rule| (control, rule)));
    rules
        .flat_map(|(control, rule)| rule.declarations.iter().map(move |one| (control, rule, one)))
        .find(|(_, _, one)| one.span == span)
}

/// Every control in which a declaration stands: those that use its trait, and copies.
fn uses_at(system: &System, span: Span) -> Vec<Use<'_>> {
    let mut found: BTreeMap<(usize, usize), Use> = BTreeMap::new();
    for (c, control) in system.controls.iter().enumerate() {
        for (r, rule) in control.rules.iter().enumerate() {
            for one in rule.declarations.iter().filter(|one| one.span == span) {
                found.insert((c, r), Use { control, rule, property: &one.name.value, span });
            }
        }
    }
    found.into_values().collect()
}

/// Whether a property may be this; of locals nobody knows.
fn takes(property: &str, value: &str) -> bool {
    !property.starts_with("--") && parse_declaration(property, value).is_ok()
}

/// The words that a property may be.
fn keywords(property: &str, kind: Kind) -> &'static [&'static str] {
    if kind != Kind::Keyword {
        return &[];
    }
    PropertyName::read(property).keywords()
}
