// Package memory says when a run collects garbage. A run lives for seconds: what it reads of
// source it keeps, and what it reads of captures it keeps little of.
package memory

import (
	"math"
	"os"
	"runtime"
	"runtime/debug"
	"sync"
)

const (
	// percent is how much the heap may grow before the next collection: collecting less often
	// than by default costs a few megabytes and saves a tenth of the time.
	percent = 200
	// roomy is how large the heap may become while source is read before the first collection:
	// looking through it for the little that is not kept would cost a fifth of the time.
	roomy = 256 << 20
	// least is where the first collection comes at the earliest behind that.
	least = 8 << 20
)

// ours says whether the user has left the matter to the program.
func ours() bool { return os.Getenv("GOGC") == "" && os.Getenv("GOMEMLIMIT") == "" }

// Set sets how often a run collects garbage.
func Set() {
	if ours() {
		debug.SetGCPercent(percent)
	}
}

// Reading puts the first collection off until the heap is roomy. What it answers must be
// called when source is read: then it comes when the heap has doubled.
func Reading() (done func()) {
	if !ours() {
		return func() {}
	}
	first := &collection{}
	debug.SetGCPercent(-1)
	debug.SetMemoryLimit(roomy)
	// The first collection finds this unused: from then on the usual rule is the better one.
	runtime.AddCleanup(new([4]*byte), (*collection).over, first)
	return func() {
		first.Lock()
		defer first.Unlock()
		if first.done {
			return
		}
		var now runtime.MemStats
		runtime.ReadMemStats(&now)
		debug.SetMemoryLimit(int64(max(2*now.HeapAlloc, least)))
	}
}

// collection is the first one after Reading was called.
type collection struct {
	sync.Mutex
	done bool
}

func (c *collection) over() {
	c.Lock()
	defer c.Unlock()
	debug.SetGCPercent(percent)
	debug.SetMemoryLimit(math.MaxInt64)
	c.done = true
}
