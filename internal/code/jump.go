package code

// Jumps says whether a break, a continue or the like stands among statements.
func Jumps(all []Stmt) bool {
	for i := range all {
		if all[i].Kind == Jump || Jumps(all[i].Body) {
			return true
		}
	}
	return false
}

// WithoutBreak are the statements of a case without the break at their end, and whether one stands there.
// One that names a label leaves more than the case.
func WithoutBreak(all []Stmt) ([]Stmt, bool) {
	if n := len(all); n > 0 && all[n-1].Kind == Jump && all[n-1].Name == "break" && all[n-1].Value == nil {
		return all[:n-1], true
	}
	return all, false
}
