// Holds the grammar against every sheet of the sample, the starter and the test projects, and every block of the reference.
import { readFileSync, readdirSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const require = createRequire(import.meta.url);
const oniguruma = require("vscode-oniguruma");
const textmate = require("vscode-textmate");
const here = dirname(fileURLToPath(import.meta.url));
const root = join(here, "../../..");

await oniguruma.loadWASM(readFileSync(require.resolve("vscode-oniguruma/release/onig.wasm")).buffer);
const registry = new textmate.Registry({
  onigLib: Promise.resolve({
    createOnigScanner: (patterns) => new oniguruma.OnigScanner(patterns),
    createOnigString: (text) => new oniguruma.OnigString(text),
  }),
  loadGrammar: async (scope) =>
    scope === "source.stilk"
      ? textmate.parseRawGrammar(readFileSync(join(here, "../syntaxes/stilk.tmLanguage.json"), "utf8"), "stilk.json")
      : null,
});
const grammar = await registry.loadGrammar("source.stilk");

/// Every word of a text with the scopes that it has.
function words(text) {
  let stack = textmate.INITIAL;
  const found = [];
  text.split("\n").forEach((line, number) => {
    const { tokens, ruleStack } = grammar.tokenizeLine(line, stack);
    stack = ruleStack;
    for (const { startIndex, endIndex, scopes } of tokens) {
      found.push({ text: line.slice(startIndex, endIndex), scope: scopes.slice(1).join(" "), line: number + 1 });
    }
  });
  return { found, depth: stack.depth };
}

let failures = 0;
const fail = (words) => {
  failures += 1;
  console.error(words);
};

const sheets = [];
const walk = (folder) => {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) walk(path);
    else if (entry.name.endsWith(".stilk")) sheets.push([path, readFileSync(path, "utf8")]);
  }
};
["demo", "crates/stilk/starter", "crates/stilk/tests/projects"].forEach((folder) => walk(join(root, folder)));
const reference = readFileSync(join(root, "docs/language.md"), "utf8");
for (const [index, block] of [...reference.matchAll(/```css\n([\s\S]*?)```/g)].entries()) {
  if (/@(control|trait|derive|keyframes)/.test(block[1])) sheets.push([`docs/language.md, block ${index + 1}`, block[1].replaceAll("…", "")]);
}
for (const [path, text] of sheets) {
  const { found, depth } = words(text);
  // What is left open would colour the next line wrongly, and so to the end of the file.
  if (depth !== 1) fail(`${path}: ${depth - 1} rules are open at the end`);
  for (const { text, scope, line } of found) {
    if (/[\w-]/.test(text) && scope.split(" ").every((one) => !one || one.startsWith("meta."))) {
      if (!scope.includes("meta.selector")) fail(`${path}:${line}: \`${text}\` means nothing`);
    }
  }
}

/// A text, a word in it, and the scope that the word must have.
const cases = [
  ["@control button from other marked (.x) { }", "button", "entity.name.type"],
  ["@control button from other marked (.x) { }", "from", "keyword.operator.word"],
  ["@control segment inside segmented { }", "inside", "keyword.operator.word"],
  ["@trait ring { @state focus { } }", "ring", "entity.name.type"],
  ["@trait ring { @state focus { } }", "focus", "entity.name.reference"],
  ["@control a { @state not hover and open of box { } }", "not", "keyword.operator.word"],
  ["@control a { @state not hover and open of box { } }", "box", "entity.name.reference"],
  ["@control a { @part label::before, icon { } }", "::before", "entity.other.attribute-name.pseudo"],
  ["@control a { &:is(.row:hover *) { color: red; } }", "&", "keyword.control.nesting"],
  ["@control a { @host a:not(.x) { color: red; } }", ":not", "entity.other.attribute-name.pseudo"],
  ["@control a { @axis size default medium { small { } } }", "default", "keyword.operator.word"],
  ["@control a { @axis size default medium { small { } } }", "small", "entity.name.option"],
  ["@control a { --shade: 16%; }", "--shade", "variable.parameter"],
  ["@control a { --shade: 16%; }", "%", "keyword.other.unit"],
  ["@control a { color: {ink.strong}; }", "ink.strong", "variable.other.token"],
  ["@control a { color: color-mix(in oklab, var(--x), #fff 4%); }", "color-mix", "support.function"],
  ["@control a { color: color-mix(in oklab, var(--x), #fff 4%); }", "--x", "variable.parameter"],
  ["@control a { color: color-mix(in oklab, var(--x), #fff 4%); }", "#fff", "constant.other.color"],
  ["@control a { color: color-mix(in oklab, var(--x), #fff 4%); }", "oklab", "support.constant.property-value"],
  ["@control a { content: \"}\"; color: red; }", "color", "support.type.property-name"],
  ["@control a { @media (width < {narrow}) { color: red; } }", "narrow", "variable.other.token"],
  ["@control a { @media (width < {narrow}) { color: red; } }", "color", "support.type.property-name"],
  ["@control a { @waive state/missing on .small:hover \"Why.\" until 2027-06-30; }", "state/missing", "constant.other.check"],
  ["@control a { @waive state/missing on .small:hover \"Why.\" until 2027-06-30; }", "2027-06-30", "constant.numeric.date"],
  ["@control a { @exclude a with b on input; }", "with", "keyword.operator.word"],
  ["@derive { focus.ring: {fill.sea}; }", "focus.ring", "variable.other.token"],
  ["@keyframes turn { to { rotate: 1turn; } }", "rotate", "support.type.property-name"],
  ["@attach (.list > a) as button small { label: span; }", "as", "keyword.operator.word"],
  ["/* a { */ @control b { }", "b", "entity.name.type"],
];
for (const [text, word, wanted] of cases) {
  const hit = words(text).found.find((one) => one.text === word);
  if (!hit || !hit.scope.includes(wanted)) fail(`${text}: \`${word}\` is ${hit ? hit.scope : "not one word"}, not ${wanted}`);
}
console.log(`${sheets.length} texts, ${cases.length} words: ${failures} wrong`);
process.exit(failures ? 1 : 0);
