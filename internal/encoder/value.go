// Package encoder says what a library writes for a value of a declared type, so that it can be held against
// what accepted requests hold. It is to what an app sends what decoder is to what it reads.
package encoder

import (
	"vetta/internal/model"
)

// Kinds are kinds of JSON values, as a set.
type Kinds uint8

// The kinds.
const (
	Null Kinds = 1 << iota
	Bool
	Number
	String
	Array
	Object
	// Any is every kind: nothing is claimed of what is written.
	Any = Null | Bool | Number | String | Array | Object
)

// Value is what is written for a value of a type. A model that holds itself is a circle.
type Value struct {
	Kinds   Kinds
	Whole   bool // a number is always without a fraction
	Model   *model.Model
	Members []*Member
	// Open says that an object may have other members than Members: a map, or one that is not followed.
	Open bool
	// Elem is what is written for the elements of an array, and for the values of a map; nil for anything.
	Elem *Value
	// Why says why it is not followed what is written, "" where it is.
	Why string
}

// Member is a member that is written of an object.
type Member struct {
	Key   string
	Field *model.Field
	Value *Value
	// Optional says that the key is left out of some objects.
	Optional bool
}

// Member is the member of a key, nil for none.
func (v *Value) Member(key string) *Member {
	for _, m := range v.Members {
		if m.Key == key {
			return m
		}
	}
	return nil
}

// Unknown is a value of which nothing is claimed.
func Unknown(why string) *Value { return &Value{Kinds: Any, Open: true, Why: why} }
