#!/bin/sh
# Compares Moat Line with the Kotlin compiler's own analysis on a tree. Wants
# Debian's kotlin and trove4j packages.
#
#	usage: scripts/accuracy/kotlin/run.sh TREE [CLASSPATH]
set -e
tree=$(realpath "${1:?a tree of Kotlin files is wanted}") classpath=${2:-/usr/share/java/kotlin-stdlib.jar}
cd "$(dirname "$0")/../../.."
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
go build -o "$out/moatline" ./cmd/moatline
kotlinc -nowarn -cp /usr/share/java/kotlin-compiler.jar scripts/accuracy/kotlin/pairs.kt -d "$out/pairs.jar" 2> /dev/null
java -Xmx6g --add-opens java.base/java.lang=ALL-UNNAMED --add-opens java.base/java.util=ALL-UNNAMED \
	-cp "$out/pairs.jar:/usr/share/kotlin/kotlinc/lib/*:/usr/share/java/trove4j.jar" PairsKt "$tree" "$classpath" > "$out/pairs.tsv"
"$out/moatline" facts "$tree" --format csv --quiet --output "$out/facts.csv"
go run ./scripts/accuracy/compare "$out/pairs.tsv" "$out/facts.csv"
