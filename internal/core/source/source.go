// Package source turns the bytes of a file into text: UTF-8 without a byte
// order mark, lines ended by "\n" or "\r\n".
package source

import (
	"bytes"
	"encoding/binary"
	"unicode/utf16"
	"unicode/utf8"
)

// Text decodes raw. Plain UTF-8 is returned as it is, without a copy. Byte
// order marks tell UTF-8 and UTF-16; UTF-16 without one is told by its zero
// bytes; what is not valid UTF-8 is taken for Latin-1. A carriage return alone
// becomes a line feed. ok is false for what is no text at all.
func Text(raw []byte) (text []byte, ok bool) {
	switch {
	case bytes.HasPrefix(raw, []byte{0xEF, 0xBB, 0xBF}):
		raw = raw[3:]
	case bytes.HasPrefix(raw, []byte{0xFF, 0xFE}):
		raw = fromUTF16(raw[2:], binary.LittleEndian)
	case bytes.HasPrefix(raw, []byte{0xFE, 0xFF}):
		raw = fromUTF16(raw[2:], binary.BigEndian)
	default:
		head := raw[:min(len(raw), 4096)]
		if bytes.IndexByte(head, 0) >= 0 {
			if order := utf16Order(head); order != nil {
				raw = fromUTF16(raw, order)
			} else if binaryData(head) {
				return nil, false
			}
		}
	}
	if !ASCII(raw) && !utf8.Valid(raw) {
		if binaryData(raw[:min(len(raw), 4096)]) {
			return nil, false
		}
		raw = fromLatin1(raw)
	}
	return loneReturns(raw), true
}

// ASCII reports whether all of b is plain ASCII.
func ASCII(b []byte) bool {
	const high = 0x8080808080808080
	for len(b) >= 32 {
		if (binary.LittleEndian.Uint64(b)|binary.LittleEndian.Uint64(b[8:])|
			binary.LittleEndian.Uint64(b[16:])|binary.LittleEndian.Uint64(b[24:]))&high != 0 {
			return false
		}
		b = b[32:]
	}
	for _, c := range b {
		if c >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

// utf16Order tells text that has a zero in every second byte, as UTF-16 does
// with any Western text in it.
func utf16Order(head []byte) binary.ByteOrder {
	if len(head) < 4 {
		return nil
	}
	var even, odd int
	for i, c := range head {
		if c != 0 {
			continue
		}
		if i%2 == 0 {
			even++
		} else {
			odd++
		}
	}
	most := len(head) / 2
	switch {
	case odd*10 > most*7 && even*10 < most:
		return binary.LittleEndian
	case even*10 > most*7 && odd*10 < most:
		return binary.BigEndian
	}
	return nil
}

// binaryData tells bytes that no encoding of text explains.
func binaryData(head []byte) bool {
	control := 0
	for _, c := range head {
		if c < ' ' && c != '\t' && c != '\n' && c != '\r' && c != '\f' && c != 0x1B {
			control++
		}
	}
	return control*10 > len(head)
}

func fromUTF16(b []byte, order binary.ByteOrder) []byte {
	units := make([]uint16, len(b)/2)
	for i := range units {
		units[i] = order.Uint16(b[2*i:])
	}
	return []byte(string(utf16.Decode(units)))
}

func fromLatin1(b []byte) []byte {
	out := make([]byte, 0, len(b)+len(b)/8+64)
	for _, c := range b {
		out = utf8.AppendRune(out, rune(c))
	}
	return out
}

// loneReturns makes line feeds of carriage returns that stand alone.
func loneReturns(b []byte) []byte {
	for i := 0; i < len(b); {
		n := bytes.IndexByte(b[i:], '\r')
		if n < 0 {
			return b
		}
		i += n + 1
		if i < len(b) && b[i] == '\n' {
			continue
		}
		out := bytes.Clone(b)
		for k, c := range out {
			if c == '\r' && (k+1 == len(out) || out[k+1] != '\n') {
				out[k] = '\n'
			}
		}
		return out
	}
	return b
}
