// Package model says what classes declare, whatever their language: models,
// fields, types, and how an instance comes to be from a response. It knows the
// behaviour of no decoding library.
package model

import (
	"fmt"
	"maps"
	"slices"

	"vetta/internal/wire"
)

// Pos is a place in a source file. Lines and columns count from 1, columns in
// characters.
type Pos struct {
	File string `json:"file"`
	Line int32  `json:"line"`
	Col  int32  `json:"column"`
}

// String writes the position as editors and compilers do: file:line:column.
func (p Pos) String() string { return fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Col) }

// IsZero says whether the position names nothing.
func (p Pos) IsZero() bool { return p.Line == 0 }

// Set is all that was read from some source files.
type Set struct {
	Models   []*Model // in order of file and position
	Calls    []*Call  // where the source asks a library to decode
	Sends    []*Call  // where it asks one to write what a request sends
	Problems []Problem
	// PassedOver are stretches that a build leaves out, as far as can be told, and
	// that were not read for it.
	PassedOver []Problem
	// Others finds a class by its name that nothing was seen to decode, so that it is not among the
	// Models; nil where there are none.
	Others func(name string) *Model
	// OtherNames are the names of all classes, for what is mistyped; nil where there are none.
	OtherNames func() []string
	// Modules are, by file, the folders of the builds that the files are part of.
	Modules map[string]string
	// Runs is, by language, the program that the source makes up, for who runs its code.
	Runs  map[string]any
	Files int   // how many files were read
	Bytes int64 // how many bytes they hold
}

// Problem is something in the source that could not be read or followed.
type Problem struct {
	Pos    Pos    `json:"at"`
	Reason string `json:"reason"`
}

// Kind is what a model is declared as.
type Kind string

// The kinds of model.
const (
	Struct Kind = "struct"
	Class  Kind = "class"
	Enum   Kind = "enum"
	Record Kind = "record"
	// Interface is an interface that libraries are asked to make instances of.
	Interface Kind = "interface"
	// Object is an object of Kotlin, of which there is one instance.
	Object Kind = "object"
	// Alias is a name of TypeScript for a type that is written out.
	Alias Kind = "type"
)

// Reading says how an instance of a model comes to be from a response.
type Reading uint8

// The ways of reading.
const (
	ByLibrary  Reading = iota + 1 // the library reads the declared fields
	ByCode                        // hand-written code, followed: see Model.Steps
	Unfollowed                    // hand-written code that could not be followed: nothing is claimed
	Never                         // not read: a constant, a field left out of the keys
)

// String is the word for it in reports that programs read.
func (r Reading) String() string {
	return [...]string{"", "library", "code", "unfollowed", "never"}[r]
}

// MarshalText is String, for reports that are written as JSON.
func (r Reading) MarshalText() ([]byte, error) { return []byte(r.String()), nil }

// Model is a class, struct or enum that responses are decoded into.
type Model struct {
	Name      string   // with the types that enclose it: Port.Berth
	Language  string   // "swift"
	Package   string   // that the language has it in, "" for none
	Kind      Kind     // struct, class, enum
	Pos       Pos      // of its name
	Params    []string // names of its generic parameters
	Conforms  []string // what it inherits or implements, as written
	Super     *Type    // the class it extends, nil for none
	Fields    []*Field // its own, as declared; those of Super are not among them
	KeyOrder  []string // names of fields in the order the library reads them, where that is not as declared
	Cases     []*Case  // of an enum
	Raw       *Type    // what an enum or a wrapper of a raw value is written as; nil for none
	Reading   Reading
	Decodable bool // the language's library would decode it
	Sent      bool // it is what the app sends, and nothing is seen to decode it
	FromMap   bool // code of its own reads it from a parsed object
	Abstract  bool
	Init      any      // a *code.Routine: what Kotlin's init blocks do, of the properties by name; nil for none
	Adapter   *Adapter // what the class is marked to be read by in the library's place, nil for nothing
	Sealed    bool     // all classes that extend it are Subs
	Subs      []*Model // of one that is sealed, as the source declares them
	Data      bool     // its instances are equal where their properties are: a data class of Kotlin
	Private   bool     // no library outside its file may make an instance
	// Of a class of C#: Access says who may see it, Collection is the list or map that it extends.
	Access     Access
	Collection *Type
	// Computed says that code which runs where an instance is made may give its fields, and
	// those it inherits, other values than their initialisers.
	Computed bool
	Derived  []string // properties of Kotlin that code computes, so that no field is behind them
	Steps    []Step   // what the code does, where Reading is ByCode
	// Writes is why it is not followed what is written of it, "" where its library does that.
	Writes  string
	Why     string // why it is Unfollowed
	WhyPos  Pos    // and where
	Notes   []Note // what its author should know of the reading, whatever is sent
	Marks   Annotated
	Methods []*Method
	Ctors   []*Method // empty where there is only the one that a class has by itself
	// Related finds a model by the name that the model's own source would give it; nil
	// where that language has no use for it.
	Related func(name string) *Model
	Source  any    // the declaration it was made of, which only its reader knows the type of
	Library string // that its annotations name, "" where they name none
	// Assumed is why Library is taken for what decodes it though neither its file nor a call says so; "" where
	// one does, or nothing is assumed.
	Assumed string
	// Likely says that nothing in the source decodes anything, and that it looks like data; Perhaps that it
	// does not, so that it is a model only where responses have its keys.
	Likely, Perhaps bool
	// Decoder is what decodes it whatever calls say: as the user says, else as code says that makes it of an element by
	// hand; nil where neither does.
	Decoder *Settings
	Inline  *Type     // of a Kotlin value class: what a property of it is compiled to
	Builder []*Method // the setters of a builder that makes its instances, where it has one
}

