#!/usr/bin/env bash
# Installs what the tests need and runs all of them. Works on a fresh Debian machine with a Rust toolchain.
set -euo pipefail
cd "$(dirname "$0")/.."

# The browser tests need Chromium and its driver; without them they fail, they are never skipped.
if ! command -v chromium >/dev/null || ! command -v chromedriver >/dev/null; then
    echo "installing chromium and chromium-driver"
    as_root=""
    [ "$(id -u)" -eq 0 ] || as_root="sudo"
    $as_root apt-get update -qq
    DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends \
        chromium chromium-driver fonts-dejavu-core
fi

cargo test --workspace --locked

# The engine against Chromium once more, on systems besides the sample.
cargo test --locked -p stilk --test browser -- "$PWD/crates/stilk/tests/projects/quay" "$PWD/crates/stilk/starter"
