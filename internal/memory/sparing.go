package memory

import (
	"runtime/debug"
	"sync"
)

// tight is how much the heap may grow before the next collection while something large is held.
const tight = 30

var sparing struct {
	sync.Mutex
	holders int
}

// Sparing makes collections come sooner until what it answers is called: while something large is held, a heap that may
// grow to three times of it would be too much. Several may ask for it at once.
func Sparing() (done func()) {
	if !ours() {
		return func() {}
	}
	hold := func(change int) {
		sparing.Lock()
		defer sparing.Unlock()
		switch sparing.holders += change; sparing.holders {
		case 0:
			debug.SetGCPercent(percent)
		case 1:
			debug.SetGCPercent(tight)
		}
	}
	hold(1)
	return func() { hold(-1) }
}
