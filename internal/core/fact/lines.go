package fact

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"strings"
)

// FormatVersion is the version of the facts' text form. A reader accepts no
// other.
const FormatVersion = 1

// Header is the first line of facts as JSON Lines.
type Header struct {
	Format  int    `json:"moatline-facts"`
	Program string `json:"program,omitempty"`
	Shard   string `json:"shard,omitempty"` // "2/5": the second of five parts of one tree
}

// The text form of a file's facts. Positions are [line, column]; a use's
// places are one flat list of lines and columns; flags are words.
type fileLine struct {
	File         string          `json:"file"`
	Language     string          `json:"language"`
	Package      string          `json:"package,omitempty"`
	PackageAt    *Place          `json:"package-at,omitempty"`
	Lines        int             `json:"lines"`
	Code         int             `json:"code"`
	Test         bool            `json:"test,omitempty"`
	Constraint   string          `json:"constraint,omitempty"`
	Imports      []importLine    `json:"imports,omitempty"`
	Exports      [][2]string     `json:"exports,omitempty"`
	Declares     []declLine      `json:"declares,omitempty"`
	Uses         []useLine       `json:"uses,omitempty"`
	Notes        []noteLine      `json:"notes,omitempty"`
	Manifest     *Manifest       `json:"manifest,omitempty"`
	Dependencies json.RawMessage `json:"dependencies,omitempty"`
}

type noteLine struct {
	At   Place  `json:"at"`
	Text string `json:"text"`
}

type importLine struct {
	Name   string   `json:"name"`
	Member string   `json:"member,omitempty"`
	Alias  string   `json:"alias,omitempty"`
	Kind   string   `json:"kind"`
	Flags  string   `json:"flags,omitempty"`
	Used   bool     `json:"used,omitempty"`
	Within int32    `json:"within,omitempty"`
	Show   []string `json:"show,omitempty"`
	Hide   []string `json:"hide,omitempty"`
	At     Place    `json:"at"`
}

type declLine struct {
	Name     string       `json:"name"`
	Receiver string       `json:"receiver,omitempty"`
	Kind     string       `json:"kind"`
	Flags    string       `json:"flags,omitempty"`
	Arity    uint8        `json:"arity,omitempty"`
	Outer    int32        `json:"outer"`
	At       Place        `json:"at"`
	Value    string       `json:"value,omitempty"`
	Supers   []int32      `json:"supers,omitempty"`
	Markers  []int32      `json:"markers,omitempty"`
	Members  []memberLine `json:"members,omitempty"`
}

type memberLine struct {
	Name    string  `json:"name"`
	Kind    string  `json:"kind"`
	Flags   string  `json:"flags,omitempty"`
	At      Place   `json:"at"`
	Uses    []int32 `json:"uses,omitempty"`
	Markers []int32 `json:"markers,omitempty"`
}

type useLine struct {
	Name   string   `json:"name"`
	Of     string   `json:"of,omitempty"`
	Scope  int32    `json:"scope"`
	Local  *int32   `json:"local,omitempty"`
	How    string   `json:"how"`
	Flags  string   `json:"flags,omitempty"`
	Places []uint32 `json:"places"`
}

// MarshalJSON writes a place as [line, column].
func (p Place) MarshalJSON() ([]byte, error) {
	return fmt.Appendf(nil, "[%d,%d]", p.Line, p.Column), nil
}

// UnmarshalJSON reads [line, column].
func (p *Place) UnmarshalJSON(b []byte) error {
	var v [2]uint32
	if err := json.Unmarshal(b, &v); err != nil {
		return err
	}
	p.Line, p.Column = v[0], v[1]
	return nil
}

var flagWords = []string{"public", "protected", "private", "static", "abstract", "final", "local", "anonymous", "default", "partial", "companion", "extension"}
var importFlagWords = []string{"type-only", "passed-on", "on-demand", "global", "guarded", "inner"}
var useFlagWords = []string{"ambiguous", "in-file", "key", "tag", "call", "value", "selected"}

