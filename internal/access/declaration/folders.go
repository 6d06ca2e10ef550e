package declaration

import (
	"path"
	"strings"

	"github.com/bmatcuk/doublestar/v4"

	"moatline/internal/core/layout"
)

// SkipsFolder reports whether a pattern takes in all of a folder, such as
// "generated/**", so that it need not be walked.
func SkipsFolder(patterns []layout.Pattern, p string) bool {
	for i := range patterns {
		if patterns[i].Text == p+"/**" || patterns[i].Text == p+"/" {
			return true
		}
	}
	return false
}

// Reaches reports whether a pattern may match something below a folder.
func Reaches(patterns []layout.Pattern, folder string) bool {
	for i := range patterns {
		under := base(patterns[i].Text)
		if under == "" || under == folder || strings.HasPrefix(under, folder+"/") || strings.HasPrefix(folder, under+"/") {
			return true
		}
	}
	return false
}

// base returns the folder that all matches of a pattern lie under; "" is the
// root.
func base(pattern string) string {
	b, _ := doublestar.SplitPattern(strings.TrimPrefix(pattern, "./"))
	if b == "." {
		return ""
	}
	return path.Clean(b)
}
