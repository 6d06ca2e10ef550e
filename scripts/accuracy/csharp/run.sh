#!/bin/sh
# Compares Moat Line with Mono's C# compiler on a tree. The compiler is built
# from Debian's mono source package with log.cs added, which tells what every
# type name was resolved to. Wants mono-mcs, libmono-cil-dev, gcc and the
# unpacked source of Debian's mono package.
#
#	usage: scripts/accuracy/csharp/run.sh MONO-SOURCE TREE [COMPILER-ARGUMENT...]
#
# The arguments name the files to compile, as '-recurse:KeePass/*.cs'. The tree
# is copied, and what the compiler does not see of it is blanked: Moat Line
# reads both branches of a conditional.
set -e
cd "$(dirname "$0")/../../.."
here=$PWD/scripts/accuracy/csharp
mono=$(realpath "${1:?the unpacked mono source is wanted}") tree=$(realpath "${2:?a tree of C# files is wanted}")
shift 2
out=$(mktemp -d)
trap 'rm -rf "$out"' EXIT
go build -o "$out/moatline" ./cmd/moatline
go build -o "$out/compare" ./scripts/accuracy/compare
cp -r "$mono/mcs" "$out/mcs"
mkdir -p "$out/external"
cp -r "$mono/external/ikvm" "$out/external/"
(
	cd "$out/mcs/jay"
	gcc -w -O1 -DSKEL_DIRECTORY='"."' -o jay closure.c error.c lalr.c lr0.c main.c mkpar.c output.c reader.c symtab.c verbose.c warshall.c
	cd ../mcs
	../jay/jay -ct < ../jay/skeleton.cs cs-parser.jay > cs-parser.cs
	cp "$here/log.cs" .
	sed -i '/public TypeExpression (TypeSpec t, Location l)/{n;s/{/{ ResolutionLog.Add (t, l);/}' ecore.cs
	sed -i '/public GenericTypeExpr (TypeSpec open_type, TypeArguments args, Location l)/{n;s/{/{ ResolutionLog.Add (open_type, l);/}' generic.cs
	mcs -unsafe -warn:0 -out:"$out/compiler.exe" -d:STATIC -d:NO_SYMBOL_WRITER -d:NO_AUTHENTICODE -d:NET_4_0 -d:NET_4_5 -d:MONO \
		-r:System.Core.dll -r:System.Xml.dll -r:System.dll -r:System.Security.dll $(cat mcs.exe.sources) cs-parser.cs log.cs
)
cp -r "$tree" "$out/tree"
rm -rf "$out/tree/.pc"
python3 "$here/blank.py" "$out/tree"
cd "$out/tree"
references=
for r in mscorlib System System.Core System.Xml System.Drawing System.Windows.Forms System.Security System.Data System.Configuration \
	System.Web System.Runtime.Remoting System.Runtime.Serialization System.Numerics System.Xml.Linq System.Transactions Accessibility \
	Mono.Security Mono.Posix Mono.WebBrowser System.Runtime.Serialization.Formatters.Soap; do
	[ -f "/usr/lib/mono/4.5/$r.dll" ] && references="$references -r:/usr/lib/mono/4.5/$r.dll"
done
mono "$out/compiler.exe" -sdk:4.5 -nostdlib -unsafe -warn:0 -target:library -out:"$out/x.dll" $references "$@" > "$out/log" 2>&1 || true
grep -v '^@TYPE' "$out/log" | grep error | head -5 || true
python3 "$here/pairs.py" . < "$out/log" > "$out/pairs.tsv"
"$out/moatline" facts . --format csv --quiet --output "$out/facts.csv"
"$out/compare" "$out/pairs.tsv" "$out/facts.csv"
