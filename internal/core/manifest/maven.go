package manifest

import (
	"bytes"
	"encoding/xml"
	"io"
	"strings"
	"unicode/utf8"

	"moatline/internal/core/fact"
)

// readMaven reads a Maven project file (Maven POM 4.0.0 model): coordinates,
// parent, modules, properties, dependencies with their scopes, and dependency
// management; profiles count as if active. Entities other than XML's own are
// not expanded: a file that uses them is read up to there.
func readMaven(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{Properties: make(map[string]string)}
	d := xml.NewDecoder(bytes.NewReader(text))
	d.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil } // decoded already
	var path []string
	var group, artifact, version string
	var dep fact.Requirement
	var depGroup, depArtifact string
	var parent *fact.Requirement
	var parentGroup, parentArtifact string
	var chars []byte
	var at fact.Place
	project := false
	for {
		before := int(d.InputOffset())
		tok, err := d.RawToken()
		if err == io.EOF {
			if !project {
				note(fact.Place{Line: 1, Column: 1}, "no <project> element: not a Maven project file")
			}
			if len(path) > 0 {
				note(placeAt(text, len(text)), "the file ends inside <"+path[len(path)-1]+">; what came before counts")
			}
			break
		}
		if err != nil {
			note(placeAt(text, int(d.InputOffset())), "not well-formed XML: "+xmlMessage(err)+"; what came before counts")
			break
		}
		switch t := tok.(type) {
		case xml.StartElement:
			if len(path) > 200 {
				note(placeAt(text, before), "elements nest too deeply; the rest is not read")
				return finishMaven(m, group, artifact, version, parent)
			}
			path = append(path, t.Name.Local)
			project = project || len(path) == 1 && t.Name.Local == "project"
			chars = chars[:0]
			switch where(path) {
			case "dependencies/dependency", "dependencyManagement/dependencies/dependency":
				dep, depGroup, depArtifact = fact.Requirement{At: placeAt(text, before)}, "", ""
			case "parent":
				parent = &fact.Requirement{At: placeAt(text, before)}
				parentGroup, parentArtifact = "", ""
			}
			if len(path) >= 2 && path[len(path)-1] == "artifactId" || path[len(path)-1] == "module" {
				at = placeAt(text, before)
			}
		case xml.CharData:
			chars = append(chars, t...)
		case xml.EndElement:
			if len(path) == 0 || path[len(path)-1] != t.Name.Local {
				note(placeAt(text, before), "</"+t.Name.Local+"> closes nothing that is open; what came before counts")
				return finishMaven(m, group, artifact, version, parent)
			}
			value := strings.TrimSpace(string(chars))
			switch w := where(path); w {
			case "groupId":
				group = value
			case "artifactId":
				artifact = value
			case "version":
				version = value
			case "parent/groupId":
				parentGroup = value
			case "parent/artifactId":
				parentArtifact = value
			case "parent/version":
				if parent != nil {
					parent.Version = value
				}
			case "parent/relativePath":
				if parent != nil {
					if parent.Path = value; value == "" {
						parent.Path = "-"
					}
				}
			case "parent":
				if parent != nil {
					parent.Name = parentGroup + ":" + parentArtifact
				}
			case "modules/module":
				m.Holds = append(m.Holds, fact.Requirement{Name: value, At: at})
			case "dependencies/dependency":
				dep.Name = depGroup + ":" + depArtifact
				if depArtifact != "" {
					m.Requires = append(m.Requires, dep)
				}
			case "dependencyManagement/dependencies/dependency":
				dep.Name = depGroup + ":" + depArtifact
				if depArtifact != "" {
					m.Managed = append(m.Managed, dep)
				}
			default:
				if name, ok := strings.CutPrefix(w, "properties/"); ok && !strings.Contains(name, "/") {
					if _, set := m.Properties[name]; !set || !strings.HasPrefix(strings.Join(path, "/"), "project/profiles") {
						m.Properties[name] = value
					}
					break
				}
				part, ok := strings.CutPrefix(strings.TrimPrefix(w, "dependencyManagement/"), "dependencies/dependency/")
				if !ok {
					break
				}
				switch part {
				case "groupId":
					depGroup = value
				case "artifactId":
					depArtifact = value
					dep.At = at
				case "version":
					dep.Version = value
				case "scope":
					dep.Scope = value
				case "optional":
					dep.Optional = value == "true"
				}
			}
			path = path[:len(path)-1]
			chars = chars[:0]
		}
	}
	return finishMaven(m, group, artifact, version, parent)
}

// where is the element's path below project, profiles counting as the project
// itself. Elements of plugins and the like keep their longer paths.
func where(path []string) string {
	if len(path) < 2 || path[0] != "project" {
		return ""
	}
	rest := path[1:]
	if len(rest) > 2 && rest[0] == "profiles" && rest[1] == "profile" {
		rest = rest[2:]
	}
	return strings.Join(rest, "/")
}

func finishMaven(m *fact.Manifest, group, artifact, version string, parent *fact.Requirement) *fact.Manifest {
	if parent != nil && parent.Name != "" {
		m.Parent = parent
		if group == "" {
			group, _, _ = strings.Cut(parent.Name, ":")
		}
		if version == "" {
			version = parent.Version
		}
	}
	m.Module, m.Version = group+":"+artifact, version
	if artifact == "" {
		m.Module = ""
	}
	return m
}

func xmlMessage(err error) string {
	if s, ok := err.(*xml.SyntaxError); ok {
		return s.Msg
	}
	return err.Error()
}

// placeAt returns the position of a byte offset.
func placeAt(text []byte, offset int) fact.Place {
	offset = min(offset, len(text))
	line := bytes.Count(text[:offset], []byte{'\n'})
	begin := bytes.LastIndexByte(text[:offset], '\n') + 1
	return fact.Place{Line: uint32(line + 1), Column: uint32(utf8.RuneCount(text[begin:offset]) + 1)}
}
