//! Themes in nested islands, with overrides in the page: random systems of tokens over several modifiers, random trees,
//! and what each control must read there, worked out by walking the tree.

use crate::build;
use crate::sample::Random;
use crate::webdriver::Browser;
use serde_json::{Map, Value, json};
use std::collections::BTreeSet;
use std::fmt::Write;

const SYSTEMS: u64 = 6;
const TOKENS: usize = 16;
/// Modifiers and how many contexts each has; the first context is the default.
const MODIFIERS: [(&str, usize); 3] = [("theme", 3), ("density", 2), ("brand", 2)];

/// Runs all systems and returns the number of differences.
pub fn run(browser: &Browser, seed: u64) -> usize {
    let (mut compared, mut wrong) = (0, 0);
    for number in 0..SYSTEMS {
        let mut random = Random(seed + number * 7919);
        let system = System::random(&mut random);
        let tree = Tree::random(&mut random);
        let work = tempfile::tempdir().expect("a folder");
        system.write(work.path());
        let css = build(work.path());
        let page = work.path().join("islands.html");
        std::fs::write(&page, tree.html(&css)).expect("the page");
        for dark in [false, true] {
            browser.emulate(&[("prefers-color-scheme", if dark { "dark" } else { "light" })]);
            browser.open(&format!("file://{}", page.display()));
            let names: Vec<String> = (0..TOKENS).map(|t| format!("--x-probe-t{t}")).collect();
            let probes: Vec<usize> = (0..tree.nodes.len()).filter(|n| tree.nodes[*n].probe).collect();
            let theirs = browser.run(
                "const [names, nodes] = arguments;
                 return nodes.map(node => {
                     const style = getComputedStyle(document.getElementById('n' + node));
                     return names.map(name => style.getPropertyValue(name).trim());
                 })",
                json!([names, probes]),
            );
            for (row, node) in probes.iter().enumerate() {
                for token in 0..TOKENS {
                    let expected = Reader { system: &system, tree: &tree, dark }.read(token, *node);
                    let found = theirs[row][token].as_str().unwrap_or_default();
                    compared += 1;
                    if squeeze(found) != squeeze(&expected) {
                        wrong += 1;
                        if wrong < 8 {
                            println!("  t{token} at probe {row}, dark {dark}: expected {expected}, browser {found}");
                        }
                    }
                }
            }
        }
    }
    println!("nested islands: {compared} values in {SYSTEMS} random systems, {wrong} wrong, seed {seed}");
    wrong
}

fn squeeze(text: &str) -> String {
    // Switches that are off leave white space behind.
    text.split_whitespace().collect::<Vec<_>>().join(" ").replace("( ", "(")
}

/// What a file gives a token.
#[derive(Clone)]
enum Given {
    Number(usize),
    Alias(usize),
    /// `calc(A + B)`, for derived tokens.
    Sum(usize, usize),
}

struct Token {
    base: Option<Given>,
    /// Per modifier, per context.
    overrides: Vec<Option<Vec<Option<Given>>>>,
}

fn tokens_base(tokens: &[Token], token: usize) -> Option<&Given> {
    tokens[token].base.as_ref()
}

struct System {
    tokens: Vec<Token>,
}

impl System {
    fn random(random: &mut Random) -> System {
        let mut tokens = Vec::new();
        for t in 0..TOKENS {
            let earlier = |random: &mut Random| random.below(t);
            if t > 3 && random.below(4) == 0 {
                let sum = Given::Sum(earlier(random), earlier(random));
                tokens.push(Token { base: Some(sum), overrides: vec![None; MODIFIERS.len()] });
                continue;
            }
            // Files cannot refer to what sheets derive.
            let plain: Vec<usize> =
                (0..t).filter(|t| !matches!(tokens_base(&tokens, *t), Some(Given::Sum(..)))).collect();
            let given = |random: &mut Random| match t > 2 && random.below(3) == 0 {
                true => Given::Alias(plain[random.below(plain.len())]),
                false => Given::Number(random.below(900) + 100),
            };
            let mut overrides = Vec::new();
            for (_, contexts) in MODIFIERS {
                let defines = random.below(3) == 0;
                overrides.push(
                    defines.then(|| {
                        (0..contexts).map(|_| (random.below(4) > 0).then(|| given(random))).collect::<Vec<_>>()
                    }),
                );
            }
            tokens.push(Token { base: Some(given(random)), overrides });
        }
        System { tokens }
    }

