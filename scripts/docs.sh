#!/usr/bin/env bash
# Makes one static site of docs/, in target/docs (or the folder that is named). mdBook is built by Cargo where it is missing.
#   scripts/docs.sh [DIR]
set -euo pipefail
cd "$(dirname "$0")/.."
to=${1:-target/docs}
export PATH="$HOME/.cargo/bin:$PATH"
command -v mdbook >/dev/null || cargo install --quiet --locked --version 0.5.4 mdbook

work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cp -r docs "$work/src"
cp CHANGELOG.md CONTRIBUTING.md "$work/src/"
# What leads out of docs/ leads nowhere in the site: its name stays, without the link.
sed -E -i 's/\[([^]]*)\]\(\.\.\/crates[^)]*\)/\1/g' "$work"/src/*.md
sed -i 's/](docs\//](/g' "$work/src/CONTRIBUTING.md" "$work/src/CHANGELOG.md"
cat >"$work/book.toml" <<'EOF'
[book]
title = "Stilk"
language = "en"
src = "src"

[output.html]
no-section-label = true
EOF
title() { sed -n 's/^# //p' "$work/src/$1" | head -n 1; }
{
    echo "# Summary"
    echo
    echo "[Stilk](index.md)"
    echo
    echo "- [$(title guide/index.md)](guide/index.md)"
    for chapter in button themes states switch release; do echo "  - [$(title guide/$chapter.md)](guide/$chapter.md)"; done
    for page in commands language checks accuracy ci scale editors nudge adopt architecture decisions limits security figures fidelity painting; do
        echo "- [$(title $page.md)]($page.md)"
    done
    echo "- [Changelog](CHANGELOG.md)"
    echo "- [Contributing](CONTRIBUTING.md)"
} >"$work/src/SUMMARY.md"
mkdir -p "$to"
mdbook build --dest-dir "$(cd "$to" && pwd)" "$work"
echo "$to/index.html"
