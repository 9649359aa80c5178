package server

import (
	"os"
	"syscall"
	"testing"
)

// folder makes the folder of a server. A test's lies in memory where there is room:
// nothing in it has to last, and the disk is the slowest part of a test.
func folder(pattern string) (string, error) {
	const memory, room = "/dev/shm", 4 << 30
	var s syscall.Statfs_t
	if testing.Testing() && syscall.Statfs(memory, &s) == nil && s.Bavail*uint64(s.Bsize) > room {
		if name, err := os.MkdirTemp(memory, pattern); err == nil {
			return name, nil
		}
	}
	return os.MkdirTemp("", pattern)
}
