// Package core_test guards the walls of the house: what each room may know, read
// off the syntax of every file.
package core_test

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "keencrock/"

// room says what the files of a folder may import: rooms of this project,
// well-known packages, and parts of the standard library. The longest matching
// folder counts; everything allows all of a kind.
type room struct {
	ours, others, standard []string
}

var everything = []string{""}

// plain is what does nothing but arithmetic and words.
var plain = []string{"bytes", "cmp", "context", "embed", "encoding/csv", "encoding/json", "errors", "fmt", "io", "iter", "maps", "math", "math/bits",
	"reflect", "regexp", "runtime", "runtime/debug", "slices", "strconv", "strings", "sync", "sync/atomic", "time", "unicode", "unicode/utf8"}

var rooms = map[string]room{
	"core/": {ours: []string{"core/"}, standard: plain,
		others: []string{"github.com/shopspring/decimal", "github.com/agnivade/levenshtein", "gonum.org/v1/gonum"}},
	"internal/store/": {ours: []string{"internal/store/", "core/stock/", "core/making/", "core/vessel/"}, standard: with(plain, "bufio", "database/sql", "database/sql/driver", "io/fs", "log/slog", "net"),
		others: []string{"gorm.io", "github.com/jackc/pgx", "github.com/pressly/goose", "github.com/shopspring/decimal", "github.com/google/uuid"}},
	"internal/problem/": {ours: []string{"api/"}, standard: with(plain, "net/http")},
	"internal/tenant/": {ours: []string{"core/", "internal/store/", "internal/blob/", "internal/exchange/", "internal/problem/", "api/"}, standard: with(plain, "net/netip", "net/url", "crypto/sha256"),
		others: []string{"github.com/google/uuid", "github.com/shopspring/decimal"}},
	// a station knows what is under it, and no other station
	"internal/station/": {ours: []string{"core/", "internal/tenant/", "internal/store/", "internal/exchange/", "internal/backup/", "internal/problem/", "api/"}, standard: with(plain, "crypto/rand", "crypto/sha256", "encoding/binary", "net/url"),
		others: []string{"github.com/google/uuid", "github.com/oapi-codegen/runtime/types", "github.com/shopspring/decimal"}},
	// who comes in: passwords, codes, names that cannot be told apart
	"internal/station/people/": {ours: []string{"core/quantity/", "internal/tenant/", "internal/store/", "internal/exchange/paper/", "internal/problem/", "api/"}, standard: with(plain, "crypto/hmac", "crypto/rand", "crypto/sha256", "crypto/subtle", "encoding/base64", "net/netip", "net/url"),
		others: []string{"github.com/alexedwards/argon2id", "github.com/pquerna/otp", "github.com/trustelem/zxcvbn", "golang.org/x/text/secure/precis", "github.com/google/uuid"}},
	"internal/exchange/": {ours: []string{"core/", "internal/exchange/sheet/", "internal/problem/", "api/"}, standard: plain,
		others: []string{"github.com/shopspring/decimal", "golang.org/x/text", "github.com/google/uuid", "github.com/oapi-codegen/runtime/types"}},
	"internal/exchange/calendar/": {standard: plain, others: []string{"github.com/arran4/golang-ical"}},
	"internal/exchange/paper/": {ours: []string{"core/label/"}, standard: with(plain, "encoding/base64", "encoding/xml"),
		others: []string{"github.com/signintech/gopdf", "github.com/boombuler/barcode", "golang.org/x/image"}},
	"internal/exchange/sheet/": {standard: with(plain, "archive/zip"), others: []string{"github.com/shopspring/decimal", "github.com/xuri/excelize", "golang.org/x/text"}},
	"internal/exchange/picture/": {ours: []string{"internal/problem/"}, standard: with(plain, "image", "image/gif", "image/jpeg", "image/png"),
		others: []string{"golang.org/x/image", "github.com/bep/imagemeta"}},
	// files on disk, and the clock that says when the next backup is due
	"internal/exchange/archive/": {standard: with(plain, "archive/zip", "crypto/sha256", "encoding/hex", "hash", "os", "path/filepath")},
	"internal/backup/":           {ours: []string{"internal/store/", "internal/exchange/archive/"}, standard: with(plain, "log/slog", "os", "path/filepath"), others: []string{"github.com/google/uuid"}},
	"internal/blob/":             {standard: with(plain, "io/fs", "net/http", "os", "path/filepath"), others: []string{"github.com/minio/minio-go"}},
	"internal/blob/standin/":     {standard: everything},
	"internal/certificate/":      {standard: with(plain, "crypto/ecdsa", "crypto/elliptic", "crypto/rand", "crypto/sha256", "crypto/tls", "crypto/x509", "crypto/x509/pkix", "encoding/hex", "encoding/pem", "math/big", "net", "os", "path/filepath")},
	"internal/device/":           {standard: with(plain, "math/rand/v2")},
	"internal/localpg/": {standard: with(plain, "crypto/rand", "crypto/sha256", "encoding/hex", "log/slog", "net", "net/url", "os", "os/exec", "os/user", "path/filepath", "syscall"),
		others: []string{"github.com/jackc/pgx"}},
	"internal/web/": {ours: []string{"internal/web/", "internal/station/", "internal/tenant/", "internal/problem/", "internal/device/", "core/", "api/", "ui/"},
		standard: with(plain, "bufio", "crypto/rand", "crypto/sha256", "crypto/subtle", "crypto/tls", "io/fs", "log/slog", "mime", "net", "net/http", "net/netip", "net/url", "path", "syscall"),
		others:   []string{"github.com/gofiber/fiber", "github.com/valyala/fasthttp", "github.com/prometheus/client_golang", "github.com/getkin/kin-openapi", "github.com/google/uuid", "github.com/oapi-codegen/runtime"}},
	"internal/web/contract/": {ours: []string{"api/"}, standard: everything,
		others: []string{"github.com/gofiber/fiber", "github.com/getkin/kin-openapi", "github.com/google/uuid", "github.com/oapi-codegen/runtime"}},
	"internal/testdb/":   {ours: []string{"internal/localpg/"}, standard: everything, others: everything},
	"internal/gnuunits/": {standard: everything, others: everything},
	"api/":               {standard: with(plain, "net/http"), others: []string{"github.com/getkin/kin-openapi", "github.com/google/uuid", "github.com/oapi-codegen/runtime"}},
	"api/bundle/":        {standard: everything, others: []string{"go.yaml.in/yaml"}},
	"ui/":                {standard: with(plain, "io/fs")},
	"demo/": {ours: []string{"core/", "internal/station/", "internal/tenant/", "internal/store/", "api/"}, standard: with(plain, "image", "image/color", "image/draw", "image/png"), // which draws what it says it drew
		others: []string{"github.com/google/uuid", "github.com/oapi-codegen/runtime/types", "github.com/shopspring/decimal"}},
	"cmd/":   {ours: everything, standard: everything, others: []string{"github.com/spf13/cobra", "github.com/spf13/pflag", "github.com/google/uuid"}},
	"tools/": {standard: everything, others: []string{"github.com/google/licenseclassifier"}},
	"e2e/":   {ours: everything, standard: everything, others: everything},
}

