// Package views reads the files that screens are written in: JSP, JSF pages,
// Razor and XAML. They are presentation code, and depend on the types that they
// name.
package views

import (
	"bytes"
	"path"
	"regexp"
	"strings"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/java"
	"moatline/internal/core/language/lexis"
)

// Is reports whether a language is that of a view file.
func Is(language string) bool {
	switch language {
	case "jsp", "jsf", "razor", "xaml":
		return true
	}
	return false
}

// Reader reads one view file after another.
type Reader struct {
	lexis.Text
	b    *fact.Builder
	java *java.Reader
}

// NewReader returns a reader that adds to b.
func NewReader(b *fact.Builder, j *java.Reader) *Reader { return &Reader{b: b, java: j} }

// Read returns the facts of one view file.
func (r *Reader) Read(p string, text []byte) *fact.File {
	switch path.Ext(p) {
	case ".xhtml":
		return r.jsf(p, text)
	case ".cshtml", ".razor", ".vbhtml":
		return r.razor(p, text)
	case ".xaml":
		return r.xaml(p, text)
	}
	return r.jsp(p, text)
}

func (r *Reader) begin(p, language string, text []byte) *fact.File {
	r.b.Reset()
	r.Reset(text)
	code := 0
	for _, l := range bytes.Split(text, []byte("\n")) {
		if len(bytes.TrimSpace(l)) > 0 {
			code++
		}
	}
	return &fact.File{Path: p, Language: language, Lines: r.Lines(), Code: code}
}

var (
	jspImport  = regexp.MustCompile(`(?is)<%@\s*page\s[^%]*?\bimport\s*=\s*["']([^"']*)["']|<jsp:directive\.page\s[^>]*?\bimport\s*=\s*["']([^"']*)["']`)
	jspInclude = regexp.MustCompile(`(?is)<%@\s*include\s[^%]*?\bfile\s*=\s*["']([^"'<]*)["']|<jsp:(?:include|forward)\s[^>]*?\bpage\s*=\s*["']([^"'<]*)["']|<jsp:directive\.include\s[^>]*?\bfile\s*=\s*["']([^"'<]*)["']`)
	jspBean    = regexp.MustCompile(`(?is)<jsp:useBean\s[^>]*`)
	beanType   = regexp.MustCompile(`(?i)\b(class|type|beanName)\s*=\s*["']([A-Za-z_$][\w$.]*)["']`)
	jspTag     = regexp.MustCompile(`(?is)<%@\s*(?:attribute|variable)\s[^%]*?\b(?:type|variable-class)\s*=\s*["']([A-Za-z_$][\w$.]*)["']`)
)

// jspElement is code in a JSP document (Jakarta Server Pages 3.0, 6.3.2), and
// asCode makes of its XML the code itself, each byte in its place.
var (
	jspElement = regexp.MustCompile(`(?s)<jsp:(?:scriptlet|expression|declaration)\s*>(.*?)</jsp:`)
	asCode     = strings.NewReplacer("<![CDATA[", "         ", "]]>", "   ", "&lt;", "<   ", "&gt;", ">   ", "&amp;", "&    ", "&quot;", "\"     ", "&apos;", "'     ")
)

// group returns the first group that matched, as offsets.
func group(m []int) (from, to int) {
	for n := 2; n < len(m); n += 2 {
		if m[n] >= 0 {
			return m[n], m[n+1]
		}
	}
	return m[0], m[0]
}

