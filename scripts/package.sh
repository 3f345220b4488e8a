#!/usr/bin/env bash
# Makes what people install, in target/packages (or DIR): the program with its manual pages and completions as a tar, a .deb,
# and npm packages: a launcher, and one for this platform that holds the program.
#   scripts/package.sh [--program FILE] [--to DIR] [--no-deb]
# --program packs a program that was built already. A .deb takes cargo-deb, which is installed where it is missing. Packages of other platforms are made on those; laid into the same folder
# before this runs, the launcher names them too. It names none that is not there.
set -euo pipefail
cd "$(dirname "$0")/.."

program=
to=target/packages
deb=1
while [ $# -gt 0 ]; do
    case $1 in
        --program) program=${2:?"--program FILE"}; shift 2 ;;
        --to) to=${2:?"--to DIR"}; shift 2 ;;
        --no-deb) deb=; shift ;;
        *) echo "package.sh [--program FILE] [--to DIR] [--no-deb]" >&2; exit 2 ;;
    esac
done
if [ -z "$program" ]; then
    cargo build --profile dist --locked -p stilk
    program=${CARGO_TARGET_DIR:-target}/dist/stilk
fi
mkdir -p "$to"
to=$(cd "$to" && pwd)
version=$(sed -n 's/^version = "\(.*\)"$/\1/p' Cargo.toml | head -n 1)
say() { printf '%8s  %s\n' "$(du -h --apparent-size "$1" | cut -f1)" "${1#"$PWD"/}"; }

# What every package holds.
stage=$to/stage
rm -rf "$stage"
mkdir -p "$stage/bin" "$stage/man" "$stage/completions"
cp "$program" "$stage/bin/stilk"
"$stage/bin/stilk" manual "$stage/man"
for shell in bash zsh fish elvish powershell; do
    "$stage/bin/stilk" completions "$shell" > "$stage/completions/stilk.$shell"
done

platform=$(node -p 'process.platform + "-" + process.arch')
tar --create --gzip --file "$to/stilk-$version-$platform.tar.gz" --transform "s,^\.,stilk-$version," \
    -C "$stage" . -C "$PWD" ./LICENSE-MIT ./LICENSE-APACHE ./CHANGELOG.md
say "$to/stilk-$version-$platform.tar.gz"

# Debian's package; its fields and what goes where stand in crates/stilk/Cargo.toml.
if [ -n "$deb" ] && [ "${platform%%-*}" = linux ] && command -v dpkg >/dev/null; then
    if ! command -v cargo-deb >/dev/null; then
        cargo install --quiet --locked --version 3.6.3 cargo-deb
    fi
    rm -rf target/stage
    mkdir -p target
    cp -r "$stage" target/stage
    gzip --best --no-name target/stage/man/*.1
    cargo deb --quiet --package stilk --no-build --no-strip --output "$to/" >/dev/null
    rm -rf target/stage
    say "$(find "$to" -maxdepth 1 -name '*.deb' -newer "$stage/bin/stilk" | head -n 1)"
fi

# npm: the package of this platform, then the launcher with all that are there.
packed() { # FOLDER
    (cd "$1" && npm pack --silent --pack-destination "$to" >/dev/null)
}
node packages/npm/write.mjs platform "$version" "$platform" "$to/npm/$platform"
cp "$stage/bin/stilk" "$to/npm/$platform/$([ "${platform%%-*}" = win32 ] && echo stilk.exe || echo stilk)"
packed "$to/npm/$platform"
say "$to/stilk-$platform-$version.tgz"
node packages/npm/write.mjs launcher "$version" "$to" "$to/npm/stilk"
node packages/npm/types.mjs docs/schema/system.schema.json > "$to/npm/stilk/system.d.ts"
cp packages/npm/run.js README.md LICENSE-MIT LICENSE-APACHE "$to/npm/stilk/"
packed "$to/npm/stilk"
say "$to/stilk-$version.tgz"
rm -rf "$to/npm" "$stage"
