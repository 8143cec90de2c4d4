package cli_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// shellLines are the lines for a shell of each job file in a page: those of run: and of script:.
func shellLines(page string) (jobs [][]string) {
	for i, block := range strings.Split(page, "```") {
		text, isYAML := strings.CutPrefix(block, "yaml\n")
		if i%2 == 0 || !isYAML {
			continue
		}
		var lines []string
		under := -1 // how far what is in a block for the shell is indented, where one is read
		script := false
		for _, line := range strings.Split(text, "\n") {
			indent := len(line) - len(strings.TrimLeft(line, " "))
			trimmed := strings.TrimSpace(line)
			switch {
			case trimmed == "":
			case under >= 0 && indent > under && script:
				lines = append(lines, strings.TrimPrefix(trimmed, "- "))
			case under >= 0 && indent > under:
				lines = append(lines, trimmed)
			case strings.HasSuffix(trimmed, "run: |"):
				under, script = indent, false
			case trimmed == "script:":
				under, script = indent, true
			default:
				under = -1
			}
		}
		jobs = append(jobs, lines)
	}
	return jobs
}

// TestJobFiles: the shell lines of the job files in docs/ci.md do what the page says, before and after what is known was
// accepted.
func TestJobFiles(t *testing.T) {
	bash, err := exec.LookPath("bash")
	if err != nil {
		t.Skip("there is no bash")
	}
	page, err := os.ReadFile("../../docs/ci.md")
	if err != nil {
		t.Fatal(err)
	}
	jobs := shellLines(string(page))
	if len(jobs) != 2 || len(jobs[0]) != 2 || len(jobs[1]) != 1 {
		t.Fatalf("the jobs are %q", jobs)
	}
	p := newProject(t, nil)
	p.run("demo", "saltmere").exits(0)
	dir := filepath.Join(p.dir, "saltmere")
	inside := &project{t, dir}
	shell := func(line string) (code int) {
		t.Helper()
		cmd := exec.Command(bash, "-e", "-c", line)
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "PATH="+filepath.Dir(program)+":"+os.Getenv("PATH"), "GITHUB_STEP_SUMMARY="+filepath.Join(dir, "summary.md"))
		out, err := cmd.CombinedOutput()
		if exit, ok := err.(*exec.ExitError); ok {
			return exit.ExitCode()
		} else if err != nil {
			t.Fatalf("%s: %v\n%s", line, err, out)
		}
		return 0
	}
	run := func(want int) {
		t.Helper()
		for _, lines := range jobs {
			for _, line := range lines {
				expected := 0
				if strings.HasPrefix(line, "vetta check") {
					expected = want
				}
				if code := shell(line); code != expected {
					t.Errorf("%s ends with %d, want %d", line, code, expected)
				}
			}
		}
	}
	run(1)
	for _, name := range []string{"drift.sarif", "drift.md", "drift.html", "drift.xml", "summary.md"} {
		if inside.file(name) == "" {
			t.Errorf("%s is empty", name)
		}
	}
	accepts := ""
	for _, line := range strings.Split(string(page), "\n") {
		if text, ok := strings.CutPrefix(line, "    vetta accept "); ok {
			accepts = "vetta accept " + text
		}
	}
	if code := shell(accepts); accepts == "" || code != 0 {
		t.Fatalf("%q ends with %d", accepts, code)
	}
	run(0)
}
