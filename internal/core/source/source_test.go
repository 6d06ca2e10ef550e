package source

import (
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
)

func TestText(t *testing.T) {
	for name, c := range map[string]struct {
		raw, want string
		ok        bool
	}{
		"plain":           {"class A { }\n", "class A { }\n", true},
		"empty":           {"", "", true},
		"utf-8":           {"ünï ⚓", "ünï ⚓", true},
		"utf-8 mark":      {"\xEF\xBB\xBFa", "a", true},
		"utf-16 le mark":  {"\xFF\xFEa\x00\xFC\x00", "aü", true},
		"utf-16 be mark":  {"\xFE\xFF\x00a\x00\xFC", "aü", true},
		"utf-16 le plain": {"c\x00l\x00a\x00s\x00s\x00 \x00A\x00", "class A", true},
		"utf-16 be plain": {"\x00c\x00l\x00a\x00s\x00s\x00 \x00A", "class A", true},
		"latin-1":         {"caf\xE9 \xFC", "café ü", true},
		"crlf":            {"a\r\nb\r\n", "a\r\nb\r\n", true},
		"lone returns":    {"a\rb\r\nc\r", "a\nb\r\nc\n", true},
		"a few zeros":     {"class A {\x00 int x; } // and some more text behind it", "class A {\x00 int x; } // and some more text behind it", true},
		"binary":          {"\x7fELF\x01\x02\x03\x00\x00\x05\x06\x07\x08\x0e", "", false},
		"binary high":     {"\xff\x00\x01\x02\x03\x80\x81\x04\x05\x06", "", false},
	} {
		got, ok := Text([]byte(c.raw))
		assert.Equal(t, c.ok, ok, name)
		assert.Equal(t, c.want, string(got), name)
	}
}

func TestASCII(t *testing.T) {
	long := make([]byte, 100)
	assert.True(t, ASCII(long))
	for i := range long {
		long[i] = 0x80
		assert.False(t, ASCII(long), "byte %d", i)
		long[i] = 'a'
	}
	assert.True(t, ASCII(nil))
}

func FuzzText(f *testing.F) {
	f.Add([]byte("\xFF\xFEa"))
	f.Add([]byte("a\r"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		got, ok := Text(raw)
		if ok && !utf8.Valid(got) {
			t.Errorf("%q is no UTF-8", got)
		}
	})
}