func with(list []string, more ...string) []string { return append(slices.Clone(list), more...) }

// coreOrder is what may know what within the core: each knows only those before.
var coreOrder = []string{"quantity", "chem", "material", "stock", "costing", "ledger", "formula", "method", "listener", "curing", "making", "vessel", "safety", "keeping", "solution", "wording", "hazard", "swap", "goal", "assess", "dosing", "label", "usage", "starter", "planning", "trial", "colour", "why", "learned"}

// clock are the ways to ask for the time, and waits those to wait for it. The core takes
// the time as an argument and waits for nothing; elsewhere it is read where the program
// begins and where it is asked, and handed on.
var (
	clock = []string{"Now", "Since", "Until"}
	waits = []string{"Sleep", "After", "AfterFunc", "Tick", "NewTicker", "NewTimer"}
)

// clockRooms are where the clock is read; the last two only measure how long something
// takes.
var clockRooms = []string{"cmd/", "internal/web/", "tools/", "e2e/", "internal/testdb/", "internal/gnuunits/", "internal/localpg/alive.go", "internal/store/slow.go"}

// parallel are the files of the core that work on several cores at once.
var parallel = []string{"core/solution/sweep.go"}

// ofPlace are the ways to let where the program runs decide what time it is.
var ofPlace = []string{"Local", "LoadLocation", "FixedZone", "ParseInLocation"}

