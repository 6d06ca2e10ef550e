// Package tree walks a folder and reads its source and build files on all
// processors. It stays under the folder, follows no link and runs nothing.
package tree

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"sort"
	"strings"
	"sync"
	"sync/atomic"

	"moatline/internal/core/fact"
	"moatline/internal/core/language"
	"moatline/internal/core/language/wiring"
	"moatline/internal/core/source"
)

// Options say what to read and how.
type Options struct {
	Skip    func(path string) bool // paths to leave out, files and folders
	Include func(path string) bool // files to read although something skips them
	// Reaches reports whether Include may name something below a folder.
	Reaches func(folder string) bool
	Shard   func(path string) bool // nil, or the files of this shard
	Jobs    int                    // goroutines; 0 means one for each processor
	Done    *atomic.Int64          // counts files read, for progress; may be nil
	Size    func(bytes int64)      // told now and then how much was read; may be nil
}

// Left is a path that was not read, and why.
type Left struct{ Path, Why string }

// Tree is what a folder holds.
type Tree struct {
	Files   []*fact.File // sorted by path
	Unread  []Left       // files and folders that could not be read
	Skipped []Left       // folders and links left out on purpose
	Bytes   int64        // size of the files read
}

// MaxFile is the size beyond which a file is reported instead of read.
const MaxFile = 1 << 30

// Read walks root and reads what it holds.
func Read(root string, o Options) (*Tree, error) {
	info, err := os.Stat(root)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		return nil, errors.New("not a folder")
	}
	if _, err := os.ReadDir(root); err != nil {
		return nil, err
	}
	if o.Jobs <= 0 {
		o.Jobs = runtime.GOMAXPROCS(0)
	}
	w := &walk{root: root, o: o}
	w.cond.L = &w.mu
	w.push(task{})
	parts := make([]Tree, o.Jobs)
	var wg sync.WaitGroup
	for i := range parts {
		wg.Add(1)
		go func() {
			defer wg.Done()
			w.work(&parts[i])
		}()
	}
	wg.Wait()
	t := &Tree{}
	for i := range parts {
		t.Files = append(t.Files, parts[i].Files...)
		t.Unread = append(t.Unread, parts[i].Unread...)
		t.Skipped = append(t.Skipped, parts[i].Skipped...)
		t.Bytes += parts[i].Bytes
	}
	sort.Slice(t.Files, func(i, j int) bool { return t.Files[i].Path < t.Files[j].Path })
	for _, l := range [][]Left{t.Unread, t.Skipped} {
		sort.Slice(l, func(i, j int) bool { return l[i].Path < l[j].Path })
	}
	return t, nil
}

// task is a folder to list or, where files is set, a batch of its files.
type task struct {
	folder string // slash path from the root
	ignore *ignore
	only   bool // inside something skipped: only what Include names
	files  []string
}

// walk is the shared state of the workers: a stack of tasks, newest first, so
// that few are open at a time.
type walk struct {
	root  string
	o     Options
	mu    sync.Mutex
	cond  sync.Cond
	tasks []task
	busy  int
	bytes atomic.Int64
}

func (w *walk) push(tasks ...task) {
	w.mu.Lock()
	w.tasks = append(w.tasks, tasks...)
	w.mu.Unlock()
	w.cond.Broadcast()
}

// pop returns the next task; ok is false when all work is done.
func (w *walk) pop(first bool) (t task, ok bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if !first {
		w.busy--
	}
	for len(w.tasks) == 0 {
		if w.busy == 0 {
			w.cond.Broadcast()
			return task{}, false
		}
		w.cond.Wait()
	}
	t = w.tasks[len(w.tasks)-1]
	w.tasks = w.tasks[:len(w.tasks)-1]
	w.busy++
	return t, true
}

func (w *walk) work(out *Tree) {
	r := &reader{readers: language.NewReaders(), buffer: make([]byte, 0, 1<<18)}
	for first := true; ; first = false {
		t, ok := w.pop(first)
		if !ok {
			return
		}
		if t.files == nil {
			w.list(t, out)
			continue
		}
		for _, name := range t.files {
			w.read(r, join(t.folder, name), out)
		}
	}
}

func join(folder, name string) string {
	if folder == "" {
		return name
	}
	return folder + "/" + name
}