// jsp reads a JavaServer page (Jakarta Server Pages 3.0): directives, beans and
// the Java code in it.
func (r *Reader) jsp(p string, text []byte) *fact.File {
	// The code alone, everything else blank, as the body of a class.
	code := blank(text)
	found := false
	for at := 0; ; {
		i := bytes.Index(text[at:], []byte("<%"))
		if i < 0 {
			break
		}
		i += at
		stop := bytes.Index(text[i+2:], []byte("%>"))
		if stop < 0 {
			break
		}
		stop += i + 2
		at = stop + 2
		from := i + 2
		switch {
		case text[from] == '@' || bytes.HasPrefix(text[from:], []byte("--")):
			if text[from] == '-' {
				if n := bytes.Index(text[i:], []byte("--%>")); n >= 0 {
					at = i + n + 4
				}
			}
			continue
		case text[from] == '=' || text[from] == '!':
			from++
		}
		copy(code[from:stop], text[from:stop])
		code[stop] = ';'
		found = true
	}
	for _, m := range jspElement.FindAllSubmatchIndex(text, -1) {
		copy(code[m[2]:m[3]], asCode.Replace(string(text[m[2]:m[3]])))
		code[m[3]] = ';'
		found = true
	}
	f := &fact.File{}
	const head = "class A{{"
	if found {
		room := 0
		for room < len(code) && code[room] == ' ' {
			room++
		}
		if room >= len(head) {
			copy(code, head)
			f = r.java.Read(p, code)
		}
	}
	own := r.begin(p, "jsp", text)
	own.Decls, own.Uses, own.Places = f.Decls, f.Uses, f.Places
	for i := range own.Decls {
		own.Decls[i].Flags |= fact.Local // no other file can name it
	}
	for _, m := range jspImport.FindAllSubmatchIndex(text, -1) {
		from, to := group(m)
		for at := from; at < to; {
			end := at
			for end < to && text[end] != ',' {
				end++
			}
			name := strings.TrimSpace(string(text[at:end]))
			lead := bytes.Index(text[at:end], []byte(name))
			imp := fact.Import{Name: strings.TrimPrefix(name, "static "), Kind: fact.ImportType, Used: true, At: r.Place(at + max(0, lead))}
			if pkg, ok := strings.CutSuffix(imp.Name, ".*"); ok {
				imp.Name, imp.Kind = pkg, fact.ImportWildcard
			}
			if name != "" {
				own.Imports = append(own.Imports, imp)
			}
			at = end + 1
		}
	}
	add := func(at int, name string, how fact.How) {
		own.Uses = append(own.Uses, fact.Use{Name: name, Scope: -1, Local: -1, How: how, First: int32(len(own.Places)), Count: 1})
		own.Places = append(own.Places, r.Place(at))
	}
	for _, m := range jspBean.FindAllIndex(text, -1) {
		for _, k := range beanType.FindAllSubmatchIndex(text[m[0]:m[1]], -1) {
			how := fact.HowType
			if text[m[0]+k[2]]|0x20 == 'c' {
				how = fact.HowConstruct
			}
			add(m[0]+k[4], string(text[m[0]+k[4]:m[0]+k[5]]), how)
		}
	}
	for _, m := range jspTag.FindAllSubmatchIndex(text, -1) {
		add(m[2], string(text[m[2]:m[3]]), fact.HowType)
	}
	for _, m := range jspInclude.FindAllSubmatchIndex(text, -1) {
		from, to := group(m)
		own.Imports = append(own.Imports, fact.Import{Name: string(text[from:to]), Kind: fact.ImportInclude, Used: true, At: r.Place(from)})
	}
	return own
}

// blank returns text with every byte but line ends made a space.
func blank(text []byte) []byte {
	out := make([]byte, len(text))
	for i, c := range text {
		out[i] = ' '
		if c == '\n' {
			out[i] = c
		}
	}
	return out
}

var (
	expression = regexp.MustCompile(`[#$]\{([^}]*)\}`)
	beanName   = regexp.MustCompile(`(^|[^\w.'"$])([A-Za-z_]\w*)(\s*[.\[(])`)
	source     = regexp.MustCompile(`(?i)<ui:(?:include|composition|decorate)\s[^>]*?\b(?:src|template)\s*=\s*["']([^"'#]*)["']`)
)

// jsf reads a page of Jakarta Faces: the beans that its expressions name
// (Jakarta Expression Language), and the pages that it includes.
func (r *Reader) jsf(p string, text []byte) *fact.File {
	f := r.begin(p, "jsf", text)
	for _, m := range expression.FindAllSubmatchIndex(text, -1) {
		for _, k := range beanName.FindAllSubmatchIndex(text[m[2]:m[3]], -1) {
			from := m[2] + k[4]
			r.b.Use(text[from:m[2]+k[5]], fact.Use{Scope: -1, Local: -1, How: fact.HowCall, Flags: fact.Value}, r.Place(from))
		}
	}
	for _, m := range source.FindAllSubmatchIndex(text, -1) {
		r.b.Import(fact.Import{Name: string(text[m[2]:m[3]]), Kind: fact.ImportInclude, Used: true, At: r.Place(m[2])})
	}
	r.b.Finish(f)
	return f
}

