package lexis

// Locals are the names that parameters, variables and the like give a meaning
// of their own for a stretch of text.
type Locals struct {
	count map[string]int32
	undo  []string
}

// Clear forgets all.
func (l *Locals) Clear() {
	if l.count == nil || len(l.count) > 4096 {
		l.count = make(map[string]int32)
	}
	clear(l.count)
	l.undo = l.undo[:0]
}

// Declare brings a name into scope; name must be a string that stays.
func (l *Locals) Declare(name string) {
	l.count[name]++
	l.undo = append(l.undo, name)
}

// Mark returns a mark for Leave.
func (l *Locals) Mark() int { return len(l.undo) }

// Leave ends the scopes that began since mark.
func (l *Locals) Leave(mark int) {
	for i := len(l.undo) - 1; i >= mark; i-- {
		l.count[l.undo[i]]--
	}
	l.undo = l.undo[:mark]
}

// Has reports whether a name is in scope.
func (l *Locals) Has(name []byte) bool { return l.count[string(name)] > 0 }
