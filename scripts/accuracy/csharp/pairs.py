"""Turns the log of the patched C# compiler into pairs: see ../compare.

usage: python3 pairs.py FOLDER < LOG > PAIRS.tsv

A line of the log counts where the name of the type stands on its line of the
source: types that the compiler only inferred are not named there. A type that
several files declare parts of is "maybe" any of them.
"""
import os
import re
import sys

top = os.path.realpath(sys.argv[1])
lines = {}
pairs, files = set(), set()


def source(path):
    if path not in lines:
        with open(path, encoding="utf-8", errors="replace") as f:
            lines[path] = [re.findall(r"\w+", l) for l in f.read().split("\n")]
    return lines[path]


for l in sys.stdin:
    if not l.startswith("@TYPE\t"):
        continue
    _, f, row, to, name = l.rstrip("\n").split("\t")
    f, to = os.path.realpath(f), os.path.realpath(to)
    if not f.startswith(top) or not os.path.exists(f):
        continue
    files.add(f)
    row = int(row) - 1
    words = source(f)[row] if row < len(source(f)) else []
    name = name.split("`")[0]
    if name not in words and not (name.endswith("Attribute") and name[:-9] in words):
        continue
    if f != to and to.startswith(top):
        pairs.add((f, to, name))

parts = {}
for folder, _, names in os.walk(top):
    for n in names:
        if n.endswith(".cs"):
            p = os.path.join(folder, n)
            with open(p, encoding="utf-8", errors="replace") as h:
                for m in re.finditer(r"\bpartial\s+(?:class|struct|interface)\s+(\w+)", h.read()):
                    parts.setdefault(m.group(1), set()).add(p)
for f in sorted(files):
    print("file\t" + os.path.relpath(f, top))
for f, to, name in sorted(pairs):
    if len(parts.get(name, ())) > 1:
        for p in parts[name]:
            print("maybe\t%s\t%s" % (os.path.relpath(f, top), os.path.relpath(p, top)))
    else:
        print("%s\t%s" % (os.path.relpath(f, top), os.path.relpath(to, top)))
