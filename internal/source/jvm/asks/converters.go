package asks

import (
	"slices"
	"strings"

	"vetta/internal/model"
	"vetta/internal/source/jvm"
)

// converter is a factory of converters that an HTTP client is given, by which it decodes what the
// interfaces declare that it makes.
type converter struct {
	file     *jvm.File
	at       int      // token
	names    []string // of the client: its variable, the function that makes it
	settings *model.Settings
}

// factories are the classes of converters, and which library each is of.
var factories = map[string]string{"GsonConverterFactory": "gson", "JacksonConverterFactory": "jackson", "MoshiConverterFactory": "moshi"}

// converterOf are the settings of the decoder of the client that makes a service interface: the one that
// create(Service::class.java) is called on, else one of the file where that stands, else the first.
func converterOf(p *jvm.Project, c *jvm.Class, all *decoders) *model.Settings {
	if !all.looked {
		all.converters, all.looked = findConverters(p, all), true
	}
	switch found := all.converters; {
	case len(found) == 1:
		return found[0].settings
	case len(found) > 1:
		return makerOf(p, c, found).settings
	case len(all.all) > 0:
		return all.all[0].settings
	}
	return nil
}

// makerOf is the converter of the client that makes a service interface.
func makerOf(p *jvm.Project, c *jvm.Class, all []*converter) *converter {
	best := all[0]
	for _, made := range creations(p) {
		f, i := made.File, made.At
		if !strings.Contains(made.Text, c.Name) {
			continue
		}
		for at := range links(f, i) {
			for _, k := range all {
				if k.file == f && k.at > at && k.at < i || slices.Contains(k.names, f.Word(at)) {
					return k
				}
			}
		}
		for _, k := range all {
			if k.file == f && (best.file != f || k.at < i) {
				best = k
			}
		}
	}
	return best
}

// creations are those of the project, looked for once.
func creations(p *jvm.Project) []jvm.Creation {
	if p.Created == nil {
		p.Created = []jvm.Creation{}
		for _, f := range p.Files {
			for _, hit := range f.Hits {
				if i := int(hit); f.Is(i, "create") {
					p.Created = append(p.Created, jvm.Creation{File: f, At: i, Text: f.Text(i, min(i+12, f.Len()))})
				}
			}
		}
	}
	return p.Created
}

// findConverters are the converters that the source makes. Of several that one client is given, the first
// is asked first.
func findConverters(p *jvm.Project, all *decoders) (found []*converter) {
	for _, f := range p.Mentioning(jvm.Converters) {
		client := -1
		for _, hit := range f.Hits {
			i := int(hit)
			library := factories[f.Word(i)]
			switch {
			case f.Is(i, "asConverterFactory") && f.Is(i-1, ".") && f.Is(i+1, "("):
				library = "kotlinx.serialization"
			case library == "" || !f.Is(i+1, ".") || f.Is(i-1, ".") && f.Is(i-2, "gson"): // an import
				continue
			}
			start := clientAt(f, i)
			if start >= 0 && start == client {
				continue
			}
			client = start
			k := &converter{file: f, at: i, settings: convertedBy(p, f, i, library, all)}
			if start >= 0 {
				k.names = namesBefore(f, start)
			}
			found = append(found, k)
		}
	}
	return found
}

// maxClient is how many tokens a client is at most made with.
const maxClient = 400

// clientAt is the token at which the making of the client begins that is given the converter at another,
// -1 where it is not seen.
func clientAt(f *jvm.File, at int) int {
	for i := at; i > max(0, at-maxClient) && !f.Is(i, ";"); i-- {
		if f.Is(i, "Builder") && f.Is(i-1, ".") && f.Is(i-2, "Retrofit") {
			return i - 2
		}
	}
	return -1
}

// convertedBy are the settings of the decoder that a factory is given: one of its name, or made on the
// spot, or the only one of the library, which is injected.
func convertedBy(p *jvm.Project, f *jvm.File, at int, library string, all *decoders) *model.Settings {
	plain := &model.Settings{Library: library, Pos: f.Where(at)}
	open := at + 3
	shut := f.Partner(open)
	if library == jvm.Kotlinx { // json.asConverterFactory(…)
		for link := range links(f, at) {
			if own := jsonAt(f, link); own != nil {
				return own
			}
			if b := all.named(f, link, at, library); b != nil {
				return b.settings
			}
		}
		if only := all.byLibrary[library]; len(only) == 1 {
			return only[0].settings
		}
		return plain
	}
	if !f.Is(open, "(") || shut == open+1 {
		if library == "moshi" { // of a Moshi.Builder that is told nothing
			plain.Options = map[string]model.Option{"KotlinJsonAdapterFactory": {Value: "false", Pos: f.Where(at)}}
		}
		return plain
	}
	for _, b := range all.byFile[f] {
		if open < b.at && b.at < shut {
			return b.settings
		}
	}
	if name := f.Ident(shut - 1); name != "" {
		named := all.byName[library+" "+name]
		for _, b := range named {
			if b.file == f {
				return b.settings
			}
		}
		if len(named) > 0 {
			return named[0].settings
		}
	}
	if only := all.byLibrary[library]; len(only) > 0 {
		return only[0].settings
	}
	return plain
}
