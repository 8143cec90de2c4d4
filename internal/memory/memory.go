// Package memory says when a run collects garbage. A run lives for seconds: what it reads of
// source it keeps, and what it reads of captures it keeps little of.
package memory

import (
	"math"
	"os"
	"runtime"
	"runtime/debug"
)

const (
	// percent is how much the heap may grow before the next collection: collecting less often
	// than by default costs a few megabytes and saves a tenth of the time.
	percent = 200
	// roomy is how large the heap may become while source is read before the first collection:
	// looking through it for the little that is not kept would cost a fifth of the time.
	roomy = 384 << 20
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
	debug.SetGCPercent(percent)
	// The next collection comes when the heap has grown by a percentage of what the last one found: it
	// finds this, which is never written to and so costs addresses alone. A limit of the memory would
	// do as well, but that one collection under it calls for the next at once.
	ballast := make([]byte, roomy*100/percent)
	runtime.GC()
	var before runtime.MemStats
	runtime.ReadMemStats(&before)
	return func() {
		var now runtime.MemStats
		runtime.ReadMemStats(&now)
		runtime.KeepAlive(ballast)
		if now.NumGC > before.NumGC {
			return // it was roomy
		}
		first := &collection{}
		// The first collection finds this unused: from then on the usual rule is the better one.
		runtime.AddCleanup(new([4]*byte), (*collection).over, first)
		read := int64(now.HeapAlloc) - int64(len(ballast))
		debug.SetMemoryLimit(int64(len(ballast)) + max(2*read, least))
	}
}

// collection is the first one after source was read.
type collection struct{}

func (*collection) over() { debug.SetMemoryLimit(math.MaxInt64) }
