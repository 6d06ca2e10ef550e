package wiring

import (
	"testing"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader { return NewReader(fact.NewBuilder()) }

// Only whole names that may be a type's are kept.
func TestNames(t *testing.T) {
	readertest.Cases(t, fresh(), "a.yaml", [][2]string{
		{"bean: quay.store.Rows\nother: quay.store.Rows.", "quay.store.Rows wiring x2"},
		{`<bean class="quay.Berth$Side"/> see quay.Tide, or (quay.Tide)`, "quay.Berth$Side wiring, quay.Tide wiring x2"},
		// The backslashes of JSON are undone where names are looked up.
		{`"Quay\\Store\\Rows" 3.14 ... $ + a`, "Quay\\\\Store\\\\Rows wiring"},
	})
}

func TestDamaged(t *testing.T) {
	readertest.Damaged(t, fresh(), "a.xml", `<bean class="quay.store.Rows"><list>quay.Tide</list>`)
}

func TestLarge(t *testing.T) { readertest.Large(t, fresh(), "a.json", "") }

func FuzzRead(f *testing.F) {
	readertest.Fuzz(f, fresh, "a.xml", "quay.store.Rows", `Quay\\Rows`, "a$b+c.D", "é.quay.Tide", "....", "A.b.c+")
}
