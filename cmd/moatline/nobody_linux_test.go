package main

import (
	"os"
	"os/exec"
	"syscall"

	"github.com/rogpeppe/go-internal/testscript"
)

// asnobody COMMAND... runs the program without the rights of the superuser,
// for whom nothing is unreadable, and wants exit status 2.
func asNobody(ts *testscript.TestScript, _ bool, args []string) {
	exe, err := os.Executable()
	ts.Check(err)
	cmd := exec.Command(exe, args[1:]...)
	cmd.Args[0] = args[0]
	cmd.Dir = ts.Getenv("WORK")
	if os.Getuid() == 0 {
		// The test binary and the folders above may be out of reach for others.
		const nobody = 65534
		copied := ts.MkAbs("../" + args[0])
		data, err := os.ReadFile(exe)
		ts.Check(err)
		ts.Check(os.WriteFile(copied, data, 0o755))
		defer os.Remove(copied)
		cmd.Path = copied
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: nobody, Gid: nobody}}
		for _, dir := range []string{cmd.Dir, ts.MkAbs("..")} {
			ts.Check(os.Chmod(dir, 0o755))
		}
	}
	out, err := cmd.CombinedOutput()
	ts.Logf("%s", out)
	exit, ok := err.(*exec.ExitError)
	if !ok || exit.ExitCode() != 2 {
		ts.Fatalf("want exit status 2: %v", err)
	}
	ts.Check(os.WriteFile(ts.MkAbs("said"), out, 0o644))
}
