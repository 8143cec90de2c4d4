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

// TestWriteFollowsNoLink: a link is replaced, and what it leads to stays as it is.
func TestWriteFollowsNoLink(t *testing.T) {
	dir := t.TempDir()
	target, link := filepath.Join(dir, "real.md"), filepath.Join(dir, "link.md")
	if err := os.WriteFile(target, []byte("kept"), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.Symlink(target, link); err != nil {
		t.Skip(err)
	}
	if err := Write(File{link, []byte("text")}); err != nil {
		t.Fatal(err)
	}
	kept, _ := os.ReadFile(target)
	text, _ := os.ReadFile(link)
	if info, err := os.Lstat(link); string(kept) != "kept" || string(text) != "text" || err != nil || info.Mode()&os.ModeSymlink != 0 {
		t.Errorf("%q beside %q, %v %v", kept, text, info.Mode(), err)
	}
	if err := Write(File{os.DevNull, []byte("text")}); err != nil {
		t.Error(err)
	}
	if info, err := os.Stat(os.DevNull); err != nil || info.Mode().IsRegular() {
		t.Errorf("%s is a file now: %v", os.DevNull, err)
	}
}

// TestWriteAtOnce: several that write one file each succeed, and it is that of one of them.
func TestWriteAtOnce(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "drift.html")
	errs := make(chan error)
	for i := range 8 {
		go func() { errs <- Write(File{path, []byte(strings.Repeat(string(rune('a'+i)), 1<<16))}) }()
	}
	for range 8 {
		if err := <-errs; err != nil {
			t.Error(err)
		}
	}
	text, _ := os.ReadFile(path)
	if len(text) != 1<<16 || strings.Trim(string(text), string(text[0])) != "" || len(names(t, dir)) != 1 {
		t.Errorf("%d bytes, beside %v", len(text), names(t, dir))
	}
}
