package manifest

import (
	"path"
	"regexp"
	"strings"

	"moatline/internal/core/fact"
)

// isMSBuild tells project files and the files of properties that they share.
func isMSBuild(base string) bool {
	switch path.Ext(base) {
	case ".csproj", ".vbproj":
		return true
	case ".props", ".targets":
		return strings.HasPrefix(base, "Directory.")
	}
	return false
}

// slashes makes a path as Windows writes it one with slashes.
func slashes(p string) string { return strings.ReplaceAll(p, `\`, "/") }

// readMSBuild reads a project file, SDK style or old (MSBuild reference,
// "Common MSBuild project items"; NuGet, "PackageReference"), and
// Directory.Build.props. Conditions are not asked: every branch counts.
func readMSBuild(p string, text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{Properties: make(map[string]string)}
	base := path.Base(p)
	if ext := path.Ext(base); ext == ".csproj" || ext == ".vbproj" {
		m.Module = strings.TrimSuffix(base, ext)
	}
	version := ""
	walkXML(text, note, func(e *element) {
		include := e.attrs["Include"]
		switch name := e.name(); {
		case name == "Version" && e.parent() != "PropertyGroup":
			version = e.text
		case e.parent() == "PropertyGroup":
			switch name {
			case "RootNamespace", "ImplicitUsings", "TargetFramework", "TargetFrameworks", "UseWPF", "UseWindowsForms", "OutputType":
				if e.text != "" {
					m.Properties[name] = e.text
				}
			case "AssemblyName":
				if e.text != "" && !strings.Contains(e.text, "$(") && m.Module != "" {
					m.Properties[name] = e.text
				}
			}
		case name == "Project" && len(e.path) == 1:
			if sdk := e.attrs["Sdk"]; sdk != "" {
				m.Properties["Sdk"] = sdk
			}
		case include == "":
		case name == "PackageReference" || name == "PackageDownload":
			q := fact.Requirement{Name: include, Version: e.attrs["Version"], Scope: "package", At: e.at}
			if q.Version == "" {
				q.Version = version
			}
			m.Requires = append(m.Requires, q)
			version = ""
		case name == "ProjectReference":
			m.Requires = append(m.Requires, fact.Requirement{Name: slashes(include), Scope: "project", At: e.at})
		case name == "Reference" || name == "FrameworkReference" || name == "COMReference":
			assembly, _, _ := strings.Cut(include, ",")
			m.Requires = append(m.Requires, fact.Requirement{Name: strings.TrimSpace(assembly), Scope: "assembly", At: e.at})
		case name == "Compile":
			m.Lists = append(m.Lists, fact.Requirement{Name: slashes(include), At: e.at})
		case name == "Using" || name == "Import" && e.parent() == "ItemGroup":
			scope := "using"
			if strings.EqualFold(e.attrs["Static"], "true") {
				scope = "using static"
			}
			alias := e.attrs["Alias"]
			if left, right, ok := strings.Cut(include, "="); ok { // as Visual Basic writes it
				alias, include = strings.TrimSpace(left), strings.TrimSpace(right)
			}
			m.Managed = append(m.Managed, fact.Requirement{Name: include, Scope: scope, Path: alias, At: e.at})
		}
	})
	return m
}

// readPackagesConfig reads packages.config (NuGet, "packages.config").
func readPackagesConfig(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	walkXML(text, note, func(e *element) {
		if e.name() == "package" && e.attrs["id"] != "" {
			q := fact.Requirement{Name: e.attrs["id"], Version: e.attrs["version"], Scope: "package", At: e.at}
			if e.attrs["developmentDependency"] == "true" {
				q.Scope = "dev"
			}
			m.Requires = append(m.Requires, q)
		}
	})
	return m
}

var solutionProject = regexp.MustCompile(`(?m)^[ \t]*Project\("[^"]*"\)\s*=\s*"([^"]*)"\s*,\s*"([^"]*)"`)

// readSolution reads a .sln file: the projects that it holds.
func readSolution(text []byte, _ note) *fact.Manifest {
	m := &fact.Manifest{}
	doc := newDocument(text)
	for _, x := range solutionProject.FindAllSubmatchIndex(text, -1) {
		p := slashes(string(text[x[4]:x[5]]))
		if strings.HasSuffix(p, "proj") {
			m.Holds = append(m.Holds, fact.Requirement{Name: p, At: doc.place(x[4])})
		}
	}
	return m
}

// readSolutionX reads a .slnx file.
func readSolutionX(text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{}
	walkXML(text, note, func(e *element) {
		if p := e.attrs["Path"]; e.name() == "Project" && p != "" {
			m.Holds = append(m.Holds, fact.Requirement{Name: slashes(p), At: e.at})
		}
	})
	return m
}

// readClasspath reads Eclipse's .classpath: the projects and archives that a
// Java project is built with.
func readClasspath(p string, text []byte, note note) *fact.Manifest {
	m := &fact.Manifest{Module: path.Base(path.Dir("/" + p))}
	walkXML(text, note, func(e *element) {
		if e.name() != "classpathentry" {
			return
		}
		switch target := e.attrs["path"]; e.attrs["kind"] {
		case "src":
			if strings.HasPrefix(target, "/") {
				m.Requires = append(m.Requires, fact.Requirement{Name: strings.Trim(target, "/"), Scope: "project", At: e.at})
			}
		case "lib", "var":
			m.Requires = append(m.Requires, fact.Requirement{Name: strings.TrimSuffix(path.Base(target), ".jar"), Scope: "library", At: e.at})
		}
	})
	return m
}
