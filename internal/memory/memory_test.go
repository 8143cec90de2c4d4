package memory

import (
	"math"
	"runtime"
	"runtime/debug"
	"runtime/metrics"
	"testing"
)

// settings are how much the heap may grow before it is collected, and the limit of all memory.
func settings() (grow int, limit int64) {
	of := []metrics.Sample{{Name: "/gc/gogc:percent"}, {Name: "/gc/gomemlimit:bytes"}}
	metrics.Read(of)
	if p := of[0].Value.Uint64(); p < 1<<31 {
		return int(p), int64(of[1].Value.Uint64())
	}
	return -1, int64(of[1].Value.Uint64())
}

// restored puts back what a test changes.
func restored(t *testing.T) {
	grow, limit := settings()
	t.Cleanup(func() {
		debug.SetGCPercent(grow)
		debug.SetMemoryLimit(limit)
	})
	t.Setenv("GOGC", "")
	t.Setenv("GOMEMLIMIT", "")
}

// kept holds what the tests allocate: what nobody holds need not be allocated at all.
var kept [][]byte

// collections are how many there are while so many megabytes are allocated and kept.
func collections(megabytes int) uint32 {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	for range megabytes {
		kept = append(kept, make([]byte, 1<<20))
	}
	runtime.ReadMemStats(&after)
	return after.NumGC - before.NumGC
}

// TestReading: nothing is collected until the heap is roomy, or source is read and it has doubled;
// and from the first collection on the usual rule holds.
func TestReading(t *testing.T) {
	restored(t)
	Set()
	done := Reading()
	if n := collections(64); n > 0 {
		t.Errorf("%d collections while 64 MB of source are read", n)
	}
	done()
	if n := collections(32); n > 0 {
		t.Errorf("%d collections while what was read of source grows by half", n)
	}
	if n := collections(128); n == 0 {
		t.Error("no collection when what was read of source has doubled")
	}
	kept = nil
	for range 100 {
		runtime.GC()
		runtime.Gosched()
		if grow, limit := settings(); grow == percent && limit == math.MaxInt64 {
			return
		}
	}
	grow, limit := settings()
	t.Errorf("behind a collection: %d %%, limit %d", grow, limit)
}

// TestReadingCollected: where a collection comes while source is read, nothing is put off behind it.
func TestReadingCollected(t *testing.T) {
	restored(t)
	done := Reading()
	runtime.GC()
	done()
	if grow, limit := settings(); grow != percent || limit != math.MaxInt64 {
		t.Errorf("%d %%, limit %d", grow, limit)
	}
}

// TestUsersSettings: what the user has set for the run is left alone.
func TestUsersSettings(t *testing.T) {
	for _, name := range []string{"GOGC", "GOMEMLIMIT"} {
		t.Run(name, func(t *testing.T) {
			restored(t)
			t.Setenv(name, "50")
			debug.SetGCPercent(50)
			debug.SetMemoryLimit(1 << 30)
			Set()
			Reading()()
			if grow, limit := settings(); grow != 50 || limit != 1<<30 {
				t.Errorf("%d %%, limit %d", grow, limit)
			}
		})
	}
}

// TestSparing: while somebody holds something large collections come sooner, and as before when the last gives it up.
func TestSparing(t *testing.T) {
	restored(t)
	Set()
	usual, _ := settings()
	first, second := Sparing(), Sparing()
	first()
	if grow, _ := settings(); grow >= usual {
		t.Errorf("the heap may grow by %d %%, as much as ever", grow)
	}
	second()
	if grow, _ := settings(); grow != usual {
		t.Errorf("the heap may grow by %d %%, want %d", grow, usual)
	}
}
