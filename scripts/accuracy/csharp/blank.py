"""Blanks, in place, what a compiler without defined symbols does not see of the
C# files below a folder, so that it and a reader of all branches read the same.

usage: python3 blank.py FOLDER [SYMBOL...]
"""
import os
import re
import sys

defined = set(sys.argv[2:])


def true(cond, own):
    cond = re.sub(r"//.*", "", cond)
    words = {"true": "True", "false": "False"}
    py = re.sub(r"[A-Za-z_]\w*", lambda m: words.get(m.group(0), str(m.group(0) in own)), cond)
    return bool(eval(py.replace("&&", " and ").replace("||", " or ").replace("!=", "\0").replace("!", " not ").replace("\0", "!=")))


for folder, _, names in os.walk(sys.argv[1]):
    for n in names:
        if not n.endswith(".cs"):
            continue
        p = os.path.join(folder, n)
        with open(p, encoding="utf-8-sig", errors="surrogateescape") as f:
            lines = f.read().split("\n")
        own, stack, out = set(defined), [], []
        for l in lines:
            m = re.match(r"\s*#\s*(if|elif|else|endif|define|undef)\b(.*)", l)
            live = all(s[0] for s in stack)
            if m:
                word, rest = m.group(1), m.group(2).strip()
                if word == "if":
                    t = live and true(rest, own)
                    stack.append([t, t])
                elif word == "elif" and stack:
                    t = not stack[-1][1] and all(s[0] for s in stack[:-1]) and true(rest, own)
                    stack[-1] = [t, stack[-1][1] or t]
                elif word == "else" and stack:
                    stack[-1] = [not stack[-1][1], True]
                elif word == "endif" and stack:
                    stack.pop()
                elif live and word == "define":
                    own.add(rest)
                out.append("")
                continue
            out.append(l if live else "")
        with open(p, "w", encoding="utf-8", errors="surrogateescape") as f:
            f.write("\n".join(out))