// deadlines are what only who asks may set.
var deadlines = []string{"Background", "TODO", "WithTimeout", "WithTimeoutCause", "WithDeadline", "WithDeadlineCause", "WithoutCancel"}

// asJSON are methods that say how something is written elsewhere.
var asJSON = []string{"MarshalJSON", "UnmarshalJSON", "MarshalText", "UnmarshalText", "MarshalBinary", "UnmarshalBinary"}

// breaches says what a file knows that its room does not allow.
func breaches(path, source string) (found []string, err error) {
	file, err := parser.ParseFile(token.NewFileSet(), path, source, parser.SkipObjectResolution)
	if err != nil {
		return nil, err
	}
	name := roomOf(path)
	if name == "" {
		return []string{"stands in no known room: give it one"}, nil
	}
	r := rooms[name]
	imported := map[string]string{} // by the name it goes by in the file
	if inCore(path) && coreRank(path) < 0 {
		found = append(found, "stands nowhere in the core's order: say what it may know")
	}
	for _, imp := range file.Imports {
		full, err := strconv.Unquote(imp.Path.Value)
		if err != nil {
			return nil, err
		}
		imported[localName(imp, full)] = full
		if !allowed(r, full) {
			found = append(found, "may not import "+full)
		}
		if here, there := coreRank(path), coreRank(strings.TrimPrefix(full, module)+"/"); here >= 0 && there >= here && strings.HasPrefix(full, module) && here != there {
			found = append(found, "may not look up to "+full)
		}
	}
	if name == "core/" {
		found = append(found, worldly(file, imported, slices.Contains(parallel, path))...)
	}
	if !slices.ContainsFunc(clockRooms, func(room string) bool { return strings.HasPrefix(path, room) }) {
		found = append(found, clocked(file, imported)...)
	}
	if !strings.HasPrefix(path, "internal/exchange/paper/") { // which writes for machines
		found = append(found, powersOfTen(file)...)
	}
	return found, nil
}

// figuresByG is a number that is written as a power of ten once it has more figures than are asked for: “1.03e+04 g”.
var figuresByG = regexp.MustCompile(`%\.\d+g`)

// powersOfTen finds texts for people that may hold one.
func powersOfTen(file *ast.File) (found []string) {
	ast.Inspect(file, func(n ast.Node) bool {
		if text, ok := n.(*ast.BasicLit); ok && text.Kind == token.STRING && figuresByG.MatchString(text.Value) {
			found = append(found, "says a number as a power of ten: "+figuresByG.FindString(text.Value)+", and quantity.FormatFigures does not")
		}
		return true
	})
	return found
}

func roomOf(path string) (name string) {
	for prefix := range rooms {
		if strings.HasPrefix(path, prefix) && len(prefix) > len(name) {
			name = prefix
		}
	}
	return name
}

func localName(imp *ast.ImportSpec, full string) string {
	if imp.Name != nil {
		return imp.Name.Name
	}
	return full[strings.LastIndexByte(full, '/')+1:]
}

// allowed reports whether a room may import something: of the standard library by
// its whole name, of the rest by what it begins with.
func allowed(r room, full string) bool {
	begins := func(name string) func(string) bool {
		return func(p string) bool {
			return p == "" || name == p || strings.HasPrefix(name+"/", strings.TrimSuffix(p, "/")+"/")
		}
	}
	if ours, isOurs := strings.CutPrefix(full, module); isOurs {
		return slices.ContainsFunc(r.ours, begins(ours))
	}
	if strings.Contains(strings.Split(full, "/")[0], ".") {
		return slices.ContainsFunc(r.others, begins(full))
	}
	return slices.Contains(r.standard, "") || slices.Contains(r.standard, full)
}

// coreRank is where a file of the core stands in its order; −1 for any other.
func coreRank(path string) int {
	rest, in := strings.CutPrefix(path, "core/")
	if !in {
		return -1
	}
	return slices.Index(coreOrder, strings.Split(rest, "/")[0])
}

