package cli

import (
	"os"
	"os/signal"
	"runtime"
	"sync/atomic"

	"vetta/internal/shape"
	"vetta/internal/traffic"
)

// readingOptions are the options that say which responses of captures are read, and how.
type readingOptions struct {
	filter  traffic.Filter
	workers *int
}

func (o *options) reading() *readingOptions {
	r := &readingOptions{}
	o.Func("host", "only responses of a host that the `PATTERN` names, with\n* for any text; may be repeated", r.filter.AddHost)
	o.Func("path", "only responses of a path that the `PATTERN` names, with\n** for any segments; may be repeated", r.filter.AddPath)
	o.Func("status", "only responses with the `STATUS`: 404, 4xx or 200-299;\nmay be repeated", r.filter.AddStatus)
	o.Func("since", "only responses from the `DATE` on, or a moment (RFC 3339)", func(text string) (err error) {
		r.filter.Since, _, err = traffic.Moment(text)
		return err
	})
	o.Func("until", "only responses up to the `DATE`, that day included, or a\nmoment", func(text string) (err error) {
		_, r.filter.Until, err = traffic.Moment(text)
		return err
	})
	return r
}

// parallel adds the option that says how many captures are read at once.
func (r *readingOptions) parallel(o *options) *readingOptions {
	r.workers = o.Int("workers", 0, "how many `N` captures are read at once (0: one a core)")
	return r
}

// want says which responses are wanted, nil for all.
func (r *readingOptions) want() func(*traffic.Exchange) bool {
	if r.filter.IsZero() {
		return nil
	}
	return r.filter.Want
}

// reading is how captures are read.
func (r *readingOptions) reading(e *env) shape.Reading {
	how := shape.Reading{Workers: runtime.GOMAXPROCS(0), Limits: shape.DefaultLimits, Want: r.want(), Stdin: e.in, Stop: e.interrupted.Load}
	if r.workers != nil && *r.workers > 0 {
		how.Workers = *r.workers
	}
	return how
}

// interrupts makes Ctrl-C end the reading, so that what was read until then is reported. A second one
// ends the program. done gives Ctrl-C back its own meaning.
func interrupts(stop *atomic.Bool) (done func()) {
	signals := make(chan os.Signal, 1)
	signal.Notify(signals, os.Interrupt)
	go func() {
		if _, ok := <-signals; ok {
			stop.Store(true)
			signal.Stop(signals)
		}
	}()
	return func() {
		signal.Stop(signals)
		close(signals)
	}
}
