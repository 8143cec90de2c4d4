//go:build unix

package capture

import (
	"io"
	"syscall"
)

// openRegular opens a file for reading and answers its size. Of many small captures
// it saves most of the time that goes to the system: package os would make every
// file known to the poller, which has no use for regular ones. A pipe is not waited
// for: the error of what is no regular file is errIrregular.
func openRegular(path string) (io.ReadCloser, int64, error) {
	fd, err := again(func() (int, error) {
		return syscall.Open(path, syscall.O_RDONLY|syscall.O_CLOEXEC|syscall.O_NONBLOCK, 0)
	})
	if err != nil {
		return nil, 0, err
	}
	var info syscall.Stat_t
	_, err = again(func() (int, error) { return 0, syscall.Fstat(fd, &info) })
	if err == nil && info.Mode&syscall.S_IFMT != syscall.S_IFREG {
		err = errIrregular
	}
	if err != nil {
		syscall.Close(fd)
		return nil, 0, err
	}
	return descriptor(fd), info.Size, nil
}

// descriptor is an open file.
type descriptor int

func (d descriptor) Read(buf []byte) (int, error) {
	n, err := again(func() (int, error) { return syscall.Read(int(d), buf) })
	switch {
	case err != nil:
		return 0, err
	case n == 0 && len(buf) > 0:
		return 0, io.EOF
	}
	return n, nil
}

func (d descriptor) Close() error { return syscall.Close(int(d)) }

// again calls until no signal interrupts.
func again(call func() (int, error)) (int, error) {
	for {
		if n, err := call(); err != syscall.EINTR {
			return n, err
		}
	}
}
