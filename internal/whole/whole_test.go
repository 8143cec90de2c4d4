package whole

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

func names(t *testing.T, dir string) (all []string) {
	t.Helper()
	entries, err := os.ReadDir(dir)
	if err != nil {
		t.Fatal(err)
	}
	for _, e := range entries {
		all = append(all, e.Name())
	}
	return all
}

func TestWriteKeepsTheMode(t *testing.T) {
	path := filepath.Join(t.TempDir(), "drift.html")
	if err := os.WriteFile(path, []byte("before"), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := Write(File{path, []byte("after")}); err != nil {
		t.Fatal(err)
	}
	text, _ := os.ReadFile(path)
	info, _ := os.Stat(path)
	if string(text) != "after" || info.Mode().Perm() != 0o600 {
		t.Errorf("%q with %v", text, info.Mode())
	}
}

func TestWriteAllOrNone(t *testing.T) {
	dir := t.TempDir()
	err := Write(File{filepath.Join(dir, "a.sarif"), []byte("a")}, File{filepath.Join(dir, "absent", "b.html"), []byte("b")})
	if err == nil || !strings.Contains(err.Error(), filepath.Join("absent", "b.html")) {
		t.Errorf("the error is %v", err)
	}
	if left := names(t, dir); len(left) > 0 {
		t.Errorf("%v are left", left)
	}
	if err := Write(File{dir, nil}); err == nil || !strings.Contains(err.Error(), "folder") {
		t.Errorf("a folder is written over: %v", err)
	}
}

func TestWriteThroughALink(t *testing.T) {
	dir := t.TempDir()
	target, link := filepath.Join(dir, "real.md"), filepath.Join(dir, "link.md")
	if err := os.WriteFile(target, nil, 0o644); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink(target, link); err != nil {
		t.Skip(err)
	}
	if err := Write(File{link, []byte("text")}); err != nil {
		t.Fatal(err)
	}
	text, _ := os.ReadFile(target)
	if info, err := os.Lstat(link); string(text) != "text" || err != nil || info.Mode()&os.ModeSymlink == 0 {
		t.Errorf("%q, %v %v", text, info.Mode(), err)
	}
}