// Note is a remark about a declaration.
type Note struct {
	Pos  Pos    `json:"at"`
	Text string `json:"text"`
}

// Reach is a key that code asks a value for.
type Reach struct {
	Path []wire.Step // from the value on, the key the last of them
	Pos  Pos
	// Instead is the same of keys of which one stands for another where that is not there; 0 of one alone.
	Instead int
}

// Field is a property of a model.
type Field struct {
	Name     string
	Keys     []string // names on the wire, in the order the library tries them
	Type     *Type
	Declared string   // the type as the source writes it
	Default  *Literal // its initialiser, nil for none
	Adapter  *Adapter // what it is marked to be read by, nil for nothing
	Wrapper  *Type    // the property wrapper that is decoded in its stead, nil for none
	// Written is the key that the compiler's code writes it under, "" where it writes none, or where that is
	// the library's affair.
	Written  string
	Fallback *Literal // what it holds where its key is absent or null, nil where that is the library's affair
	Why      string   // for Never and Unfollowed: why
	Pos      Pos
	Reading  Reading

	// Stale is how generated code reads it that is older than the class, in words; "" where it reads it as the class says.
	Stale string
	// Deep are the keys that lead to it where code reaches through objects, the first one among Keys; nil where that
	// one leads to it.
	Deep []string
	// Reached are the keys that the app asks its value for, where no class says what that is.
	Reached []Reach

	// What only classes have that libraries read by reflection.
	Access    Access
	Static    bool
	Final     bool
	Transient bool
	Lost      bool // its initialiser does not run where an instance is made without a constructor
	Marks     Annotated
	// Of a property of Kotlin: NoSetter says that nobody outside its class sets it, Lateinit that its
	// field is as visible as its setter is; Elsewhere are the annotations that its accessors and
	// its constructor's parameter get, not its field.
	NoSetter, Lateinit bool
	Elsewhere          Annotated

	// What only classes of C# have: of a property, Property; of both, whether it is required, hides or overrides a
	// member of the class above, is declared where nothing is said of null, or takes null though its type does not say so.
	Property                      *Property
	Required, Hides, Overrides    bool
	Oblivious, AllowsNull, NoNull bool
}

// Property is what a library sees of a property of C#.
type Property struct {
	Get, Set   Access // 0 where it has none
	Init       bool   // it is set only where an instance is made
	Positional bool   // a parameter of its record declares it
	// Stored says that the compiler makes what holds its value; Backs is the field that its setter gives the value as
	// it is, "" for none, and Writes are those to which it gives anything else.
	Stored bool
	Backs  string
	Writes []string
}

// Case is a constant of an enum.
type Case struct {
	Name   string
	Raw    *Literal // its raw value, nil where the enum has none
	Values []*Field // its associated values; unlabelled ones are named _0, _1
	Key    string   // its name on the wire, for an enum without raw values
	Marks  Annotated
	Args   []*Literal // what its constructor is given
	Text   bool       // its own body says what toString answers
	Pos    Pos
}

// Call is a place where the source asks a library to decode.
type Call struct {
	Pos       Pos
	Type      *Type  // what is decoded; nil where only a type parameter is named
	Declared  string // the type as written
	Swallowed bool   // its error is dropped there: the app gets nothing instead
	// Catches are the classes of errors that are dropped there, nil for all; Instead says that the app then gets a value
	// of its own, rather than nothing.
	Catches []string
	Instead bool
	// Otherwise is what makes that value, a *code.Routine; nil where it is not followed.
	Otherwise any
	// Within are the keys that lead to what is decoded, of a document that is parsed first; nil where it is decoded
	// as a whole, or where they are not told.
	Within []string
	// Part names what of a document is decoded where that is no document: one for all that is decoded of the same. Picked says
	// that code decodes it only where something in it is a certain value. "" for a document as a whole, and for what Within
	// leads to alone.
	Part     string
	Picked   bool
	Settings *Settings // of the decoder it is called on; nil where it was not found
	Language string    // of the file
	Endpoint string    // the path of the request whose response it is, "" where none is known
	Method   string    // of that request, in capitals; "" where none is known
	// Way leads from where the type is named through the app's functions to the method of the library; it is
	// empty where that is called on the spot.
	Way []Through
	// Copied says of a decoder without a call of its own that calls use it all the same, with something set for themselves.
	Copied bool
	// Followed says that the type is a type parameter, and that other calls say what it stands for.
	Followed bool
	Lost     string // why what it decodes is not known, "" where it is, or nothing was looked for
}