func joinFlags(f uint16, words []string) string {
	var out []string
	for i, w := range words {
		if f>>i&1 == 1 {
			out = append(out, w)
		}
	}
	return strings.Join(out, " ")
}

func splitFlags(s string, words []string) (f uint16) {
	for _, w := range strings.Fields(s) {
		for i, v := range words {
			if v == w {
				f |= 1 << i
			}
		}
	}
	return f
}

func index(names []string, s, what string) (int, error) {
	for i, n := range names {
		if n == s {
			return i, nil
		}
	}
	return 0, fmt.Errorf("%q is no %s", s, what)
}

// Line returns the facts of one file as one line of JSON without its line end.
// dependencies, JSON of the caller's making, is carried along for other
// programs and not read back.
func Line(f *File, dependencies json.RawMessage) ([]byte, error) {
	l := fileLine{
		File: f.Path, Language: f.Language, Package: f.Package, Lines: f.Lines, Code: f.Code, Test: f.Test,
		Constraint: f.Constraint, Manifest: f.Manifest, Dependencies: dependencies,
	}
	if f.PackageAt != (Place{}) {
		l.PackageAt = &f.PackageAt
	}
	for _, i := range f.Imports {
		l.Imports = append(l.Imports, importLine{
			Name: i.Name, Member: i.Member, Alias: i.Alias, Kind: importKindNames[i.Kind], Flags: joinFlags(uint16(i.Flags), importFlagWords),
			Used: i.Used, Within: i.Within, Show: i.Show, Hide: i.Hide, At: i.At,
		})
	}
	for _, e := range f.Exports {
		l.Exports = append(l.Exports, [2]string{e.Name, e.Local})
	}
	for _, d := range f.Decls {
		k := declLine{Name: d.Name, Receiver: d.Receiver, Kind: d.Kind.String(), Flags: joinFlags(uint16(d.Flags), flagWords), Arity: d.Arity, Value: d.Value, Outer: d.Outer, At: d.At, Supers: d.Supers, Markers: d.Markers}
		for _, m := range d.Members {
			k.Members = append(k.Members, memberLine{m.Name, memberKindNames[m.Kind], joinFlags(uint16(m.Flags), flagWords), m.At, m.Uses, m.Markers})
		}
		l.Declares = append(l.Declares, k)
	}
	for i := range f.Uses {
		u := &f.Uses[i]
		k := useLine{Name: u.Name, Of: u.Of, Scope: u.Scope, How: u.How.String(), Flags: joinFlags(uint16(u.Flags), useFlagWords)}
		if u.Flags&InFile != 0 {
			k.Local = &u.Local
		}
		for _, p := range f.PlacesOf(u) {
			k.Places = append(k.Places, p.Line, p.Column)
		}
		l.Uses = append(l.Uses, k)
	}
	for _, n := range f.Notes {
		l.Notes = append(l.Notes, noteLine(n))
	}
	return json.Marshal(l)
}

// Scan reads facts as JSON Lines and calls each for every file. Errors name
// the line at which they were found.
func Scan(r io.Reader, each func(*File) error) (Header, error) {
	var h Header
	in := bufio.NewReaderSize(r, 1<<20)
	for n := 1; ; n++ {
		line, err := in.ReadBytes('\n')
		if err == io.EOF && len(line) == 0 {
			if n == 1 {
				return h, fmt.Errorf("line 1: no facts: the file is empty")
			}
			return h, nil
		}
		if err != nil && err != io.EOF {
			return h, err
		}
		if len(bytes.TrimSpace(line)) == 0 {
			continue
		}
		if n == 1 {
			if err := json.Unmarshal(line, &h); err != nil || h.Format == 0 {
				return h, fmt.Errorf("line 1: not facts of this program; write them with: moatline facts --format jsonl")
			}
			if h.Format != FormatVersion {
				return h, fmt.Errorf("line 1: facts of format %d; this version reads format %d: write them anew", h.Format, FormatVersion)
			}
			continue
		}
		f, err := parseLine(line)
		if err != nil {
			return h, fmt.Errorf("line %d: %w", n, err)
		}
		if err := each(f); err != nil {
			return h, err
		}
	}
}

