#!/bin/sh
# Compares Moat Line with Python's ast and symtable on a tree.
#
#	usage: scripts/accuracy/python/run.sh TREE [ROOT...]
set -e
tree=$(realpath "${1:?a tree of Python files is wanted}")
shift
cd "$(dirname "$0")/../../.."
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
go build -o "$out/moatline" ./cmd/moatline
python3 scripts/accuracy/python/pairs.py "$tree" "$@" > "$out/pairs.tsv"
"$out/moatline" facts "$tree" --format csv --quiet --output "$out/facts.csv"
go run ./scripts/accuracy/compare "$out/pairs.tsv" "$out/facts.csv"
