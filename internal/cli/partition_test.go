package cli_test

import (
	"fmt"
	"maps"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// randomRow is an object of some of the keys that a sailing may have, so that limits are reached too.
func randomRow(r *rand.Rand, n int) string {
	pick := func(all ...string) string { return all[r.Intn(len(all))] }
	values := map[string]string{
		"id": fmt.Sprint(n), "vessel": pick(`"Tern"`, `"Gannet"`, "null", fmt.Sprintf(`"Auk %d"`, r.Intn(80))),
		"knots": pick("1", "2.5", `"3"`, "1e3", "-4", fmt.Sprint(r.Intn(200))), "gate": fmt.Sprintf(`"A%d"`, r.Intn(3)),
		"note": pick(`""`, "null", `"`+strings.Repeat("x", r.Intn(90))+`"`, `"é"`), "when": pick(`"2026-03-09"`, `"2026-03-01T10:00:00Z"`, `"10:30"`),
		"deck": fmt.Sprintf(`{"d%d":1,"d%d":2}`, r.Intn(60), r.Intn(60)+100), "tags": pick("[]", `["a"]`, "[1,null]"),
	}
	var members []string
	for _, key := range []string{"vessel", "id", "deck", "tags", "when", "note", "gate", "knots"} {
		if r.Intn(4) > 0 {
			members = append(members, fmt.Sprintf("%q:%s", key, values[key]))
		}
	}
	return "{" + strings.Join(members, ",") + "}"
}

// randomCaptures are captures of sailings, fares and ports, some of these with headers beside them.
func randomCaptures(seed int64) files {
	r := rand.New(rand.NewSource(seed))
	f := files{}
	for i := range 9 {
		var rows strings.Builder
		for n := range 1 + r.Intn(40) {
			row := randomRow(r, 100*i+n)
			if r.Intn(6) == 0 {
				row = "[" + row + "]"
			}
			rows.WriteString(row + "\n")
		}
		f[fmt.Sprintf("captures/rows/sailings-%d.ndjson", i)] = rows.String()
	}
	for i := range 4 {
		f[fmt.Sprintf("captures/fares-%d.json", i)] = fmt.Sprintf(`{"fares":[%s,%s],"page":%d}`, randomRow(r, i), randomRow(r, i+9), i)
		f[fmt.Sprintf("captures/ports/%d.json", i)] = fmt.Sprintf(`[{"code":"P%d"}]`, i)
		f[fmt.Sprintf("captures/ports/%d.headers", i)] = "HTTP/1.1 200 OK\nDate: Mon, 09 Mar 2026 0" + fmt.Sprint(i) + ":00:00 GMT\nContent-Type: application/json\n"
	}
	return f
}

// TestPartitions: a saved shape has the same bytes however its captures were divided among workers and runs,
// and in whatever order these are merged.
func TestPartitions(t *testing.T) {
	for seed := range int64(4) {
		captures := randomCaptures(seed)
		p := newProject(t, captures)
		save := func(args ...string) string {
			t.Helper()
			r := p.run(append([]string{"shape", "-o", "-"}, args...)...)
			if r.out == "" {
				t.Fatal(r.err)
			}
			return r.out
		}
		whole := save("captures")
		if save("-workers", "1", "captures") != whole {
			t.Errorf("seed %d: one worker saves another shape than many", seed)
		}
		r := rand.New(rand.NewSource(seed + 100))
		parts := make([][]string, 4)
		for _, name := range slices.Sorted(maps.Keys(captures)) {
			n := r.Intn(len(parts))
			parts[n] = append(parts[n], name)
		}
		var saved []string
		for i, names := range parts {
			if !slices.ContainsFunc(names, func(n string) bool { return !strings.HasSuffix(n, ".headers") }) {
				continue
			}
			name := fmt.Sprintf("part-%d.shape", i)
			if err := os.WriteFile(filepath.Join(p.dir, name), []byte(save(names...)), 0o644); err != nil {
				t.Fatal(err)
			}
			saved = append(saved, name)
		}
		for range 3 {
			r.Shuffle(len(saved), func(i, k int) { saved[i], saved[k] = saved[k], saved[i] })
			if merged := save(saved...); firstDifference(merged, whole) >= 0 {
				t.Errorf("seed %d: %v merged are another shape than the captures at once", seed, saved)
			}
		}
	}
}

// firstDifference is where two texts differ first, -1 where they do not.
func firstDifference(a, b string) int {
	for i := range min(len(a), len(b)) {
		if a[i] != b[i] {
			return i
		}
	}
	if len(a) != len(b) {
		return min(len(a), len(b))
	}
	return -1
}

var shellBlock = regexp.MustCompile("(?s)```sh\n(.*?)```")

// TestScaleInShell runs the lines that docs/scale.md gives for a shell.
func TestScaleInShell(t *testing.T) {
	text, err := os.ReadFile("../../docs/scale.md")
	if err != nil {
		t.Fatal(err)
	}
	lines := shellBlock.FindStringSubmatch(string(text))
	if lines == nil {
		t.Fatal("docs/scale.md has no lines for a shell")
	}
	for _, tool := range []string{"sh", "find", "xargs"} {
		if _, err := exec.LookPath(tool); err != nil {
			t.Skip(tool + " is not here")
		}
	}
	captures := randomCaptures(7)
	p := newProject(t, captures)
	bin := t.TempDir()
	if err := os.Symlink(program, filepath.Join(bin, "vetta")); err != nil {
		t.Fatal(err)
	}
	script := exec.Command("sh", "-e", "-c", strings.Replace(lines[1], "-n 200", "-n 3", 1))
	script.Dir, script.Env = p.dir, append(os.Environ(), "PATH="+bin+string(os.PathListSeparator)+os.Getenv("PATH"))
	if out, err := script.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	merged, err := os.ReadFile(filepath.Join(p.dir, "captures.shape"))
	if err != nil {
		t.Fatal(err)
	}
	if at := firstDifference(string(merged), p.run("shape", "-o", "-", "captures").out); at >= 0 {
		t.Errorf("what xargs makes differs from one run at byte %d", at)
	}
}
