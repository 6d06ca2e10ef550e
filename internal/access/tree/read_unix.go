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
	// The walk knows that it is a regular file: a read that leaves room in the
	// buffer has reached its end. Readers want a few bytes behind the text.
	const room = 64
	if cap(buffer) < 1<<14 {
		buffer = make([]byte, 0, 1<<14)
	}
	buffer = buffer[:0]
	for {
		if cap(buffer)-len(buffer) <= room {
			var st syscall.Stat_t
			if err := syscall.Fstat(fd, &st); err != nil {
				return fail(err)
			}
			if st.Size > MaxFile || len(buffer) > MaxFile {
				return fail(errTooLarge)
			}
			size := max(int(st.Size)+2*room, len(buffer)+len(buffer)/2)
			buffer = append(make([]byte, 0, size), buffer...)
		}
		want := cap(buffer) - room - len(buffer)
		n, err := retry(func() (int, error) {
			return syscall.Read(fd, buffer[len(buffer):len(buffer)+want])
		})
		if err != nil {
			return fail(err)
		}
		buffer = buffer[:len(buffer)+n]
		if n < want {
			clear(buffer[len(buffer) : len(buffer)+room/2]) // readers look for zeros there
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
