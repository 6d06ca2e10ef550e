package command

import (
	"bufio"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"

	"golang.org/x/term"

	"moatline/internal/core/layout"
	"moatline/internal/presentation/text"
)

// write hands show the place where the result goes: standard output, or the
// file of --output, which is replaced whole or not at all.
func (a *app) write(show func(w io.Writer, s text.Style) error) error {
	if a.output == "" || a.output == "-" {
		w := bufio.NewWriterSize(a.Out, 1<<16)
		if err := show(w, a.style(a.Out)); err != nil {
			return err
		}
		return w.Flush()
	}
	info, err := os.Stat(a.output)
	if err == nil && info.IsDir() {
		return fmt.Errorf("--output %s: it is a folder; name a file", a.output)
	}
	if err == nil && !info.Mode().IsRegular() { // a device or a pipe
		f, err := os.OpenFile(a.output, os.O_WRONLY, 0)
		if err != nil {
			return fmt.Errorf("--output: %w", err)
		}
		defer f.Close()
		w := bufio.NewWriterSize(f, 1<<16)
		if err := show(w, text.Style{Width: 100}); err != nil {
			return err
		}
		return w.Flush()
	}
	return replaceFile(a.output, func(w io.Writer) error { return show(w, text.Style{Width: 100}) })
}

// replaceFile writes a file under another name first and renames it when it
// is whole.
func replaceFile(path string, fill func(w io.Writer) error) (err error) {
	if target, e := filepath.EvalSymlinks(path); e == nil {
		path = target // a link keeps pointing where it did
	}
	tmp, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+".*")
	if err != nil {
		return fmt.Errorf("cannot write %s: %w", path, err)
	}
	defer func() {
		if err != nil {
			tmp.Close()
			os.Remove(tmp.Name())
		}
	}()
	w := bufio.NewWriterSize(tmp, 1<<16)
	if err = fill(w); err != nil {
		return err
	}
	if err = w.Flush(); err != nil {
		return fmt.Errorf("cannot write %s: %w", path, err)
	}
	mode := os.FileMode(0o644)
	if info, e := os.Stat(path); e == nil {
		mode = info.Mode().Perm()
	}
	if err = tmp.Chmod(mode); err != nil {
		return err
	}
	if err = tmp.Close(); err != nil {
		return err
	}
	return os.Rename(tmp.Name(), path)
}

// style tells how text may look on w: colour and the width on a terminal,
// neither elsewhere.
func (a *app) style(w io.Writer) text.Style {
	if a.look != nil {
		return *a.look
	}
	s := text.Style{Width: 100}
	if n, err := strconv.Atoi(os.Getenv("COLUMNS")); err == nil && n >= 40 {
		s.Width = n
	}
	f, ok := w.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) {
		return s
	}
	if n, _, err := term.GetSize(int(f.Fd())); err == nil && n >= 40 {
		s.Width = n
	}
	s.Color = !a.noColor && os.Getenv("NO_COLOR") == "" && os.Getenv("TERM") != "dumb"
	return s
}

func nearest(s string, words []string) string { return layout.Nearest(s, words) }
