#!/usr/bin/env bash
# Makes the pictures in docs/screenshots from the sample: terminal output in xterm under Xvfb, pages in headless Chromium.
# Needs the Debian packages xvfb, xterm, imagemagick, x11-apps and chromium.
set -euo pipefail
cd "$(dirname "$0")/.."
cargo build --release --locked
stilk="$PWD/target/release/stilk"
out="$PWD/docs/screenshots"
work=$(mktemp -d)
trap 'rm -rf "$work"; kill "${xvfb:-0}" 2>/dev/null || true' EXIT
mkdir -p "$out"

Xvfb :87 -screen 0 1280x800x24 >/dev/null 2>&1 &
xvfb=$!
sleep 1

# terminal NAME COMMAND…: the command's output in a terminal of 96 columns
terminal() {
    local name=$1
    shift
    cat >"$work/show.sh" <<EOF
cd "$work"
printf '\033[1m\$ stilk %s\033[0m\n' "$*"
"$stilk" $*
touch "$work/$name.done"
sleep 20
EOF
    DISPLAY=:87 xterm -geometry 96x40+0+0 -fa 'DejaVu Sans Mono' -fs 12 -bg '#fffdf6' -fg '#2a2520' \
        -xrm 'XTerm*color1: #a3231b' -xrm 'XTerm*color9: #a3231b' -xrm 'XTerm*color12: #1f5f8b' \
        -xrm 'XTerm*color14: #1d6f6f' -xrm 'XTerm*color10: #2f6b2f' -xrm 'XTerm*boldColors: false' \
        -e bash "$work/show.sh" &
    local pid=$!
    while [ ! -e "$work/$name.done" ]; do sleep 0.2; done
    sleep 1
    DISPLAY=:87 xwd -root -silent | convert xwd:- -trim +repage -trim +repage -bordercolor '#fffdf6' -border 16 "$out/$name.png"
    kill "$pid" 2>/dev/null || true
    wait "$pid" 2>/dev/null || true
}

terminal demo demo
terminal check check --project ternhaven
terminal why why button.outline:hover background-color --project ternhaven --theme day

# page NAME HEIGHT: the specimen, or one control's sheet when NAME ends in one
page() {
    local name=$1 height=$2 only=$3
    local html="$work/$name.html"
    # Headless Chromium draws the top of a page: everything before the control is taken out.
    sed "s#</body>#<style>$only</style></body>#" "$work/ternhaven/dist/specimen.html" >"$html"
    chromium --headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking \
        --disable-component-update --disable-sync --hide-scrollbars --user-data-dir="$work/profile" \
        --window-size="1280,$height" --screenshot="$out/$name.png" "file://$html" 2>/dev/null
}

alone() {
    printf 'header, .overview, .findings, .control:not([aria-labelledby=control-%s]) { display: none }' "$1"
}

page specimen 1200 ''
page specimen-button 800 "$(alone button)"
page specimen-menu 800 "$(alone menu)"
page specimen-fields 800 "$(alone field)"
ls -l "$out"
