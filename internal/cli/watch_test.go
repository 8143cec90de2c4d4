package cli_test

import (
	"bufio"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// watched is a check that runs on.
type watched struct {
	t     *testing.T
	cmd   *exec.Cmd
	lines chan string
}

// watch starts a check that runs until the test ends.
func (p *project) watch(args ...string) *watched {
	p.t.Helper()
	w := &watched{t: p.t, cmd: exec.Command(program, append([]string{"check", "-watch"}, args...)...), lines: make(chan string, 1000)}
	w.cmd.Dir = p.dir
	out, err := w.cmd.StdoutPipe()
	if err != nil {
		p.t.Fatal(err)
	}
	w.cmd.Stderr = w.cmd.Stdout
	if err := w.cmd.Start(); err != nil {
		p.t.Fatal(err)
	}
	go func() {
		in := bufio.NewScanner(out)
		for in.Scan() {
			w.lines <- in.Text()
		}
		close(w.lines)
	}()
	p.t.Cleanup(func() { w.cmd.Process.Kill(); w.cmd.Wait() })
	return w
}

// until reads lines up to one that has a text in it.
func (w *watched) until(text string) (lines string) {
	w.t.Helper()
	limit := time.After(time.Minute)
	for {
		select {
		case line, ok := <-w.lines:
			if lines += line + "\n"; strings.Contains(line, text) {
				return lines
			}
			if !ok {
				w.t.Fatalf("it ends before %q is said:\n%s", text, lines)
			}
		case <-limit:
			w.t.Fatalf("%q is never said:\n%s", text, lines)
		}
	}
}

// TestWatch: what changes is checked again, and what is new and gone is told; it comes to what a check of all comes to.
func TestWatch(t *testing.T) {
	p := newProject(t, drifting())
	p.write("vetta.toml", "models = [\"App\"]\ncaptures = [\"traffic\"]\n")
	w := p.watch("-brief", "-o", "drift.json")
	w.until("responses  2 read")
	agrees := func() {
		t.Helper()
		p.run("check", "-brief", "-o", "once.json")
		if once, again := p.file("once.json"), p.file("drift.json"); once != again {
			t.Errorf("watched, it is\n%s\nchecked once\n%s", again, once)
		}
	}
	agrees()

	p.write("traffic/new/fares-3.json", `[{"ticket": null, "amount": 3}]`)
	if told := w.until("would not decode;"); !strings.Contains(told, "traffic/new/fares-3.json changed") || !strings.Contains(told, "new    breaks   Fare.ticket") && !strings.Contains(told, "new   breaks   Fare.ticket") {
		t.Errorf("of a new capture it says\n%s", told)
	}
	agrees()

	p.write("App/Fare.swift", strings.Replace(p.file("App/Fare.swift"), "ticket: String", "ticket: String?", 1))
	if told := w.until("would not decode;"); !strings.Contains(told, "gone  breaks   Fare.ticket") || !strings.Contains(told, "0 new, 1 gone") {
		t.Errorf("of source that was mended it says\n%s", told)
	}
	agrees()

	p.write("vetta.toml", "models = [\"App\"\n")
	w.until("is not taken as it is")
	p.write("vetta.toml", "models = [\"App\"]\ncaptures = [\"traffic\"]\n# mended\n")
	w.until("0 new, 0 gone")

	os.Remove(filepath.Join(p.dir, "traffic/fares-2.json"))
	if told := w.until("would not decode;"); !strings.Contains(told, "gone  breaks   Fare.amount") {
		t.Errorf("of a capture that is gone it says\n%s", told)
	}
	agrees()
	p.run("accept", "-reason", "known").exits(0)
	if err := w.cmd.Process.Signal(os.Interrupt); err != nil {
		t.Skip(err)
	}
	w.cmd.Wait()
	if code := w.cmd.ProcessState.ExitCode(); code != 0 {
		t.Errorf("it ends with %d where the last check found nothing", code)
	}
}

func TestWatchMisuse(t *testing.T) {
	p := newProject(t, drifting())
	p.run("check", "App", "-", "-watch").exits(2).complains("-watch and - do not go together")
	p.run("check", "App", "traffic", "-watch", "-format", "json").exits(2).complains("-watch shows text: write json to a file by -o FILE")
}
