// Package e2e drives the real binary, a real PostgreSQL and a real browser
// through the jobs of the people who use Keen Crock.
package e2e

import (
	"bufio"
	"context"
	"fmt"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"keencrock/demo"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/people"
	"keencrock/internal/store"
	"keencrock/internal/testdb"
	"keencrock/ui"
)

// binary is the program under test, built once.
var binary string

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	folder, err := os.MkdirTemp("", "keencrock-e2e-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(folder)
	binary, seenByCamera = filepath.Join(folder, "keencrock"), filepath.Join(folder, "camera.mjpeg")
	if err := showToCamera("22A"); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	build := exec.Command("go", "build", "-o", binary, "keencrock/cmd/keencrock")
	build.Stderr = os.Stderr
	if err := build.Run(); err != nil {
		fmt.Fprintln(os.Stderr, "build the binary:", err)
		return 1
	}
	defer func() { endChromium() }()
	people.PasswordCost = testdb.CheapPassword // of the demo’s people: the program itself takes the real one
	return testdb.Run(m)
}

// needs skips a test where the browser or the built page is missing, and
// fails it where everything has to run.
func needs(t *testing.T) {
	t.Helper()
	missing := ""
	if chromiumPath() == "" {
		missing = "Chromium is not installed"
	} else if f, err := ui.Files().Open("index.html"); err != nil {
		missing = "the page is not built"
	} else {
		f.Close()
	}
	if missing != "" {
		without(t, missing)
	}
}

// programs skips a test, or fails it, where a program that it runs is missing.
func programs(t *testing.T, names ...string) {
	t.Helper()
	for _, name := range names {
		if _, err := exec.LookPath(name); err != nil {
			without(t, name+" is missing: install poppler-utils and zbar-tools")
		}
	}
}

// without ends a test for want of something: a failure where everything has to run.
func without(t *testing.T, missing string) {
	t.Helper()
	if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
		t.Fatal(missing)
	}
	t.Skip(missing)
}

// demoDatabase is a database with the demo in it, loaded once.
var demoDatabase = sync.OnceValues(func() (string, error) {
	dsn, err := testdb.Keep("demo")
	if err != nil {
		return "", err
	}
	ctx := context.Background()
	if err := store.Migrate(ctx, dsn, bench.Migration(time.Now)); err != nil {
		return "", err
	}
	s, err := store.Open(ctx, dsn)
	if err != nil {
		return "", err
	}
	defer s.Close()
	if err := demo.Load(ctx, s, time.Now()); err != nil {
		return "", err
	}
	return dsn, store.Survey(ctx, dsn)
})

// app is a running Keen Crock.
type app struct {
	t   *testing.T
	url string
	cmd *exec.Cmd
	env []string
}

// startDemo starts the program on a copy of the demo.
func startDemo(t *testing.T) *app {
	t.Helper()
	t.Parallel()
	needs(t)
	dsn, err := demoDatabase()
	require.NoError(t, err)
	return start(t, testdb.Copy(t, dsn))
}

// start starts the program on a database, on a free port.
func start(t *testing.T, dsn string, args ...string) *app {
	t.Helper()
	a := &app{t: t, env: append(os.Environ(), "KEEN_CROCK_DATABASE_URL="+dsn, "KEEN_CROCK_HOME="+t.TempDir(), "KEEN_CROCK_NIGHTLY_BACKUPS=0")}
	a.run("0", args...)
	t.Cleanup(func() { a.stop(syscall.SIGTERM) })
	return a
}

func (a *app) run(port string, args ...string) {
	a.t.Helper()
	a.cmd = exec.Command(binary, append([]string{"serve", "--port", port}, args...)...)
	a.cmd.Env = a.env
	a.cmd.Stderr = os.Stderr
	out, err := a.cmd.StdoutPipe()
	require.NoError(a.t, err)
	require.NoError(a.t, a.cmd.Start())
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, address, found := strings.Cut(lines.Text(), "ready: "); found {
			a.url = address
			go func() { // keep reading, so that the program can keep writing
				for lines.Scan() {
				}
			}()
			return
		}
	}
	a.t.Fatalf("the program ended before it was ready: %v", a.cmd.Wait())
}

// stop ends the program with a signal and waits for it.
func (a *app) stop(s os.Signal) {
	if a.cmd.ProcessState != nil {
		return
	}
	_ = a.cmd.Process.Signal(s)
	_ = a.cmd.Wait()
}

// restart starts the program again at the same address.
func (a *app) restart() {
	a.t.Helper()
	u, err := url.Parse(a.url)
	require.NoError(a.t, err)
	a.run(u.Port())
}
