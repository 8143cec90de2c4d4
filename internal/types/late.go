package types

// Late is a type that is worked out once it is known what its type parameters stand for.
type Late struct{ Of func(args []*Type) *Type }
