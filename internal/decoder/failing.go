package decoder

import (
	"vetta/internal/model"
	"vetta/internal/wire"
)

// Failure is the property that a document fails at, the innermost: nil for none, as where the document as a
// whole is of another kind.
type Failure struct {
	Model *model.Model
	Field *model.Field
	Error *Error
}

// Failing is a plan of which is asked, document by document, whether it decodes.
type Failing struct {
	plan  *Plan
	tells bool // see Plan.tells
}

// Failing makes the plan ready to be asked.
func (p *Plan) Failing() *Failing { return &Failing{p, p.tells()} }

// Fails says whether a document does not decode, and where, whether the app drops the error or not. known is
// false where code that could not be followed takes part, which may fail as well.
func (f *Failing) Fails(doc *wire.Value) (fails bool, at Failure, known bool) {
	fails, at, _, known = f.FailsAt(doc)
	return fails, at, known
}

// FailsAt is Fails, with the steps to the value of the document that it fails at.
func (f *Failing) FailsAt(doc *wire.Value) (fails bool, at Failure, place []wire.Step, known bool) {
	p := f.plan
	if p.Run != nil {
		out := p.Run(doc)
		if out.Err == nil {
			return false, at, nil, !holdsUnknown(out.Seen)
		}
		at, place = p.ranInto(out, doc)
		return true, at, place, true
	}
	if p.Prepared != nil {
		meant, err, _, told := p.Prepared(doc)
		if err != nil || !told {
			return err != nil, Failure{Error: err}, nil, told
		}
		doc = meant
	}
	switch {
	case p.MaxDepth > 0 && deeper(doc, p.MaxDepth):
		return true, Failure{Error: p.TooDeep}, nil, true
	case p.Fragment != nil && doc.Kind < wire.Array:
		return true, Failure{Error: p.Fragment}, nil, true
	}
	quiet := run{quiet: true}
	if f.tells {
		quiet.asked = map[*wire.Member]bool{}
	}
	seen, err := quiet.node(p.Root, doc)
	if err == nil {
		return false, at, nil, !holdsUnknown(seen)
	}
	// Few fail: where, a second run tells, which notes what it reads.
	r := run{asked: map[*wire.Member]bool{}}
	if _, err = r.node(p.Root, doc); err == nil {
		return true, at, nil, false
	}
	place = err.place
	for _, read := range r.reads {
		if read.Err == err.cause {
			at.Model, at.Field, place = read.Model, read.Field, read.Place
		}
	}
	at.Error = err.cause
	return true, at, place, true
}

// tells says whether some member tells the class of an object: then it matters which members were asked for.
func (p *Plan) tells() bool {
	return p.any(func(n *Node) bool { return n.Passed != "" }, func(Step) bool { return false })
}

// ByCode says whether the plan holds code that does one thing or another by what is sent: how values come
// together in one document decides, which counts of them do not say.
func (p *Plan) ByCode() bool {
	if p.Run != nil && p.Inexact {
		return true
	}
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

// Guesses says whether there are values of which the nodes do not tell what becomes of them.
func (p *Plan) Guesses() bool {
	return p.any(func(n *Node) bool { return n.Op == OpUnknown || n.Inside || n.Op == OpElem }, func(Step) bool { return false })
}

// Has says whether some node of the plan is one that is looked for.
func (p *Plan) Has(node func(*Node) bool) bool {
	return p.any(node, func(Step) bool { return false })
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
