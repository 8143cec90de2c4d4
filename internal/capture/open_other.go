//go:build !unix

package capture

import (
	"io"
	"os"
)

// openRegular opens a file for reading and answers its size. The error of what is no
// regular file is errIrregular.
func openRegular(path string) (io.ReadCloser, int64, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, 0, err
	}
	info, err := file.Stat()
	if err == nil && !info.Mode().IsRegular() {
		err = errIrregular
	}
	if err != nil {
		file.Close()
		return nil, 0, err
	}
	return file, info.Size(), nil
}
