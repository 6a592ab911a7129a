package localpg_test

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/localpg"
)

// patience is how long something may take that is waited for.
const patience = 60 * time.Second

// until waits until something holds, asking again and again.
func until(t *testing.T, what string, holds func() bool) {
	t.Helper()
	deadline := time.After(patience)
	again := time.NewTicker(2 * time.Millisecond)
	defer again.Stop()
	for !holds() {
		select {
		case <-deadline:
			t.Fatalf("waited in vain until %s", what)
		case <-again.C:
		}
	}
}

const homeToStart = "KEEN_CROCK_TEST_HOME"

// TestStartsForAnother is no test: the next one runs it in a process of its
// own, to be killed.
func TestStartsForAnother(t *testing.T) {
	home := os.Getenv(homeToStart)
	if home == "" {
		t.Skip("runs only for another test")
	}
	_, err := localpg.Start(context.Background(), home)
	require.NoError(t, err)
	fmt.Println("started")
	select {}
}

// However far a first start came before it was killed, the next one works.
func TestAFirstStartThatIsKilledLeavesAHomeToUse(t *testing.T) {
	exists := func(pattern string) func(string) bool {
		return func(home string) bool {
			found, _ := filepath.Glob(filepath.Join(home, pattern))
			return len(found) > 0
		}
	}
	for stage, reached := range map[string]func(home string) bool{
		"before anything is made":      exists("starting.lock"),
		"while the cluster is made":    exists("postgres.new-*/PG_VERSION"),
		"late in making it":            exists("postgres.new-*/base/4"),
		"when the password is kept":    exists("database-password*"),
		"when the cluster is in place": exists("postgres/PG_VERSION"),
		"while the server starts":      exists("postgres/postmaster.pid"),
	} {
		t.Run(stage, func(t *testing.T) {
			t.Parallel()
			home := openHome(t)
			cmd := exec.Command(os.Args[0], "-test.run=TestStartsForAnother")
			cmd.Env = append(os.Environ(), homeToStart+"="+home)
			require.NoError(t, cmd.Start())
			until(t, stage, func() bool { return reached(home) })
			require.NoError(t, cmd.Process.Kill())
			_ = cmd.Wait()
			c, err := localpg.Start(context.Background(), home)
			require.NoError(t, err)
			assertAnswers(t, c.Owner)
			require.NoError(t, c.Stop())
		})
	}
}

func assertAnswers(t *testing.T, url string) {
	t.Helper()
	conn, err := pgx.Connect(context.Background(), url)
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
}

// A start that is called off leaves nothing running.
func TestAStartThatIsCalledOff(t *testing.T) {
	home := openHome(t)
	ctx, cancel := context.WithCancel(context.Background())
	failed := make(chan error, 1)
	go func() {
		_, err := localpg.Start(ctx, home)
		failed <- err
	}()
	until(t, "the cluster is being made", func() bool {
		found, _ := filepath.Glob(filepath.Join(home, "postgres.new-*/PG_VERSION"))
		return len(found) > 0
	})
	cancel()
	require.Error(t, <-failed)
	_, err := os.Stat(filepath.Join(home, "postgres/postmaster.pid"))
	require.ErrorIs(t, err, os.ErrNotExist)
	c, err := localpg.Start(context.Background(), home)
	require.NoError(t, err)
	require.NoError(t, c.Stop())
}

// postmaster is the process of the server, 0 when there is none.
func postmaster(home string) int {
	text, err := os.ReadFile(filepath.Join(home, "postgres/postmaster.pid"))
	if err != nil {
		return 0
	}
	first, _, _ := strings.Cut(string(text), "\n")
	pid, _ := strconv.Atoi(first)
	return pid
}

// The number in a left-over pid file may be another process's by now.
func TestALeftOverPidFileIsNoServer(t *testing.T) {
	home := openHome(t)
	c, err := localpg.Start(context.Background(), home)
	require.NoError(t, err)
	file := filepath.Join(home, "postgres/postmaster.pid")
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, c.Stop())
	// a process of the server's own account, which PostgreSQL would mistake
	other := exec.Command("sleep", "600")
	info, err := os.Stat(filepath.Join(home, "postgres"))
	require.NoError(t, err)
	if owner := info.Sys().(*syscall.Stat_t); os.Geteuid() == 0 {
		other.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: owner.Uid, Gid: owner.Gid}}
	}
	require.NoError(t, other.Start())
	t.Cleanup(func() { _ = other.Process.Kill(); _ = other.Wait() })
	_, rest, _ := strings.Cut(string(text), "\n")
	require.NoError(t, os.WriteFile(file, []byte(strconv.Itoa(other.Process.Pid)+"\n"+rest), 0o644))

	c, err = localpg.Start(context.Background(), home)
	require.NoError(t, err)
	assertAnswers(t, c.Owner)
	require.NoError(t, c.Stop())
}

// A server that is killed is started again, at the same address, by the one
// that looks after it.
func TestAKilledServerIsStartedAgain(t *testing.T) {
	home := openHome(t)
	c, err := localpg.Start(context.Background(), home)
	require.NoError(t, err)
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan struct{})
	go func() {
		defer close(ended)
		c.Keep(ctx)
	}()
	before := postmaster(home)
	require.NotZero(t, before)
	require.NoError(t, syscall.Kill(before, syscall.SIGKILL))
	until(t, "it answers again", func() bool {
		conn, err := pgx.Connect(context.Background(), c.Owner)
		return err == nil && conn.Close(context.Background()) == nil && postmaster(home) != before
	})
	cancel()
	<-ended
	require.NoError(t, c.Stop())
	assert.NoFileExists(t, filepath.Join(home, "postgres/postmaster.pid"))
}

// Who comes while a killed server is down starts it where the others look for it.
func TestAServerIsStartedWhereOthersLookForIt(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	home := openHome(t)
	first, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	before := postmaster(home)
	require.NoError(t, syscall.Kill(before, syscall.SIGKILL))
	until(t, "it is gone", func() bool { return syscall.Kill(before, 0) != nil })
	second, err := localpg.Start(ctx, home)
	require.NoError(t, err)
	assert.Equal(t, first.Owner, second.Owner)
	assertAnswers(t, first.Owner)
	require.NoError(t, first.Stop())
	require.NoError(t, second.Stop())
}
