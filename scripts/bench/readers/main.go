// The readers script measures how fast each reader reads real files on one
// processor, with the files in memory: facts alone, without walking or linking.
//
//	usage: go run ./scripts/bench/readers TREE...
package main

import (
	"fmt"
	"io/fs"
	"log"
	"os"
	"path/filepath"
	"runtime"
	"sort"
	"time"

	"moatline/internal/core/language"
)

type file struct {
	path string
	text []byte
}

func main() {
	log.SetFlags(0)
	runtime.GOMAXPROCS(1)
	files := make(map[string][]file)
	for _, root := range os.Args[1:] {
		err := filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
			if err != nil || !d.Type().IsRegular() {
				return err
			}
			if l := language.Of(p); l != "" {
				text, err := os.ReadFile(p)
				if err != nil {
					return err
				}
				files[l] = append(files[l], file{p, text})
			}
			return nil
		})
		if err != nil {
			log.Fatal(err)
		}
	}
	var names []string
	for l := range files {
		names = append(names, l)
	}
	sort.Strings(names)
	for _, l := range names {
		size := 0
		for _, f := range files[l] {
			size += len(f.text)
		}
		best := time.Duration(0)
		for range 5 {
			r := language.NewReaders()
			start := time.Now()
			for _, f := range files[l] {
				r.Read(l, f.path, f.text)
			}
			if d := time.Since(start); best == 0 || d < best {
				best = d
			}
		}
		fmt.Printf("%-14s %6d files %8.1f MB %7.0f MB/s\n", l, len(files[l]), float64(size)/1e6, float64(size)/1e6/best.Seconds())
	}
}
