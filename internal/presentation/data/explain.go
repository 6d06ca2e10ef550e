package data

import (
	"io"

	"moatline/internal/core/draft"
	"moatline/internal/core/judge"
)

type kindEntry struct {
	Name    string            `json:"name"`
	Meaning string            `json:"meaning"`
	Verdict string            `json:"verdict"`
	Why     string            `json:"why"`
	Mend    []string          `json:"mend"`
	Before  map[string]string `json:"before"`
	After   map[string]string `json:"after"`
}

// KindsJSON writes kinds of breach as a list, or one of them as an object.
func KindsJSON(w io.Writer, kinds []*judge.Kind, list bool) error {
	var out []kindEntry
	for _, k := range kinds {
		out = append(out, kindEntry{k.Name, k.Meaning, string(k.Default), k.Why, k.Mend, k.Before, k.After})
	}
	if !list && len(out) == 1 {
		return writeJSON(w, out[0])
	}
	return writeJSON(w, out)
}

// VersionJSON writes which version this is.
func VersionJSON(w io.Writer, version, commit, built string) error {
	return writeJSON(w, struct {
		Version string `json:"version"`
		Commit  string `json:"commit"`
		Built   string `json:"built"`
	}{version, commit, built})
}

type draftPattern struct {
	Pattern  string `json:"pattern"`
	Files    int    `json:"files"`
	Evidence string `json:"evidence,omitempty"`
}

type draftLayer struct {
	Role       string         `json:"role"`
	Files      int            `json:"files"`
	Confidence string         `json:"confidence,omitempty"`
	Patterns   []draftPattern `json:"patterns"`
}

// DraftJSON writes a proposed declaration with its evidence.
func DraftJSON(w io.Writer, p *draft.Proposal) error {
	out := struct {
		Application string         `json:"application"`
		Shape       string         `json:"shape"`
		Because     string         `json:"because"`
		Rings       [][]draftLayer `json:"rings"` // innermost first
		Wiring      []draftPattern `json:"wiring"`
		Unplaced    []draftPattern `json:"unplaced"`
	}{p.Application, string(p.Shape), p.ShapeEvidence, [][]draftLayer{}, draftPatterns(p.Wiring), draftPatterns(p.Unplaced)}
	for _, ring := range p.Rings {
		var layers []draftLayer
		for _, l := range ring {
			layers = append(layers, draftLayer{string(l.Role), l.Files, l.Confidence, draftPatterns(l.Patterns)})
		}
		out.Rings = append(out.Rings, layers)
	}
	return writeJSON(w, out)
}

func draftPatterns(list []draft.Pattern) []draftPattern {
	out := []draftPattern{}
	for _, p := range list {
		out = append(out, draftPattern{p.Text, p.Files, p.Evidence})
	}
	return out
}
