package engine

import (
	"fmt"
	"sync"

	"nexdal/internal/text"
)

// A Meter adds up the bytes that an engine reads for questions, which are billed, and keeps them
// below a limit. Several sessions may share one.
type Meter struct {
	Most int64 // bytes; 0: no limit

	mutex sync.Mutex
	read  int64
}

// Take counts bytes that a question is about to read, or refuses them with a [SpentError].
func (m *Meter) Take(bytes int64) error {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	if m.Most > 0 && m.read+bytes > m.Most {
		return &SpentError{Read: m.read, Wants: bytes, Most: m.Most}
	}
	m.read += bytes
	return nil
}

// Read is how many bytes were read so far.
func (m *Meter) Read() int64 {
	m.mutex.Lock()
	defer m.mutex.Unlock()
	return m.read
}

// A SpentError says that a question was not put, since it would read more than is allowed.
type SpentError struct{ Read, Wants, Most int64 } // bytes

// Error gives one sentence.
func (e *SpentError) Error() string {
	return fmt.Sprintf("the next question would read %s; %s of the %s allowed were read", text.Size(e.Wants), text.Size(e.Read), text.Size(e.Most))
}
