//go:build unix

package tree

import (
	"io/fs"
	"syscall"
)

// readFile reads a regular file into buffer, or a larger one, and returns the
// part that holds it. The system calls are made directly: os.Open would offer
// every file to the poller first, which costs as much as reading it. The last
// component must not be a link.
func readFile(name string, buffer []byte) ([]byte, error) {
	fail := func(err error) ([]byte, error) { return nil, &fs.PathError{Op: "read", Path: name, Err: err} }
	fd, err := retry(func() (int, error) {
		return syscall.Open(name, syscall.O_RDONLY|syscall.O_CLOEXEC|syscall.O_NOFOLLOW|syscall.O_NONBLOCK, 0)
	})
	if err != nil {
		return fail(err)
	}
	defer syscall.Close(fd)
	var st syscall.Stat_t
	if err := syscall.Fstat(fd, &st); err != nil {
		return fail(err)
	}
	if st.Size > MaxFile {
		return fail(errTooLarge)
	}
	// Readers want a few bytes of room behind the text.
	if need := int(st.Size) + 64; cap(buffer) < need {
		buffer = make([]byte, 0, need+need/4)
	}
	buffer = buffer[:0]
	for {
		if cap(buffer)-len(buffer) < 64 {
			if cap(buffer) > MaxFile {
				return fail(errTooLarge)
			}
			buffer = append(make([]byte, 0, 2*cap(buffer)+64), buffer...)
		}
		n, err := retry(func() (int, error) {
			return syscall.Read(fd, buffer[len(buffer):cap(buffer)-32])
		})
		if err != nil {
			return fail(err)
		}
		if n == 0 {
			return buffer, nil
		}
		buffer = buffer[:len(buffer)+n]
		if int64(len(buffer)) == st.Size {
			return buffer, nil
		}
	}
}

func retry(f func() (int, error)) (int, error) {
	for {
		n, err := f()
		if err != syscall.EINTR {
			return n, err
		}
	}
}
