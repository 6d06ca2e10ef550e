package golang

import (
	"go/build/constraint"
	"sort"
	"strings"
	"sync"
)

// The operating systems and architectures that file names and build
// constraints know (go help buildconstraint).
var (
	knownOS   = words("aix android darwin dragonfly freebsd hurd illumos ios js linux nacl netbsd openbsd plan9 solaris wasip1 windows zos")
	knownArch = words("386 amd64 amd64p32 arm armbe arm64 arm64be loong64 mips mipsle mips64 mips64le mips64p32 mips64p32le ppc ppc64 ppc64le riscv riscv64 s390 s390x sparc sparc64 wasm")
	unixOS    = words("aix android darwin dragonfly freebsd hurd illumos ios linux netbsd openbsd solaris")
)

func words(s string) map[string]bool {
	m := make(map[string]bool)
	for _, w := range strings.Fields(s) {
		m[w] = true
	}
	return m
}

// constraints tells which files can be part of one build.
type constraints struct {
	mu   sync.Mutex
	memo map[[2]string]bool
}

// together reports whether some platform and some choice of the other tags
// build both files. Where that is too much to try out, it says yes.
func (c *constraints) together(a, b string) bool {
	if a == "" || b == "" || a == b {
		return true
	}
	if a > b {
		a, b = b, a
	}
	key := [2]string{a, b}
	c.mu.Lock()
	ok, known := c.memo[key]
	c.mu.Unlock()
	if known {
		return ok
	}
	ok = satisfiable(a, b)
	c.mu.Lock()
	if c.memo == nil {
		c.memo = make(map[[2]string]bool)
	}
	c.memo[key] = ok
	c.mu.Unlock()
	return ok
}

func satisfiable(a, b string) bool {
	x, err := constraint.Parse("//go:build (" + a + ") && (" + b + ")")
	if err != nil {
		return true
	}
	tags := make(map[string]bool)
	var gather func(constraint.Expr)
	gather = func(e constraint.Expr) {
		switch e := e.(type) {
		case *constraint.AndExpr:
			gather(e.X)
			gather(e.Y)
		case *constraint.OrExpr:
			gather(e.X)
			gather(e.Y)
		case *constraint.NotExpr:
			gather(e.X)
		case *constraint.TagExpr:
			tags[e.Tag] = true
		}
	}
	gather(x)
	// An unnamed system and architecture stand for all that are not named.
	systems, arches := []string{"other"}, []string{"other"}
	var free []string
	for t := range tags {
		switch {
		case t == "unix":
		case knownOS[t]:
			systems = append(systems, t)
		case knownArch[t]:
			arches = append(arches, t)
		default:
			free = append(free, t)
		}
	}
	if tags["unix"] {
		systems = append(systems, "other unix")
	}
	sort.Strings(free)
	const most = 10
	if len(free) > most {
		return true
	}
	for _, system := range systems {
		for _, arch := range arches {
			for choice := range 1 << len(free) {
				if x.Eval(func(t string) bool {
					switch {
					case t == "unix":
						return unixOS[system] || system == "other unix"
					case t == "linux" && system == "android", t == "darwin" && system == "ios", t == "solaris" && system == "illumos":
						return true
					case knownOS[t]:
						return t == system
					case knownArch[t]:
						return t == arch
					}
					return choice>>sort.SearchStrings(free, t)&1 == 1
				}) {
					return true
				}
			}
		}
	}
	return false
}
