#!/usr/bin/env bash
# Installs what tests ask besides browsers, on Debian: Vim, Neovim, shells, what packs and tests the extension for other
# editors and the npm packages, what validates XML; with --all also what Debian's package is made and tried with.
set -euo pipefail
cd "$(dirname "$0")/.."

as_root=""
[ "$(id -u)" -eq 0 ] || as_root="sudo"

has() { command -v "$1" >/dev/null; }
missing=()
has vim || missing+=(vim)
has nvim || missing+=(neovim)
has node || missing+=(nodejs)
has npm || missing+=(npm)
has xmllint || missing+=(libxml2-utils)
has zsh || missing+=(zsh)
has fish || missing+=(fish)
if [ "${1-}" = --all ]; then
    has debootstrap || missing+=(debootstrap)
fi
if [ ${#missing[@]} -gt 0 ]; then
    echo "installing ${missing[*]}"
    $as_root apt-get update -qq
    DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends "${missing[@]}"
fi
if [ ! -d editors/extension/node_modules ] || [ editors/extension/package-lock.json -nt editors/extension/node_modules/.package-lock.json ]; then
    (cd editors/extension && npm ci --no-audit --no-fund --loglevel=error)
fi
