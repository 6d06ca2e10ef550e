package fact

import (
	"encoding/binary"
	"math/bits"
	"unsafe"
)

// Builder gathers the facts of one file after another. A reader's worker keeps
// one Builder for all its files: names are interned, equal uses are merged,
// and what a file keeps is carved from large blocks, so that reading allocates
// next to nothing per name. A Builder is not safe for concurrent use.
type Builder struct {
	names  []string // interned, in the order in which they came
	hashes []uint32
	slots  []int32 // open addressing over names; index+1, 0 is empty

	decls   []Decl
	imports []Import
	uses    []pendingUse
	table   []int32 // open addressing over uses; index+1, 0 is empty
	spots   []spot
	notes   []Note

	declBlock   []Decl
	importBlock []Import
	useBlock    []Use
	placeBlock  []Place
	intBlock    []int32
	memberBlock []Member
	nameBlock   []byte
}

type pendingUse struct {
	Use
	hash uint64
	dead bool
}

type spot struct {
	use int32
	at  Place
}

// NewBuilder returns an empty Builder.
func NewBuilder() *Builder {
	return &Builder{slots: make([]int32, 1<<15), table: make([]int32, 1024)}
}

// Reset forgets the file at hand and keeps the interned names.
func (b *Builder) Reset() {
	b.decls = b.decls[:0]
	b.imports = b.imports[:0]
	b.uses = b.uses[:0]
	b.spots = b.spots[:0]
	b.notes = nil
	if len(b.table) > 4096 {
		b.table = make([]int32, 1024) // a large file came before
	}
	clear(b.table)
}

// Intern returns name as a string, the same one for equal bytes.
func (b *Builder) Intern(name []byte) string { return b.intern(name, Hash(name)) }

func (b *Builder) intern(name []byte, h uint64) string {
	h32 := uint32(h>>32 ^ h)
	mask := uint32(len(b.slots) - 1)
	i := h32 & mask
	for {
		n := b.slots[i]
		if n == 0 {
			break
		}
		if b.hashes[n-1] == h32 && b.names[n-1] == string(name) {
			return b.names[n-1]
		}
		i = (i + 1) & mask
	}
	s := string(name)
	b.names = append(b.names, s)
	b.hashes = append(b.hashes, h32)
	b.slots[i] = int32(len(b.names))
	if len(b.names)*2 > len(b.slots) {
		b.slots = make([]int32, 4*len(b.slots))
		mask = uint32(len(b.slots) - 1)
		for n, h := range b.hashes {
			i := h & mask
			for b.slots[i] != 0 {
				i = (i + 1) & mask
			}
			b.slots[i] = int32(n + 1)
		}
	}
	return s
}

// Text returns name as a string of its own, for names that are seldom met
// twice, such as members': keeping a copy costs less than looking it up.
func (b *Builder) Text(name []byte) string {
	if cap(b.nameBlock)-len(b.nameBlock) < len(name) {
		b.nameBlock = make([]byte, 0, max(1<<16, len(name)))
	}
	if len(name) == 0 {
		return ""
	}
	from := len(b.nameBlock)
	b.nameBlock = append(b.nameBlock, name...)
	// The block only ever grows behind what was handed out.
	return unsafe.String(&b.nameBlock[from], len(name))
}

// Note records that something at the given place could not be read.
func (b *Builder) Note(at Place, text string) {
	const most = 20 // a damaged file does not need a note a line
	if len(b.notes) < most {
		b.notes = append(b.notes, Note{at, text})
	}
}

// Import adds an import and returns its index.
func (b *Builder) Import(i Import) int32 {
	b.imports = append(b.imports, i)
	return int32(len(b.imports) - 1)
}

// NumImports returns how many imports the file has so far.
func (b *Builder) NumImports() int { return len(b.imports) }

// MarkUsed notes that the file uses a name which import i brings in.
func (b *Builder) MarkUsed(i int32) { b.imports[i].Used = true }

// Declare adds a declaration and returns its index.
func (b *Builder) Declare(d Decl) int32 {
	b.decls = append(b.decls, d)
	return int32(len(b.decls) - 1)
}

// Decl returns declaration i, for additions while the file is being read. The
// pointer is good until the next call of Declare.
func (b *Builder) Decl(i int32) *Decl { return &b.decls[i] }

// NumDecls returns how many declarations the file has so far.
func (b *Builder) NumDecls() int { return len(b.decls) }

// NumUses returns how many different uses the file has so far.
func (b *Builder) NumUses() int { return len(b.uses) }

// UseAt returns use i and whether it still counts.
func (b *Builder) UseAt(i int32) (Use, bool) { return b.uses[i].Use, !b.uses[i].dead }

// Drop takes use i away again, with all its places.
func (b *Builder) Drop(i int32) { b.uses[i].dead = true }

// Hash returns a hash of name for [Builder.Use].
func Hash(name []byte) uint64 {
	const k = 0x9E3779B97F4A7C15
	h := uint64(len(name)) * k
	for len(name) >= 8 {
		h = bits.RotateLeft64((h^binary.LittleEndian.Uint64(name))*k, 29)
		name = name[8:]
	}
	var tail uint64
	for i, c := range name {
		tail |= uint64(c) << (8 * i)
	}
	h = (h ^ tail) * k
	return h ^ h>>32
}

