package capture

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"
)

// TestGrowingFileEnds: a file that somebody writes to while it is read is read as far as it went when it was opened.
func TestGrowingFileEnds(t *testing.T) {
	path := filepath.Join(t.TempDir(), "board.ndjson")
	rows := bytes.Repeat([]byte(`{"id":1}`+"\n"), 1<<17)
	if err := os.WriteFile(path, bytes.Repeat(rows, 12), 0o644); err != nil {
		t.Fatal(err)
	}
	more, err := os.OpenFile(path, os.O_APPEND|os.O_WRONLY, 0)
	if err != nil {
		t.Fatal(err)
	}
	defer more.Close()
	read, chunks := 0, 0
	r := &Reader{Alone: true}
	err = r.Read(&File{Path: path}, func(c *Chunk) (int, error) {
		if chunks++; chunks < 1000 { // as much as is read
			if _, err := more.Write(rows); err != nil {
				t.Fatal(err)
			}
		}
		read += bytes.Count(c.Data, []byte{'\n'})
		return len(c.Data), nil
	}, func(p Problem) { t.Error(p.Reason) })
	if err != nil || read != 12<<17 {
		t.Errorf("%d rows were read in %d chunks of the %d that were there: %v", read, chunks, 12<<17, err)
	}
}
