#!/usr/bin/env bash
# Installs the browsers that tests and measurements need, on Debian: Chromium and its driver; with --all Firefox ESR,
# WebKitGTK and their drivers as well, which measurements and `test.sh --full` ask for.
set -euo pipefail

as_root=""
[ "$(id -u)" -eq 0 ] || as_root="sudo"

has() { command -v "$1" >/dev/null; }
chromium=()
has chromium && has chromedriver || chromium+=(chromium chromium-driver fonts-dejavu-core)
# The reference font: boxes whose sizes a font decides are compared in it.
fc-list 2>/dev/null | grep LiberationSans >/dev/null || chromium+=(fonts-liberation fontconfig)
others=()
if [ "${1-}" = --all ]; then
    has firefox-esr || others+=(firefox-esr)
    has WebKitWebDriver || others+=(webkit2gtk-driver)
    has Xvfb || others+=(xvfb)
fi
if [ $((${#chromium[@]} + ${#others[@]})) -gt 0 ]; then
    echo "installing ${chromium[*]} ${others[*]}"
    $as_root apt-get update -qq
    export DEBIAN_FRONTEND=noninteractive
    [ ${#chromium[@]} -eq 0 ] || $as_root apt-get install -y -qq --no-install-recommends "${chromium[@]}"
    # WebKit's browser needs what its package only recommends.
    [ ${#others[@]} -eq 0 ] || $as_root apt-get install -y -qq "${others[@]}"
fi

# Debian has no package of Firefox's driver; Cargo builds it from its source.
if [ "${1-}" = --all ] && ! has geckodriver && [ ! -x "$HOME/.cargo/bin/geckodriver" ]; then
    echo "building geckodriver"
    cargo install --quiet --locked --version 0.37.1 geckodriver
fi
