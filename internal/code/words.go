package code

import "vetta/internal/model"

// Words are what a language and its libraries call the things that the follower must know of. Its reader
// hands them over; the follower knows none by itself.
type Words struct {
	// PathMakers are keys under which a function answers what is requested.
	PathMakers []string
	Self       string // an instance as its own code calls it
	Super      string // the class above
	// Invoke is the method that is called where an instance is called by its own name, "" for none.
	Invoke string
	Init   string // what makes an instance of the type that is wanted, ".init", "" for nothing
	// Raw is the member by which a constant of an enum is the value that it stands for, "" for none.
	Raw string
	// Meta is what stands behind the name of a type in that of its own type, ".Type", "" for nothing.
	Meta string
	// Types are those whose values are types that their argument says, Class<Port>, and AnyType those
	// whose values are types that nothing says; OfType are the members by which such a value is one in
	// another form.
	Types, AnyType, OfType []string
	// AnyValue are the types of values that may be of any type.
	AnyValue []string
	// ByClass are those of Types that say a class alone: a Class<List<Port>> says List.
	ByClass []string
	// Alone are members that are the one instance of their class.
	Alone []string
	// Decoder are the labels of an argument that is the decoder, none where it is what a call is made on.
	Decoder []string
	// Yields are functions that yield what the closure does that they are given; Each those that yield a
	// list or a stream of what it does; Hands those by which a closure hands on one value.
	Yields, Each, Hands []string
	// OwnType is the type of an instance in its own code, "" for none.
	OwnType string
	// TextType is the type that has one text alone, of a language whose types may; nil for none.
	TextType func(text string) *model.Type
	// Paths are names, in small letters, of parameters and properties that hold the path of a request.
	Paths []string
	// Requests are calls of clients, and the types of requests that are made, whose first text is a path whatever it
	// looks like: GetStringAsync("ports").
	Requests []string
	// Texts are functions that make of a text something that is the same path; Joins those that put more
	// behind the path that they are called on, which a label of JoinLabels says where it has one, and Keeps
	// those that leave it as it is.
	Texts, Joins, JoinLabels, Keeps []string
	// Segments are functions whose arguments are the path, one segment or more each: url { path("v2", "ports") }.
	Segments []string
	// Nodes are the types of values of a parsed document, and the methods that answer one: a segment of theirs is none of a
	// request, as in node.path("ports").
	Nodes []string
}
