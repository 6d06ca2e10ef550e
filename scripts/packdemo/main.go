// The packdemo script packs a folder into a txtar archive. Go modules cannot
// be embedded as folders, so the Go demo is embedded as an archive.
//
//	usage: packdemo FOLDER ARCHIVE
package main

import (
	"io/fs"
	"log"
	"os"
	"path/filepath"

	"golang.org/x/tools/txtar"
)

func main() {
	log.SetFlags(0)
	folder, archive := os.Args[1], os.Args[2]
	a := &txtar.Archive{Comment: []byte("The Go demo; made from the folder of the same name by go generate.\n")}
	err := filepath.WalkDir(folder, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := os.ReadFile(p)
		if err != nil {
			return err
		}
		rel, err := filepath.Rel(folder, p)
		a.Files = append(a.Files, txtar.File{Name: filepath.ToSlash(rel), Data: data})
		return err
	})
	if err != nil {
		log.Fatal(err)
	}
	if err := os.WriteFile(archive, txtar.Format(a), 0o644); err != nil {
		log.Fatal(err)
	}
}
