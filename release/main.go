// Release builds what is handed out: for each system an archive with the program, its shell
// completions, its manual pages and the documents, and the checksums of all of them.
//
//	go run ./release -o dist [-targets linux/amd64,windows/arm64]
package main

import (
	"archive/tar"
	"archive/zip"
	"compress/gzip"
	"crypto/sha256"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"github.com/spf13/cobra/doc"

	"nexdal/internal/cli"
)

const everywhere = "linux/amd64,linux/arm64,darwin/amd64,darwin/arm64,windows/amd64,windows/arm64"

func main() {
	out := flag.String("o", "dist", "folder for the archives")
	targets := flag.String("targets", everywhere, "systems to build for, as system/processor, with commas between them")
	commit := flag.String("commit", "", "commit that the program is built from")
	flag.Parse()
	if err := release(*out, strings.Split(*targets, ","), *commit); err != nil {
		fmt.Fprintln(os.Stderr, "release:", err)
		os.Exit(1)
	}
}

// A member is a file of an archive.
type member struct {
	name    string
	content []byte
	program bool
}

func release(out string, targets []string, commit string) error {
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	shared, err := accompanying()
	if err != nil {
		return err
	}
	var sums []string
	for _, target := range targets {
		system, processor, ok := strings.Cut(target, "/")
		if !ok {
			return fmt.Errorf("%q is no system/processor", target)
		}
		program, err := build(system, processor, commit)
		if err != nil {
			return err
		}
		name := "nexdal"
		if system == "windows" {
			name += ".exe"
		}
		stem := fmt.Sprintf("nexdal-%s-%s-%s", cli.Release, system, processor)
		members := append([]member{{name, program, true}}, shared...)
		file, pack := stem+".tar.gz", tarred
		if system == "windows" {
			file, pack = stem+".zip", zipped
		}
		sum, err := written(filepath.Join(out, file), func(w io.Writer) error { return pack(w, stem, members) })
		if err != nil {
			return err
		}
		sums = append(sums, sum+"  "+file+"\n")
		fmt.Println(filepath.Join(out, file))
	}
	slices.Sort(sums)
	return os.WriteFile(filepath.Join(out, "SHA256SUMS"), []byte(strings.Join(sums, "")), 0o644)
}

// build compiles the program for a system.
func build(system, processor, commit string) ([]byte, error) {
	folder, err := os.MkdirTemp("", "nexdal-release")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(folder)
	at := filepath.Join(folder, "nexdal")
	c := exec.Command("go", "build", "-trimpath", "-ldflags", "-s -w -X nexdal/internal/cli.Commit="+commit, "-o", at, "./cmd/nexdal")
	c.Env = append(os.Environ(), "CGO_ENABLED=0", "GOOS="+system, "GOARCH="+processor)
	c.Stderr = os.Stderr
	if err := c.Run(); err != nil {
		return nil, fmt.Errorf("%s/%s: %w", system, processor, err)
	}
	return os.ReadFile(at)
}

// accompanying is what goes with the program on every system: documents, completions, manual
// pages.
func accompanying() ([]member, error) {
	var all []member
	readme, err := os.ReadFile("README.md")
	if err != nil {
		return nil, err
	}
	all = append(all, member{name: "README.md", content: readme})
	err = filepath.WalkDir("docs", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !slices.Contains([]string{".md", ".json", ".png"}, filepath.Ext(p)) {
			return err
		}
		text, err := os.ReadFile(p)
		all = append(all, member{name: filepath.ToSlash(p), content: text})
		return err
	})
	if err != nil {
		return nil, err
	}
	root := cli.Command()
	for name, write := range map[string]func(io.Writer) error{
		"nexdal.bash": func(w io.Writer) error { return root.GenBashCompletionV2(w, true) },
		"_nexdal":     root.GenZshCompletion,
		"nexdal.fish": func(w io.Writer) error { return root.GenFishCompletion(w, true) },
		"nexdal.ps1":  root.GenPowerShellCompletionWithDesc,
	} {
		var b strings.Builder
		if err := write(&b); err != nil {
			return nil, err
		}
		all = append(all, member{name: "completions/" + name, content: []byte(b.String())})
	}
	pages, err := manual(root)
	if err != nil {
		return nil, err
	}
	all = append(all, pages...)
	slices.SortFunc(all, func(a, b member) int { return strings.Compare(a.name, b.name) })
	return all, nil
}

// manual is a page for each command.
func manual(root *cobra.Command) ([]member, error) {
	folder, err := os.MkdirTemp("", "nexdal-man")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(folder)
	root.DisableAutoGenTag = true
	if err := doc.GenManTree(root, &doc.GenManHeader{Title: "NEXDAL", Section: "1", Source: "nexdal " + cli.Release, Date: &epoch}, folder); err != nil {
		return nil, err
	}
	files, err := filepath.Glob(filepath.Join(folder, "*.1"))
	var pages []member
	for _, f := range files {
		text, err := os.ReadFile(f)
		if err != nil {
			return nil, err
		}
		pages = append(pages, member{name: "man/man1/" + filepath.Base(f), content: text})
	}
	return pages, err
}

// epoch is the date of all members, so that two builds of one commit are alike.
var epoch = time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)

func (m member) mode() fs.FileMode {
	if m.program {
		return 0o755
	}
	return 0o644
}

func tarred(w io.Writer, stem string, members []member) error {
	z := gzip.NewWriter(w)
	t := tar.NewWriter(z)
	for _, m := range members {
		if err := t.WriteHeader(&tar.Header{Name: path.Join(stem, m.name), Mode: int64(m.mode()), Size: int64(len(m.content)), ModTime: epoch, Format: tar.FormatPAX}); err != nil {
			return err
		}
		if _, err := t.Write(m.content); err != nil {
			return err
		}
	}
	if err := t.Close(); err != nil {
		return err
	}
	return z.Close()
}

func zipped(w io.Writer, stem string, members []member) error {
	z := zip.NewWriter(w)
	for _, m := range members {
		h := &zip.FileHeader{Name: path.Join(stem, m.name), Method: zip.Deflate, Modified: epoch}
		h.SetMode(m.mode())
		f, err := z.CreateHeader(h)
		if err != nil {
			return err
		}
		if _, err := f.Write(m.content); err != nil {
			return err
		}
	}
	return z.Close()
}

// written writes a file and gives its checksum.
func written(at string, write func(io.Writer) error) (string, error) {
	f, err := os.Create(at)
	if err != nil {
		return "", err
	}
	defer f.Close()
	h := sha256.New()
	if err := write(io.MultiWriter(f, h)); err != nil {
		return "", err
	}
	return fmt.Sprintf("%x", h.Sum(nil)), f.Close()
}
