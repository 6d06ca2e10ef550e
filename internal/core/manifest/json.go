package manifest

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/lexis"
)

// value is a JSON value with its offset in the text.
type value struct {
	at   int
	text string // of a string, number or word
	kind byte   // '{', '[', '"' or 0
	keys []value
	list []*value // of an array, or beside keys
}

// get returns the value of a key of an object, or nil.
func (v *value) get(key string) *value {
	if v == nil || v.kind != '{' {
		return nil
	}
	for i := range v.keys {
		if v.keys[i].text == key {
			return v.list[i]
		}
	}
	return nil
}

// str returns the text of a string, or "".
func (v *value) str() string {
	if v == nil || v.kind != '"' {
		return ""
	}
	return v.text
}

// leaves returns all strings below v, in order.
func (v *value) leaves() (out []string) {
	if v == nil {
		return nil
	}
	if v.kind == '"' {
		return []string{v.text}
	}
	for _, x := range v.list {
		out = append(out, x.leaves()...)
	}
	return out
}

// document is the text of a build file, for places in it.
type document struct {
	lexis.Text
}

func newDocument(text []byte) *document {
	d := new(document)
	d.Reset(text)
	return d
}

// place returns the place of an offset.
func (d *document) place(at int) fact.Place { return d.Place(min(max(at, 0), d.End)) }

// readJSON reads JSON, with the comments and trailing commas that the
// configuration files of TypeScript and others may have (RFC 8259).
func (d *document) readJSON() (*value, error) {
	text := plainJSON(d.Src[:d.End])
	dec := json.NewDecoder(bytes.NewReader(text))
	dec.UseNumber()
	v, err := d.value(dec, text, 0)
	if err == io.EOF {
		err = fmt.Errorf("the file is empty")
	}
	return v, err
}

func (d *document) value(dec *json.Decoder, text []byte, depth int) (*value, error) {
	at := int(dec.InputOffset())
	for at < len(text) && (text[at] <= ' ' || text[at] == ',' || text[at] == ':') {
		at++
	}
	t, err := dec.Token()
	if err != nil {
		return nil, err
	}
	if depth > 200 {
		return nil, fmt.Errorf("nested too deeply")
	}
	v := &value{at: at}
	switch t := t.(type) {
	case json.Delim:
		v.kind = byte(t)
		for dec.More() {
			if t == '{' {
				key, err := d.value(dec, text, depth+1)
				if err != nil {
					return v, err
				}
				v.keys = append(v.keys, *key)
			}
			x, err := d.value(dec, text, depth+1)
			if x != nil {
				v.list = append(v.list, x)
			}
			if err != nil {
				v.keys = v.keys[:min(len(v.keys), len(v.list))]
				return v, err
			}
		}
		_, err = dec.Token()
		return v, err
	case string:
		v.kind, v.text = '"', t
	default:
		v.text = fmt.Sprint(t)
	}
	return v, nil
}

// plainJSON blanks comments and trailing commas, so that offsets stay.
func plainJSON(text []byte) []byte {
	out := bytes.Clone(text)
	comma := -1
	for i := 0; i < len(out); i++ {
		switch c := out[i]; {
		case c == '"':
			for i++; i < len(out) && out[i] != '"' && out[i] != '\n'; i++ {
				if out[i] == '\\' {
					i++
				}
			}
			comma = -1
		case c == '/' && i+1 < len(out) && out[i+1] == '/':
			for ; i < len(out) && out[i] != '\n'; i++ {
				out[i] = ' '
			}
		case c == '/' && i+1 < len(out) && out[i+1] == '*':
			stop := bytes.Index(out[i+2:], []byte("*/"))
			if stop < 0 {
				stop = len(out) - i - 4
			}
			for k := i; k < i+stop+4 && k < len(out); k++ {
				if out[k] != '\n' {
					out[k] = ' '
				}
			}
			i += max(0, stop) + 3
		case c == ',':
			comma = i
		case c == '}' || c == ']':
			if comma >= 0 {
				out[comma] = ' '
			}
			comma = -1
		case c > ' ':
			comma = -1
		}
	}
	return out
}
