//! `stilk lsp`: what an editor gets to see, over the protocol, from the built program.

mod client;

use crate::support::Project;
use client::{Client, edited};
use serde_json::{Value, json};

const BUTTON: &str = "controls/button.stilk";

fn names(list: &Value, key: &str) -> Vec<String> {
    let list = list.get("items").unwrap_or(list);
    let items = list.as_array().unwrap_or_else(|| panic!("no list: {list}"));
    items.iter().map(|item| item[key].as_str().unwrap_or_default().to_owned()).collect()
}

/// The pier's button, and an editor that has it open.
fn pier() -> (Client, String) {
    let mut client = Client::new(Project::pier());
    client.open(BUTTON);
    let text = client.project().read(BUTTON);
    (client, text)
}

#[test]
fn what_is_wrong_is_told_at_each_key_and_gone_when_it_is_mended() {
    let (mut client, text) = pier();
    assert_eq!(client.server["capabilities"]["positionEncoding"], "utf-8");
    // What checks find is of a text that can be read: here the pier's one fault, in a file that is not open.
    let found = client.wait_for("tokens/night.tokens.json", |found| !found.is_empty());
    assert_eq!((found[0]["code"].as_str(), found[0]["source"].as_str()), (Some("contrast/text"), Some("stilk")));
    assert!(found[0]["message"].as_str().unwrap().contains("text needs 4.5:1\n48 cases"), "{found:?}");
    assert!(found[0]["relatedInformation"][0]["location"]["uri"].as_str().unwrap().contains("night.tokens.json"));
    let wrong = text.replace("{ink.kelp-label}", "{ink.kelb-label}");
    client.change(BUTTON, &wrong);
    let found = client.wait_for(BUTTON, |found| !found.is_empty());
    assert_eq!(found[0]["code"], "token/unknown");
    let line = wrong[..wrong.find("ink.kelb-label").unwrap()].matches('\n').count();
    assert_eq!(found[0]["range"]["start"]["line"], line);
    // What the checks said of the file that nobody touched stays.
    assert!(!client.published["tokens/night.tokens.json"].is_empty());
    client.change(BUTTON, &text);
    client.wait_for(BUTTON, <[Value]>::is_empty);
    client.end();
}

#[test]
fn a_code_leads_to_what_explains_it() {
    let project = Project::pier();
    let text = project.read(BUTTON);
    let support = json!({ "textDocument": { "publishDiagnostics": { "codeDescriptionSupport": true } } });
    let mut client = Client::with(project, support);
    client.open(BUTTON);
    let found = client.wait_for("tokens/night.tokens.json", |found| !found.is_empty());
    let explained = |found: &[Value]| {
        let href = found[0]["codeDescription"]["href"].as_str().expect("an address").to_owned();
        std::fs::read_to_string(href.strip_prefix("file://").expect("a file")).expect("a page")
    };
    let explain = |client: &Client, id: &str| client.project().run(&["explain", id]).status(0).stdout;
    assert_eq!(explained(&found), explain(&client, "contrast/text"));
    client.change(BUTTON, &text.replace("{ink.kelp-label}", "{ink.kelb-label}"));
    let found = client.wait_for(BUTTON, |found| !found.is_empty());
    assert_eq!(explained(&found), explain(&client, "token/unknown"));
    client.end();
}

#[test]
fn what_messages_say_to_write_is_an_action_that_mends() {
    let (mut client, text) = pier();
    for (right, wrong, title) in [
        ("{ink.kelp-label}", "{ink.kelb-label}", "Write `{ink.kelp-label}`"),
        ("@traits ring", "@traits rinq", "Write `ring`"),
        ("@state hover ", "@state hovver ", "Write `hover`"),
        ("var(--paint), {ink", "var(--paind), {ink", "Write `--paint`"),
        ("cursor: pointer", "cursr: pointer", "Write `cursor`"),
    ] {
        let broken = text.replacen(right, wrong, 1);
        client.change(BUTTON, &broken);
        let found = client.wait_for(BUTTON, |found| !found.is_empty());
        let asked = json!({
            "textDocument": client.of(BUTTON)["textDocument"],
            "range": found[0]["range"],
            "context": { "diagnostics": found },
        });
        let actions = client.ask("textDocument/codeAction", asked);
        let action = actions.as_array().unwrap().iter().find(|action| action["title"] == title);
        let action = action.unwrap_or_else(|| panic!("{wrong}: {:?}", names(&actions, "title")));
        let edits = action["edit"]["documentChanges"][0]["edits"].as_array().unwrap();
        assert_eq!(edited(&broken, edits), text, "{wrong}");
        client.change(BUTTON, &text);
        client.wait_for(BUTTON, <[Value]>::is_empty);
    }
}

