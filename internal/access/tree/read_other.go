//go:build !unix

package tree

import (
	"io"
	"io/fs"
	"os"
)

// readFile reads a regular file into buffer, or a larger one, and returns the
// part that holds it.
func readFile(name string, buffer []byte) ([]byte, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	st, err := f.Stat()
	if err != nil {
		return nil, err
	}
	if st.Size() > MaxFile {
		return nil, &fs.PathError{Op: "read", Path: name, Err: errTooLarge}
	}
	if need := int(st.Size()) + 64; cap(buffer) < need {
		buffer = make([]byte, 0, need)
	}
	buffer = buffer[:st.Size()]
	n, err := io.ReadFull(f, buffer)
	if err == io.ErrUnexpectedEOF || err == io.EOF {
		err = nil
	}
	return buffer[:n], err
}
