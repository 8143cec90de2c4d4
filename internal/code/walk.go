package code

// WalkBody calls visit for each expression in some statements, an expression's parts before itself.
func WalkBody(body []Stmt, visit func(*Expr)) {
	for i := range body {
		Walk(body[i].Value, visit)
		Walk(body[i].Of, visit)
		WalkBody(body[i].Body, visit)
	}
}

// Walk calls visit for an expression and each that is in it, its parts before itself; nil is none.
func Walk(x *Expr, visit func(*Expr)) {
	if x == nil {
		return
	}
	for _, a := range x.Args {
		Walk(a, visit)
	}
	WalkBody(x.Body, visit)
	visit(x)
}
