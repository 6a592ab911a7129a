// Command notices lists what Keen Crock is made of besides its own code, with the
// licence of each, and writes the texts that have to go along with the program.
//
//	go run ./tools/notices          # writes cmd/keencrock/notices.txt.gz
//	go run ./tools/notices -check   # fails when that is stale, or a licence is none we may use
package main

import (
	"bytes"
	"cmp"
	"compress/gzip"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	classifier "github.com/google/licenseclassifier/v2"
	"github.com/google/licenseclassifier/v2/assets"
)

// may are the licences of what may go into the program: all let it be used and passed on
// under terms of one's own, MPL-2.0 as long as its files are not changed.
var may = []string{"Apache-2.0", "BSD-2-Clause", "BSD-3-Clause", "ISC", "MIT", "MIT-0", "0BSD", "OFL-1.1", "Unlicense", "CC0-1.0", "BlueOak-1.0.0", "Zlib", "MPL-2.0"}

// part is a package of others that goes into the program.
type part struct {
	name, version string
	licences      []string
	text          string
}

const file = "cmd/keencrock/notices.txt.gz"

func main() {
	check := flag.Bool("check", false, "write nothing; fail when the notices are stale or a licence may not be used")
	flag.Parse()
	if err := run(*check); err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}

func run(check bool) error {
	parts, err := modules()
	if err != nil {
		return err
	}
	page, err := pagePackages()
	if err != nil {
		return err
	}
	parts = append(parts, page...)
	for name, folder := range map[string]string{"Go and its standard library": runtime(), "Atkinson Hyperlegible and Zilla Slab, on labels": "internal/exchange/paper/fonts"} {
		p, err := read(name, "", folder)
		if err != nil {
			return err
		}
		parts = append(parts, p)
	}
	slices.SortFunc(parts, func(a, b part) int { return cmp.Or(cmp.Compare(a.name, b.name), cmp.Compare(a.version, b.version)) })
	var refused []string
	for _, p := range parts {
		for _, l := range p.licences {
			if !slices.Contains(may, l) {
				refused = append(refused, p.name+" ("+l+")")
			}
		}
		if len(p.licences) == 0 {
			refused = append(refused, p.name+" (no licence found)")
		}
		fmt.Printf("%-52s %-14s %s\n", p.name, p.version, strings.Join(p.licences, ", "))
	}
	if len(refused) > 0 {
		return fmt.Errorf("these may not go into the program: %s", strings.Join(refused, "; "))
	}
	packed, err := pack(parts)
	if err != nil {
		return err
	}
	if !check {
		return os.WriteFile(file, packed, 0o644)
	}
	kept, err := os.ReadFile(file)
	if err != nil || !bytes.Equal(kept, packed) {
		return fmt.Errorf("%s is stale: run go run ./tools/notices", file)
	}
	return nil
}

// runtime is where Go is installed.
func runtime() string {
	out, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(out))
}

func pack(parts []part) ([]byte, error) {
	var out bytes.Buffer
	z, err := gzip.NewWriterLevel(&out, gzip.BestCompression)
	if err != nil {
		return nil, err
	}
	fmt.Fprint(z, "Keen Crock is made with the work of others. These are their packages, licences and notices.\n")
	for _, p := range parts {
		fmt.Fprintf(z, "\n%s\n%s %s (%s)\n\n%s\n", strings.Repeat("=", 78), p.name, p.version, strings.Join(p.licences, ", "), strings.TrimSpace(p.text))
	}
	err = z.Close()
	return out.Bytes(), err
}

// modules are the Go modules whose packages are linked into the program, and Go itself.
func modules() ([]part, error) {
	out, err := exec.Command("go", "list", "-e", "-deps", "-f", "{{with .Module}}{{if not .Main}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}", "./cmd/keencrock").Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	lines := strings.Split(strings.TrimSpace(string(out)), "\n")
	slices.Sort(lines)
	var parts []part
	for _, line := range slices.Compact(lines) {
		fields := strings.Split(line, "\t")
		if len(fields) != 3 {
			continue
		}
		p, err := read(fields[0], fields[1], fields[2])
		if err != nil {
			return nil, err
		}
		parts = append(parts, p)
	}
	return parts, nil
}

// pagePackages are the packages the page is built of.
func pagePackages() ([]part, error) {
	text, err := os.ReadFile("ui/package-lock.json")
	if err != nil {
		return nil, err
	}
	var lock struct {
		Packages map[string]struct {
			Version, License string
			Dev, Optional    bool
		}
	}
	if err := json.Unmarshal(text, &lock); err != nil {
		return nil, err
	}
	var parts []part
	for path, p := range lock.Packages {
		if path == "" || p.Dev || p.Optional {
			continue
		}
		_, name, _ := strings.Cut(path, "node_modules/")
		name = name[strings.LastIndex(name, "node_modules/")+1:]
		found, err := read(strings.TrimPrefix(name, "ode_modules/"), p.Version, filepath.Join("ui", path))
		if err != nil {
			return nil, err
		}
		if len(found.licences) == 0 { // it says so without a text of it
			found.licences = []string{p.License}
			found.text = "Licence: " + p.License
		}
		parts = append(parts, found)
	}
	return parts, nil
}

// known tells licences by their texts.
var known = sync.OnceValue(func() *classifier.Classifier {
	c, err := assets.DefaultClassifier()
	if err != nil {
		panic(err)
	}
	return c
})

// read finds the licence and the notices of a package in its folder.
func read(name, version, folder string) (part, error) {
	p := part{name: name, version: version}
	files, err := os.ReadDir(folder)
	if err != nil {
		return p, fmt.Errorf("%s: %w", name, err)
	}
	for _, f := range files {
		lower := strings.ToLower(f.Name())
		if f.IsDir() || !strings.HasPrefix(lower, "licen") && !strings.HasPrefix(lower, "copying") && !strings.HasPrefix(lower, "notice") && !strings.HasPrefix(lower, "unlicense") {
			continue
		}
		text, err := os.ReadFile(filepath.Join(folder, f.Name()))
		if err != nil {
			return p, err
		}
		p.text += string(text) + "\n"
		if strings.HasPrefix(lower, "notice") {
			continue
		}
		for _, m := range known().Match(text).Matches {
			if m.MatchType == "License" && !slices.Contains(p.licences, m.Name) {
				p.licences = append(p.licences, m.Name)
			}
		}
	}
	return p, nil
}
