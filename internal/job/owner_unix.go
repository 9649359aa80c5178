//go:build unix

package job

import (
	"io/fs"
	"os"
	"syscall"
)

// ours reports whether the file belongs to the user, or to the system's administrator. What others
// put into a folder above, such as a common one for temporary files, is not read unasked.
func ours(info fs.FileInfo) bool {
	of, ok := info.Sys().(*syscall.Stat_t)
	return !ok || of.Uid == 0 || int(of.Uid) == os.Getuid()
}
