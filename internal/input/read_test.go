//go:build unix

package input

import (
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
)

// TestSourcesAreReadWhole: whatever their size, each with its own text.
func TestSourcesAreReadWhole(t *testing.T) {
	dir := t.TempDir()
	want := map[string]string{}
	for name, size := range map[string]int{"a.swift": 0, "b.kt": 1, "c.java": 64<<10 - 1, "d.java": 64 << 10, "e.kt": 64<<10 + 1, "f.swift": 300_001, "g.kt": 3} {
		text := strings.Repeat(name[:1], size)
		want[filepath.Join(dir, name)] = text
		if err := os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	f := Find([]Path{{Name: dir, What: Models}}, nil)
	for _, s := range f.Sources {
		if text, ok := want[s.Name]; !ok || s.Text != text {
			t.Errorf("%s: %d bytes, want %d", s.Name, len(s.Text), len(text))
		}
		delete(want, s.Name)
	}
	if len(want) > 0 || len(f.Problems) > 0 {
		t.Error("not read:", want, f.Problems)
	}
}

// TestPipes: one that is named is read as a file is; one that only lies in a folder is said and
// not waited for.
func TestPipes(t *testing.T) {
	dir := t.TempDir()
	pipe := filepath.Join(dir, "A.swift")
	if err := syscall.Mkfifo(pipe, 0o600); err != nil {
		t.Skip(err)
	}
	if f := Find([]Path{{Name: dir}}, nil); len(f.Sources) != 0 || len(f.Problems) != 1 || !strings.Contains(f.Problems[0].Reason, "a pipe") {
		t.Errorf("found %v, problems %v", f.Sources, f.Problems)
	}
	go func() {
		if w, err := os.OpenFile(pipe, os.O_WRONLY, 0); err == nil {
			w.WriteString("struct A")
			w.WriteString(": Decodable {}")
			w.Close()
		}
	}()
	f := Find([]Path{{Name: pipe}}, nil)
	if len(f.Sources) != 1 || f.Sources[0].Text != "struct A: Decodable {}" {
		t.Errorf("found %v, problems %v", f.Sources, f.Problems)
	}
}

// TestUnreadable: what may not be read is said with its reason, and the rest is read.
func TestUnreadable(t *testing.T) {
	dir := t.TempDir()
	for _, name := range []string{"a.kt", "b.kt", "c/d.kt"} {
		path := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, []byte("class A"), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.Symlink("nowhere.kt", filepath.Join(dir, "e.kt")); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink("a.kt", filepath.Join(dir, "f.kt")); err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"a.kt", "c"} {
		if err := os.Chmod(filepath.Join(dir, name), 0); err != nil {
			t.Fatal(err)
		}
		defer os.Chmod(filepath.Join(dir, name), 0o755)
	}
	f := Find([]Path{{Name: dir}}, nil)
	var got []string
	for _, p := range f.Problems {
		got = append(got, strings.TrimPrefix(p.Path, dir+"/")+": "+p.Reason)
	}
	want := "c: permission denied; e.kt: it is a link to nothing; a.kt: permission denied"
	if os.Getuid() == 0 { // who may read everything
		want = "e.kt: it is a link to nothing"
	}
	if s := strings.Join(got, "; "); s != want {
		t.Errorf("problems %s, want %s", s, want)
	}
}
