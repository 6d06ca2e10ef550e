// Package data writes results for other programs: CSV, JSON and JSON Lines.
package data

import (
	"io"
	"strconv"
	"sync"

	"moatline/internal/core/fact"
	"moatline/internal/core/graph"
)

// FactsHeader is the first line of the facts as CSV.
const FactsHeader = "from,line,column,how,target,to,name,count\n"

// FactsCSV writes a row for each file, thing used and way of using it, at its
// first place, or with every place a row of its own: RFC 4180 with "\n" as the
// line end, sorted by file, line and column. Files for which keep is false are
// left out. At most jobs goroutines format.
func FactsCSV(w io.Writer, g *graph.Graph, places bool, jobs int) error {
	if _, err := io.WriteString(w, FactsHeader); err != nil {
		return err
	}
	return inOrder(w, len(g.Files), jobs, func(b []byte, i int) []byte {
		from := quoted(nil, g.Files[i].Path)
		deps := g.Deps(i)
		if !places {
			for k := range deps {
				d := &deps[k]
				b = factRow(b, g, from, d, g.Places(i, d)[0], int(d.Count))
			}
			return b
		}
		for _, r := range everyPlace(g, i) {
			b = factRow(b, g, from, &deps[r.dep], r.at, 1)
		}
		return b
	})
}

func factRow(b []byte, g *graph.Graph, from []byte, d *graph.Dep, at fact.Place, count int) []byte {
	b = append(b, from...)
	b = append(b, ',')
	b = strconv.AppendUint(b, uint64(at.Line), 10)
	b = append(b, ',')
	b = strconv.AppendUint(b, uint64(at.Column), 10)
	b = append(b, ',')
	b = append(b, d.How.String()...)
	b = append(b, ',')
	b = append(b, d.Target.String()...)
	b = append(b, ',')
	b = quoted(b, g.ToText(d))
	b = append(b, ',')
	b = quoted(b, d.Name)
	b = append(b, ',')
	b = strconv.AppendInt(b, int64(count), 10)
	return append(b, '\n')
}

type placed struct {
	dep int
	at  fact.Place
}

// quoted appends a CSV field (RFC 4180 §2), in quotes where it needs them.
func quoted(b []byte, s string) []byte {
	plain := true
	for i := 0; i < len(s); i++ {
		if c := s[i]; c == ',' || c == '"' || c == '\n' || c == '\r' {
			plain = false
			break
		}
	}
	if plain {
		return append(b, s...)
	}
	b = append(b, '"')
	for i := 0; i < len(s); i++ {
		if s[i] == '"' {
			b = append(b, '"')
		}
		b = append(b, s[i])
	}
	return append(b, '"')
}

// inOrder formats n items on several goroutines and writes them in order.
func inOrder(w io.Writer, n, jobs int, format func(b []byte, i int) []byte) error {
	const chunk = 128
	jobs = max(1, jobs)
	type part struct {
		from int
		b    []byte
	}
	chunks := (n + chunk - 1) / chunk
	buffers := make(chan []byte, 2*jobs)
	for range 2 * jobs {
		buffers <- nil
	}
	todo := make(chan int, 2*jobs)
	done := make(chan part, 2*jobs)
	stop := make(chan struct{})
	var wg sync.WaitGroup
	for range jobs {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for {
				// The buffer first: whoever takes the next chunk must be able
				// to finish it, or all buffers could wait behind it.
				b := (<-buffers)[:0]
				c, ok := <-todo
				if !ok {
					buffers <- b
					return
				}
				for i := c * chunk; i < min(n, (c+1)*chunk); i++ {
					b = format(b, i)
				}
				done <- part{c, b}
			}
		}()
	}
	go func() {
		defer close(todo)
		for c := range chunks {
			select {
			case todo <- c:
			case <-stop:
				return
			}
		}
	}()
	go func() { wg.Wait(); close(done) }()

	var failed error
	waiting := make(map[int][]byte)
	next := 0
	for p := range done {
		waiting[p.from] = p.b
		for {
			b, ok := waiting[next]
			if !ok {
				break
			}
			delete(waiting, next)
			if failed == nil {
				if _, err := w.Write(b); err != nil {
					failed = err
					close(stop)
				}
			}
			buffers <- b
			next++
		}
	}
	return failed
}
