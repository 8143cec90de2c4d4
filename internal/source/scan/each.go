package scan

import (
	"runtime"
	"sync"
	"sync/atomic"
)

// Each calls work for each index below n, side by side on as many cores as there are.
func Each(n int, work func(i int)) {
	var next atomic.Int64
	var wait sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		wait.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				work(i)
			}
		})
	}
	wait.Wait()
}
