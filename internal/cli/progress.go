package cli

import (
	"fmt"
	"io"
	"os"
	"sync/atomic"
	"time"

	"github.com/schollz/progressbar/v3"
	"golang.org/x/term"

	"vetta/internal/capture"
	"vetta/internal/shape"
)

// patience is how long a run may take before it shows how far it is.
const patience = 2 * time.Second

// progress shows how far a long reading is, on a terminal alone: bytes of bytes, files of files, and the
// time that is left.
type progress struct {
	done chan struct{}
	gone chan struct{}
}

// progress begins to show how far the reading of some captures is, which it makes count what is read.
func (e *env) progress(files []*capture.File, how *shape.Reading) *progress {
	f, ok := e.err.(*os.File)
	if !ok || !term.IsTerminal(int(f.Fd())) {
		return nil
	}
	p := &progress{done: make(chan struct{}), gone: make(chan struct{})}
	how.Meter, how.Files = &capture.Meter{}, &atomic.Int64{}
	meter, read := how.Meter, how.Files
	go func() {
		defer close(p.gone)
		select {
		case <-p.done:
			return
		case <-time.After(patience):
		}
		p.show(f, files, meter, read)
	}()
	return p
}

// show draws until the reading is done.
func (p *progress) show(out io.Writer, files []*capture.File, meter *capture.Meter, read *atomic.Int64) {
	var total int64
	for _, f := range files {
		info, err := os.Stat(f.Disk())
		if err != nil { // standard input: there is no end to tell
			total = -1
			break
		}
		total += info.Size()
	}
	bar := progressbar.NewOptions64(total, progressbar.OptionSetWriter(out), progressbar.OptionShowBytes(true), progressbar.OptionShowCount(),
		progressbar.OptionSetWidth(24), progressbar.OptionClearOnFinish(), progressbar.OptionSetPredictTime(true),
		progressbar.OptionSetTheme(progressbar.Theme{Saucer: "#", SaucerPadding: ".", BarStart: "[", BarEnd: "]"}))
	tick := time.NewTicker(200 * time.Millisecond)
	defer tick.Stop()
	for {
		bar.Describe(fmt.Sprintf("reading captures, %d of %d files", read.Load(), len(files)))
		bar.Set64(min(meter.Bytes.Load(), max(total-1, 0)))
		select {
		case <-p.done:
			bar.Clear()
			return
		case <-tick.C:
		}
	}
}

// finish takes the line away.
func (p *progress) finish() {
	if p != nil {
		close(p.done)
		<-p.gone
	}
}
