package views

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"moatline/internal/core/fact"
	"moatline/internal/core/language/java"
	"moatline/internal/core/language/readertest"
)

func fresh() readertest.Reader {
	b := fact.NewBuilder()
	return NewReader(b, java.NewReader(b))
}

// pages has an intact page of each kind.
var pages = map[string]string{
	"a.jsp":    `<%@ page import="quay.Berth" %><jsp:useBean id="t" class="quay.Tide"/><jsp:include page="b.jsp"/><jsp:scriptlet>Tide t;</jsp:scriptlet>`,
	"a.xhtml":  `<ui:include src="/b.xhtml"/>#{desk.berths} ${flag.up}`,
	"a.cshtml": "@model Quay.Berth\n@inject Quay.Page<Tide> Page\n@using Quay\n",
	"a.xaml":   `<W x:Class="Quay.Desk" xmlns:q="clr-namespace:Quay"><q:Berth/><q:Tide/></W>`,
}

// What a page of each kind names.
func TestNames(t *testing.T) {
	for path, want := range map[string]string{
		"a.jsp":    "Tide type, quay.Tide construct",
		"a.xhtml":  "desk call, flag call",
		"a.cshtml": "Quay.Berth type, Quay.Page`1 type, Tide type",
		"a.xaml":   "Quay.Desk type, Quay.Berth construct, Quay.Tide construct",
	} {
		assert.Equal(t, want, readertest.Shown(fresh().Read(path, []byte(pages[path]))), path)
	}
}

func TestDamaged(t *testing.T) {
	for path, text := range pages {
		t.Run(path, func(t *testing.T) { readertest.Damaged(t, fresh(), path, text) })
	}
}

func TestLarge(t *testing.T) {
	for path, before := range map[string]string{"a.jsp": "<%", "a.xhtml": "#{", "a.cshtml": "@using ", "a.xaml": `<a xmlns:x="using:Quay"`} {
		t.Run(path, func(t *testing.T) {
			if path == "a.jsp" { // its code is read as Java
				readertest.Large(t, fresh(), path, before)
			}
			readertest.Long(t, fresh(), path, before, "<%", "<%--", "<%@ page import='", "<%@ include file='", "<jsp:useBean ", "<jsp:scriptlet>", "#{a.b", "<ui:include ", "@model A<", "x:a:b", "x:Class='")
		})
	}
}

// kinds reads a text as a page of the kind that its first letter chooses.
type kinds struct{ r readertest.Reader }

func (k kinds) Read(path string, text []byte) *fact.File {
	ext := ".jsp"
	if len(text) > 0 {
		ext = []string{".jsp", ".xhtml", ".cshtml", ".xaml"}[text[0]%4]
	}
	return k.r.Read(path+ext, text)
}

func FuzzRead(f *testing.F) {
	seeds := []string{`<%-- <%@ include file="x" %> --%><%= a %>`, "<%!", `<%@page import="a,,b.*, static c"%>`, `<jsp:expression>a &lt; b</jsp:expression>`}
	for _, text := range pages {
		seeds = append(seeds, "<"+text, "="+text, ">"+text, "?"+text)
	}
	readertest.Fuzz(f, func() readertest.Reader { return kinds{fresh()} }, "a", seeds...)
}
