//go:build unix

// The bench script compares "moatline facts" with cat of the same files into
// /dev/null, both with the files in memory, for the whole of each tree and for
// a half and a quarter of it.
//
//	usage: bench [-runs N] TREE...
//
// It prints, for each, the shortest wall times, their ratio, the processor time
// and the peak memory of that run. The runs of the two alternate, and the
// shortest of many is what the machine can do: the rest is what else it did.
package main

import (
	"flag"
	"fmt"
	"hash/fnv"
	"io"
	"log"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"
	"syscall"
	"time"

	"moatline/internal/access/tree"
)

type sample struct {
	wall, cpu time.Duration
	memory    int64 // bytes
}

func main() {
	log.SetFlags(0)
	runs := flag.Int("runs", 15, "runs of each command")
	list := flag.Bool("list", false, "only list the files that are read")
	flag.Parse()
	if *list {
		listFiles(flag.Arg(0))
		return
	}
	work, err := os.MkdirTemp("", "bench")
	if err != nil {
		log.Fatal(err)
	}
	defer os.RemoveAll(work)
	program := filepath.Join(work, "moatline")
	build := exec.Command("go", "build", "-o", program, "./cmd/moatline")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		log.Fatalf("%v\n%s", err, out)
	}
	fmt.Println("| tree | files | MB | cat | moatline facts | ratio | processor time | peak memory | of the source |")
	fmt.Println("|---|---|---|---|---|---|---|---|---|")
	for _, root := range flag.Args() {
		// In a process of its own: the peak memory of a command counts that
		// of the process that started it.
		self, err := os.Executable()
		if err != nil {
			log.Fatal(err)
		}
		listed, err := exec.Command(self, "-list", root).Output()
		if err != nil {
			log.Fatal(err)
		}
		paths := strings.Split(strings.TrimSuffix(string(listed), "\x00"), "\x00")
		for _, part := range []struct {
			name string
			of   uint32
		}{{"a quarter", 4}, {"a half", 2}, {"all", 1}} {
			folder, files, size := root, 0, int64(0)
			if part.of > 1 {
				folder = filepath.Join(work, "part")
				os.RemoveAll(folder)
			}
			var names strings.Builder
			for _, path := range paths {
				h := fnv.New32a()
				io.WriteString(h, path)
				if h.Sum32()%part.of != 0 {
					continue
				}
				from := filepath.Join(root, filepath.FromSlash(path))
				if part.of > 1 {
					if err := copyFile(from, filepath.Join(folder, filepath.FromSlash(path))); err != nil {
						log.Fatal(err)
					}
				}
				if info, err := os.Stat(from); err == nil {
					size += info.Size()
				}
				files++
				names.WriteString(path + "\x00")
			}
			file := filepath.Join(work, "names")
			if err := os.WriteFile(file, []byte(names.String()), 0o644); err != nil {
				log.Fatal(err)
			}
			var cats, ours []sample
			for i := range *runs + 1 {
				a := run(folder, "sh", "-c", "xargs -0 cat < "+file+" > /dev/null")
				b := run(folder, program, "facts", "--quiet", "--output", "/dev/null", ".")
				if i > 0 { // the first fills the page cache
					cats, ours = append(cats, a), append(ours, b)
				}
			}
			a, b := shortest(cats), shortest(ours)
			fmt.Printf("| %s, %s | %d | %.1f | %.3f s | %.3f s | %.2f | %.3f s | %.0f MB | %.2f × |\n",
				filepath.Base(root), part.name, files, float64(size)/1e6, a.wall.Seconds(), b.wall.Seconds(),
				b.wall.Seconds()/a.wall.Seconds(), b.cpu.Seconds(), float64(b.memory)/1e6, float64(b.memory)/float64(size))
		}
	}
}

// listFiles writes the files that the program reads, each ended by a zero.
func listFiles(root string) {
	t, err := tree.Read(root, tree.Options{})
	if err != nil {
		log.Fatal(err)
	}
	for _, f := range t.Files {
		fmt.Print(f.Path, "\x00")
	}
}

func copyFile(from, to string) error {
	data, err := os.ReadFile(from)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
		return err
	}
	return os.WriteFile(to, data, 0o644)
}

func run(dir, name string, args ...string) sample {
	cmd := exec.Command(name, args...)
	cmd.Dir = dir
	start := time.Now()
	if err := cmd.Run(); err != nil {
		log.Fatalf("%s %v: %v", name, args, err)
	}
	s := sample{wall: time.Since(start), cpu: cmd.ProcessState.UserTime() + cmd.ProcessState.SystemTime()}
	if u, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok {
		s.memory = int64(u.Maxrss) * 1024
	}
	return s
}

func shortest(s []sample) sample {
	sort.Slice(s, func(i, j int) bool { return s[i].wall < s[j].wall })
	return s[0]
}
