package model

// Adapter is what reads values of a type in the place of a library: one from the library's shelf, or code of the
// project's own.
type Adapter struct {
	Name      string // its class, or the class and the function
	Of        *Type  // what it makes
	Qualifier string // the annotation of properties that it is for, "" for those without one
	// Reads is the type that the library reads first and hands to it, nil where it reads by itself or is not
	// followed; ReadsQualifier the annotation of that.
	Reads          *Type
	ReadsQualifier string
	// ByReader says that it reads by itself, of the library's reader. Delegates are the types whose own adapters it is
	// given besides.
	ByReader  bool
	Delegates []*Type
	// Form is the method of it that is Code, of a library that knows several; "" for none.
	Form string
	// Fallback is the constant that an enum has for any other text: null, or its name; "" for none.
	Fallback string
	NullSafe bool // it is not asked for null
	// Factory says that it is asked for every type: Code takes the type, its annotations, and the decoder, and answers
	// what reads it, or nothing. Qualifier is an annotation without which it answers nothing, "" for none.
	Factory bool
	Code    any // what it does, a *code.Routine; nil where that is not in the source
	Pos     Pos
}

// RootSaid is what a call says of the root of a document.
type RootSaid struct {
	NotNull   bool   // where its own reader does not take null by itself
	Qualifier string // the annotation that it is read by, "" for none
	// Awaits is the function that waits for the response, and must not be given null; "" for none.
	Awaits string
}

// MixIn is a class whose annotations a decoder takes for those of another.
type MixIn struct {
	Of, By *Model
	Pos    Pos
}

// Family is a class with those that may come in its place, as a decoder is told them.
type Family struct {
	Of        *Type
	Key       string // of the member that tells which
	Members   []Member
	Otherwise *Otherwise // for any other label, nil for an error
	Why       string     // what of it is not followed, "" where all is
	Pos       Pos
}

// Member is one class of a family, with the text that tells it.
type Member struct {
	Label string
	Type  *Type
}

// Otherwise is what stands for an object whose label tells no member of a family.
type Otherwise struct {
	Null       bool
	Type       *Type    // of the value, or of what is read; nil where that is not told
	Reads      bool     // it is read, as Type
	Unfollowed bool     // by code that is not followed
	Adapter    *Adapter // that reads it, nil where none of the source's does
}
