package typescript

import (
	"vetta/internal/code"
	"vetta/internal/model"
)

// op is what a written type is.
type op uint8

const (
	nRef         op = iota // name, qualified; args
	nString                // the literal val
	nNumber                // the literal val
	nBig                   // the literal val
	nTemplate              // parts with args between them
	nUnion                 // args
	nIntersect             // args
	nArray                 // of args[0]
	nTuple                 // args, with elems
	nObject                // members
	nMapped                // see mapped
	nConditional           // args[0] extends args[1] ? args[2] : args[3]
	nInfer                 // name, args[0] what it extends
	nKeyof                 // args[0]
	nTypeof                // name; args
	nIndexed               // args[0][args[1]]
	nFunction              // params and result; also a constructor
	nImport                // of the module val, name in it; args
	nThis
	nPredicate // a boolean that tells a type
	nUnique    // unique symbol
	nLost      // what could not be read
)

// node is a type as it is written.
type node struct {
	op         op
	name       string
	val        string
	parts      []string
	args       []*node
	elems      []element
	members    []*member
	mapped     *mapped
	params     []code.Param
	result     *node
	generics   []*generic
	start, end int32
}

// element is what a tuple says of one of its elements.
type element struct{ optional, rest bool }

// mapped is what a mapped type says: for each Name of keys, as another name, value.
type mapped struct {
	name     string
	keys, as *node // as is nil for the same name
	value    *node
	optional byte // '+', '-', or 0 for as it was
}

// generic is a type parameter.
type generic struct {
	name          string
	bound, byName *node // what it extends, and what it is where nothing is given; nil for none
}

// member is a member of an interface, an object type or a class.
type member struct {
	name     string
	computed *code.Expr // of [x]: what is in the brackets, nil for a plain name
	typ      *node      // nil where none is written
	value    *code.Expr // of a field of a class, what it is given
	optional bool
	method   bool
	getter   bool
	setter   bool
	private  bool // private, protected, #
	static   bool
	marks    []*code.Expr // its decorators
	readonly bool         // of a field of a class
	index    *node        // of an index signature, the type of its keys
	call     bool         // a call or construct signature
	start    int32
	end      int32
}

// what is the sort of a declaration.
type what uint8

const (
	isInterface what = iota
	isAlias
	isClass
	isEnum
	isNamespace
	isValue  // a value, for typeof
	isFunc   // a function, for typeof
	isImport // of another module
)

// decl is one declaration; of several of one name in a scope each is one.
type decl struct {
	what     what
	name     string
	start    int32
	end      int32
	unit     *unit
	in       *scope // that it is declared in
	exported bool
	generics []*generic
	extends  []*node // of an interface all, of a class the one; aliases of namespaces: see imports
	members  []*member
	typ      *node // of an alias; of a value, what is written
	value    *code.Expr
	isConst  bool // a value that is not given another
	cases    []enumCase
	inner    *scope // of a namespace
	from     string // of an import: the module, and
	of       string // the name there: * for all, default
	abstract bool
	ambient  bool  // of an enum: it is only declared, so that what it does not give a constant may be any number
	result   *node // of a function
}

// enumCase is a member of an enum.
type enumCase struct {
	name  string
	value *code.Expr // nil for one more than the one before
	start int32
}

// scope is what names mean in a file or a namespace.
type scope struct {
	name   string // with those around it, of a namespace
	outer  *scope
	unit   *unit
	types  map[string][]*decl
	values map[string][]*decl
	spaces map[string][]*decl
}

func newScope(outer *scope, u *unit) *scope { return &scope{outer: outer, unit: u} }

// put adds a declaration to a room of names, which is made when it is needed: most blocks declare none.
func put(room *map[string][]*decl, d *decl) {
	if *room == nil {
		*room = map[string][]*decl{}
	}
	(*room)[d.name] = append((*room)[d.name], d)
}

func (s *scope) add(d *decl) {
	switch d.what {
	case isInterface, isAlias:
		put(&s.types, d)
	case isClass, isEnum:
		put(&s.types, d)
		put(&s.values, d)
	case isNamespace:
		put(&s.spaces, d)
	case isValue, isFunc:
		put(&s.values, d)
	case isImport:
		put(&s.types, d)
		put(&s.values, d)
		put(&s.spaces, d)
	}
}

// export is what a module gives others: as name, of a module from (of it where that is ""), the name of.
type export struct{ name, from, of string }

// unit is one file.
type unit struct {
	problem   *model.Problem // what is wrong with its text, nil for nothing
	file      string
	module    string // the folder of the build
	src       string
	at        *places
	scope     *scope
	global    *scope // what it declares for all files
	exports   []export
	assigns   string             // export = name
	augment   map[string][]*decl // declare module "x" { … }: of a file those of its declarations
	decls     []*decl            // in order
	isMod     bool               // it imports or exports, so that its names are its own
	tree      *code.Unit         // its code
	pending   []pending          // the types in its code
	nodes     map[*model.Type]*node
	docs      map[int32]doc // of JavaScript
	validates bool          // it may make schemas, so that all of its code may matter
	linked    bool          // those were looked up
}

// nodeOf is what a type in the code of the file is written as, nil for one of another.
func (u *unit) nodeOf(t *model.Type) *node {
	if u.nodes == nil {
		u.nodes = make(map[*model.Type]*node, len(u.pending))
		for i := range u.pending {
			u.nodes[u.pending[i].typ] = u.pending[i].node
		}
	}
	return u.nodes[t]
}
