// Package decoder says what a decoding library does with a declared type and a
// value of a response.
//
// A library's folder turns a model and its settings into a plan: a graph of nodes,
// one for each value that the library would read. Two walkers share it. Decode, in
// this package, takes one document through the plan and builds what the app sees;
// package drift takes the counts of a shape through it. What a node does with a
// value is in the node alone, so the two cannot disagree about it.
package decoder

import (
	"vetta/internal/encoder"
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Op is what a node does.
type Op uint8

// The operations of a plan. Each is done at a current value of the document.
const (
	OpLeaf    Op = iota // Read makes a value of the current one
	OpNil               // Value where the current value is null, NullError if there is one, else Inner
	OpList              // Inner for each element
	OpMap               // Inner for each member, Key for its name
	OpPairs             // a map written as an array of keys (Inner) and values (Second) in turn
	OpKeyed             // the current value must be an object; then Inner at the same value
	OpAt                // Inner at the member Name of the current value
	OpBuild             // Steps, whose values are the properties of a model
	OpCases             // the object's one known member names a case: Branches
	OpTry               // Inner, or nothing where that fails
	OpElse              // Inner, or Second where that is nothing
	OpCatch             // Inner, or Second where that fails
	OpConst             // Value, whatever the document says
	OpElem              // Inner at the element Index of the current value
	OpIf                // Second where Inner is true, else Third
	OpCall              // Call of the values of Args
	OpHas               // whether the current value has the member Name
	OpIsNull            // whether the current value is null
	OpArg               // the value that a call has bound: see Call
	OpPick              // the property Name of the object that Inner yields
	OpDo                // Inner at the same value: another node, read for a field of its own
	OpFail              // Error; of a class, Inner is what it would be without
	OpEntries           // a map written as an array of arrays, each a key (Inner) and a value (Second)
	OpSubtype           // the member Name tells the class by its text: Branches, Third for others, Second without it; or a list of the class's text and the object does
	OpMade              // what Make makes of what Inner yields
	OpUnknown           // code that could not be followed
)

// Node is one place where a library reads.
type Node struct {
	Op       Op
	Type     string       // the type that is read, as the source writes it
	Model    *model.Model // of OpBuild and OpCases
	Name     string       // of OpAt, the name asked for, after the library's renaming; of OpPick, the property
	Inner    *Node
	Second   *Node
	Third    *Node
	Args     []*Node
	Index    int
	Lossy    bool           // of OpList and OpMap: what fails or is nothing is left out, unless KeepNull
	Whole    bool           // of a lossy OpList or OpMap: an element that is no object fails all of it
	Props    []*model.Field // of OpBuild: the properties of the instance, inherited ones first
	Steps    []Step
	Branches []Branch
	Unique   bool // of OpList: equal elements are kept once
	// Holder says of an OpAt that objects without the member that hold nothing else lack nothing: an empty list.
	Holder bool
	// Empties says of an OpKeyed or an OpList that a list where an object is read, and the reverse, is an empty one: any,
	// or one that is empty itself.
	Empties Emptying
	// First says of an OpList that its first element is the value, and that the others are not read.
	First bool
	// Equal says of such elements when two are equal; nil where they are if they hold the same.
	Equal func(a, b Seen) bool
	// Put is what an OpList does with an element when it puts it into the collection: the error
	// that is thrown there, and whether that is known. Nil where nothing can be thrown.
	Put func(element Seen) (err *Error, known bool)
	// Hashes says of an OpBuild that its instances are hashed by their properties, of an OpAt that
	// its property is among those. Hashed is the error that hashing throws where such a property
	// holds nothing, nil where it throws none.
	Hashes   bool
	Hashed   *Error
	SkipNull bool // of OpList and OpMap: elements that are null are left out
	// NullsLast says of an OpList that an element that is null is refused when all were read.
	NullsLast bool
	// Aside says that the library keeps what the node reads aside before it decodes it; of an
	// OpSubtype, what stands before the name of the class.
	Aside    bool
	NullNil  bool // of OpAt: a member that is null is nothing, and Inner is not asked
	Opaque   bool // of OpAt: code makes something of the value, which is not followed; of OpSubtype: so it is of a list; of OpUnknown: so is which key it reads
	KeepNull bool // of OpAt: a member that is null leaves Value, as if it were absent; of OpList and OpMap: null stays where Lossy leaves out what fails
	// Others are further names of an OpAt: a member of any of them is taken. Of an OpUnknown
	// they are those of members that it may read.
	Others []string
	// Every says that an OpAt reads each of several members that it takes, and the
	// last one counts; otherwise the first one does, and is read alone.
	Every bool
	// Last says that an OpAt reads the last of several members alone.
	Last bool
	// AbsentLoss and NullLoss are what is lost where an absent member yields Value, and
	// where null becomes nothing or leaves Value; also of OpNil.
	AbsentLoss, NullLoss Loss
	// NullError is the error of an OpNil for null, nil where that is Value.
	NullError *Error
	// ByDocument says that an OpBuild reads members in the order of the document, so
	// that the first bad one there is the one the library complains of. Its steps have
	// no conditions.
	ByDocument bool
	// Unknown is the error of an OpBuild for a member that no step takes, nil where
	// such a member is passed over; it answers nil for one that is none. Ignored says which are passed over all the same.
	Unknown func(name string) *Error
	Ignored func(name string) bool // also of an OpMap
	// Check is what code of the class throws of an instance when it has been made, nil where nothing is thrown of one.
	Check func(instance Seen) *Error
	// Rest is done at members of an OpBuild that no step takes and that are not Ignored, nil
	// where nothing is made of them. RestInto is the index of the property, a map, that what
	// it yields is put into, -1 for none.
	Rest     *Node
	RestInto int
	// RestMakes says that a map is made for what the Rest yields where the property holds none.
	RestMakes bool
	// Leads is the error of an OpSubtype where the member does not come first, nil where it may come anywhere.
	Leads *Error
	// MindsKind says of an OpSubtype that the text "1" is another class than the number 1.
	MindsKind bool
	// NullTells says of an OpSubtype that a member that is null is one that no class is named for, rather than none.
	NullTells bool
	// Passed is the member that has told the class of an OpBuild, "" where none has or it
	// is read like others: it is not unknown.
	Passed string
	// Twice is the error of an OpMap for a second member of one key where the first was
	// not null, nil where the first (or, with Every, the last) counts; also of an OpAt.
	Twice func(name string) *Error
	Field *model.Field
	Value Seen

	// Read is what the library does with one scalar, or with a value of any other
	// kind where a scalar is declared.
	Read func(v *wire.Value) Verdict
	// Wrong is the error for a value of another kind than the node reads; nil for one that it takes, of which what
	// becomes of it is not told.
	Wrong func(kind wire.Kind) *Error
	// WrongValue is Wrong for a library that tells more than the kind; nil where it
	// does not.
	WrongValue func(v *wire.Value) *Error
	// Single says that an OpList takes a value that is no array for a list of one; Bytes
	// that what it yields are bytes. Second of an OpList or OpKeyed reads strings, that of
	// an OpMap arrays, or strings where it minds texts.
	Single, Bytes bool
	// Scalars says that Second of an OpKeyed, OpList or OpMap reads bools and numbers too.
	Scalars bool
	// Missing is the error for a member that is absent; nil means it yields Value.
	Missing *Error
	// MissingFrom is Missing for a library that tells what is there instead; nil where
	// it does not.
	MissingFrom func(object *wire.Value) *Error
	// Key is what the library makes of a member's name where a map is declared.
	Key func(name string) (Seen, *Error)
	// Match is the name that the library compares with Name: what its settings make
	// of a name on the wire. It belongs to the object, so OpKeyed has it.
	Match func(name string) string
	// Make is code of the app's that is handed what an OpMade has read; err is what it throws.
	Make func(Seen) (made Seen, err *Error)
	// Inside says of an OpLeaf that arrays and objects fare by what is in them.
	Inside bool
	// Call is a function in hand-written code. apply makes, of a value that takes the
	// place of the OpArg in it, what the last of Args makes of it.
	Call    func(args []Seen, apply func(Seen) Seen) Seen
	Applies bool // of OpCall: the last of Args is a function that Call applies
	Error   *Error
	Meant   bool   // of OpConst: the source says on purpose that its field is not read
	Why     string // of OpUnknown
	// OwnPath makes errors that name the decoder's own place name this one.
	OwnPath bool
	// Refers says of an OpLeaf that a value stands for what is read at another place.
	Refers bool
	// MindsText says that an OpLeaf tells strings and numbers apart by their text:
	// two of one class may fare differently.
	MindsText bool
	// ByFacts says that of texts that read as numbers it minds nothing but what shape.Class has of them.
	ByFacts bool
	// ByDate says that of dates of our time it minds how they are written alone: see shape.PlainDate.
	ByDate bool
	// MindsForm says that it tells strings apart by how they are written, as dates are: where a place has too many forms,
	// each text is asked for.
	MindsForm bool
	// NumbersByClass says of one that minds the text that numbers of one shape.Class fare alike.
	NumbersByClass bool
	// Minds finds the two of a leaf whose code has to be tried for it, when they are asked for; nil where they are said.
	Minds func() (text, numbersByClass bool)
	// Wraps says of one whose numbers are by class that those beyond 64 bits, or with an exponent, are not: what
	// becomes of them hangs on their digits.
	Wraps bool
	// Endless is the error of an OpBuild that comes to itself at the very value that it is
	// made of; nil where that is not known.
	Endless *Error
	// Anonymous says that an OpBuild makes no model: its value is that of a scalar, or of a list whose elements have
	// several names.
	Anonymous bool
	// Assured says that another node reports it if the current value is no object; then
	// an OpFail is of objects alone.
	Assured bool
}

// Emptying says which values are taken for empty ones.
type Emptying uint8

// The values that are.
const (
	EmptiesNone Emptying = iota
	EmptiesEmpty
	EmptiesAll
)

// empties says whether a list or an object is one of those.
func (n *Node) empties(v *wire.Value) bool {
	return n.Empties == EmptiesAll || n.Empties == EmptiesEmpty && len(v.Elems)+len(v.Members) == 0
}

// Joins says whether a node is an OpCall that joins conditions, of which a later one is asked only
// where those before have not settled it.
func (n *Node) Joins() bool { return n.Op == OpCall && (n.Name == "&&" || n.Name == "||") }

// Step is one reading of an OpBuild.
type Step struct {
	Property int // index of the property that takes the value, -1 for none, WholeValue for all
	Node     *Node
	Cond     *Node // of a branch: Then where it is true, else Else
	Do       bool  // Then, and Else where something in Then fails
	Then     []Step
	Else     []Step
	Return   bool // nothing behind it is done
	// First says that an instance is made of the value, so that members no step takes
	// are complained of only when it has been read.
	First bool
	// Spent is the error for such a member that comes again when all of them have been
	// read, nil where it counts all the same, PassedOver where it is no member any more. Of a
	// step that is not First it is the error for setting what has been read, when the instance
	// has been made: for the last of such members, if they come before.
	Spent *Error
	// SpentNull is Spent for null, where that is another error; else nil.
	SpentNull *Error
	// InTheEnd are errors of a step that is First, for nothing, absent or null, that are thrown only
	// when all of them have been read, and of the first one first.
	InTheEnd []*Error
	// Unasked says that such a member which comes again when the instance has been made is set past InTheEnd.
	Unasked bool
}

// PassedOver stands for the error of what is not read any more.
var PassedOver = &Error{}

// WholeValue is the Property of a step whose value is the instance itself.
const WholeValue = -2

// Branch is a case of an enum with associated values.
type Branch struct {
	Key    string
	Number bool // the key is written as a number; see MindsKind
	Case   *model.Case
	Node   *Node // an OpBuild of the associated values, at the object that names the case
}

// Where says which place an error names.
type Where uint8

// The places that errors name.
const (
	AtValue   Where = iota // the value that was read
	AtRoot                 // the document as a whole
	AtDecoder              // the innermost value that a decoder was made for
)

// Error is what a library throws.
type Error struct {
	Kind    string // as the library names it: keyNotFound, typeMismatch
	Message string // kind and detail, as truth/ has it and a crash log shows it
	Key     string // the missing key, where that is the error
	Where   Where
	Reason  Reason // what is wrong, in terms that all libraries share
	Advice  string // what to do about it, where the reason alone does not tell
	// Later says that decoding goes well, and that it is thrown where the app reads the value.
	Later bool
}

func (e *Error) Error() string { return e.Message }

// stackOverflow is the Kind of the errors that EndlessError makes.
const stackOverflow = "StackOverflowError"

// EndlessError is the error of a type whose decoding never ends: the program's stack overflows, and
// no handler of decoding errors takes that. message is how the program ends, advice what to change.
func EndlessError(message, advice string) *Error {
	return &Error{Kind: stackOverflow, Message: message, Reason: ReasonType, Where: AtRoot, Advice: advice}
}

// OfItself is the advice for a class that is made by way of making itself from the same value.
func OfItself(m *model.Model) string {
	return m.Name + " is made of another " + m.Name + " at the same value, and so on without end: make it of the value's own keys"
}

// Endless says whether the error is one that EndlessError makes.
func (e *Error) Endless() bool { return e.Kind == stackOverflow }

// IndexMark stands in a message for the index of the element, or the name of the member,
// that the error is about.
const IndexMark = "#"

// PathMark stands in a message for the path of what the error is about, as libraries write it: $.stops[2].port.
const PathMark = "\x1a"

// Reason is what makes decoding fail, in terms that all libraries share.
type Reason string

// The reasons for failing.
const (
	ReasonMissing  Reason = "missing"  // the key is absent
	ReasonNull     Reason = "null"     // null where a value is declared
	ReasonKind     Reason = "kind"     // a value of another kind
	ReasonRange    Reason = "range"    // a number that the type cannot hold
	ReasonConstant Reason = "constant" // a value that no constant of the enum has
	ReasonClass    Reason = "class"    // a text that tells which class an object is of, and no class is named for
	ReasonDate     Reason = "date"     // text that is no date in the form expected
	ReasonText     Reason = "text"     // text that is no URL, UUID, base64 …
	ReasonRule     Reason = "rule"     // a value that a rule of a schema refuses: a bound, a length, a pattern
	ReasonCases    Reason = "cases"    // not exactly one key that names a case
	ReasonKey      Reason = "key"      // a map key that the key type cannot be made from
	ReasonTwice    Reason = "twice"    // a key that stands more than once in one object
	ReasonCode     Reason = "code"     // hand-written code throws
	ReasonUnknown  Reason = "unknown"  // a key that the model does not have
	ReasonType     Reason = "type"     // a type that the library cannot decode, whatever is sent
)

// Loss says how a value that decoding accepted differs from what was sent.
type Loss string

// The losses.
const (
	NoLoss     Loss = ""
	WrongUnit  Loss = "unit"     // a number of seconds read as milliseconds, from another year, and the like
	LostDigits Loss = "digits"   // digits beyond the type's precision
	Swallowed  Loss = "swallow"  // an error that the code drops
	Defaulted  Loss = "default"  // a default in place of a value that was sent
	NeverRead  Loss = "never"    // a field that is not decoded although a key of its name was sent
	Dropped    Loss = "drop"     // an element left out
	Zeroed     Loss = "zero"     // 0 or false for a key that is absent or null
	HiddenNull Loss = "null"     // null in a type that says there is none
	NeverThere Loss = "reached"  // a key that code asks a decoded value for, and that nothing has
	StalePart  Loss = "stale"    // read as generated code says that is older than the class
	RolledDate Loss = "rolled"   // a date that does not exist, read as another one
	NoConstant Loss = "constant" // nothing in place of a text that no constant has
	Misplaced  Loss = "order"    // an element passed over that stands out of its order
)

// Verdict is what a library does with one value.
type Verdict struct {
	Seen Seen
	Err  *Error // nil: it decodes
	Loss Loss
}

// Plan is how a library decodes one type.
type Plan struct {
	Root     *Node
	Type     *model.Type
	Declared string // the type as the source writes it
	Settings *model.Settings
	// Swallowed says that the app drops the error of a response that does not decode.
	Swallowed bool
	catches   []string // the classes of errors that it drops, nil for all
	otherwise Seen     // what it gets then
	// MaxDepth is how many arrays and objects the library takes inside each other, 0
	// for any number; TooDeep is the error for more.
	MaxDepth int
	TooDeep  *Error
	// Prepared is the document as the library takes it, where it means something by keys of its own, those in Metadata, or by
	// ids that stand for objects; fails
	// is why it takes none, at some value. told is false where that is not followed. nil for a library that has no such keys.
	Prepared func(doc *wire.Value) (meant *wire.Value, fails *Error, at *wire.Value, told bool)
	Metadata []string
	// Stops says that the library reads one value of a text and never looks at what follows it there.
	Stops bool
	// Fragment is the error for a document that is neither a list nor an object; nil where such are read.
	Fragment *Error
	// Refuses says why the library cannot decode the type at all, "" if it can.
	Refuses string
	// Otherwise is what Refuses would be for a document of which Run does not tell.
	Otherwise string
	// Run decodes a document by the code of the app, and Whole says that it takes the document as a whole, whatever
	// part of it the type is made of; nil where Root decodes. Root then says what depends on the value at one place
	// alone.
	Run   func(doc *wire.Value) Outcome
	Whole bool
	// Part is what is done with an element of an XML document that is read as the type, nil where Root does that.
	Part *Node
	// Within are the keys that lead to that part.
	Within []string
	// Inexact says that Root does not tell all: values that only Run tells.
	Inexact bool
	// Trusts says that nothing looks at the values: what is not of its type is what the app sees, and the error of a node
	// is what the compiler would say of it.
	Trusts bool
	// Writes is what the library writes for the type, of one that the app sends; nil for one that it reads.
	Writes *encoder.Value
}

// Unclaimed says why nothing is claimed of any value, "" where something is: Refuses, or what is not
// followed of the type itself, or of all that it is a list or a map of.
func (p *Plan) Unclaimed() string {
	if p.Writes != nil {
		return p.Writes.Why
	}
	n := p.Root
	for n != nil && (n.Op == OpNil || n.Op == OpList || n.Op == OpMap) {
		n = n.Inner
	}
	if p.Run != nil || p.Refuses != "" || n == nil || n.Op != OpUnknown {
		return p.Refuses
	}
	return n.Why
}

// Asks is the node whose keys say what the plan would read: the root, or what the root
// would be if the library did not refuse the declaration of some class.
func (p *Plan) Asks() *Node {
	switch n := p.Root; {
	case n.Op == OpFail && n.Inner != nil:
		return n.Inner
	case n.Op == OpNil && n.Inner.Op == OpFail && n.Inner.Inner != nil:
		return n.Inner.Inner
	case n.Op == OpNil && n.Inner.Op == OpKeyed && n.Inner.Inner != nil && n.Inner.Inner.Op == OpFail && n.Inner.Inner.Inner != nil:
		would := *n.Inner
		would.Inner = n.Inner.Inner.Inner
		return &would
	}
	return p.Root
}

// ByText says whether an OpLeaf tells values of a kind apart by their text.
func (n *Node) ByText(kind wire.Kind) bool {
	text, numbersByClass := n.MindsText, n.NumbersByClass
	if n.Minds != nil {
		text, numbersByClass = n.Minds()
	}
	return text && (kind == wire.String || kind == wire.Number && !numbersByClass)
}