#[test]
fn mends_of_findings_are_actions_where_the_fault_is() {
    let (mut client, _) = pier();
    let night = "tokens/night.tokens.json";
    client.open(night);
    let is_mended =
        |found: &[Value]| found.iter().any(|one| one["message"].as_str().unwrap().contains("clears 1 finding"));
    let found = client.wait_for(night, is_mended);
    let asked = json!({
        "textDocument": client.of(night)["textDocument"],
        "range": found[0]["range"],
        "context": { "diagnostics": [], "only": ["quickfix"] },
    });
    let actions = client.ask("textDocument/codeAction", asked);
    assert_eq!(actions[0]["isPreferred"], true, "{actions}");
    client.make(&actions[0]["edit"]);
    let said = client.project().run(&["check"]);
    assert_eq!(said.status, 0, "{}", said.stdout);
    let waiver = names(&actions, "title").into_iter().find(|title| title.starts_with("Accept"));
    assert_eq!(waiver.as_deref(), Some("Accept `contrast/text` in `button`, with a reason"));
}

#[test]
fn literals_become_tokens_and_declarations_traits() {
    let (mut client, text) = pier();
    let written = text.replace("cursor: pointer;", "cursor: pointer; accent-color: #123456;");
    client.project().write(BUTTON, &written);
    client.change(BUTTON, &written);
    let place = client.at(BUTTON, &written, "#123456", 2)["position"].clone();
    let asked = json!({
        "textDocument": client.of(BUTTON)["textDocument"],
        "range": { "start": place, "end": place },
        "context": { "diagnostics": [] },
    });
    let actions = client.ask("textDocument/codeAction", asked);
    let titles = names(&actions, "title");
    assert_eq!(
        titles,
        ["Make `#123456` the token `button.accent-color`", "Take `accent-color` to the trait `accent-color`"]
    );
    client.make(&actions[0]["edit"]);
    let said = client.project().run(&["tokens", "button.accent-color"]);
    assert!(said.stdout.contains("oklch(0.3"), "{}{}", said.stdout, said.stderr);
    assert!(client.project().read(BUTTON).contains("accent-color: {button.accent-color};"));
}

#[test]
fn what_would_break_a_sheet_is_not_offered() {
    let (mut client, text) = pier();
    // A string holds no reference, and a warning is no reason for an error.
    let written = text.replace("cursor: pointer;", "cursor: pointer; content: \"12px\";");
    client.change(BUTTON, &written);
    let place = client.at(BUTTON, &written, "12px", 1)["position"].clone();
    let asked = json!({
        "textDocument": client.of(BUTTON)["textDocument"],
        "range": { "start": place, "end": place },
        "context": { "diagnostics": [] },
    });
    let titles = names(&client.ask("textDocument/codeAction", asked), "title");
    assert_eq!(titles.iter().filter(|title| title.contains("token")).count(), 0, "{titles:?}");
}

#[test]
fn a_rule_of_one_host_is_beaten_on_no_other() {
    let (mut client, text) = pier();
    let written = text.replace("  @part label {", "  @host input { text-indent: 3px; }\n  @part label {");
    client.change(BUTTON, &written);
    let asked = client.at(BUTTON, &written, "text-indent", 2);
    let said = client.ask("textDocument/hover", asked);
    let words = said["contents"]["value"].as_str().unwrap();
    assert!(words.contains("wins in each of 6 cases") && !words.contains("beaten"), "{words}");
}

