package swift

import (
	"slices"
	"sort"

	"vetta/internal/model"
	"vetta/internal/source/scan"
)

// Extensions are the endings of the files this reader takes.
var Extensions = []string{".swift"}

// Read reads Swift files into models, with the calls that decode them. What could
// not be read is among the set's problems; the rest is there all the same.
func Read(files []scan.Source) *model.Set {
	// A subclass of a decoder may have any name, so that no body can be told from its
	// words to build none.
	whole := slices.ContainsFunc(files, subclassesDecoder)
	tops := make([]*typeDecl, len(files))
	passed := make([][]model.Problem, len(files))
	set := &model.Set{Files: len(files)}
	for _, file := range files {
		set.Bytes += int64(len(file.Text))
	}
	rooms := newRooms()
	scan.Each(len(files), func(i int) {
		file := files[i]
		file.Whole = file.Whole || whole
		f := file.Scan(dialectOf(file.Text))
		passed[i] = selectBranches(f)
		room := rooms.Take()
		tops[i] = parseFile(f, room)
		rooms.Give(room)
		if file.Whole || len(f.Hits) > 0 || tops[i].keepsTokens() {
			f.Trim()
		} else {
			f.Free()
		}
	})
	for i, top := range tops {
		set.Problems = append(set.Problems, top.file.Problems...)
		set.PassedOver = append(set.PassedOver, passed[i]...)
	}
	l := newLinker(tops)
	l.buildModels()
	finder := &settingsFinder{l: l, unsure: map[*model.Call]bool{}}
	finder.find()
	finder.parts()
	finder.follow()
	finder.unasked()
	finder.resolveFormatters()
	finder.findSends()
	for _, m := range l.models {
		if m.Reading == model.ByCode {
			l.fieldsOfSteps(m)
		}
	}
	set.Calls, set.Sends = finder.calls, finder.sends
	called := map[*model.Model]bool{}
	for _, c := range set.Calls {
		c.Type.Walk(func(t *model.Type) {
			if t.Model != nil {
				called[t.Model] = true
			}
		})
	}
	for _, m := range l.models {
		if m.Decodable || m.FromMap || called[m] || l.sent[m] {
			set.Models = append(set.Models, m)
			l.completeModel(m)
		}
	}
	set.Others, set.OtherNames = l.other, l.otherNames
	sort.SliceStable(set.Models, func(i, k int) bool {
		a, b := set.Models[i].Pos, set.Models[k].Pos
		if a.File != b.File {
			return a.File < b.File
		}
		return a.Line < b.Line || a.Line == b.Line && a.Col < b.Col
	})
	return set
}
