package manifest

import (
	"bytes"
	"encoding/xml"
	"io"
	"strings"

	"moatline/internal/core/fact"
)

// element is one element of an XML build file, told when it ends.
type element struct {
	path  []string // names of the elements around it and its own
	attrs map[string]string
	text  string // its own text, trimmed
	at    fact.Place
}

func (e *element) name() string { return e.path[len(e.path)-1] }

// parent is the name of the element around it, or "".
func (e *element) parent() string {
	if len(e.path) < 2 {
		return ""
	}
	return e.path[len(e.path)-2]
}

// walkXML calls each for every element of text, when it ends. What comes
// before damage counts. Entities other than XML's own are not expanded.
func walkXML(text []byte, note note, each func(*element)) {
	d := xml.NewDecoder(bytes.NewReader(text))
	d.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil } // decoded already
	doc := newDocument(text)
	type open struct {
		attrs map[string]string
		at    fact.Place
		chars []byte
	}
	var stack []open
	var path []string
	for {
		before := int(d.InputOffset())
		tok, err := d.RawToken()
		if err == io.EOF {
			if len(path) > 0 {
				note(doc.place(len(text)), "the file ends inside <"+path[len(path)-1]+">; what came before counts")
			}
			return
		}
		if err != nil {
			note(doc.place(int(d.InputOffset())), "not well-formed XML: "+xmlMessage(err)+"; what came before counts")
			return
		}
		switch t := tok.(type) {
		case xml.StartElement:
			if len(path) > 200 {
				note(doc.place(before), "elements nest too deeply; the rest is not read")
				return
			}
			o := open{at: doc.place(before)}
			if len(t.Attr) > 0 {
				o.attrs = make(map[string]string, len(t.Attr))
				for _, a := range t.Attr {
					o.attrs[a.Name.Local] = a.Value
				}
			}
			path = append(path, t.Name.Local)
			stack = append(stack, o)
		case xml.CharData:
			if n := len(stack); n > 0 {
				stack[n-1].chars = append(stack[n-1].chars, t...)
			}
		case xml.EndElement:
			n := len(stack) - 1
			if n < 0 || path[n] != t.Name.Local {
				note(doc.place(before), "</"+t.Name.Local+"> closes nothing that is open; what came before counts")
				return
			}
			each(&element{path, stack[n].attrs, strings.TrimSpace(string(stack[n].chars)), stack[n].at})
			path, stack = path[:n], stack[:n]
		}
	}
}