#[test]
fn tokens_that_fit_are_offered_first_with_their_values() {
    let (mut client, text) = pier();
    let offer = |client: &mut Client, from: &str, to: &str| {
        let offset = text.find(from).unwrap() + to.find('|').unwrap();
        let changed = text.replacen(from, &to.replace('|', ""), 1);
        client.change(BUTTON, &changed);
        let position = client::position(&changed, offset);
        client.ask(
            "textDocument/completion",
            json!({ "textDocument": { "uri": client.uri(BUTTON) }, "position": position }),
        )
    };
    let colors = offer(&mut client, "color: var(--text);", "color: {|");
    let item = colors["items"].as_array().unwrap().iter().find(|item| item["label"] == "ink.strong").unwrap();
    assert_eq!(item["textEdit"]["newText"], "ink.strong}");
    assert!(item["detail"].as_str().unwrap().starts_with('#'), "{item}");
    let words = item["documentation"]["value"].as_str().unwrap();
    assert!(words.contains("| night ") && words.contains("on panel"), "{words}");
    let first = |items: &Value| names(items, "label").first().cloned().unwrap_or_default();
    let kind = |items: &Value, label: &str| {
        let all = items["items"].as_array().unwrap();
        all.iter().position(|item| item["label"] == label).unwrap_or_else(|| panic!("no {label}"))
    };
    let lengths = offer(&mut client, "padding: var(--block) var(--inline);", "padding: {|};");
    assert!(kind(&lengths, "space.near") < kind(&lengths, "ink.strong"));
    // The order of what is offered is told, whatever labels are.
    assert_eq!(lengths["items"][0]["sortText"], "0000");
    assert!(
        names(&offer(&mut client, "display: inline-flex;", "display: |;"), "label")[..12].contains(&"flex".to_owned())
    );
    assert!(names(&offer(&mut client, "cursor: pointer;", "cur|"), "label").contains(&"cursor".to_owned()));
    assert!(names(&offer(&mut client, "@traits ring;", "@traits |;"), "label").contains(&"ring".to_owned()));
    let states = names(&offer(&mut client, "@state hover ", "@state selected and | "), "label");
    assert!(states.contains(&"focus".to_owned()) && states.contains(&"not".to_owned()), "{states:?}");
    assert_eq!(first(&offer(&mut client, "@part label ", "@part | ")), "label");
    let options = names(&offer(&mut client, "  @axis size", "  @exclude | \n  @axis size"), "label");
    assert!(options.contains(&"outline".to_owned()), "{options:?}");
    assert!(first(&offer(&mut client, "color: var(--text);", "color: var(|);")).starts_with("--"));
    let rules = names(&offer(&mut client, "@axis size default", "@ax|"), "label");
    assert!(rules.contains(&"axis".to_owned()) && !rules.contains(&"control".to_owned()));
    let head = "@control button {";
    let words = names(&offer(&mut client, head, "@control button | {"), "label");
    assert_eq!(words, ["from", "inside", "marked"]);
    let others = names(&offer(&mut client, head, "@control button inside | {"), "label");
    assert!(others.contains(&"button".to_owned()), "{others:?}");
    let attached = |block: &str| format!("@attach (.more) as button {{ {block} }}\n{head}");
    let parts = names(&offer(&mut client, head, &attached("|")), "label");
    assert_eq!(parts, ["label"]);
}

#[test]
fn classes_keys_and_references_are_offered_in_the_other_files() {
    let page =
        "<!doctype html><link rel=stylesheet href=dist/ternhaven.css>\n<button class=\"tern-button \">Go</button>\n";
    let mut client = Client::new(Project::pier().file("page.html", page));
    client.open("page.html");
    let asked = client.at("page.html", page, "tern-button ", "tern-button ".len());
    let classes = names(&client.ask("textDocument/completion", asked), "label");
    assert!(classes.starts_with(&["tern-button-sea".to_owned()]), "{classes:?}");
    let template = "<button type=\"button\" data-when=\"\"><span part=\"label\"><slot>Go</slot></span></button>";
    client.open_with("controls/button.html", template);
    let asked = client.at("controls/button.html", template, "data-when=\"", 11);
    assert!(names(&client.ask("textDocument/completion", asked), "label").contains(&"outline".to_owned()));
    let tokens = "{ \"new\": { \"$type\": \"color\", \"one\": { \"$value\": \"{\" } } }";
    client.open_with("tokens/day.tokens.json", tokens);
    let asked = client.at("tokens/day.tokens.json", tokens, "\"{\"", 2);
    let items = client.ask("textDocument/completion", asked);
    let item = items["items"].as_array().unwrap().iter().find(|item| item["label"] == "sea.open").unwrap();
    assert_eq!(item["textEdit"]["newText"], "sea.open}");
    let asked = client.at("tokens/day.tokens.json", tokens, "\"color\"", 1);
    assert!(names(&client.ask("textDocument/completion", asked), "label").contains(&"typography".to_owned()));
    let manifest = format!("{}\n[stylesheet]\nspl\n", client.project().read("stilk.toml"));
    client.open_with("stilk.toml", &manifest);
    let asked = client.at("stilk.toml", &manifest, "spl\n", 3);
    let keys = client.ask("textDocument/completion", asked);
    assert!(names(&keys, "label").contains(&"split".to_owned()), "{keys}");
}