var razorDirective = regexp.MustCompile(`(?m)^[ \t]*@(using|model|inject|inherits|implements|ModelType|Imports)[ \t]+(static[ \t]+)?([A-Za-z_][\w.<>,\[\]? \t=]*)`)

// razor reads the directives of a Razor view (ASP.NET Core, "Razor syntax
// reference"). Those of _ViewImports and _Imports hold for the whole project.
func (r *Reader) razor(p string, text []byte) *fact.File {
	f := r.begin(p, "razor", text)
	shared := strings.HasPrefix(path.Base(p), "_ViewImports") || strings.HasPrefix(path.Base(p), "_Imports")
	for _, m := range razorDirective.FindAllSubmatchIndex(text, -1) {
		word := string(text[m[2]:m[3]])
		rest := strings.TrimSpace(string(text[m[6]:m[7]]))
		at := r.Place(m[6])
		switch word {
		case "using", "Imports":
			imp := fact.Import{Kind: fact.ImportWildcard, Name: rest, Used: true, At: at}
			if m[4] >= 0 {
				imp.Kind = fact.ImportStaticWildcard
			}
			if alias, name, ok := strings.Cut(rest, "="); ok {
				imp.Kind, imp.Alias, imp.Name = fact.ImportType, strings.TrimSpace(alias), strings.TrimSpace(name)
			}
			if shared {
				imp.Flags = fact.Global
			}
			r.b.Import(imp)
		default:
			// Every name in the type; of @inject the last word is a name.
			if word == "inject" {
				if n := strings.LastIndexAny(rest, " \t>"); n > 0 {
					rest = rest[:n+1]
				}
			}
			how := fact.HowType
			if word == "inherits" || word == "implements" {
				how = fact.HowInherit
			}
			r.names(m[6], rest, how)
		}
	}
	r.b.Finish(f)
	return f
}

var typeName = regexp.MustCompile(`[A-Za-z_][\w.]*`)

func (r *Reader) names(at int, text string, how fact.How) {
	for _, m := range typeName.FindAllStringIndex(text, -1) {
		name := text[m[0]:m[1]]
		switch name {
		case "string", "int", "bool", "object", "decimal", "long", "double", "dynamic", "void":
			continue
		}
		if m[1] < len(text) && text[m[1]] == '<' {
			name += "`" + arity(text[m[1]:])
		}
		r.b.Use([]byte(name), fact.Use{Scope: -1, Local: -1, How: how}, r.Place(at+m[0]))
		how = fact.HowType
	}
}

// arity counts the type arguments in "<…>".
func arity(s string) string {
	n, depth := 1, 0
	for _, c := range s {
		switch c {
		case '<':
			depth++
		case '>':
			if depth--; depth == 0 {
				return string(rune('0' + min(n, 9)))
			}
		case ',':
			if depth == 1 {
				n++
			}
		}
	}
	return "1"
}

var (
	xamlClass  = regexp.MustCompile(`\bx:Class\s*=\s*["']([\w.]+)["']`)
	xamlSpace  = regexp.MustCompile(`\bxmlns:(\w+)\s*=\s*["'](?:clr-namespace|using):([\w.]+)(?:;[^"']*)?["']`)
	xamlPrefix = regexp.MustCompile(`([<{/ ="']|x:Type |x:Static )(\w+):(\w+)`)
)

// xaml reads a XAML file (Microsoft, "XAML object mapping specification"): the
// class behind it and the types that its prefixes bring in.
func (r *Reader) xaml(p string, text []byte) *fact.File {
	f := r.begin(p, "xaml", text)
	if m := xamlClass.FindSubmatchIndex(text); m != nil {
		r.b.Use(text[m[2]:m[3]], fact.Use{Scope: -1, Local: -1, How: fact.HowType}, r.Place(m[2]))
	}
	spaces := make(map[string]string)
	for _, m := range xamlSpace.FindAllSubmatch(text, -1) {
		spaces[string(m[1])] = string(m[2])
	}
	if len(spaces) > 0 {
		for _, m := range xamlPrefix.FindAllSubmatchIndex(text, -1) {
			if text[m[3]-1] == '/' {
				continue // an end tag
			}
			if space, ok := spaces[string(text[m[4]:m[5]])]; ok {
				name := space + "." + string(text[m[6]:m[7]])
				r.b.Use([]byte(name), fact.Use{Scope: -1, Local: -1, How: fact.HowConstruct}, r.Place(m[4]))
			}
		}
	}
	r.b.Finish(f)
	return f
}