    /// The modifiers that define a token.
    fn defines(&self, token: usize) -> BTreeSet<usize> {
        let overrides = &self.tokens[token].overrides;
        (0..MODIFIERS.len()).filter(|m| overrides[*m].as_ref().is_some_and(|c| c.iter().any(Option::is_some))).collect()
    }

    fn refers(&self, token: usize) -> Vec<usize> {
        let of = |given: &Given| match given {
            Given::Number(_) => vec![],
            Given::Alias(a) => vec![*a],
            Given::Sum(a, b) => vec![*a, *b],
        };
        let token = &self.tokens[token];
        token.base.iter().chain(token.overrides.iter().flatten().flatten().flatten()).flat_map(of).collect()
    }

    /// The modifiers that have an influence on a token.
    fn reach(&self, token: usize) -> BTreeSet<usize> {
        let mut reach = self.defines(token);
        for other in self.refers(token) {
            reach.extend(self.reach(other));
        }
        reach
    }

    /// The one modifier in whose scopes a token is declared, if it is declared in scopes.
    fn scoped(&self, token: usize) -> Option<usize> {
        let defines = self.defines(token);
        let only = defines.first().copied().filter(|_| defines.len() == 1 && self.reach(token) == defines)?;
        // What refers to a dependant is one.
        self.refers(token).iter().all(|other| !self.is_dependant(*other)).then_some(only)
    }

    fn is_dependant(&self, token: usize) -> bool {
        !self.reach(token).is_empty() && self.scoped(token).is_none()
    }

    fn write(&self, folder: &std::path::Path) {
        let save = |path: &str, text: String| {
            let path = folder.join(path);
            std::fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
            std::fs::write(path, text).expect("a file");
        };
        let file = |of: &dyn Fn(&Token) -> Option<Given>| {
            let mut map = Map::new();
            for (t, token) in self.tokens.iter().enumerate() {
                match of(token) {
                    Some(Given::Number(n)) => {
                        map.insert(format!("t{t}"), json!({ "$type": "number", "$value": n }));
                    }
                    Some(Given::Alias(a)) => {
                        map.insert(format!("t{t}"), json!({ "$type": "number", "$value": format!("{{t{a}}}") }));
                    }
                    _ => {}
                }
            }
            Value::Object(map)
        };
        let mut modifiers = Map::new();
        let mut order = vec![json!({ "$ref": "#/sets/base" })];
        for (m, (name, contexts)) in MODIFIERS.iter().enumerate() {
            let contexts: Map<String, Value> = (0..*contexts)
                .map(|c| {
                    let own = file(&|token| token.overrides[m].as_ref()?[c].clone());
                    (format!("c{c}"), json!([own]))
                })
                .collect();
            modifiers.insert((*name).into(), json!({ "contexts": contexts, "default": "c0" }));
            order.push(json!({ "$ref": format!("#/modifiers/{name}") }));
        }
        let base = file(&|token| token.base.clone());
        let resolver = json!({ "version": "2025.10", "sets": { "base": { "sources": [base] } },
                               "modifiers": modifiers, "resolutionOrder": order });
        save("x.resolver.json", resolver.to_string());
        save(
            "stilk.toml",
            "[system]\nname = \"X\"\nprefix = \"x\"\ntokens = \"x.resolver.json\"\n\
             [modifiers.theme]\nfollow = [[\"c1\", \"(prefers-color-scheme: dark)\"]]\n"
                .into(),
        );
        save("controls/probe.html", "<div><slot>Probe</slot></div>".into());
        let mut sheet = String::from("@derive {\n");
        for (t, token) in self.tokens.iter().enumerate() {
            if let Some(Given::Sum(a, b)) = token.base {
                writeln!(sheet, "  t{t}: calc({{t{a}}} + {{t{b}}});").expect("text");
            }
        }
        sheet.push_str("}\n@control probe {\n");
        for t in 0..TOKENS {
            writeln!(sheet, "  --t{t}: {{t{t}}};").expect("text");
        }
        sheet.push_str("}\n");
        save("controls/probe.stilk", sheet);
    }
}

struct Node {
    parent: Option<usize>,
    /// Per modifier the context it chooses; one past the last is a value that names none.
    chosen: [Option<usize>; 3],
    /// Tokens that its style overrides.
    overrides: Vec<(usize, usize)>,
    probe: bool,
}

struct Tree {
    nodes: Vec<Node>,
}

