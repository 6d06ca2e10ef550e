// Command moatline tells where code crosses the layers that its architect
// declared.
package main

import (
	"os"
	"runtime/debug"

	"moatline/internal/presentation/command"
)

// Set by the build script; a plain go build leaves them to the build info.
var version, commit, date string

func main() {
	// Reading a tree allocates once and keeps nearly all of it: collecting
	// often would only cost time. GOGC set by the user wins.
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(400)
	}
	os.Exit(command.Run(os.Args[1:], command.Streams{In: os.Stdin, Out: os.Stdout, Err: os.Stderr}, build()))
}

func build() command.Build {
	b := command.Build{Version: version, Commit: commit, Date: date}
	if info, ok := debug.ReadBuildInfo(); ok {
		if b.Version == "" {
			b.Version = info.Main.Version
		}
		for _, s := range info.Settings {
			switch {
			case s.Key == "vcs.revision" && b.Commit == "":
				b.Commit = s.Value
			case s.Key == "vcs.time" && b.Date == "":
				b.Date = s.Value
			}
		}
	}
	if b.Version == "" || b.Version == "(devel)" {
		b.Version = "development"
	}
	if b.Commit == "" {
		b.Commit = "unknown"
	}
	if b.Date == "" {
		b.Date = "unknown"
	}
	return b
}
