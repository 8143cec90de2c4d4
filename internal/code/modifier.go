package code

// Modifier is a function of an app that changes what a library knows of a class before it reads any.
type Modifier struct {
	Fn *Func
	In *Declared // whose code it is
}
