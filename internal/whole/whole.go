// Package whole writes files whole or not at all.
package whole

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
)

// File is a file that is to be written.
type File struct {
	Path string
	Data []byte
}

// Write writes files by way of others beside them, and puts these in their places once all of them are written: where one
// cannot be written, none is. A file that is there keeps its permissions; one that a link leads to is written where it
// lies. The error names the path.
func Write(files ...File) (err error) {
	made := make([]string, 0, len(files))
	defer func() {
		for _, name := range made {
			os.Remove(name) // of what is in its place already nothing is left
		}
	}()
	paths := make([]string, len(files))
	for i, f := range files {
		paths[i] = f.Path
		if target, err := filepath.EvalSymlinks(f.Path); err == nil {
			paths[i] = target
		}
		name, err := beside(paths[i], f.Data)
		if name != "" {
			made = append(made, name)
		}
		if err != nil {
			return named(f.Path, err)
		}
	}
	for i, name := range made {
		if err := os.Rename(name, paths[i]); err != nil {
			return named(files[i].Path, err)
		}
	}
	return nil
}

// beside writes data into a new file in the folder of a path, and answers its name.
func beside(path string, data []byte) (name string, err error) {
	mode := fs.FileMode(0o644)
	if info, err := os.Stat(path); err == nil {
		if info.IsDir() {
			return "", errors.New("it is a folder")
		}
		mode = info.Mode().Perm()
	}
	f, err := os.CreateTemp(filepath.Dir(path), "."+filepath.Base(path)+"-*")
	if err != nil {
		return "", err
	}
	_, err = f.Write(data)
	return f.Name(), errors.Join(err, f.Chmod(mode), f.Close())
}

// named is an error with the path that was asked for in place of the one that was tried.
func named(path string, err error) error {
	for {
		var at *fs.PathError
		var link *os.LinkError
		switch {
		case errors.As(err, &at):
			err = at.Err
		case errors.As(err, &link):
			err = link.Err
		default:
			return &fs.PathError{Op: "write", Path: path, Err: err}
		}
	}
}
