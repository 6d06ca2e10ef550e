// Package fact holds what one source file says, and nothing that another file
// is needed to know.
//
// A reader turns the bytes of one file into a [File]: the package it belongs
// to, what it imports, what it declares and which names it uses, each with its
// place. Facts are plain data: they can be written to disk and read back (see
// [Line] and [Scan]), so that a tree can be read in shards and judged in one
// place. No name is resolved here; linking does that over the whole tree.
package fact

// How tells in which way a file uses something.
type How uint8

// The ways of using, in the order in which they are listed where order matters.
const (
	HowImport    How = iota // an import statement
	HowType                 // a type named in a declaration, cast, test or class literal
	HowInherit              // a supertype: extends, implements, an embedded type
	HowConstruct            // an instance built on the spot
	HowCall                 // a static member, function, variable or constant used
	HowMarker               // an annotation or attribute
	HowInclude              // one file pulled in by another
	HowReexport             // a name passed on
	HowDynamic              // a full type name in a string of the code
	HowWiring               // a full type name in a configuration file
	HowProject              // a build file's reference to a module or outside package
	hows
)

var howNames = [hows]string{
	"import", "type", "inherit", "construct", "call", "marker",
	"include", "reexport", "dynamic", "wiring", "project",
}

// String returns the word that stands for h in every output.
func (h How) String() string {
	if h < hows {
		return howNames[h]
	}
	return "unknown"
}

// ParseHow returns the How that word stands for, and whether there is one.
func ParseHow(word string) (How, bool) {
	for i, n := range howNames {
		if n == word {
			return How(i), true
		}
	}
	return 0, false
}

// Place is a position in a file. Line and Column start at 1; columns count
// characters (Unicode code points), not bytes. The zero Place is no place.
type Place struct {
	Line, Column uint32
}

// Before reports whether p comes before q in the same file.
func (p Place) Before(q Place) bool {
	return p.Line < q.Line || p.Line == q.Line && p.Column < q.Column
}

// File is everything that one source or build file says.
type File struct {
	Path      string // slash path from the tree's root
	Language  string // the reader's name: "java", "go", "maven", …
	Package   string // the declared package; for Go its name, not its path
	PackageAt Place  // where it is declared
	Lines     int    // all lines
	Code      int    // lines with at least one token of code
	Test      bool   // a test file by the language's own convention

	// Constraint is the condition under which the file is built, where the
	// language has one: for Go the //go:build expression.
	Constraint string

	Imports []Import
	Exports []Export // names that the file passes on, where that takes a statement of its own
	Decls   []Decl
	Uses    []Use
	Places  []Place // the places of all Uses, those of one use side by side
	Notes   []Note

	// Manifest is set for build files and nil for all others.
	Manifest *Manifest
}

// Note is something a reader could not make sense of. The rest of the file's
// facts stand.
type Note struct {
	At   Place
	Text string
}

// ImportKind tells the forms of import statements apart.
type ImportKind uint8

// The forms of import statements.
const (
	ImportType           ImportKind = iota // one type by its full name
	ImportPackage                          // a package, whose members are then qualified by its name
	ImportWildcard                         // every type of a package or type, on demand
	ImportStatic                           // one static member of a type
	ImportStaticWildcard                   // every static member of a type, on demand
	ImportModule                           // a named module
	ImportMember                           // one name, Import.Member, of a module that is a file
	ImportFunction                         // one function by its full name
	ImportConstant                         // one constant by its full name
	ImportInclude                          // a file, pulled in as it is
	ImportPart                             // a file that is a part of this one's library
	ImportPartOf                           // the library that this file is a part of
	importKinds
)

var importKindNames = [importKinds]string{
	"type", "package", "wildcard", "static", "static-wildcard", "module",
	"member", "function", "constant", "include", "part", "part-of",
}

// ImportFlags qualify an import.
type ImportFlags uint8

// Qualifications of an import.
const (
	TypeOnly ImportFlags = 1 << iota // nothing of it is left when the program runs
	PassedOn                         // what comes in is exported again
	OnDemand                         // loaded by a call while the program runs
	Global                           // holds for all files of the module
	Guarded                          // its failure is expected: a try statement stands around it
	Inner                            // stands in a body: what it brings in is seen only there
)

// Import is one import statement.
type Import struct {
	Name   string // what is imported, as written, without the wildcard
	Member string // for ImportMember: the name as the module declares it; "*" for all, "default" for the unnamed one
	Alias  string // the local name where the statement gives one; "." and "_" as in Go
	Kind   ImportKind
	Flags  ImportFlags
	Used   bool     // whether the file uses a name that this import (and no wildcard) brings in
	Within int32    // the namespace or type that it holds for: one more than the index into File.Decls; 0 is the file
	Show   []string // where not nil: only these names come in
	Hide   []string // these names do not come in
	At     Place
}

// Export is a name that a file passes on under another name than it declares
// or imports it by, or by a statement of its own. An Export without names only
// tells that the file is a module.
type Export struct {
	Name  string // as others see it
	Local string // as the file itself names it
}

// DeclKind tells what a declaration declares.
type DeclKind uint8

