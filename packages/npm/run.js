#!/usr/bin/env node
// Starts the program that came with the package of this platform.
"use strict";

const { spawnSync } = require("node:child_process");

const platform = `stilk-${process.platform}-${process.arch}`;
let program;
try {
  program = require.resolve(`${platform}/${process.platform === "win32" ? "stilk.exe" : "stilk"}`);
} catch {
  const { optionalDependencies = {} } = require("./package.json");
  const known = Object.keys(optionalDependencies).map(name => name.slice("stilk-".length));
  console.error(
    known.includes(`${process.platform}-${process.arch}`)
      ? `stilk: the package ${platform} is not installed\n  install again without leaving out optional dependencies: npm install --include=optional`
      : `stilk: there is no program for ${process.platform} on ${process.arch} in this release, only for ${known.join(", ")}\n  build it from its sources: cargo install --path crates/stilk`,
  );
  process.exit(2);
}

const { error, status, signal } = spawnSync(program, process.argv.slice(2), { stdio: "inherit" });
if (error) {
  console.error(`stilk: cannot start ${program}: ${error.message}`);
  process.exit(2);
}
if (signal) process.kill(process.pid, signal);
process.exit(status);
