package decoder

// ByCode says whether the plan holds code that does one thing or another by what is sent: how values come
// together in one document decides, which counts of them do not say.
func (p *Plan) ByCode() bool {
	seen := map[*Node]bool{}
	var of func(n *Node) bool
	var inSteps func(steps []Step) bool
	of = func(n *Node) bool {
		if n == nil || seen[n] {
			return false
		}
		seen[n] = true
		switch n.Op {
		case OpIf, OpPick, OpArg, OpElem, OpHas, OpIsNull, OpCall:
			return true
		case OpElse, OpCatch:
			if n.Second != nil && n.Second.Op != OpConst {
				return true
			}
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
			if s.Cond != nil || s.Do || s.Return || of(s.Node) || inSteps(s.Then) || inSteps(s.Else) {
				return true
			}
		}
		return false
	}
	return of(p.Root)
}
