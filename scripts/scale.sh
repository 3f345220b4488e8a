#!/usr/bin/env bash
# Scans many pages with Apache Spark on two workers, and holds the report against that of one process. Needs Java 17 and Python 3;
# Spark comes from PyPI, into a folder of its own. No part of the tests: what it prints stands in docs/scale.md.
#   scripts/scale.sh [PAGES] [WORKERS]
set -euo pipefail
cd "$(dirname "$0")/.."
pages=${1:-20000}
workers=${2:-2}
work=${STILK_SCALE:-target/scale}
mkdir -p "$work"
work=$(cd "$work" && pwd)
[ -x "$work/python/bin/python" ] || python3 -m venv "$work/python"
"$work/python/bin/python" -c 'import pyspark' 2>/dev/null || "$work/python/bin/pip" install --quiet pyspark==3.5.3

program=${STILK:-}
if [ -z "$program" ]; then
    cargo build --profile dist --locked -p stilk
    program=${CARGO_TARGET_DIR:-target}/dist/stilk
fi
program=$(realpath "$program")
sample=$PWD/demo/ternhaven
"$work/python/bin/python" scripts/scale/pages.py "$pages" > "$work/pages.jsonl"
echo "$pages pages, $(du -h --apparent-size "$work/pages.jsonl" | cut -f1)"

measured() { # WHAT COMMAND…: seconds, and the most memory that one process took
    local what=$1
    shift
    /usr/bin/env python3 - "$what" "$@" <<'PYTHON'
import resource, subprocess, sys, time
start = time.monotonic()
subprocess.run(sys.argv[2:], check=True)
most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
print(f"{sys.argv[1]}: {time.monotonic() - start:.1f} s, at most {most:.0f} MB in one process")
PYTHON
}
merge() { # REPORT FILES…; that there are findings is no failure here
    local report=$1
    shift
    "$program" report merge "$@" > "$report" || [ $? -eq 1 ]
}

measured "one process" bash -c "'$program' scan --stream --project '$sample' < '$work/pages.jsonl' > '$work/one.jsonl'"
merge "$work/one.json" "$work/one.jsonl"
rm -rf "$work/parts"
measured "Spark with $workers workers" "$work/python/bin/python" scripts/scale/spread.py \
    "$work/pages.jsonl" "$work/parts" "$workers" "$program" scan --stream --project "$sample"
merge "$work/parts.json" "$work"/parts/part-*
cmp "$work/one.json" "$work/parts.json"
echo "the same report: $("$program" report merge --format text "$work"/parts/part-* | tail -n 1 || true)"
