// Package demo holds the Saltmere Ferries project: the source of an iOS, an Android,
// a Flutter, a C# and a TypeScript app, and captured responses of the API that they talk to, over three weeks.
package demo

import (
	"embed"
	"io/fs"
	"os"
	"path/filepath"
)

//go:embed saltmere
var files embed.FS

// Write puts the project into a folder, which is made if it is not there. Files
// that are there already are overwritten.
func Write(dir string) error {
	root, err := fs.Sub(files, "saltmere")
	if err != nil {
		return err
	}
	return fs.WalkDir(root, ".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		target := filepath.Join(dir, filepath.FromSlash(path))
		if entry.IsDir() {
			return os.MkdirAll(target, 0o755)
		}
		data, err := fs.ReadFile(root, path)
		if err != nil {
			return err
		}
		return os.WriteFile(target, data, 0o644)
	})
}