// inCore reports whether a file is of a room of the core.
func inCore(path string) bool {
	rest, in := strings.CutPrefix(path, "core/")
	return in && strings.Contains(rest, "/")
}

// clocked is where a file asks for the time.
func clocked(file *ast.File, imported map[string]string) (found []string) {
	for name := range selected(file, imported, "time") {
		if slices.Contains(clock, name) {
			found = append(found, "asks for the clock: time."+name)
		}
	}
	return found
}

// selected are the names that a file takes from a package of the standard library.
func selected(file *ast.File, imported map[string]string, of string) map[string]bool {
	names := map[string]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok {
			if x, ok := s.X.(*ast.Ident); ok && imported[x.Name] == of {
				names[s.Sel.Name] = true
			}
		}
		return true
	})
	return names
}

// worldly is what a file of the core does that would let the world in: it asks
// for the clock or the place, waits, prints, sets deadlines, runs on by itself, or says how
// it is written elsewhere.
func worldly(file *ast.File, imported map[string]string, parallel bool) (found []string) {
	of := func(pkg, why string, forbidden func(name string) bool) {
		for name := range selected(file, imported, pkg) {
			if forbidden(name) {
				found = append(found, fmt.Sprintf("%s: %s.%s", why, pkg, name))
			}
		}
	}
	among := func(lists ...[]string) func(string) bool {
		return func(name string) bool { return slices.Contains(slices.Concat(lists...), name) }
	}
	of("time", "waits", among(waits))
	of("time", "asks where it runs", among(ofPlace))
	of("context", "sets a deadline", among(deadlines))
	of("fmt", "prints", func(name string) bool { return strings.HasPrefix(name, "Print") || strings.HasPrefix(name, "Scan") })
	if imported["."] != "" {
		found = append(found, "imports into its own names: "+imported["."])
	}
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.GoStmt:
			if !parallel {
				found = append(found, "runs on by itself: a go statement")
			}
		case *ast.CallExpr:
			switch f := n.Fun.(type) {
			case *ast.Ident:
				if f.Name == "print" || f.Name == "println" {
					found = append(found, "prints: "+f.Name)
				}
			case *ast.SelectorExpr:
				if f.Sel.Name == "Go" && !parallel {
					found = append(found, "runs on by itself: Go")
				}
				if f.Sel.Name == "Local" && len(n.Args) == 0 {
					found = append(found, "asks where it runs: Local")
				}
			}
		case *ast.FuncDecl:
			if n.Recv != nil && slices.Contains(asJSON, n.Name.Name) {
				found = append(found, "a method says how it is written elsewhere: "+n.Name.Name)
			}
		case *ast.Field:
			if n.Tag == nil {
				break
			}
			text, _ := strconv.Unquote(n.Tag.Value)
			for _, key := range []string{"json", "gorm", "xml", "yaml", "csv"} {
				if _, has := reflect.StructTag(text).Lookup(key); has {
					found = append(found, fmt.Sprintf("a tag says how it is written elsewhere: %s", n.Tag.Value))
				}
			}
		}
		return true
	})
	return found
}

