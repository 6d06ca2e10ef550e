#!/usr/bin/env bash
# Holds the Go reader against the standard library's type checker.
#
#   run.sh                     the standard library of the Go distribution
#   run.sh ROOT PATTERN...     packages of another module
set -euo pipefail
repo=$(cd "$(dirname "$0")/../../.." && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
if [ $# -eq 0 ]; then
  root=$(go env GOROOT)/src
  set -- std
else
  root=$1
  shift
fi
cd "$repo"
go run ./scripts/accuracy/golang "$root" "$@" > "$work/pairs.tsv"
go run ./cmd/moatline facts "$root" > "$work/facts.csv"
go run ./scripts/accuracy/compare "$work/pairs.tsv" "$work/facts.csv"
