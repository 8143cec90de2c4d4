package model

import "slices"

// What follows is what libraries look at that read classes by reflection: who may see
// a member, what is annotated, which methods there are.

// Access says who may see a member.
type Access uint8

// The accesses. Package is that of Java's members without a modifier.
const (
	Public Access = iota + 1
	Protected
	Package
	Private
)

var accesses = [...]string{"", "public", "protected", "package", "private"}

// String is the access as a modifier says it.
func (a Access) String() string { return accesses[a] }

// AccessOf is the access that a modifier gives, 0 for none.
func AccessOf(modifier string) Access {
	return Access(slices.Index(accesses[1:], modifier) + 1)
}

// Annotation is an annotation in source.
type Annotation struct {
	Name   string // without its package
	Whole  string // with the package, as far as the source writes one there
	Target string // the use-site target that Kotlin may name: field, get
	Args   []Argument
	Pos    Pos
}

// Argument is what an annotation is given under a name, value where it gives none. Of an array
// it is each element.
type Argument struct {
	Name  string
	Texts []string // strings plain, other expressions as written, classes by name
	Types []*Type  // of C#, what the classes among the texts are, and int for a number
	Marks []Annotation
	// Made are, of the texts that constants are part of, by index, what they are put together
	// of, as long as the source does not tell the constants.
	Made map[int][]*Literal
}

// Untold is the first text of some arguments that names a constant which is not in the
// source, "" where there is none.
func (a *Annotation) Untold(args ...string) string {
	if a == nil {
		return ""
	}
	for _, name := range args {
		arg := a.Arg(name)
		for i, text := range arg.Texts {
			if _, made := arg.Made[i]; made {
				return text
			}
		}
	}
	return ""
}

// Annotated are annotations by name.
type Annotated []Annotation

// Find answers the annotation of that name, or nil.
func (a Annotated) Find(name string) *Annotation {
	for i := range a {
		if a[i].Name == name {
			return &a[i]
		}
	}
	return nil
}

// Arg is the argument of that name, an empty one where it is not given.
func (a *Annotation) Arg(name string) Argument {
	if a != nil {
		for i := range a.Args {
			if a.Args[i].Name == name {
				return a.Args[i]
			}
		}
	}
	return Argument{Name: name}
}

// Texts are the elements of an argument, none where it is not given.
func (a *Annotation) Texts(arg string) []string { return a.Arg(arg).Texts }

// Text is the one element of an argument, or what it is by default.
func (a *Annotation) Text(arg, byDefault string) string {
	if texts := a.Texts(arg); len(texts) > 0 {
		return texts[0]
	}
	return byDefault
}

// Method is a method or a constructor.
type Method struct {
	Name    string
	Params  []*Parameter
	Returns *Type // nil for a constructor and for nothing
	// Receiver is the class that an extension of Kotlin is of.
	Receiver string
	// Declared is Returns as the source writes it.
	Declared string
	Marks    Annotated
	Access   Access
	Static   bool
	Suspends bool // of Kotlin: it may wait for what it returns
	// IsExpression says that the body is a single expression.
	IsExpression bool
	// Defaults says of a constructor without parameters that it is the one that the
	// compiler makes where all parameters of another have defaults (Kotlin).
	Defaults bool
	// Opaque is described at Sets.
	Opaque bool
	// RefusesNull says of a method of one parameter that it throws where that is null.
	RefusesNull bool
	// Fills are the fields that a constructor assigns each of its parameters to, where
	// it does nothing else with it; "" for others.
	Fills []string
	// Throws says that its body may throw by itself.
	Throws bool
	// Sets is the map that a method of two parameters puts one of them under the other into, and
	// nothing else; the field that a method of one parameter assigns it to as it is, "" where it
	// has no body, or does anything else: then it is Opaque. A static method is Opaque that
	// does anything else than hand its parameters to a constructor.
	Sets string
	// Computes are the fields that a constructor assigns anything else to than one of its
	// parameters as it is; of a method that is Opaque, the names that it assigns to.
	Computes []string
	// Calls are the tokens of the arguments with which a constructor calls another one
	// of its class, 0 and 0 where it does not.
	Calls [2]int
	// Super are those with which it calls one of the superclass, where it does so before its
	// body (Kotlin); 0 and 0 where it does not.
	Super [2]int
	// Body are the tokens of its body in its file, as the reader numbers them.
	Body [2]int
	Pos  Pos
}

// Parameter is a parameter of a method.
type Parameter struct {
	Name     string
	Type     *Type
	Declared string
	Marks    Annotated
	Default  bool     // it has a default value
	Value    *Literal // that value, nil where it is not told
	Pos      Pos
}
