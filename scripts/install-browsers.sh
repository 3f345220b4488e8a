#!/usr/bin/env bash
# Installs the browsers that tests and measurements need, on Debian: Chromium, Firefox ESR, WebKitGTK and their drivers.
set -euo pipefail

as_root=""
[ "$(id -u)" -eq 0 ] || as_root="sudo"

missing=()
has() { command -v "$1" >/dev/null; }
has chromium && has chromedriver || missing+=(chromium chromium-driver fonts-dejavu-core)
has firefox-esr || missing+=(firefox-esr)
has WebKitWebDriver || missing+=(webkit2gtk-driver)
has Xvfb || missing+=(xvfb)
if [ ${#missing[@]} -gt 0 ]; then
    echo "installing ${missing[*]}"
    $as_root apt-get update -qq
    DEBIAN_FRONTEND=noninteractive $as_root apt-get install -y -qq --no-install-recommends "${missing[@]}"
fi

# Debian has no package of Firefox's driver; its own source is on crates.io.
if ! has geckodriver && [ ! -x "$HOME/.cargo/bin/geckodriver" ]; then
    echo "building geckodriver"
    cargo install --quiet --locked --version 0.37.1 geckodriver
fi