// Use records that name is used at a place and returns the use's index. Equal
// uses (same name, scope, way and qualifications) share one index.
func (b *Builder) Use(name []byte, u Use, at Place) int32 {
	own := Hash(name)
	h := own ^ uint64(uint32(u.Scope))*0xD6E8FEB86659FD93 ^ uint64(u.How)<<40 ^ uint64(u.Flags)<<48
	mask := uint64(len(b.table) - 1)
	i := (h ^ h>>29) & mask
	for {
		n := b.table[i]
		if n == 0 {
			break
		}
		p := &b.uses[n-1]
		if p.hash == h && p.Scope == u.Scope && p.How == u.How && p.Flags == u.Flags &&
			p.Local == u.Local && p.Of == u.Of && p.Name == string(name) {
			b.spots = append(b.spots, spot{n - 1, at})
			return n - 1
		}
		i = (i + 1) & mask
	}
	u.Name = b.intern(name, own)
	b.uses = append(b.uses, pendingUse{Use: u, hash: h})
	n := int32(len(b.uses))
	b.table[i] = n
	b.spots = append(b.spots, spot{n - 1, at})
	if len(b.uses)*2 > len(b.table) {
		b.grow()
	}
	return n - 1
}

// Repeat records that use i, of the same name, is used again at a place, if it
// is the same in every other way as well.
func (b *Builder) Repeat(i int32, u *Use, at Place) bool {
	p := &b.uses[i]
	if p.Scope != u.Scope || p.How != u.How || p.Flags != u.Flags || p.Local != u.Local || p.Of != u.Of {
		return false
	}
	b.spots = append(b.spots, spot{i, at})
	return true
}

// Unsay takes the last place back that was recorded, and keeps its use: for
// readers that need to know a use before they come to its place. A use that no
// place is recorded of in the end is dropped.
func (b *Builder) Unsay() { b.spots = b.spots[:len(b.spots)-1] }

func (b *Builder) grow() {
	b.table = make([]int32, 2*len(b.table))
	mask := uint64(len(b.table) - 1)
	for n := range b.uses {
		h := b.uses[n].hash
		i := (h ^ h>>29) & mask
		for b.table[i] != 0 {
			i = (i + 1) & mask
		}
		b.table[i] = int32(n + 1)
	}
}

// Ints keeps a copy of list in the builder's blocks.
func (b *Builder) Ints(list []int32) []int32 { return carve(&b.intBlock, list, 16384) }

// Members keeps a copy of list in the builder's blocks.
func (b *Builder) Members(list []Member) []Member { return carve(&b.memberBlock, list, 1024) }

// carve copies list to the end of *block, starting a new block where it is full.
func carve[T any](block *[]T, list []T, size int) []T {
	if len(list) == 0 {
		return nil
	}
	if cap(*block)-len(*block) < len(list) {
		*block = make([]T, 0, max(size, len(list)))
	}
	from := len(*block)
	*block = append(*block, list...)
	return (*block)[from:len(*block):len(*block)]
}

// Finish moves what was gathered into f: dropped uses leave, and the places of
// each use come to stand side by side.
func (b *Builder) Finish(f *File) {
	// Indexes of uses change where some were dropped.
	renumber := make([]int32, len(b.uses))
	kept := int32(0)
	for i := range b.uses {
		b.uses[i].Count = 0
	}
	for _, s := range b.spots {
		b.uses[s.use].Count++
	}
	for i := range b.uses {
		if u := &b.uses[i]; u.dead || u.Count == 0 {
			u.dead = true
			renumber[i] = -1
			continue
		}
		renumber[i] = kept
		kept++
	}
	total := int32(0)
	for i := range b.uses {
		u := &b.uses[i]
		if u.dead {
			continue
		}
		u.First = total
		total += u.Count
	}
	if cap(b.placeBlock)-len(b.placeBlock) < int(total) {
		b.placeBlock = make([]Place, 0, max(65536, int(total)))
	}
	from := len(b.placeBlock)
	b.placeBlock = b.placeBlock[:from+int(total)]
	f.Places = b.placeBlock[from : from+int(total) : from+int(total)]
	for i := range b.uses {
		b.uses[i].Count = 0
	}
	for _, s := range b.spots {
		u := &b.uses[s.use]
		if u.dead {
			continue
		}
		f.Places[u.First+u.Count] = s.at
		u.Count++
	}

	if cap(b.useBlock)-len(b.useBlock) < int(kept) {
		b.useBlock = make([]Use, 0, max(8192, int(kept)))
	}
	from = len(b.useBlock)
	for i := range b.uses {
		if !b.uses[i].dead {
			b.useBlock = append(b.useBlock, b.uses[i].Use)
		}
	}
	f.Uses = b.useBlock[from:len(b.useBlock):len(b.useBlock)]

	if int(kept) != len(b.uses) {
		for i := range b.decls {
			d := &b.decls[i]
			d.Supers = renumbered(d.Supers, renumber)
			d.Markers = renumbered(d.Markers, renumber)
			for j := range d.Members {
				d.Members[j].Uses = renumbered(d.Members[j].Uses, renumber)
				d.Members[j].Markers = renumbered(d.Members[j].Markers, renumber)
			}
		}
	}
	f.Decls = carve(&b.declBlock, b.decls, 2048)
	f.Imports = carve(&b.importBlock, b.imports, 2048)
	f.Notes = b.notes
}

// renumbered rewrites list in place, without the entries that went.
func renumbered(list, to []int32) []int32 {
	out := list[:0]
	for _, u := range list {
		if to[u] >= 0 {
			out = append(out, to[u])
		}
	}
	return out
}
