package declaration

import (
	"fmt"
	"strings"

	"github.com/goccy/go-yaml/ast"

	"moatline/internal/core/layout"
)

// pair is one entry of a mapping.
type pair struct {
	key   string
	node  ast.Node // the key
	value ast.Node
}

// plain follows nothing: anchors, aliases and tags are not part of the format.
func (r *reading) plain(n ast.Node) ast.Node {
	switch x := n.(type) {
	case *ast.AnchorNode:
		r.problem(n, "anchors and aliases are not part of a declaration", "Write the value out.")
		return x.Value
	case *ast.AliasNode:
		r.problem(n, "anchors and aliases are not part of a declaration", "Write the value out.")
	case *ast.TagNode:
		r.problem(n, "tags are not part of a declaration", "Write the value plain.")
		return x.Value
	}
	return n
}

func isMapping(n ast.Node) bool {
	switch n.(type) {
	case *ast.MappingNode, *ast.MappingValueNode:
		return true
	}
	return false
}

func kindOf(n ast.Node) string {
	switch n.(type) {
	case nil, *ast.NullNode:
		return "nothing"
	case *ast.MappingNode, *ast.MappingValueNode:
		return "a mapping"
	case *ast.SequenceNode:
		return "a list"
	case *ast.BoolNode:
		return "true or false"
	case *ast.IntegerNode, *ast.FloatNode, *ast.InfinityNode, *ast.NanNode:
		return "a number"
	}
	return "a text"
}

// mapping returns the entries of a mapping, with unknown and repeated keys
// told. keys nil means that any key is right.
func (r *reading) mapping(n ast.Node, what string, keys []string) []pair {
	n = r.plain(n)
	var values []*ast.MappingValueNode
	switch x := n.(type) {
	case *ast.MappingNode:
		values = x.Values
	case *ast.MappingValueNode:
		values = []*ast.MappingValueNode{x}
	default:
		hint := ""
		if keys != nil {
			hint = "Its keys are " + list(keys) + "."
		}
		r.problem(n, fmt.Sprintf("%s takes a mapping, this is %s", what, kindOf(n)), hint)
		return nil
	}
	seen := make(map[string]bool)
	var out []pair
	for _, v := range values {
		if _, ok := v.Key.(*ast.MergeKeyNode); ok {
			r.problem(v, "anchors and aliases are not part of a declaration", "Write the value out.")
			continue
		}
		key, _ := scalar(v.Key.(ast.Node))
		key = strings.TrimSpace(key)
		if seen[key] {
			r.problem(v, fmt.Sprintf("%s is given twice", key), "Join the two.")
			continue
		}
		seen[key] = true
		if keys != nil && !containsWord(keys, key) {
			hint := "Its keys are " + list(keys) + "."
			if near := layout.Nearest(key, keys); near != "" {
				hint = "Did you mean " + near + "? " + hint
			}
			r.problem(v, fmt.Sprintf("%s has no key %q", what, key), hint)
			continue
		}
		out = append(out, pair{key, v.Key.(ast.Node), r.plain(v.Value)})
	}
	return out
}

// scalar returns the text of a scalar node.
func scalar(n ast.Node) (string, bool) {
	switch x := n.(type) {
	case *ast.StringNode:
		return x.Value, true
	case *ast.LiteralNode:
		return strings.TrimSpace(x.Value.Value), true
	case *ast.IntegerNode, *ast.FloatNode, *ast.BoolNode, *ast.InfinityNode, *ast.NanNode:
		return n.GetToken().Value, true
	case *ast.MappingKeyNode:
		return scalar(x.Value)
	}
	return "", false
}

// text reads a single text.
func (r *reading) text(n ast.Node, what string) (string, bool) {
	s, ok := scalar(r.plain(n))
	if !ok || strings.TrimSpace(s) == "" {
		r.problem(n, fmt.Sprintf("%s takes a text, this is %s", what, kindOf(n)), "")
		return "", false
	}
	return strings.TrimSpace(s), true
}

// texts reads one text or a list of them.
func (r *reading) texts(n ast.Node, what string) (out []string, at []ast.Node) {
	n = r.plain(n)
	s, ok := n.(*ast.SequenceNode)
	if !ok {
		if isMapping(n) {
			r.problem(n, what+" takes a text or a list of texts, this is a mapping", "")
			return nil, nil
		}
		if v, ok := r.text(n, what); ok {
			return []string{v}, []ast.Node{n}
		}
		return nil, nil
	}
	if len(s.Values) == 0 {
		r.add(n, what+" is an empty list", "Leave the key out, or name something.", true)
	}
	for _, v := range s.Values {
		if t, ok := r.text(v, "an item of "+what); ok {
			out = append(out, t)
			at = append(at, v)
		}
	}
	return out, at
}