#[test]
fn a_page_is_scanned_while_it_is_open_and_its_classes_are_mended() {
    let page = "<!doctype html><html lang=en><title>x</title><link rel=stylesheet href=dist/ternhaven.css>\n\
                <main><button type=button class=\"tern-button tern-button-outlin\"><span class=tern-button_label>Go</span></button></main>\n";
    let mut client = Client::new(Project::pier().file("page.html", page));
    client.open("page.html");
    let found = client.wait_for("page.html", |found| found.iter().any(|one| one["code"] == "markup/class"));
    let wrong = found.iter().find(|one| one["code"] == "markup/class").unwrap();
    let asked = json!({
        "textDocument": client.of("page.html")["textDocument"],
        "range": wrong["range"],
        "context": { "diagnostics": [] },
    });
    let actions = client.ask("textDocument/codeAction", asked);
    assert_eq!(names(&actions, "title"), ["Write `tern-button-outline`"]);
    let edits = actions[0]["edit"]["documentChanges"][0]["edits"].as_array().unwrap();
    let mended = edited(page, edits);
    assert!(mended.contains("\"tern-button tern-button-outline\""), "{mended}");
    client.change("page.html", &mended);
    client.wait_for("page.html", |found| !found.iter().any(|one| one["code"] == "markup/class"));
}

#[test]
fn hovering_says_what_a_thing_is_and_why_it_wins() {
    let (mut client, text) = pier();
    let mut hover = |needle: &str, into: usize| {
        let asked = client.at(BUTTON, &text, needle, into);
        client.ask("textDocument/hover", asked)["contents"]["value"].as_str().unwrap_or_default().to_owned()
    };
    let token = hover("{ink.sea-label}", 3);
    assert!(
        token.contains("**ink.sea-label** · color") && token.contains("on page") && token.contains(":1"),
        "{token}"
    );
    let state = hover("@state hover ", 8);
    assert!(state.contains("matches `:hover`") && state.contains("ranks"), "{state}");
    assert!(hover("@axis voice", 2).contains("an axis and its options"));
    let local = hover("--shade: 0%", 3);
    assert!(local.contains("at rest: `0%`") && local.contains("set: `16%`"), "{local}");
    let declaration = hover("color: var(--text);", 2);
    assert!(declaration.contains("wins in each of 12 cases"), "{declaration}");
    // What stands behind it decides on the colour, and only on that.
    let beaten = hover("background: none;", 2);
    assert!(beaten.contains("wins in 0 of 12 cases") && beaten.contains("with some of what it sets in 12"), "{beaten}");
    assert!(beaten.contains("beaten in 12 by `background-color:"), "{beaten}");
    assert!(hover("outline {", 2).contains("axis voice"));
}

