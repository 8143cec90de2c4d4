package library_test

import (
	"testing"

	"vetta/internal/decoder/library"
	"vetta/internal/decoder/xmlserializer"
	"vetta/internal/markup"
	"vetta/internal/model"
	"vetta/internal/source"
	"vetta/internal/source/scan"
	"vetta/internal/wire"
)

// TestPlannersAlone: what a type is planned as does not hang on which others were planned before: names that meet, classes
// that extend, an order, one that is refused.
func TestPlannersAlone(t *testing.T) {
	set := source.Read([]scan.Source{{Name: "M.cs", Text: `using System.Xml.Serialization;
		public class Port { public int Depth { get; set; } public Berth Berth { get; set; } }
		public class Berth { public int No { get; set; } }
		public class Fleet { public Vessel Flag { get; set; } public int Size { get; set; } }
		[XmlType("Berth")] public class Bed { public string Deck { get; set; } }
		public class Cabin { public Bed Bed { get; set; } }
		public class Ferry { public Port Port { get; set; } public Cabin Cabin { get; set; } }
		[XmlInclude(typeof(Tug))] public class Vessel { public string Name { get; set; } }
		public class Tug : Vessel { public int Pull { get; set; } }
		public class Yard { public Vessel Dock { get; set; } public Hidden Hidden { get; set; } }
		class Hidden { public int X { get; set; } }
		public class Log { [XmlElement(Order = 1)] public int A { get; set; } [XmlElement(Order = 2)] public int B { get; set; } }
		public class Book { public Log Log { get; set; } }`}})
	lib := library.All[0]
	for _, l := range library.All {
		if l.Name == xmlserializer.Name {
			lib = l
		}
	}
	for _, backwards := range []bool{false, true} {
		planners := library.Planners{}
		for i := range set.Models {
			m := set.Models[i]
			if backwards {
				m = set.Models[len(set.Models)-1-i]
			}
			typ := &model.Type{Name: m.Name, Model: m}
			alone, shared := lib.Plan(typ, m.Name, nil), planners.Plan(&lib, typ, m.Name, nil)
			if alone.Inexact != shared.Inexact || alone.Root.Op != shared.Root.Op {
				t.Errorf("%s: alone %v inexact %v, with others %v %v", m.Name, alone.Root.Op, alone.Inexact, shared.Root.Op, shared.Inexact)
			}
			for _, inner := range []string{"<Flag xmlns:i='http://www.w3.org/2001/XMLSchema-instance' i:type='Tug'><Pull>x</Pull></Flag>", "<Port><Depth>x</Depth></Port>", "<Log><B>1</B><A>x</A></Log>", "<Cabin><Bed><Deck>1</Deck></Bed></Cabin>"} {
				c, err := markup.Convert([]byte("<" + m.Name + ">" + inner + "</" + m.Name + ">"))
				if err != nil {
					t.Fatal(err)
				}
				v, err := wire.Parse(c.JSON)
				if err != nil {
					t.Fatal(err)
				}
				tree, err := c.Tree()
				if err != nil {
					t.Fatal(err)
				}
				v.Attach(tree)
				a, b := alone.Decode(v), shared.Decode(v)
				if (a.Err == nil) != (b.Err == nil) || a.Err != nil && a.Err.Message != b.Err.Message || a.Err == nil && a.Seen.String() != b.Seen.String() {
					t.Errorf("%s: %s: alone %v %v, with others %v %v", m.Name, inner, a.Seen, a.Err, b.Seen, b.Err)
				}
			}
		}
	}
}
