package report

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"vetta/internal/shape"
	"vetta/internal/traffic"
)

// PassedText says on one line what was passed over of captures, behind some words; "" for nothing.
func PassedText(all []shape.Passed, before string) string {
	type kind struct {
		name      string
		count     int64
		endpoints []string
	}
	var kinds []*kind
	for _, p := range all {
		i := slices.IndexFunc(kinds, func(k *kind) bool { return k.name == p.Kind })
		if i < 0 {
			i = len(kinds)
			kinds = append(kinds, &kind{name: p.Kind})
		}
		kinds[i].count += p.Count
		if told := p.Kind == traffic.XML; told && p.Endpoint != "" && !slices.Contains(kinds[i].endpoints, p.Endpoint) {
			kinds[i].endpoints = append(kinds[i].endpoints, p.Endpoint)
		}
	}
	slices.SortStableFunc(kinds, func(a, b *kind) int { return cmp.Or(cmp.Compare(b.count, a.count), cmp.Compare(a.name, b.name)) })
	var parts []string
	for _, k := range kinds {
		text := fmt.Sprintf("%d %s", k.count, pluralOf(k.name, k.count))
		if len(k.endpoints) > 2 {
			k.endpoints = append(k.endpoints[:2], "…")
		}
		if len(k.endpoints) > 0 {
			text += " (" + strings.Join(k.endpoints, ", ") + ")"
		}
		parts = append(parts, text)
	}
	if len(parts) == 0 {
		return ""
	}
	return before + strings.Join(parts, ", ")
}

// filtered is how many responses were left out by how they were sent.
func filtered(all []shape.Passed) (n int64) {
	for _, p := range all {
		if p.Kind == traffic.Filtered {
			n += p.Count
		}
	}
	return n
}

// pluralOf is the name of a kind of body for a number of them.
func pluralOf(name string, n int64) string {
	first, rest, _ := strings.Cut(name, " ")
	switch {
	case n == 1, name == traffic.PlainText:
		return name
	case name == traffic.Empty:
		return "empty bodies"
	case name == traffic.Unsaved:
		return "bodies that were not saved"
	case name == traffic.Other:
		return "bodies of another kind"
	case name == traffic.Sound:
		return "sounds or films"
	case strings.Contains(rest, "without") || strings.Contains(rest, "left out"):
		return first + "s " + rest
	}
	return name + "s"
}