#[test]
fn names_lead_to_where_they_are_made_and_used() {
    let (mut client, text) = pier();
    let asked = client.at(BUTTON, &text, "{ink.sea-label}", 3);
    let found = client.ask("textDocument/definition", asked.clone());
    let files: Vec<String> =
        names(&found, "uri").iter().map(|uri| uri.rsplit('/').next().unwrap().to_owned()).collect();
    assert_eq!(files, ["day.tokens.json", "night.tokens.json", "storm.tokens.json"]);
    let mut with = asked;
    with["context"] = json!({ "includeDeclaration": true });
    assert_eq!(client.ask("textDocument/references", with).as_array().unwrap().len(), 4);
    let asked = client.at(BUTTON, &text, "var(--shade)", 6);
    let here = client.ask("textDocument/documentHighlight", asked);
    assert_eq!(here.as_array().unwrap().len(), text.matches("--shade").count());
    let asked = client.at(BUTTON, &text, "@traits ring", 9);
    let found = client.ask("textDocument/definition", asked);
    assert!(found[0]["uri"].as_str().unwrap().ends_with("shared.stilk"));
    let symbols = client.ask("textDocument/documentSymbol", client.of(BUTTON));
    assert_eq!(symbols[0]["name"], "@control button");
    assert!(names(&symbols[0]["children"], "name").contains(&"@axis voice default strong".to_owned()));
    let found = client.ask("workspace/symbol", json!({ "query": "sealabel" }));
    assert_eq!(found[0]["name"], "ink.sea-label");
    assert!(client.ask("textDocument/foldingRange", client.of(BUTTON)).as_array().unwrap().len() > 4);
    let links = client.ask("textDocument/documentLink", client.of("ternhaven.resolver.json"));
    assert_eq!(links.as_array().unwrap().len(), 4, "{links}");
}

#[test]
fn a_name_is_renamed_in_every_file_and_the_system_stays_the_same() {
    let page = "<button class=\"tern-button tern-button-outline\"><span class=tern-button_label>Go</span></button>\n\
                <style>.a { color: var(--tern-ink-sea-label); }</style>\n";
    let project = Project::pier().file("pages/page.html", page);
    let mut client = Client::new(project);
    client.open(BUTTON);
    let rename = |client: &mut Client, needle: &str, into: usize, new: &str| {
        let text = client.project().read(BUTTON);
        client.change(BUTTON, &text);
        let mut asked = client.at(BUTTON, &text, needle, into);
        let prepared = client.ask("textDocument/prepareRename", asked.clone());
        assert!(prepared["placeholder"].is_string(), "{prepared}");
        asked["newName"] = json!(new);
        let edit = client.ask("textDocument/rename", asked);
        client.make(&edit);
    };
    let checked = |client: &Client| {
        let said = client.project().run(&["build", "--quiet"]);
        assert_eq!(said.status, 0, "{}", said.stderr);
        // Comments name things as sheets do.
        let css = client.project().read("dist/ternhaven.css");
        css.lines().filter(|line| !line.trim_start().starts_with("/*")).collect::<Vec<_>>().join("\n")
    };
    let before = checked(&client);
    rename(&mut client, "{ink.sea-label}", 3, "bold");
    rename(&mut client, "outline {", 2, "calm");
    rename(&mut client, "--shade: 0%", 3, "--dimmed");
    rename(&mut client, "@part label", 7, "words");
    rename(&mut client, "@traits ring", 9, "halo");
    let after = checked(&client);
    let as_before = after
        .replace("ink-bold", "ink-sea-label")
        .replace("button-calm", "button-outline")
        .replace("-dimmed", "-shade")
        .replace("_words", "_label");
    let differs = as_before.lines().zip(before.lines()).find(|(after, before)| after != before);
    assert_eq!(differs, None);
    let page = client.project().read("pages/page.html");
    assert!(page.contains("tern-button-calm") && page.contains("tern-button_words"), "{page}");
    assert!(page.contains("var(--tern-ink-bold)"), "{page}");
    rename(&mut client, "@control button", 10, "press");
    assert!(
        client.project().path("controls/press.html").exists() && client.project().path("controls/press.stilk").exists()
    );
    assert!(client.project().read("pages/page.html").contains("\"tern-press tern-press-calm\""));
    assert_eq!(client.project().run(&["build", "--quiet"]).status, 0);
}

