// Starts `stilk lsp` and shows what its commands answer.
const { commands, window, workspace } = require("vscode");
const { LanguageClient } = require("vscode-languageclient/node");

let client;

exports.activate = async (context) => {
  const command = workspace.getConfiguration("stilk").get("path", "stilk");
  const documentSelector = [
    { language: "stilk" },
    { pattern: "**/stilk.toml" },
    { pattern: "**/*.tokens.json" },
    { pattern: "**/*.resolver.json" },
    { language: "html" },
  ];
  client = new LanguageClient("stilk", "Stilk", { command, args: ["lsp"] }, {
    documentSelector,
    middleware: {
      // What a command gives is a text to read or to copy from.
      executeCommand: async (name, given, next) => {
        const answer = await next(name, given);
        if (answer && answer.text) {
          const document = await workspace.openTextDocument({ language: answer.language, content: answer.text });
          await window.showTextDocument(document, { preview: true });
        }
        return answer;
      },
    },
  });
  context.subscriptions.push(commands.registerCommand("stilk.restart", () => client.restart()));
  await client.start();
};

exports.deactivate = () => client && client.stop();
