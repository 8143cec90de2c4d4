package drift

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
	"vetta/internal/model"
	"vetta/internal/shape"
	"vetta/internal/wire"
)

// Fitness is how well a type fits a place, as pairing asks.
type Fitness struct {
	Asked  int     // keys that the type reads, as far in as the place goes
	Found  int     // of them, keys that are sent there
	Alike  int     // of those found, keys that are sent under another name, as it seems
	Keys   float64 // 0 to 1: what is found of what is asked, by weight
	Values float64 // 0 to 1: the share of the values of found keys that decode
	Read   float64 // 0 to 1: what is read of the keys that are sent
	// Of the models that a generic wrapper is given alone, see Looking.
	InnerAsked, InnerFound int
	RootKind               float64 // 0 to 1: the share of values at the place that are of the kind that is decoded
}

// renamedTells is how much a key that seems to be sent under another name tells, beside one that
// is sent under its own.
const renamedTells = 0.8

// Looking says how Fit looks.
type Looking struct {
	Weight func(key string) float64 // how much a key tells, by its name
	Alike  bool                     // look for keys under other names too, which takes long
	Inner  map[*model.Model]bool    // the models that a generic wrapper is given
	Called bool                     // a call names the type: its classes, which a key tells apart, count for it
}

// Fit walks a plan at a place and says how well they fit.
func Fit(root *decoder.Node, e *shape.Endpoint, place *shape.Place, how Looking) Fitness {
	weight := how.Weight
	w := newWalk(e)
	w.node(root, place, false)
	var f Fitness
	var renames map[renameKey]*rename
	if how.Alike {
		renames = w.renames()
	}
	asked, found := 0.0, 0.0
	depth := len(place.Steps)
	read, sent := 0, 0
	counted := map[*shape.Place]bool{}
	for _, a := range w.asked {
		if a.place.Count(wire.Object) == 0 {
			continue
		}
		// What lies deeper tells less: the roots of envelopes are what sets types apart.
		far := 1 / float64(1+namesIn(a.place, depth))
		f.Asked++
		before := f.Found
		if len(a.keys) > 0 {
			f.Found++
			asked += far * weight(a.keys[0].Name)
			found += far * weight(a.keys[0].Name)
		} else if r := renames[renameKey{a.place, a.node.Name}]; r != nil {
			f.Found++
			f.Alike++
			asked += far * weight(r.key.Name)
			found += far * weight(r.key.Name) * renamedTells
			read++
		} else if a.node.Missing != nil {
			asked += far
		} else {
			asked += far / 2 // an optional key may well be absent
		}
		if how.Inner[a.model] {
			f.InnerAsked++
			f.InnerFound += f.Found - before
		}
		if !counted[a.place] {
			counted[a.place] = true
			sent += len(a.place.Keys)
		}
		read += len(a.keys)
	}
	if asked > 0 {
		f.Keys = found / asked
	}
	if sent > 0 {
		f.Read = float64(read) / float64(sent)
	}
	var values, failed int64
	for _, a := range w.asked {
		for _, k := range a.keys {
			values += k.Place.Total()
		}
	}
	for _, ev := range w.events {
		if ev.Breaks() && ev.Key == "" && ev.Field != nil && !ev.Element {
			failed += ev.Values
		}
	}
	if values > 0 {
		f.Values = float64(max(0, values-failed)) / float64(values)
	}
	if n, at := choiceAt(root, place); n != nil && f.Asked == 0 && how.Called {
		f.ofClasses(n, at, how.Weight)
	}
	f.RootKind = rootKind(w, place)
	if f.Asked == 0 && f.RootKind < 1 {
		// The kinds differ, so nothing was walked: count what would have been asked.
		f.Asked = keysOf(root)
	}
	return f
}

// choiceAt is the node by which objects of several classes are read, at the root or as the elements of lists, with its
// place; nil where the root is of another kind.
func choiceAt(n *decoder.Node, place *shape.Place) (*decoder.Node, *shape.Place) {
	for n != nil && place != nil {
		switch n.Op {
		case decoder.OpSubtype:
			return n, place
		case decoder.OpList:
			place = place.Elem
		case decoder.OpNil:
		default:
			return nil, nil
		}
		n = n.Inner
	}
	return nil, nil
}

// ofClasses counts the keys of classes that a key tells apart: that key, and those of the classes that are sent, which
// no object has all of.
func (f *Fitness) ofClasses(n *decoder.Node, place *shape.Place, weight func(string) float64) {
	asked, found := 0.0, 0.0
	count := func(name string, must float64) {
		if key := place.Key(name); key != nil {
			f.Asked++
			f.Found++
			asked, found = asked+weight(name), found+weight(name)
		} else if must > 0 {
			f.Asked++
			asked += must
		}
	}
	seen := map[string]bool{n.Name: true}
	count(n.Name, 1)
	for _, b := range n.Branches {
		build := b.Node
		for build != nil && build.Op != decoder.OpBuild {
			build = build.Inner
		}
		if build == nil {
			continue
		}
		for _, s := range build.Steps {
			if s.Node != nil && s.Node.Op == decoder.OpAt && !seen[s.Node.Name] {
				seen[s.Node.Name] = true
				count(s.Node.Name, 0)
			}
		}
	}
	if asked > 0 {
		f.Keys = found / asked
	}
	if len(place.Keys) > 0 {
		f.Read = float64(f.Found) / float64(len(place.Keys))
	}
	f.Values = 1
}

func namesIn(p *shape.Place, from int) (n int) {
	for _, s := range p.Steps[min(from, len(p.Steps)):] {
		if s.Index == wire.MemberStep {
			n++
		}
	}
	return n
}

func rootKind(w *walk, place *shape.Place) float64 {
	total := place.Total()
	if total == 0 {
		return 0
	}
	wrong := int64(0)
	for _, ev := range w.events {
		if ev.Place == place && ev.Model == nil && ev.Breaks() {
			wrong += ev.Values
		}
	}
	return float64(total-wrong) / float64(total)
}

// keysOf counts the keys that a plan's outermost model reads.
func keysOf(n *decoder.Node) (count int) {
	for n != nil && n.Op != decoder.OpBuild {
		n = n.Inner
	}
	if n == nil {
		return 0
	}
	for _, f := range n.Props {
		if f.Reading != model.Never {
			count++
		}
	}
	return count
}

// Places are the places of objects that some pairs read.
func Places(pairs []*Pair) map[*shape.Place]bool {
	out := map[*shape.Place]bool{}
	for _, p := range pairs {
		w := newWalk(p.Endpoint)
		w.node(p.Plan.Asks(), p.Place, false)
		for _, a := range w.asked {
			out[a.place] = true
		}
	}
	return out
}

// Words takes a name apart at underscores, marks and capitals, in lower case.
func Words(name string) []string { return finding.WordsIn(name) }
