#!/usr/bin/env bash
# Holds the Java reader against the JDK's own compiler.
#
#   run.sh                    java.base and java.desktop of the openjdk-17-source package
#   run.sh ROOT [OPTION...]   any other tree; OPTIONs go to the compiler (--class-path and the like)
#
# Needs a JDK (17 or later) and, for the first form, Debian's openjdk-17-source.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
repo=$(cd "$here/../../.." && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
javac -d "$work/classes" "$here/Resolved.java"
if [ $# -eq 0 ]; then
  zip=$(ls /usr/lib/jvm/openjdk-17/lib/src.zip /usr/lib/jvm/*/lib/src.zip 2>/dev/null | head -1)
  [ -n "$zip" ] || { echo "no src.zip: apt-get install openjdk-17-source" >&2; exit 2; }
  root=$work/jdk
  mkdir "$root"
  (cd "$root" && unzip -q "$zip")
  options=(--module-source-path "$root" --system none)
  parts="java.base java.desktop"
else
  root=$1
  shift
  options=("$@")
  parts=.
fi
(cd "$root" && find $parts -name '*.java' | sed 's|^\./||' | LC_ALL=C sort) > "$work/files"
java -Xmx8g -cp "$work/classes" Resolved "$root" "$work/pairs.tsv" "${options[@]}" -d "$work/none" -- "$work/files"
cd "$repo"
go run ./cmd/moatline facts "$root" > "$work/facts.csv"
go run ./scripts/accuracy/compare "$work/pairs.tsv" "$work/facts.csv"
