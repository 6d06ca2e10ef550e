package manifest

import "strings"

// Coordinate returns the module among those required that an outside name most
// certainly belongs to, or "" where the build file leaves a doubt.
//
// A Maven coordinate fits where its group is the beginning of the name; of
// several with one group, the one whose artifact ends in a word of the name. A
// NuGet package fits where its own name is the beginning; the longest counts.
func Coordinate(required []string, name string) string {
	best, bestLength, ties := "", 0, 0
	for _, r := range required {
		group, artifact, maven := strings.Cut(r, ":")
		length := 0
		switch {
		case !maven:
			if begins(name, r) {
				length = 2 * len(r)
			}
		case begins(name, group):
			length = 2 * len(group)
			if word(name[len(group):], artifact) {
				length++
			}
		default:
			// jackson-databind of com.fasterxml.jackson.core: the group's last
			// word is not in the package.
			if n := strings.LastIndexByte(group, '.'); n > 0 && strings.IndexByte(group[:n], '.') > 0 && begins(name, group[:n]) && word(name[n:], artifact) {
				length = 2 * n
			}
		}
		switch {
		case length == 0 || r == best:
		case length > bestLength:
			best, bestLength, ties = r, length, 0
		case length == bestLength:
			ties++
		}
	}
	if ties > 0 {
		return ""
	}
	return best
}

// begins reports whether name is prefix, or lies below it.
func begins(name, prefix string) bool {
	return prefix != "" && strings.HasPrefix(name, prefix) && (len(name) == len(prefix) || name[len(prefix)] == '.')
}

// word reports whether the last word of an artifact's name is a part of a
// dotted name.
func word(name, artifact string) bool {
	last := artifact[strings.LastIndexAny(artifact, "-.")+1:]
	for _, part := range strings.Split(name, ".") {
		if part != "" && strings.EqualFold(part, last) {
			return true
		}
	}
	return false
}
