//go:build !linux

package main

import "github.com/rogpeppe/go-internal/testscript"

func asNobody(ts *testscript.TestScript, _ bool, _ []string) {
	ts.Fatalf("only on Linux")
}