// list finds the subfolders and files of a folder and queues them.
func (w *walk) list(t task, out *Tree) {
	entries, err := os.ReadDir(filepath.Join(w.root, filepath.FromSlash(t.folder)))
	if err != nil {
		out.Unread = append(out.Unread, Left{t.folder + "/", reason(err)})
		return
	}
	names := make(map[string]bool, len(entries))
	for _, e := range entries {
		names[e.Name()] = true
	}
	ig := t.ignore
	if names[".gitignore"] {
		ig = ig.with(w.root, t.folder)
	}
	var more []task
	var files []string
	for _, e := range entries {
		name := e.Name()
		p := join(t.folder, name)
		mode := e.Type()
		if mode&fs.ModeSymlink != 0 {
			if language.Of(p) != "" || w.linkToFolder(p) {
				out.Skipped = append(out.Skipped, Left{p, "a link; links are not followed"})
			}
			continue
		}
		if mode.IsDir() {
			sub := task{folder: p, ignore: ig, only: t.only}
			if !t.only {
				why := skipFolder(name, names, filepath.Join(w.root, filepath.FromSlash(p)))
				if why == "" && ig.matches(p, true) {
					why = "ignored by git"
				}
				if why == "" && w.o.Skip != nil && w.o.Skip(p) {
					why = "the declaration skips it"
				}
				if why != "" {
					out.Skipped = append(out.Skipped, Left{p + "/", why})
					sub.only = true
				}
			}
			if sub.only && (w.o.Reaches == nil || !w.o.Reaches(p)) {
				continue
			}
			more = append(more, sub)
			continue
		}
		if !mode.IsRegular() || language.Of(p) == "" {
			continue
		}
		if w.o.Include != nil && w.o.Include(p) {
			files = append(files, name)
			continue
		}
		if t.only {
			continue
		}
		if ig.matches(p, false) {
			out.Skipped = append(out.Skipped, Left{p, "ignored by git"})
			continue
		}
		if w.o.Skip != nil && w.o.Skip(p) {
			out.Skipped = append(out.Skipped, Left{p, "the declaration skips it"})
			continue
		}
		files = append(files, name)
	}
	if w.o.Shard != nil {
		mine := files[:0]
		for _, f := range files {
			if w.o.Shard(join(t.folder, f)) {
				mine = append(mine, f)
			}
		}
		files = mine
	}
	const batch = 24
	for len(files) > 0 {
		n := min(batch, len(files))
		more = append(more, task{folder: t.folder, files: files[:n:n]})
		files = files[n:]
	}
	if len(more) > 0 {
		w.push(more...)
	}
}

func (w *walk) linkToFolder(p string) bool {
	info, err := os.Stat(filepath.Join(w.root, filepath.FromSlash(p)))
	return err == nil && info.IsDir()
}

// reader reads files into one buffer.
type reader struct {
	readers language.Readers
	buffer  []byte
}

func (w *walk) read(r *reader, p string, out *Tree) {
	raw, err := readFile(filepath.Join(w.root, filepath.FromSlash(p)), r.buffer)
	if err != nil {
		out.Unread = append(out.Unread, Left{p, reason(err)})
		return
	}
	const keep = 4 << 20 // one very large file must not hold its memory to the end
	if cap(raw) <= keep {
		r.buffer = raw[:0]
	}
	out.Bytes += int64(len(raw))
	const step = 16 << 20
	if n := w.bytes.Add(int64(len(raw))); w.o.Size != nil && n/step != (n-int64(len(raw)))/step {
		w.o.Size(n)
	}
	f := r.readers.Read(language.Of(p), p, raw)
	if f.Language == wiring.Language && len(f.Uses) == 0 {
		return // a file of data or settings that names nothing
	}
	out.Files = append(out.Files, f)
	if w.o.Done != nil {
		w.o.Done.Add(1)
	}
}

// Text returns the text of one file under root for showing it; nothing where
// it cannot be read.
func Text(root, p string) []byte {
	raw, err := readFile(filepath.Join(root, filepath.FromSlash(p)), nil)
	if err != nil {
		return nil
	}
	text, _ := source.Text(raw)
	return text
}

var errTooLarge = errors.New("larger than 1 GiB")

// reason words an error for people, without the path, which stands beside it.
func reason(err error) string {
	var pe *fs.PathError
	if errors.As(err, &pe) {
		err = pe.Err
	}
	if errors.Is(err, fs.ErrPermission) {
		return "permission denied"
	}
	return strings.TrimSpace(err.Error())
}
