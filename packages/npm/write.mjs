// Writes the package.json of an npm package:
//   node write.mjs platform VERSION PLATFORM FOLDER   the one that holds the program of a platform
//   node write.mjs launcher VERSION PACKED FOLDER     the one that people name, with those packed in the folder PACKED
import { mkdirSync, readdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const [, , kind, version, of, folder] = process.argv;
const common = { version, license: "MIT OR Apache-2.0" };
const description = "Shared button and form-control styles as tokens and variants: consistent stylesheets for every theme, checked";

function platform() {
  const [os, cpu] = of.split("-");
  return { name: `stilk-${of}`, ...common, description: `The program of stilk for ${os} on ${cpu}`, os: [os], cpu: [cpu], preferUnplugged: true };
}

function launcher() {
  const packed = readdirSync(of).map(name => /^(stilk-[a-z0-9]+-[a-z0-9]+)-(.+)\.tgz$/.exec(name));
  const names = packed.filter(found => found?.[2] === version).map(found => found[1]);
  return {
    name: "stilk",
    ...common,
    description,
    bin: { stilk: "run.js" },
    types: "system.d.ts",
    exports: { ".": { types: "./system.d.ts" }, "./package.json": "./package.json" },
    files: ["run.js", "system.d.ts", "LICENSE-MIT", "LICENSE-APACHE"],
    engines: { node: ">=18" },
    optionalDependencies: Object.fromEntries(names.sort().map(name => [name, version])),
  };
}

mkdirSync(folder, { recursive: true });
const text = JSON.stringify(kind === "platform" ? platform() : launcher(), null, 2);
writeFileSync(join(folder, "package.json"), `${text}\n`);
