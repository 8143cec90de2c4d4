package decoder

// tells says whether some member tells the class of an object: then it matters which members were asked for.
func (p *Plan) tells() bool {
	return p.any(func(n *Node) bool { return n.Passed != "" }, func(Step) bool { return false })
}

// ByCode says whether the plan holds code that does one thing or another by what is sent: how values come
// together in one document decides, which counts of them do not say.
func (p *Plan) ByCode() bool {
	return p.any(func(n *Node) bool {
		switch n.Op {
		case OpIf, OpPick, OpArg, OpElem, OpHas, OpIsNull, OpCall:
			return true
		case OpElse, OpCatch:
			return n.Second != nil && n.Second.Op != OpConst
		}
		return false
	}, func(s Step) bool { return s.Cond != nil || s.Do || s.Return })
}

// any says whether some node or some step of the plan is one that is looked for.
func (p *Plan) any(node func(*Node) bool, step func(Step) bool) bool {
	seen := map[*Node]bool{}
	var of func(n *Node) bool
	var inSteps func(steps []Step) bool
	of = func(n *Node) bool {
		if n == nil || seen[n] {
			return false
		}
		seen[n] = true
		if node(n) {
			return true
		}
		for _, inner := range append([]*Node{n.Inner, n.Second, n.Third, n.Rest}, n.Args...) {
			if of(inner) {
				return true
			}
		}
		for _, b := range n.Branches {
			if of(b.Node) {
				return true
			}
		}
		return inSteps(n.Steps)
	}
	inSteps = func(steps []Step) bool {
		for _, s := range steps {
			if step(s) || of(s.Node) || of(s.Cond) || inSteps(s.Then) || inSteps(s.Else) {
				return true
			}
		}
		return false
	}
	return of(p.Root)
}
