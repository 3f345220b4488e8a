#!/usr/bin/env bash
# Makes the pictures in docs/screenshots from the sample: terminal output in xterm under Xvfb, pages in headless Chromium.
# Needs the Debian packages xvfb, xterm, imagemagick, x11-apps, neovim and chromium.
set -euo pipefail
for tool in Xvfb xterm convert xwd nvim chromium chromedriver curl; do
    command -v "$tool" >/dev/null || { echo "$tool is missing: apt-get install xvfb xterm imagemagick x11-apps neovim chromium" >&2; exit 1; }
done
cd "$(dirname "$0")/.."
cargo build --release --locked
stilk="$PWD/target/release/stilk"
out="$PWD/docs/screenshots"
work=$(mktemp -d)
xvfb=
live=
driver=
trap 'rm -rf "$work" 2>/dev/null || true; kill $xvfb $live $driver 2>/dev/null || true' EXIT
mkdir -p "$out"

Xvfb :87 -screen 0 1280x800x24 >/dev/null 2>&1 &
xvfb=$!
sleep 1

# terminal NAME COMMAND…: the command's output in a terminal of 96 columns; of a long one its end, or its beginning (`first`)
terminal() {
    local name=$1
    shift
    local first=
    if [ "$1" = first ]; then
        first='2>/dev/null | head -n 36'
        shift
    fi
    cat >"$work/show.sh" <<EOF
cd "$work"
printf '\033[1m\$ stilk %s\033[0m\n' "$*"
"$stilk" $* $first
touch "$work/$name.done"
sleep 20
EOF
    DISPLAY=:87 xterm -geometry 96x40+0+0 -fa 'DejaVu Sans Mono' -fs 12 -bg '#fffdf6' -fg '#2a2520' \
        -xrm 'XTerm*color1: #a3231b' -xrm 'XTerm*color9: #a3231b' -xrm 'XTerm*color12: #1f5f8b' \
        -xrm 'XTerm*color14: #1d6f6f' -xrm 'XTerm*color10: #2f6b2f' -xrm 'XTerm*color2: #2f6b2f' -xrm 'XTerm*color3: #7a5c00' -xrm 'XTerm*color11: #7a5c00' -xrm 'XTerm*boldColors: false' \
        -e bash "$work/show.sh" &
    local pid=$!
    while [ ! -e "$work/$name.done" ]; do sleep 0.2; done
    sleep 1
    DISPLAY=:87 xwd -root -silent | convert xwd:- -trim +repage -trim +repage -bordercolor '#fffdf6' -border 16 "$out/$name.png"
    kill "$pid" 2>/dev/null || true
    wait "$pid" 2>/dev/null || true
}

# editor NAME SCRIPT: Neovim on the sample's button, after some Lua; it makes the file "$shown" when all is there.
editor() {
    local name=$1
    rm -rf "$work/edited"
    cp -r "$work/ternhaven" "$work/edited"
    cat >"$work/$name.lua" <<EOF
vim.o.completeopt = "menu,menuone,noselect"
vim.o.termguicolors, vim.o.signcolumn, vim.o.number, vim.o.pumheight = false, "no", true, 14
vim.diagnostic.config({ virtual_text = { prefix = "■", spacing = 1 }, severity_sort = true })
vim.cmd("edit controls/button.stilk")
local function find(text)
  vim.fn.cursor(1, 1)
  vim.fn.search("\\\\V" .. text, "c")
end
local function done() vim.fn.writefile({}, "$work/$name.done") end
$2
EOF
    DISPLAY=:87 STILK="$stilk" HOME="$work" xterm -geometry 116x40+0+0 -fa 'DejaVu Sans Mono' -fs 11 -bg '#fffdf6' -fg '#2a2520' \
        -xrm 'XTerm*color1: #a3231b' -xrm 'XTerm*color9: #a3231b' -xrm 'XTerm*color2: #2f6b2f' -xrm 'XTerm*color3: #7a5c00' \
        -xrm 'XTerm*color4: #1f5f8b' -xrm 'XTerm*color5: #7a3b78' -xrm 'XTerm*color6: #1d6f6f' -xrm 'XTerm*color7: #e6e0d2' -xrm 'XTerm*color8: #d8d0bf' -xrm 'XTerm*color11: #7a5c00' -xrm 'XTerm*color12: #1f5f8b' -xrm 'XTerm*color13: #f0d8ee' -xrm 'XTerm*color14: #1d6f6f' -xrm 'XTerm*boldColors: false' \
        -e sh -c "cd '$work/edited' && nvim -u NONE -i NONE -n -c 'set runtimepath+=$PWD/editors/vim background=light' -c 'filetype plugin on' -c 'syntax on' -c 'luafile $PWD/editors/neovim.lua' -c 'luafile $work/$name.lua'" &
    local pid=$!
    while [ ! -e "$work/$name.done" ]; do sleep 0.2; done
    sleep 1
    DISPLAY=:87 xwd -root -silent | convert xwd:- -trim +repage -bordercolor '#fffdf6' -border 16 "$out/$name.png"
    kill "$pid" 2>/dev/null || true
    wait "$pid" 2>/dev/null || true
}

terminal demo demo
terminal check check --project ternhaven
cp -r "$work/ternhaven" "$work/mended"
terminal mend check --mend --yes --project mended
terminal why why button.outline:hover background-color --project ternhaven --theme day