// What a declaration declares.
const (
	Class DeclKind = iota
	Interface
	Enum
	Record
	Annotation
	Struct
	NamedType // a defined type that is neither a struct nor an interface
	Alias
	Func
	Method
	Var
	Const
	Namespace // its Name is the full one; what it holds has it as Outer
	declKinds
)

var declKindNames = [declKinds]string{
	"class", "interface", "enum", "record", "annotation", "struct",
	"named type", "alias", "func", "method", "var", "const", "namespace",
}

// String returns the word for k in every output.
func (k DeclKind) String() string {
	if k < declKinds {
		return declKindNames[k]
	}
	return "unknown"
}

// IsType reports whether a declaration of kind k is a type.
func (k DeclKind) IsType() bool { return k <= Alias }

// Flags are the modifiers of a declaration or member.
type Flags uint16

// Modifiers.
const (
	Public Flags = 1 << iota
	Protected
	Private
	Static
	Abstract
	Final
	Local     // declared inside a body: no other file can name it
	Anonymous // a class body without a name; Local is set too
	Default   // an interface method with a body
	Partial   // one of several declarations of the same type
	Companion // an object whose members the enclosing type's name reaches
	Extension // a function that is called like a member of its first parameter's type
)

// Decl is one declaration: a type at any depth, a namespace or, in languages
// that have them, a top-level function, method, variable or constant.
type Decl struct {
	Name     string // the simple name; empty for anonymous classes
	Receiver string // the name of the type that a Go method or an extension belongs to
	Kind     DeclKind
	Flags    Flags
	Arity    uint8 // how many type parameters, where names of one spelling differ by it
	Outer    int32 // index of the enclosing declaration in File.Decls, or -1
	At       Place
	Value    string  // for a constant, its text where it can be told
	Supers   []int32 // supertypes, as indexes into File.Uses
	Markers  []int32 // annotations, as indexes into File.Uses
	Members  []Member
}

// MemberKind tells what a member is.
type MemberKind uint8

// What a member is.
const (
	Field MemberKind = iota
	MethodMember
	Constructor
	memberKinds
)

var memberKindNames = [memberKinds]string{"field", "method", "constructor"}

// Member is a field, method or constructor of a type, with the types that its
// signature names.
type Member struct {
	Name    string
	Kind    MemberKind
	Flags   Flags
	At      Place
	Uses    []int32 // types of the signature, as indexes into File.Uses
	Markers []int32 // annotations, as indexes into File.Uses
}

// UseFlags qualify a use.
type UseFlags uint8

// Qualifications of a use.
const (
	// Ambiguous marks a name in expression position: its first segment may be
	// a variable that an enclosing type inherits, and its last ones members.
	Ambiguous UseFlags = 1 << iota
	// InFile marks a name that the file itself declares inside a body. The
	// target is Use.Local.
	InFile
	// Key marks a name that is a field of a composite literal if the literal's
	// type, Use.Of, is a struct, and a value otherwise.
	Key
	// Tag marks a key of a struct tag.
	Tag
	// Call marks a name that is called: functions count, not only types.
	Call
	// Value marks a name that is used as a value by itself.
	Value
	// Selected marks a name behind a "." that follows a value: only an
	// extension can be meant.
	Selected
)

// Use is one name that the file uses, in one scope and in one way.
type Use struct {
	Name  string // the name as written, its segments joined by "."
	Of    string // for Key: the name of the literal's type
	Scope int32  // index into File.Decls of the innermost enclosing type, or -1
	Local int32  // for InFile: index into File.Decls
	How   How
	Flags UseFlags
	First int32 // index of the first of its places in File.Places
	Count int32 // number of its places
}

// PlacesOf returns the places of u, in the order of the text.
func (f *File) PlacesOf(u *Use) []Place {
	return f.Places[u.First : u.First+u.Count : u.First+u.Count]
}

// Manifest is what a build file says about its module.
type Manifest struct {
	Module     string // the module's name; for Maven group:artifact as far as the file tells
	Version    string
	Parent     *Requirement      // the Maven parent
	Properties map[string]string // for interpolation
	Requires   []Requirement
	Managed    []Requirement // dependency management: versions and scopes, no dependency by itself
	Holds      []Requirement // folders of the modules it builds: Maven modules, go.work use
	Replaces   []Replacement
	Maps       []Mapping     // where names lead: exports, imports, path aliases, autoload prefixes
	Lists      []Requirement // files that it names one by one, as patterns
}

// Mapping is one name, or a pattern with one "*", and what it leads to.
type Mapping struct {
	Kind string // "exports", "imports", "paths", "psr-4", …
	From string
	To   []string // the first that is there counts
}

// Requirement is one module that a build file names.
type Requirement struct {
	Name     string // group:artifact, module path or folder
	Version  string
	Scope    string // compile, test, provided, …; empty for the build tool's default
	Path     string // Maven's relativePath of a parent; "-" where the file says to look nowhere
	Optional bool
	Indirect bool
	At       Place
}

// Replacement is a go.mod replace directive.
type Replacement struct {
	Old, New string // module paths; New may be a folder (starts with ./ or ../)
	At       Place
}
