// The compare script holds the file-to-file dependencies that Moat Line finds
// against those that a compiler resolves, and prints the figures and the first
// differences of each kind.
//
//	usage: compare PAIRS.tsv FACTS.csv
//
// PAIRS.tsv has a line "from TAB to" for each pair that the compiler resolves,
// "maybe TAB from TAB to" for each that it leaves open (a name that several
// files declare) and, for each file that it was given, a line "file TAB path". Dependencies
// of other files, and on files that the compiler never saw, are left aside.
package main

import (
	"bufio"
	"encoding/csv"
	"fmt"
	"io"
	"log"
	"os"
	"sort"
	"strings"
)

type pair struct{ from, to string }

func main() {
	log.SetFlags(0)
	if len(os.Args) != 3 {
		log.Fatal("usage: compare PAIRS.tsv FACTS.csv")
	}
	files := make(map[string]bool)
	want := make(map[pair]bool)
	maybe := make(map[pair]bool)
	known := make(map[string]bool) // files that the compiler saw at all
	in, err := os.Open(os.Args[1])
	if err != nil {
		log.Fatal(err)
	}
	for s := bufio.NewScanner(in); s.Scan(); {
		from, to, ok := strings.Cut(s.Text(), "\t")
		switch {
		case !ok:
		case from == "maybe":
			a, b, _ := strings.Cut(to, "\t")
			maybe[pair{a, b}] = true
		case from == "file":
			files[to] = true
			known[to] = true
		default:
			want[pair{from, to}] = true
			known[to] = true
		}
	}
	got := make(map[pair]string)
	facts, err := os.Open(os.Args[2])
	if err != nil {
		log.Fatal(err)
	}
	rows := csv.NewReader(bufio.NewReader(facts))
	for {
		r, err := rows.Read()
		if err == io.EOF {
			break
		}
		if err != nil {
			log.Fatal(err)
		}
		from, how, target, to := r[0], r[3], r[4], r[5]
		if target == "file" && how != "project" && how != "dynamic" && how != "wiring" && files[from] && known[to] && from != to {
			if k := (pair{from, to}); got[k] == "" {
				got[k] = r[1] + ":" + r[2] + " " + how + " " + r[6]
			}
		}
	}
	var missed, invented []string
	for k := range want {
		if _, ok := got[k]; !ok {
			missed = append(missed, "missed    "+k.from+" -> "+k.to)
		}
	}
	for k, how := range got {
		if !want[k] && !maybe[k] {
			invented = append(invented, "invented  "+k.from+":"+how+" -> "+k.to)
		}
	}
	found := len(want) - len(missed)
	fmt.Printf("files %d, dependencies %d, found %d (%.3f %%), missed %d, invented %d (%.3f %%)\n",
		len(files), len(want), found, percent(found, len(want)), len(missed), len(invented), percent(len(invented), len(want)))
	for _, list := range [][]string{missed, invented} {
		sort.Strings(list)
		for i, l := range list {
			if i == 40 {
				fmt.Printf("… and %d more\n", len(list)-i)
				break
			}
			fmt.Println(l)
		}
	}
}

func percent(n, of int) float64 {
	if of == 0 {
		return 0
	}
	return 100 * float64(n) / float64(of)
}