func TestTheWallsHold(t *testing.T) {
	const root = ".."
	seen := 0
	err := filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
		require.NoError(t, err)
		if d.IsDir() {
			if name := d.Name(); name == "node_modules" || name != ".." && strings.HasPrefix(name, ".") {
				return filepath.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		seen++
		rel, err := filepath.Rel(root, path)
		require.NoError(t, err)
		source, err := os.ReadFile(path)
		require.NoError(t, err)
		found, err := breaches(filepath.ToSlash(rel), string(source))
		require.NoError(t, err)
		assert.Empty(t, found, rel)
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, seen, 100, "the walls were walked")
}

// Each way of breaking a wall is found.
func TestEachWallIsSeenToFail(t *testing.T) {
	for _, c := range []struct{ path, source, found string }{
		{"core/chem/x.go", `package chem; import "keencrock/internal/store"`, "may not import keencrock/internal/store"},
		{"core/chem/x.go", `package chem; import "gorm.io/gorm"`, "may not import gorm.io/gorm"},
		{"core/chem/x.go", `package chem; import "os"`, "may not import os"},
		{"core/chem/x.go", `package chem; import "log/slog"`, "may not import log/slog"},
		{"core/chem/x.go", `package chem; import "math/rand"`, "may not import math/rand"},
		{"core/chem/x.go", `package chem; import "keencrock/core/assess"`, "may not look up to keencrock/core/assess"},
		{"core/chem/x.go", `package chem; import clock "time"; var now = clock.Now()`, "asks for the clock: time.Now"},
		{"core/chem/x.go", `package chem; import "time"; func f() { <-time.After(1) }`, "waits: time.After"},
		{"core/chem/x.go", `package chem; import "time"; var f = time.Local`, "asks where it runs: time.Local"},
		{"core/chem/x.go", `package chem; import "time"; func f(t time.Time) time.Time { return t.Local() }`, "asks where it runs: Local"},
		{"core/chem/x.go", `package chem; import "context"; func f(c context.Context) { context.WithTimeout(c, 1) }`, "sets a deadline: context.WithTimeout"},
		{"core/chem/x.go", `package chem; import "context"; var c = context.Background()`, "sets a deadline: context.Background"},
		{"core/chem/x.go", `package chem; import "fmt"; func f() { fmt.Printf("x") }`, "prints: fmt.Printf"},
		{"core/chem/x.go", `package chem; func f() { println("x") }`, "prints: println"},
		{"core/chem/x.go", `package chem; import . "math"`, "imports into its own names: math"},
		{"core/chem/x.go", `package chem; func f() { go f() }`, "runs on by itself: a go statement"},
		{"core/chem/x.go", `package chem; import "sync"; func f() { var w sync.WaitGroup; w.Go(f) }`, "runs on by itself: Go"},
		{"core/chem/x.go", `package chem; type T int; func (T) MarshalJSON() ([]byte, error) { return nil, nil }`, "a method says how it is written"},
		{"core/chem/x.go", `package chem; import "fmt"; func f(g float64) string { return fmt.Sprintf("%.3g g", g) }`, "says a number as a power of ten: %.3g"},
		{"core/attic/x.go", `package attic`, "stands nowhere in the core's order"},
		{"core/chem/deep/x.go", `package deep; import "keencrock/core/chem"`, ""},
		{"internal/tenant/x.go", `package tenant; import "time"; var now = time.Now()`, "asks for the clock: time.Now"},
		{"internal/station/bench/x.go", `package bench; import "time"; func f(t time.Time) { time.Since(t) }`, "asks for the clock: time.Since"},
		{"demo/x.go", `package demo; import "time"; var now = time.Now()`, "asks for the clock: time.Now"},
		{"internal/web/x.go", `package web; import "time"; var now = time.Now()`, ""},
		{"core/chem/x.go", "package chem; type T struct { A int `db:\"a\" json:\"a\"` }", "a tag says how"},
		{"internal/station/shelf/x.go", `package shelf; import "gorm.io/gorm"`, "may not import gorm.io/gorm"},
		{"internal/station/shelf/x.go", `package shelf; import "github.com/gofiber/fiber/v3"`, "may not import github.com/gofiber"},
		{"internal/station/shelf/x.go", `package shelf; import "net/http"`, "may not import net/http"},
		{"internal/station/shelf/x.go", `package shelf; import "os"`, "may not import os"},
		{"internal/station/shelf/x.go", `package shelf; import "keencrock/internal/station/bench"`, "may not import keencrock/internal/station/bench"},
		{"internal/tenant/x.go", `package tenant; import "keencrock/internal/station/bench"`, "may not import keencrock/internal/station/bench"},
		{"internal/store/x.go", `package store; import "keencrock/api"`, "may not import keencrock/api"},
		{"internal/web/x.go", `package web; import "keencrock/internal/store"`, "may not import keencrock/internal/store"},
		{"attic/x.go", `package attic`, "stands in no known room"},
		{"core/assess/x.go", `package assess; import ("keencrock/core/chem"; "time"); var d time.Duration; var _ = chem.Borax`, ""},
	} {
		found, err := breaches(c.path, c.source)
		require.NoError(t, err)
		if c.found == "" {
			assert.Empty(t, found, c.source)
			continue
		}
		assert.Contains(t, strings.Join(found, "; "), c.found, c.source)
	}
}
