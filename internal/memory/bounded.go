package memory

import (
	"runtime"
	"runtime/debug"
	"runtime/metrics"
	"sync/atomic"
)

// room is how much more than what is held the heap may hold while captures are read.
const room = 48 << 20

// Bounded makes collections come sooner the more is held, until what it answers is called: of many endpoints, or deep
// ones, much is kept, and as much again twice over would be too much.
func Bounded() (done func()) {
	if !ours() {
		return func() {}
	}
	over := &atomic.Bool{}
	var arm func()
	arm = func() {
		// Nobody holds this: the next collection finds it, and all that is held.
		runtime.AddCleanup(new([4]*byte), func(int) {
			if !over.Load() {
				tune()
				arm()
			}
		}, 0)
	}
	arm()
	return func() {
		over.Store(true)
		sparing.Lock()
		defer sparing.Unlock()
		if sparing.holders == 0 {
			debug.SetGCPercent(percent)
		}
	}
}

// tune lets the heap grow by what is left of the room.
func tune() {
	live := []metrics.Sample{{Name: "/gc/heap/live:bytes"}}
	metrics.Read(live)
	sparing.Lock()
	defer sparing.Unlock()
	if sparing.holders == 0 {
		debug.SetGCPercent(max(tight, min(percent, int(100*room/max(live[0].Value.Uint64(), 1)))))
	}
}
