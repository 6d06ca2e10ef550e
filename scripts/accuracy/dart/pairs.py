"""Prints, for a Dart package, which file names what another declares, found
with regular expressions alone: see ../compare. No Dart compiler is at hand, so
this is a second opinion and no reference.

usage: python3 pairs.py FOLDER > PAIRS.tsv

Strings without interpolation and comments are taken out; then every name that
begins with a capital and that the library, or a library that it imports, or
one that this exports, declares is a pair; so is every directive.
"""
import os
import re
import sys

top = sys.argv[1].rstrip("/")
package = ""
text, declares, imports, exports, part_of = {}, {}, {}, {}, {}
for folder, _, names in os.walk(top):
    for n in sorted(names):
        p = os.path.relpath(os.path.join(folder, n), top)
        if n == "pubspec.yaml" and folder == top:
            package = re.search(r"^name:\s*(\w+)", open(os.path.join(folder, n)).read(), re.M).group(1)
        if n.endswith(".dart"):
            text[p] = open(os.path.join(folder, n), encoding="utf-8").read()


def target(p, uri):
    if uri.startswith("package:" + package + "/"):
        t = "lib/" + uri.split("/", 1)[1]
    elif ":" in uri:
        return None
    else:
        t = os.path.normpath(os.path.join(os.path.dirname(p), uri))
    return t if t in text else None


for p, s in text.items():
    s = re.sub(r"///?[^\n]*|/\*.*?\*/", "", s, flags=re.S)
    imports[p], exports[p] = [], []
    for kind, uri in re.findall(r"^\s*(import|export|part)\s+['\"]([^'\"]+)['\"]", s, re.M):
        t = target(p, uri)
        if t and kind == "part":
            part_of[t] = p
        elif t:
            (imports if kind == "import" else exports)[p].append(t)
    s = re.sub(r"^\s*(import|export|part)\b[^;]*;", "", s, flags=re.M)
    text[p] = re.sub(r"r?'''.*?'''|r?\"\"\".*?\"\"\"|'[^'\n$]*'|\"[^\"\n$]*\"", "", s, flags=re.S)
    declares[p] = set(re.findall(r"^(?:abstract |sealed |final |base )*(?:class|mixin|enum|extension|typedef)\s+(\w+)", text[p], re.M))

library = {p: part_of.get(p, p) for p in text}
files = {}
for p, l in library.items():
    files.setdefault(l, []).append(p)


def visible(l, seen):
    if l in seen:
        return {}
    seen.add(l)
    out = {}
    for e in exports[l]:
        out.update(visible(e, seen))
    for f in files.get(l, []):
        for d in declares[f]:
            out[d] = f
    return out


for p in sorted(text):
    print("file\t" + p)
    l = library[p]
    scope = {}
    for i in imports[l]:
        scope.update(visible(i, set()))
    scope.update(visible(l, set()) if l in files else {})
    pairs = set(imports[p] + exports[p])
    pairs.update(t for t, o in part_of.items() if o == p)
    if p in part_of:
        pairs.add(part_of[p])
    for name in set(re.findall(r"\b[A-Z]\w*", text[p])):
        if scope.get(name, p) != p:
            pairs.add(scope[name])
    for t in sorted(pairs):
        print(p + "\t" + t)
