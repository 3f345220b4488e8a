#!/usr/bin/env bash
# Installs what the tests need and runs all of them. Works on a fresh Debian machine with a Rust toolchain.
set -euo pipefail
cd "$(dirname "$0")/.."

# The browser tests need Chromium, Firefox and WebKit; without them they fail, they are never skipped.
./scripts/install-browsers.sh
export PATH="$HOME/.cargo/bin:$PATH"

cargo test --workspace --locked