terminal survey first survey ternhaven/before
terminal adopt first adopt ternhaven/before --to harbour
(cd "$work" && "$stilk" survey ternhaven/before --format html >inventory.html) || true
editor editor '
vim.wait(20000, function() return next(vim.lsp.buf_get_clients(0)) ~= nil end, 20)
vim.cmd("%s/ color: var(--text);/ color: {ink.strng};/")
vim.wait(20000, function() return #vim.diagnostic.get(0) > 0 end, 20)
find("fill.sea")
vim.lsp.buf.hover()
vim.defer_fn(done, 1500)'
editor completion '
vim.wait(20000, function() return next(vim.lsp.buf_get_clients(0)) ~= nil end, 20)
find("color: var(--text);")
vim.api.nvim_feedkeys(vim.api.nvim_replace_termcodes("Ccolor: {ink<C-x><C-o>", true, false, true), "n", false)
vim.defer_fn(done, 2500)'
"$stilk" contrast --project "$work/ternhaven" --format svg >"$work/contrast.svg" || true
(cd "$work/ternhaven" && "$stilk" build >/dev/null)
terminal scan scan --project ternhaven
cp -r "$work/ternhaven" "$work/before"
sed -i 's/"components": \[0.5, 0.11, 232\]/"components": [0.58, 0.11, 232]/; s/"control": { "$value": { "value": 8/"control": { "$value": { "value": 14/' "$work"/ternhaven/tokens/base.tokens.json
(cd "$work" && "$stilk" compare before ternhaven --format html >compare.html) || true
cp "$work"/before/tokens/base.tokens.json "$work"/ternhaven/tokens/base.tokens.json
terminal matrix specimen --terminal segment --project ternhaven

# A browser that keeps what it has mounted: --screenshot alone draws the top of a page, wherever it stands.
chromedriver --port=9587 >/dev/null 2>&1 &
driver=$!
sleep 1
session=$(curl -s http://127.0.0.1:9587/session -d '{"capabilities":{"alwaysMatch":{"browserName":"chrome","goog:chromeOptions":{"args":["--headless","--no-sandbox","--disable-gpu","--disable-quic","--no-first-run","--disable-background-networking","--disable-component-update","--disable-sync","--hide-scrollbars"]}}}}' |
    sed 's/.*"sessionId":"\([^"]*\)".*/\1/')
ask() { curl -s "http://127.0.0.1:9587/session/$session/$1" -d "$2"; }
devtools() { ask goog/cdp/execute "{\"cmd\":\"$1\",\"params\":$2}"; }

# page NAME ADDRESS WIDTH HEIGHT: a page once it has mounted what is seen
page() {
    devtools Emulation.setDeviceMetricsOverride "{\"width\":$3,\"height\":$4,\"deviceScaleFactor\":1,\"mobile\":false}" >/dev/null
    ask url '{"url":"about:blank"}' >/dev/null
    ask url "{\"url\":\"$2\"}" >/dev/null
    sleep 3
    devtools Page.captureScreenshot '{"format":"png"}' | sed 's/.*"data":"\([^"]*\)".*/\1/' | base64 -d >"$out/$1.png"
}

specimen="file://$work/ternhaven/dist/specimen.html"
page specimen "$specimen" 1280 800
page specimen-button "$specimen#control-button" 1280 800
page specimen-tokens "$specimen#tokens" 1280 800
page compare "file://$work/compare.html" 1280 800
page contrast "file://$work/contrast.svg" 1280 800
page inventory "file://$work/inventory.html" 1280 800

# An error over the page, while the sources cannot be drawn.
"$stilk" live --project "$work/ternhaven" --port 7433 >/dev/null &
live=$!
sleep 2
sed -i 's/--shade: 16%;/--shade: 16%; colr: {fill.see};/' "$work/ternhaven/controls/button.stilk"
sleep 1
page live "http://127.0.0.1:7433/#control-button" 1280 800
kill "$live"

# A colour that is pulled at, and the same on a narrow screen with a length.
"$stilk" live --project "$work/before" --port 7434 >/dev/null &
live=$!
sleep 3
# run SCRIPT: JavaScript in the page
run() { ask execute/sync "{\"script\":\"$1\",\"args\":[]}" >/dev/null; }
# set NAME WIDTH HEIGHT PROPERTY VALUE: opens the property of the first picture of the button and types a value
set_value() {
    devtools Emulation.setDeviceMetricsOverride "{\"width\":$2,\"height\":$3,\"deviceScaleFactor\":1,\"mobile\":false}" >/dev/null
    ask url '{"url":"about:blank"}' >/dev/null
    ask url '{"url":"http://127.0.0.1:7434/#control-button"}' >/dev/null
    sleep 3
    run "document.querySelector('.nudge-switch').click()"
    sleep 2
    run "document.querySelector('[data-sheet=button]').scrollIntoView()"
    sleep 1
    run "[...document.querySelectorAll('#nudge .value')].find(value => value.firstChild.textContent === '$4').click()"
    sleep 2
    run "const field = document.querySelector('#nudge .as-text'); field.value = '$5'; field.dispatchEvent(new Event('change'))"
    sleep 4
    run "document.querySelector('#nudge .value[aria-expanded=true]').scrollIntoView(); scrollBy(0, -60)"
    sleep 1
    devtools Page.captureScreenshot '{"format":"png"}' | sed 's/.*"data":"\([^"]*\)".*/\1/' | base64 -d >"$out/$1.png"
}
set_value nudge 1280 800 background-color 'oklch(0.62 0.12 232)'
set_value nudge-narrow 390 844 padding 0.75rem
kill "$live"
live=
ls -l "$out"