impl Tree {
    fn random(random: &mut Random) -> Tree {
        let mut nodes: Vec<Node> = Vec::new();
        for n in 0..70 {
            let parent = (n > 0).then(|| random.below(n.min(40)));
            let parent = parent.map(|p| if nodes[p].probe { 0 } else { p });
            let probe = n >= 30;
            let mut chosen = [None; 3];
            for (m, (_, contexts)) in MODIFIERS.iter().enumerate() {
                if random.below(4) == 0 {
                    chosen[m] = Some(random.below(contexts + 1));
                }
            }
            let overrides = match random.below(3) {
                0 => vec![(random.below(TOKENS), 1000 + n)],
                _ => Vec::new(),
            };
            nodes.push(Node { parent, chosen, overrides, probe });
        }
        Tree { nodes }
    }

    fn html(&self, css: &std::path::Path) -> String {
        let link = format!("<link rel=stylesheet href=\"file://{}\">", css.display());
        format!("<!doctype html>{}", self.element(0, &link))
    }

    fn element(&self, n: usize, head: &str) -> String {
        let node = &self.nodes[n];
        let mut attributes = String::new();
        for (m, (name, contexts)) in MODIFIERS.iter().enumerate() {
            if let Some(context) = node.chosen[m] {
                let value = if context == *contexts { "auto".to_owned() } else { format!("c{context}") };
                write!(attributes, " data-{name}=\"{value}\"").expect("text");
            }
        }
        if !node.overrides.is_empty() {
            let style: Vec<String> = node.overrides.iter().map(|(t, v)| format!("--x-t{t}: {v}")).collect();
            write!(attributes, " style=\"{}\"", style.join("; ")).expect("text");
        }
        let children: String =
            (0..self.nodes.len()).filter(|c| self.nodes[*c].parent == Some(n)).map(|c| self.element(c, "")).collect();
        match (n, node.probe) {
            (0, _) => {
                format!("<html{attributes}><head><meta charset=utf-8>{head}</head><body>{children}</body></html>")
            }
            (_, true) => format!("<div class=\"x-probe\" id=n{n}{attributes}>{children}</div>"),
            _ => format!("<div{attributes}>{children}</div>"),
        }
    }
}

/// Works out what a control reads.
struct Reader<'r> {
    system: &'r System,
    tree: &'r Tree,
    dark: bool,
}

impl Reader<'_> {
    /// The element and everything around it, nearest first.
    fn around(&self, node: usize) -> impl Iterator<Item = usize> {
        std::iter::successors(Some(node), |n| self.tree.nodes[*n].parent)
    }

    fn own_context(&self, modifier: usize, node: usize) -> Option<usize> {
        self.tree.nodes[node].chosen[modifier].filter(|c| *c < MODIFIERS[modifier].1)
    }

    /// The context that holds on an element: the nearest choice, or what the device asks for.
    fn context(&self, modifier: usize, node: usize) -> usize {
        let followed = usize::from(modifier == 0 && self.dark);
        self.around(node).find_map(|n| self.own_context(modifier, n)).unwrap_or(followed)
    }

    fn overridden(&self, token: usize, node: usize) -> Option<String> {
        let found = self.tree.nodes[node].overrides.iter().find(|(t, _)| *t == token);
        found.map(|(_, value)| value.to_string())
    }

    /// What a control reads on an element.
    fn read(&self, token: usize, node: usize) -> String {
        if !self.system.is_dependant(token) {
            return self.declared(token, node);
        }
        if let Some(value) = self.around(node).find_map(|n| self.overridden(token, n)) {
            return value;
        }
        self.text(self.given(token, node), &|other| self.read(other, node))
    }

    /// The value of a token that is declared on the root or in scopes.
    fn declared(&self, token: usize, node: usize) -> String {
        let scope = self.system.scoped(token);
        for n in self.around(node) {
            if let Some(value) = self.overridden(token, n) {
                return value;
            }
            let is_scope = scope.is_some_and(|m| self.own_context(m, n).is_some());
            if is_scope || n == 0 {
                return self.text(self.given(token, n), &|other| self.declared(other, n));
            }
        }
        String::new()
    }

    /// What holds for a token: the last modifier that says something, else the base.
    fn given(&self, token: usize, node: usize) -> &Given {
        let token = &self.system.tokens[token];
        let found =
            (0..MODIFIERS.len()).rev().find_map(|m| token.overrides[m].as_ref()?[self.context(m, node)].as_ref());
        found.or(token.base.as_ref()).expect("a base")
    }

    fn text(&self, given: &Given, of: &dyn Fn(usize) -> String) -> String {
        match given {
            Given::Number(n) => n.to_string(),
            Given::Alias(a) => of(*a),
            Given::Sum(a, b) => format!("calc({} + {})", of(*a), of(*b)),
        }
    }
}