// Through is a function on the way of a call, and where the one before it calls it; of the first, where it
// calls the next.
type Through struct {
	Name string
	Pos  Pos
}

// Settings are a decoding library and how the source sets it up.
type Settings struct {
	Library string // "foundation"
	Pos     Pos    // where the decoder is built
	Options map[string]Option
	// Version is that of the library where build files say it, and where rules of the library hang on it; else empty.
	Version Option
	// Why says why they are not known, though the library is; "" where they are.
	Why string
	// Assumed are options that hold where neither these settings nor the source say anything of a decoder.
	Assumed map[string]Option
	// Adapters are those that read values of some types in the library's place, the first asked first; Families
	// are classes whose subclasses are told apart as the decoder is told.
	Adapters []Adapter
	Families []Family
	MixIns   []MixIn
	// Root is what the call that decodes says of the document as a whole alone: that its type takes no null, the
	// annotation that it is read by. It is no setting of the decoder, and not shown as one.
	Root RootSaid
	// Entry is what code of the app decodes by: the function and what it is run by, a *run.Entry; of C# the type that it
	// makes of a response, a *Type. nil where a library decodes.
	Entry any
	// Qualifiers are the annotations of the project by which properties ask for adapters of their own.
	Qualifiers []string
	// Modifiers are functions of the app that change what the library knows of a class, *code.Modifier each.
	Modifiers []any
	// Custom are the steps of closures that the source gives to an option, where they
	// were followed.
	Custom map[string][]Step
}

// Option is a setting of a library: its value as the library's folder defines it.
type Option struct {
	Value string `json:"value"`
	Pos   Pos    `json:"at"`
}

// Option answers the value of a setting, "" where the source leaves it alone.
func (s *Settings) Option(name string) string {
	if s == nil {
		return ""
	}
	return s.Options[name].Value
}

// Refuses is why nothing is claimed of what a decoder with these settings does, in the words of its library, "" where
// something is: they are not known, or it is set up in a way that is not followed.
func (s *Settings) Refuses(title string) string {
	switch {
	case s == nil:
		return ""
	case s.Why != "":
		return s.Why
	case s.Option("unfollowed") != "":
		return "its " + title + " is set up by " + s.Option("unfollowed") + ", which is not followed"
	}
	return ""
}

// Same says whether two decoders are set up alike.
func (s *Settings) Same(other *Settings) bool {
	return s.Library == other.Library && s.Root == other.Root && s.Version.Value == other.Version.Value && len(s.Custom)+len(other.Custom) == 0 && slices.Equal(s.Modifiers, other.Modifiers) && maps.EqualFunc(s.Options, other.Options, func(a, b Option) bool { return a.Value == b.Value })
}

// Over are settings with others under them, where those are of the same library; nil for none.
func (s *Settings) Over(other *Settings) *Settings {
	if other == nil || other.Library != s.Library || other.Why != "" {
		if len(s.Assumed) == 0 {
			return s
		}
		r := *s
		r.Options = maps.Clone(s.Assumed)
		maps.Copy(r.Options, s.Options)
		return &r
	}
	r := *other
	r.Options = maps.Clone(other.Options)
	if r.Options == nil {
		r.Options = map[string]Option{}
	}
	maps.Copy(r.Options, s.Options)
	return &r
}

// Also makes the classes of another set that nothing decodes be found too, behind those of this one.
func (s *Set) Also(other *Set) {
	if other.Others == nil {
		return
	}
	find, names := s.Others, s.OtherNames
	if find == nil {
		s.Others, s.OtherNames = other.Others, other.OtherNames
		return
	}
	s.Others = func(name string) *Model {
		if m := find(name); m != nil {
			return m
		}
		return other.Others(name)
	}
	s.OtherNames = func() []string { return append(names(), other.OtherNames()...) }
}

// Find answers the model of that name, or nil. A name without its enclosing types
// finds the model if there is one such alone. A class that nothing decodes is found last.
func (s *Set) Find(name string) *Model {
	var found *Model
	for _, m := range s.Models {
		if m.Name == name || m.Package != "" && m.Package+"."+m.Name == name {
			return m
		}
		if n := len(m.Name) - len(name); n > 0 && m.Name[n:] == name && m.Name[n-1] == '.' {
			if found != nil {
				return nil
			}
			found = m
		}
	}
	if found == nil && s.Others != nil {
		return s.Others(name)
	}
	return found
}
