#!/bin/sh
# Compares Moat Line with the TypeScript compiler on the sources that an npm
# package ships. Wants node and npm.
#
#	usage: scripts/accuracy/typescript/run.sh PACKAGE FOLDER
#
# for example: rxjs@7.8.2 src. FOLDER is the part of the package to read.
set -e
cd "$(dirname "$0")/../../.."
package=${1:?the name of an npm package is wanted} folder=${2:-.}
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
go build -o "$out/moatline" ./cmd/moatline
(cd "$out" && npm pack --silent "$package" typescript@5.9.3 > /dev/null && mkdir tree ts &&
	tar xzf typescript-5.9.3.tgz -C ts && rm typescript-5.9.3.tgz && tar xzf ./*.tgz -C tree)
tree=$out/tree/package/$folder
node --max-old-space-size=8000 scripts/accuracy/typescript/pairs.js "$out/ts/package" "$tree" > "$out/pairs.tsv"
"$out/moatline" facts "$tree" --format csv --quiet --output "$out/facts.csv"
go run ./scripts/accuracy/compare "$out/pairs.tsv" "$out/facts.csv"
