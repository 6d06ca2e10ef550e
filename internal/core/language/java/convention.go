package java

import "strings"

func join(name, rest string) string {
	if rest == "" {
		return name
	}
	return name + "." + rest
}

func upper(s string) bool { return s != "" && s[0] >= 'A' && s[0] <= 'Z' }

// constantLike tells names in capitals, as constants are written.
func constantLike(s string) bool {
	if len(s) < 2 {
		return false
	}
	for i := 0; i < len(s); i++ {
		if s[i] >= 'a' && s[i] <= 'z' {
			return false
		}
	}
	return true
}

// outsidePackage returns the package part of the full name of an outside type,
// by the convention that types begin with a capital (JLS 17 §6.1).
func outsidePackage(name string) string {
	for i := 0; i < len(name); {
		if upper(name[i:]) {
			return name[:max(0, i-1)]
		}
		n := strings.IndexByte(name[i:], '.')
		if n < 0 {
			return name[:max(0, i-1)] // no capital: all but the last segment
		}
		i += n + 1
	}
	return name
}

// conventional splits an unresolved dotted name in an expression into package
// and type, where convention leaves no doubt that it is one.
func conventional(name string) (pkg, full string, ok bool) {
	segs := 0
	for i := 0; i < len(name); {
		seg, _, _ := strings.Cut(name[i:], ".")
		if upper(seg) {
			if segs >= 2 || segs == 1 && (strings.HasPrefix(name, "java.") || strings.HasPrefix(name, "javax.")) {
				if constantLike(seg) && segs < 2 {
					return "", "", false
				}
				return name[:i-1], name[:i+len(seg)], true
			}
			return "", "", false
		}
		for _, c := range []byte(seg) {
			if c >= 'A' && c <= 'Z' {
				return "", "", false // package names have no capitals
			}
		}
		segs++
		i += len(seg) + 1
	}
	return "", "", false
}

// standard reports whether a name belongs to the Java platform (the packages
// of the java.* modules).
func standard(name string) bool {
	switch {
	case strings.HasPrefix(name, "java."), strings.HasPrefix(name, "org.w3c.dom"), strings.HasPrefix(name, "org.xml.sax"), strings.HasPrefix(name, "org.ietf.jgss"):
		return true
	case strings.HasPrefix(name, "javax."):
		rest := name[len("javax."):]
		seg, tail, _ := strings.Cut(rest, ".")
		switch seg {
		case "accessibility", "crypto", "imageio", "lang", "management", "naming", "net", "print", "rmi", "script",
			"security", "smartcardio", "sound", "sql", "swing", "tools":
			return true
		case "annotation":
			return strings.HasPrefix(tail, "processing")
		case "transaction":
			return strings.HasPrefix(tail, "xa")
		case "xml":
			return !strings.HasPrefix(tail, "bind") && !strings.HasPrefix(tail, "ws") && !strings.HasPrefix(tail, "soap")
		}
	}
	return false
}

func standardModule(name string) bool {
	return strings.HasPrefix(name, "java.") || strings.HasPrefix(name, "jdk.")
}
