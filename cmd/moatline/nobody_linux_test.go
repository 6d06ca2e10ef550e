package main

import (
	"errors"
	"os"
	"os/exec"
	"syscall"
	"time"

	"github.com/rogpeppe/go-internal/testscript"
)

// asnobody COMMAND... runs the program without the rights of the superuser,
// for whom nothing is unreadable, and wants exit status 2.
func asNobody(ts *testscript.TestScript, _ bool, args []string) {
	exe, err := os.Executable()
	ts.Check(err)
	dir := ts.Getenv("WORK")
	attr := &syscall.SysProcAttr{}
	if os.Getuid() == 0 {
		// The test binary and the folders above may be out of reach for others.
		const nobody = 65534
		copied := ts.MkAbs("../" + args[0])
		data, err := os.ReadFile(exe)
		ts.Check(err)
		ts.Check(os.WriteFile(copied, data, 0o755))
		defer os.Remove(copied)
		exe = copied
		attr.Credential = &syscall.Credential{Uid: nobody, Gid: nobody}
		for _, d := range []string{dir, ts.MkAbs("..")} {
			ts.Check(os.Chmod(d, 0o755))
		}
	}
	var out []byte
	for range 100 {
		cmd := exec.Command(exe, args[1:]...)
		cmd.Args[0], cmd.Dir, cmd.SysProcAttr = args[0], dir, attr
		out, err = cmd.CombinedOutput()
		if !errors.Is(err, syscall.ETXTBSY) {
			break
		}
		// A process that another test started holds the file that was just
		// written, until it runs its own program.
		time.Sleep(20 * time.Millisecond)
	}
	ts.Logf("%s", out)
	exit, ok := err.(*exec.ExitError)
	if !ok || exit.ExitCode() != 2 {
		ts.Fatalf("want exit status 2: %v", err)
	}
	ts.Check(os.WriteFile(ts.MkAbs("said"), out, 0o644))
}