#[test]
fn a_name_that_would_break_something_is_refused() {
    let (mut client, text) = pier();
    for (needle, into, new, words) in [
        ("{ink.sea-label}", 3, "strong", "there is a token `ink.strong` already"),
        ("{ink.sea-label}", 3, "fill.bold", "in another group"),
        ("{ink.sea-label}", 3, "on sea", "no token's name"),
        ("outline {", 2, "bare", "there is a option `bare` already"),
        ("outline {", 2, "9", "is no name"),
        ("--shade: 0%", 3, "--text", "there is a local `--text` already"),
        ("display: inline-flex", 3, "x", "nothing here can be renamed"),
    ] {
        let mut asked = client.at(BUTTON, &text, needle, into);
        asked["newName"] = json!(new);
        let why = client.refused("textDocument/rename", asked);
        assert!(why.contains(words), "{needle} to {new}: {why}");
    }
}

#[test]
fn columns_are_those_of_the_editor_in_lines_of_any_script() {
    for (encodings, expected) in [(json!(["utf-8"]), "utf-8"), (json!(["utf-16"]), "utf-16")] {
        let mut client = Client::with(Project::pier(), json!({ "general": { "positionEncodings": encodings } }));
        assert_eq!(client.server["capabilities"]["positionEncoding"], expected);
        let text = client.project().read(BUTTON);
        let line = "  /* ⛴ مرفأ 🏝 */ color: {ink.see-label};\n";
        let changed = text.replacen("  @part label", &format!("{line}  @part label"), 1);
        client.open_with(BUTTON, &changed);
        let found = client.wait_for(BUTTON, |found| !found.is_empty());
        let before = &line[..line.find("ink.see").unwrap()];
        let column = if expected == "utf-8" { before.len() } else { before.encode_utf16().count() };
        assert_eq!(found[0]["range"]["start"]["character"], column, "{expected}");
        let place = &found[0]["range"]["start"];
        // A change at such a place reaches the same characters.
        let end = json!({ "line": place["line"], "character": column + "ink.see-label".len() });
        client.change_by(BUTTON, json!([{ "range": { "start": place, "end": end }, "text": "ink.sea-label" }]));
        client.wait_for(BUTTON, <[Value]>::is_empty);
    }
}

#[test]
fn what_stands_beside_the_text_is_the_values_and_figures_of_the_checks() {
    let (mut client, _) = pier();
    let whole = json!({
        "textDocument": client.of(BUTTON)["textDocument"],
        "range": { "start": { "line": 0, "character": 0 }, "end": { "line": 200, "character": 0 } },
    });
    let hints = client.ask("textDocument/inlayHint", whole);
    assert!(names(&hints, "label").iter().any(|label| label.starts_with('#')), "{hints}");
    let colors = client.ask("textDocument/documentColor", client.of(BUTTON));
    assert!(colors.as_array().unwrap().len() > 4);
    let tokens = client.ask("textDocument/semanticTokens/full", client.of(BUTTON));
    assert_eq!(tokens["data"].as_array().unwrap().len() % 5, 0);
    // The figures are there when the checks are done.
    let lens = loop {
        let lenses = client.ask("textDocument/codeLens", client.of(BUTTON));
        let title = lenses[0]["command"]["title"].as_str().unwrap_or_default().to_owned();
        if title.contains("cases") {
            break title;
        }
        std::thread::sleep(std::time::Duration::from_millis(50));
    };
    assert!(lens == "1,620 cases, worst contrast 1.45:1", "{lens}");
    let markup = json!({ "command": "stilk.markup", "arguments": [client.uri("").trim_start_matches("file://").trim_end_matches('/'), "button"] });
    let markup = client.ask("workspace/executeCommand", markup);
    assert!(markup["text"].as_str().unwrap().starts_with("<button class=\"tern-button\""), "{markup}");
    let root = client.uri("").trim_start_matches("file://").trim_end_matches('/').to_owned();
    let drawn =
        client.ask("workspace/executeCommand", json!({ "command": "stilk.specimen", "arguments": [root, "button"] }));
    let (path, place) = drawn["uri"].as_str().unwrap().trim_start_matches("file://").split_once('#').unwrap();
    assert!(std::fs::read_to_string(path).unwrap().contains(&format!("id=\"{place}\"")), "{path} {place}");
    let picked = client.ask(
        "textDocument/colorPresentation",
        json!({
            "textDocument": client.of("tokens/base.tokens.json")["textDocument"],
            "color": { "red": 1.0, "green": 0.0, "blue": 0.0, "alpha": 1.0 },
            "range": literal(&client, "tokens/base.tokens.json"),
        }),
    );
    assert!(names(&picked, "label")[0].contains("oklch"), "{picked}");
}

