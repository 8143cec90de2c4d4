package cli

import (
	"fmt"
	"io"
	"io/fs"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/fsnotify/fsnotify"

	"vetta/internal/capture"
	"vetta/internal/input"
	"vetta/internal/report"
)

const (
	// settles is how long nothing must happen before a change is taken for whole: editors and recorders write a file in
	// several steps.
	settles = 150 * time.Millisecond
	// looks is how often files are looked at where the system cannot say that they change.
	looks = time.Second
)

// watching checks, and checks again whenever something changes, until it is interrupted. The exit code is that of the last
// check.
func (o *checkOptions) watching(paths []input.Path) int {
	if slices.ContainsFunc(paths, func(p input.Path) bool { return p.Name == input.Stdin }) {
		return o.misuse("-watch and - do not go together: standard input is read once")
	}
	if o.reports.out.Name != "text" {
		return o.misuse("-watch shows text: write %s to a file by -o FILE", o.reports.out.Name)
	}
	o.kept, o.texts = &kept{}, &input.Texts{}
	stop := make(chan os.Signal, 1)
	signal.Notify(stop, os.Interrupt, syscall.SIGTERM)
	defer signal.Stop(stop)
	changes := newChanges(o.env.err)
	defer changes.close()
	changes.follow(o.folders(paths))
	before := o.stamps(paths)
	last, code := o.check(paths)
	for {
		select {
		case <-stop:
			return code
		case <-changes.noticed:
		}
		if !changes.settled(stop) {
			return code
		}
		changes.follow(o.folders(paths))
		now := o.stamps(paths)
		changed := differ(before, now)
		if len(changed) == 0 {
			continue
		}
		before = now
		fmt.Fprintf(o.env.out, "\n%s  %s changed\n", time.Now().Format(time.TimeOnly), report.Safe(namesOf(changed)))
		last, code = o.again(paths, last)
		if o.env.interrupted.Load() {
			return code
		}
	}
}

// again checks once more, and shows what is new and what is gone since the check before. Where nothing can be checked, that
// one stays what the next is compared with.
func (o *checkOptions) again(paths []input.Path, last *report.Check) (*report.Check, int) {
	if !o.read() || !o.readLedger() {
		return last, exitUsage
	}
	result, failed := o.compute(paths, o.shown())
	if failed != exitOK {
		return last, failed
	}
	how := o.writing()
	if err := o.reports.writeFiles(result, how); err != nil {
		return result, o.failed(err)
	}
	if err := result.Changes(o.env.out, how.Style, last); err != nil {
		return result, o.failed(err)
	}
	return result, o.exit(result)
}

// folders are those in which something may change: below the paths, but for what is passed over there, and around the files
// that say what is checked.
func (o *checkOptions) folders(paths []input.Path) (all []string) {
	add := func(dir string) {
		if !slices.Contains(all, dir) {
			all = append(all, dir)
		}
	}
	for _, p := range paths {
		info, err := os.Stat(p.Name)
		if err != nil || !info.IsDir() {
			add(filepath.Dir(p.Name))
			continue
		}
		filepath.WalkDir(p.Name, func(path string, d fs.DirEntry, err error) error {
			if err != nil || !d.IsDir() {
				return nil
			}
			if path != p.Name && input.IsPassedOver(d.Name()) {
				return fs.SkipDir
			}
			add(filepath.Clean(path))
			return nil
		})
	}
	for _, name := range []string{o.file.Path, o.ledger.Path} {
		if name != "" {
			add(filepath.Dir(name))
		}
	}
	return all
}

// stamps are those of all files that a check reads, by name.
func (o *checkOptions) stamps(paths []input.Path) map[string]string {
	stamps := map[string]string{}
	put := func(name string, beside ...string) {
		if name != "" {
			stamps[name] = stampOf(name, beside...)
		}
	}
	put(o.file.Path)
	put(o.ledger.Path)
	files := o.find(paths)
	for _, s := range files.Sources {
		put(s.Name)
	}
	for _, s := range files.Builds {
		put(s.Name)
	}
	for _, s := range files.Shapes {
		put(s)
	}
	for _, f := range files.Captures {
		if f.Path != capture.Stdin {
			put(f.Disk(), f.Beside...)
		}
	}
	return stamps
}

// differ are the names that are on one side alone, or with another stamp.
func differ(a, b map[string]string) (names []string) {
	for name, stamp := range b {
		if a[name] != stamp {
			names = append(names, name)
		}
	}
	for name := range a {
		if _, there := b[name]; !there {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	return names
}

// namesOf names a few.
func namesOf(names []string) string {
	if n := len(names); n > 3 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:3], ", "), n-3)
	}
	return strings.Join(names, ", ")
}

// changes tell that something has changed in some folders.
type changes struct {
	noticed  chan struct{}
	watcher  *fsnotify.Watcher // nil where the system cannot say it
	followed map[string]bool
	out      io.Writer
	done     chan struct{}
}

func newChanges(out io.Writer) *changes {
	c := &changes{noticed: make(chan struct{}, 1), followed: map[string]bool{}, out: out, done: make(chan struct{})}
	watcher, err := fsnotify.NewWatcher()
	if err != nil {
		c.look(err)
		return c
	}
	c.watcher = watcher
	go func() {
		for {
			select {
			case <-c.done:
				return
			case event, ok := <-watcher.Events:
				if !ok {
					return
				}
				if event.Op != fsnotify.Chmod {
					c.notice()
				}
			case _, ok := <-watcher.Errors: // something was missed: look
				if !ok {
					return
				}
				c.notice()
			}
		}
	}()
	return c
}

func (c *changes) notice() {
	select {
	case c.noticed <- struct{}{}:
	default:
	}
}

// look notices every second that something may have changed, since the system does not say.
func (c *changes) look(why error) {
	fmt.Fprintf(c.out, "vetta check: changes are looked for every second, since the system does not tell them: %v\n", why)
	go func() {
		tick := time.NewTicker(looks)
		defer tick.Stop()
		for {
			select {
			case <-c.done:
				return
			case <-tick.C:
				c.notice()
			}
		}
	}()
}

// follow follows folders from now on.
func (c *changes) follow(folders []string) {
	if c.watcher == nil {
		return
	}
	for _, dir := range folders {
		if c.followed[dir] {
			continue
		}
		if err := c.watcher.Add(dir); err != nil {
			if _, gone := os.Stat(dir); gone != nil {
				continue
			}
			c.watcher.Close()
			c.watcher = nil
			c.look(err)
			return
		}
		c.followed[dir] = true
	}
	for dir := range c.followed { // one that is made anew is followed anew
		if !slices.Contains(folders, dir) {
			c.watcher.Remove(dir)
			delete(c.followed, dir)
		}
	}
}

// settled waits until nothing has been noticed for a while; the answer is false where it is to stop.
func (c *changes) settled(stop <-chan os.Signal) bool {
	for {
		select {
		case <-stop:
			return false
		case <-c.noticed:
		case <-time.After(settles):
			return true
		}
	}
}

func (c *changes) close() {
	close(c.done)
	if c.watcher != nil {
		c.watcher.Close()
	}
}
