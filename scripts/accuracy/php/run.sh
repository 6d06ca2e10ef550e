#!/bin/sh
# Compares Moat Line with php-parser on a tree of PHP files. Wants Debian's
# php-cli and php-parser.
#
#	usage: scripts/accuracy/php/run.sh TREE
set -e
tree=$(realpath "${1:?a tree of PHP files is wanted, for example an unpacked Debian source package: symfony, phpmyadmin, wordpress}")
cd "$(dirname "$0")/../../.."
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
go build -o "$out/moatline" ./cmd/moatline
php scripts/accuracy/php/pairs.php "$tree" > "$out/pairs.tsv"
"$out/moatline" facts "$tree" --format csv --quiet --output "$out/facts.csv"
go run ./scripts/accuracy/compare "$out/pairs.tsv" "$out/facts.csv"
