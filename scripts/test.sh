#!/usr/bin/env bash
# Installs what the tests need and runs all of them. Works on a fresh Debian machine with a Rust toolchain.
# With --full everything is looked at, in three browsers: what a release runs. Without, what would take long looks at a part,
# which another commit replaces by another; the run says by which seed it was drawn.
set -euo pipefail
cd "$(dirname "$0")/.."

full=
case ${1-} in
    --full) full=1 ;;
    "") ;;
    *) echo "test.sh [--full]" >&2; exit 2 ;;
esac

# The browser tests need browsers; without them they fail, they are never skipped.
./scripts/install-browsers.sh ${full:+--all}
./scripts/install-tools.sh ${full:+--all}
export PATH="$HOME/.cargo/bin:$PATH"

# Of a run that takes so long everything is told at once: no failure ends it.

if [ -n "$full" ]; then
    export STILK_FULL=1
    cargo test --workspace --locked --profile full --no-fail-fast
else
    commit=$(git rev-parse --short=10 HEAD 2>/dev/null || echo 0)
    export STILK_SEED=${STILK_SEED:-$((16#$commit))}
    # What a random test draws is drawn again by the same commit: what held once holds.
    export PROPTEST_RNG_SEED=${PROPTEST_RNG_SEED:-$STILK_SEED}
    echo "seed $STILK_SEED: the same again with STILK_SEED=$STILK_SEED $0"
    cargo test --workspace --locked --no-fail-fast
fi