func parseLine(line []byte) (*File, error) {
	var l fileLine
	if err := json.Unmarshal(line, &l); err != nil {
		return nil, fmt.Errorf("damaged facts: %w", err)
	}
	if l.File == "" || l.Language == "" {
		return nil, fmt.Errorf("damaged facts: a file without path or language")
	}
	f := &File{
		Path: l.File, Language: l.Language, Package: l.Package, Lines: l.Lines, Code: l.Code, Test: l.Test,
		Constraint: l.Constraint, Manifest: l.Manifest,
	}
	if l.PackageAt != nil {
		f.PackageAt = *l.PackageAt
	}
	for _, i := range l.Imports {
		k, err := index(importKindNames[:], i.Kind, "kind of import")
		if err != nil {
			return nil, err
		}
		if i.Within < 0 || int(i.Within) > len(l.Declares) {
			return nil, fmt.Errorf("damaged facts: import of %q in a scope that is not there", i.Name)
		}
		f.Imports = append(f.Imports, Import{
			Name: i.Name, Member: i.Member, Alias: i.Alias, Kind: ImportKind(k), Flags: ImportFlags(splitFlags(i.Flags, importFlagWords)),
			Used: i.Used, Within: i.Within, Show: i.Show, Hide: i.Hide, At: i.At,
		})
	}
	for _, e := range l.Exports {
		f.Exports = append(f.Exports, Export{Name: e[0], Local: e[1]})
	}
	for _, u := range l.Uses {
		how, ok := ParseHow(u.How)
		if !ok || len(u.Places)%2 != 0 || len(u.Places) == 0 {
			return nil, fmt.Errorf("damaged facts: use of %q", u.Name)
		}
		k := Use{Name: u.Name, Of: u.Of, Scope: u.Scope, Local: -1, How: how, Flags: UseFlags(splitFlags(u.Flags, useFlagWords)),
			First: int32(len(f.Places)), Count: int32(len(u.Places) / 2)}
		if u.Local != nil {
			k.Local = *u.Local
		}
		if int(k.Scope) >= len(l.Declares) || int(k.Local) >= len(l.Declares) || k.Flags&InFile != 0 && k.Local < 0 {
			return nil, fmt.Errorf("damaged facts: use of %q in a scope that is not there", u.Name)
		}
		for i := 0; i < len(u.Places); i += 2 {
			f.Places = append(f.Places, Place{u.Places[i], u.Places[i+1]})
		}
		f.Uses = append(f.Uses, k)
	}
	for n, d := range l.Declares {
		k, err := index(declKindNames[:], d.Kind, "kind of declaration")
		if err != nil {
			return nil, err
		}
		if int(d.Outer) >= n || !inRange(d.Supers, len(f.Uses)) || !inRange(d.Markers, len(f.Uses)) {
			return nil, fmt.Errorf("damaged facts: declaration of %q", d.Name)
		}
		to := Decl{Name: d.Name, Receiver: d.Receiver, Kind: DeclKind(k), Flags: Flags(splitFlags(d.Flags, flagWords)), Arity: d.Arity, Value: d.Value, Outer: d.Outer, At: d.At, Supers: d.Supers, Markers: d.Markers}
		for _, m := range d.Members {
			mk, err := index(memberKindNames[:], m.Kind, "kind of member")
			if err != nil {
				return nil, err
			}
			if !inRange(m.Uses, len(f.Uses)) || !inRange(m.Markers, len(f.Uses)) {
				return nil, fmt.Errorf("damaged facts: member %q", m.Name)
			}
			to.Members = append(to.Members, Member{m.Name, MemberKind(mk), Flags(splitFlags(m.Flags, flagWords)), m.At, m.Uses, m.Markers})
		}
		f.Decls = append(f.Decls, to)
	}
	for _, n := range l.Notes {
		f.Notes = append(f.Notes, Note(n))
	}
	return f, nil
}

func inRange(list []int32, n int) bool {
	for _, i := range list {
		if i < 0 || int(i) >= n {
			return false
		}
	}
	return true
}
