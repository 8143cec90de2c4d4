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
// cannot be written, none is. A file that is there keeps its permissions; a link is replaced and not followed. What is no
// file but a device or a pipe is written to as it is, once the others are there. The error names the path.
func Write(files ...File) (err error) {
	var made []string // beside their paths, "" for what is written to as it is
	defer func() {
		for _, name := range made {
			if name != "" {
				os.Remove(name) // of what is in its place already nothing is left
			}
		}
	}()
	for _, f := range files {
		if isStream(f.Path) {
			made = append(made, "")
			continue
		}
		name, err := beside(f.Path, f.Data)
		made = append(made, name)
		if err != nil {
			return named(f.Path, err)
		}
	}
	for i, name := range made {
		if name == "" {
			continue
		}
		if err := os.Rename(name, files[i].Path); err != nil {
			return named(files[i].Path, err)
		}
	}
	for i, name := range made {
		if name != "" {
			continue
		}
		if err := stream(files[i].Path, files[i].Data); err != nil {
			return named(files[i].Path, err)
		}
	}
	return nil
}

// isStream says whether a path leads to what is no file and no folder.
func isStream(path string) bool {
	info, err := os.Stat(path)
	return err == nil && !info.Mode().IsRegular() && !info.IsDir()
}

func stream(path string, data []byte) error {
	f, err := os.OpenFile(path, os.O_WRONLY, 0)
	if err != nil {
		return err
	}
	_, err = f.Write(data)
	return errors.Join(err, f.Close())
}

// beside writes data into a new file in the folder of a path, and answers its name.
func beside(path string, data []byte) (name string, err error) {
	mode := fs.FileMode(0o644)
	if info, err := os.Lstat(path); err == nil && info.Mode()&fs.ModeSymlink == 0 {
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
