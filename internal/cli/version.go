package cli

import (
	"fmt"
	"runtime/debug"
	"strings"

	"nexdal/internal/engine/all"
)

// Release is the version of the program (https://semver.org).
const Release = "0.2.0"

// Commit is stamped into the program when it is built.
var Commit = ""

// version is the release, and, of a program built from a checkout, the commit behind it.
func version() string {
	commit := Commit
	if commit != "" {
		return Release + "+" + commit
	}
	if info, ok := debug.ReadBuildInfo(); ok {
		for _, s := range info.Settings {
			if s.Key == "vcs.revision" && len(s.Value) > 12 {
				commit = s.Value[:12]
			}
		}
	}
	if commit == "" {
		return Release
	}
	return Release + "+" + commit
}

// versionText is what --version prints: the engines that it serves are part of it.
func versionText() string {
	var b strings.Builder
	fmt.Fprintf(&b, "nexdal %s\n", version())
	for _, line := range all.Served() {
		fmt.Fprintf(&b, "  %s\n", line)
	}
	return b.String()
}