/// Where the first colour of a token file stands.
fn literal(client: &Client, file: &str) -> Value {
    let text = client.project().read(file);
    let start = text.find("{ \"colorSpace\"").unwrap();
    let end = start + text[start..].find('}').unwrap() + 1;
    json!({ "start": client::position(&text, start), "end": client::position(&text, end) })
}

#[test]
fn a_sheet_is_formatted_and_a_broken_one_is_left_alone() {
    let (mut client, text) = pier();
    let asked = |client: &Client| {
        let mut asked = client.of(BUTTON);
        asked["options"] = json!({ "tabSize": 2, "insertSpaces": true });
        asked
    };
    let params = asked(&client);
    let edits = client.ask("textDocument/formatting", params);
    let formatted = edited(&text, edits.as_array().unwrap());
    assert!(formatted.contains("@state hover { --shade: 16%; }\n"), "{formatted}");
    client.project().write(BUTTON, &text);
    assert_eq!(client.project().run(&["format", "--quiet"]).status, 0);
    assert_eq!(client.project().read(BUTTON), formatted);
    client.change(BUTTON, &text.replacen("@part label {", "@part label {{", 1));
    let params = asked(&client);
    assert_eq!(client.ask("textDocument/formatting", params), json!([]));
}

#[test]
fn questions_that_are_taken_back_and_nonsense_end_nothing() {
    let (mut client, text) = pier();
    assert!(client.refused("textDocument/nothing", json!({})).contains("there is no method"));
    assert!(!client.refused("textDocument/hover", json!({ "position": 1 })).is_empty());
    client.tell("textDocument/didChange", json!("nonsense"));
    client.tell(
        "textDocument/didOpen",
        json!({ "textDocument": { "uri": "untitled:1", "languageId": "x", "version": 1, "text": "" } }),
    );
    let first = client.begin("textDocument/documentSymbol", client.of(BUTTON));
    let second = client.begin("textDocument/documentSymbol", client.of(BUTTON));
    client.tell("$/cancelRequest", json!({ "id": 4 }));
    // Whether it was taken back in time is luck; that something comes is not.
    let _ = client.answer(&first);
    let _ = client.answer(&second);
    for text in
        ["", "@control", "@control a {", "\u{0}\u{feff}{{{{", "@control button { color: {", &text[..text.len() / 2]]
    {
        client.change(BUTTON, text);
        let end = client::position(text, text.len());
        let asked = json!({ "textDocument": client.of(BUTTON)["textDocument"], "position": end });
        client.ask("textDocument/completion", asked);
    }
    client.change(BUTTON, &text);
    client.wait_for(BUTTON, <[Value]>::is_empty);
    client.end();
}

#[test]
fn who_starts_it_by_hand_is_told_what_it_is_for() {
    let project = Project::empty();
    let output = project.command(&["lsp"]).stdin(std::process::Stdio::null()).output().unwrap();
    let said = String::from_utf8(output.stderr).unwrap();
    assert_eq!(
        said,
        "error: no editor speaks here\n  `stilk lsp` is started by an editor: docs/editors.md says how each is told\n"
    );
    assert_eq!(output.status.code(), Some(2));
}

#[test]
fn several_projects_are_open_at_once_and_files_on_disk_count() {
    let project = Project::pier().file("other/stilk.toml", "[system]\nname = \"Other\"\nprefix = \"o\"\ntokens = []\n");
    let mut client = Client::new(project);
    client.wait_for("other/stilk.toml", |found| found.iter().any(|one| one["code"] == "file/missing"));
    client.project().write("other/controls/x.html", "<p></p>");
    client.project().write("other/controls/x.stilk", "@control x { color: red }");
    let changed = json!({ "changes": [{ "uri": client.uri("other/controls/x.stilk"), "type": 1 }] });
    client.tell("workspace/didChangeWatchedFiles", changed);
    client.wait_for("other/stilk.toml", |found| !found.iter().any(|one| one["code"] == "file/missing"));
}
