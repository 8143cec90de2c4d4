package input

import (
	"os"
	"sync"
	"time"
)

// Texts are those of source files that were read before, so that a file is read again only once it has changed. A nil one
// keeps nothing.
type Texts struct {
	lock sync.Mutex
	all  map[string]text
}

type text struct {
	stamp Stamp
	text  string
}

// Stamp tells whether a file has changed: its size and when it was written. It is zero of what is not there.
type Stamp struct {
	Size int64
	At   time.Time
}

// StampOf is that of a file.
func StampOf(path string) Stamp {
	info, err := os.Stat(path)
	if err != nil {
		return Stamp{}
	}
	return Stamp{info.Size(), info.ModTime()}
}

func (t *Texts) of(path string, now Stamp) (string, bool) {
	if t == nil {
		return "", false
	}
	t.lock.Lock()
	defer t.lock.Unlock()
	known, ok := t.all[path]
	return known.text, ok && known.stamp == now && now != Stamp{}
}

func (t *Texts) keep(path string, now Stamp, as string) {
	if t == nil {
		return
	}
	t.lock.Lock()
	defer t.lock.Unlock()
	if t.all == nil {
		t.all = map[string]text{}
	}
	t.all[path] = text{now, as}
}
