package e2e

import (
	"context"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/localpg"
)

// replicaTold says that it is tried: it makes two databases of its own and takes a minute.
const replicaTold = "KEEN_CROCK_REPLICA"

// TestAReplicaTakesOver kills the primary under load while two processes serve it behind
// one proxy, lets its streaming replica take over, and goes on by itself: their address
// names both, and asks for the one that writes. With synchronous commit nothing that was
// answered is lost; without, it is told how much was.
//
//	KEEN_CROCK_REPLICA=1 go test ./e2e -run Replica -count=1 -v
func TestAReplicaTakesOver(t *testing.T) {
	if os.Getenv(replicaTold) == "" {
		t.Skipf("set %s=1 to try it", replicaTold)
	}
	for _, synchronous := range []bool{true, false} {
		t.Run(fmt.Sprintf("synchronous %v", synchronous), func(t *testing.T) {
			p := newPair(t, synchronous)
			k := p.served(t)
			k.furnish()
			var all sync.WaitGroup
			stop := make(chan struct{})
			for _, f := range []func() bool{k.deliver, k.list, k.make, k.deliver} {
				all.Go(func() {
					for {
						select {
						case <-stop:
							return
						default:
							f()
						}
					}
				})
			}
			<-time.After(2*time.Second + time.Duration(rand.IntN(500))*time.Millisecond) // the moment is what is tried
			p.killPrimary(t)
			close(stop)
			all.Wait()
			answered := len(k.lots)
			require.Greater(t, answered, 20)
			p.run(t, "pg_ctl", "-D", p.replica, "-w", "promote")
			k.settle()
			if synchronous {
				k.adds(1)
				t.Logf("%d lots were answered before the kill, none is lost; %d things were asked again", answered, k.again)
				return
			}
			_, body, err := k.send("GET", "/api/shelf.csv", asJSON, nil, "")
			require.NoError(t, err)
			lost := 0
			for _, code := range k.lots {
				if !strings.Contains(string(body), code+",") {
					lost++
				}
			}
			t.Logf("of %d lots that were answered %d are lost", len(k.lots), lost)
		})
	}
}

// pair is a primary and its streaming replica.
type pair struct {
	primary *localpg.Cluster
	home    string // of the primary
	replica string // folder of the replica's data
	dsn     string // of whichever writes
}

func newPair(t *testing.T, synchronous bool) *pair {
	t.Helper()
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "keencrock-replica-")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(folder) })
	require.NoError(t, os.Chmod(folder, 0o777)) // the database has an account of its own
	p := &pair{home: filepath.Join(folder, "one"), replica: filepath.Join(folder, "two")}
	p.primary, err = localpg.Start(ctx, p.home)
	require.NoError(t, err)
	t.Cleanup(func() { _ = p.primary.Stop() })
	owner, err := url.Parse(p.primary.Owner)
	require.NoError(t, err)
	password, _ := owner.User.Password()
	p.run(t, "env", "PGPASSWORD="+password, filepath.Join(postgresPrograms(t), "pg_basebackup"), "-h", "127.0.0.1", "-p", owner.Port(), "-U", owner.User.Username(), "-D", p.replica, "-R", "-X", "stream", "--checkpoint=fast")
	port := freePort(t)
	p.run(t, "pg_ctl", "-D", p.replica, "-w", "-l", filepath.Join(p.replica, "server.log"), "-o", fmt.Sprintf("-h 127.0.0.1 -p %s -c unix_socket_directories=''", port), "start")
	t.Cleanup(func() { p.run(t, "pg_ctl", "-D", p.replica, "-m", "immediate", "-w", "stop") })
	conn, err := pgx.Connect(ctx, p.primary.Owner)
	require.NoError(t, err)
	defer conn.Close(ctx)
	if synchronous {
		for _, sql := range []string{"alter system set synchronous_standby_names = '*'", "select pg_reload_conf()"} {
			_, err = conn.Exec(ctx, sql)
			require.NoError(t, err)
		}
	}
	require.Eventually(t, func() bool {
		var state string
		err := conn.QueryRow(ctx, "select coalesce(max(sync_state), '') from pg_stat_replication").Scan(&state)
		return err == nil && (state == "sync" || state == "async" && !synchronous)
	}, time.Minute, 20*time.Millisecond, "the replica follows")
	owner.Host += ",127.0.0.1:" + port
	owner.RawQuery = "sslmode=disable&target_session_attrs=read-write"
	p.dsn = owner.String()
	return p
}

// postgresPrograms is the folder of PostgreSQL's programs.
func postgresPrograms(t *testing.T) string {
	t.Helper()
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin")
	require.NoError(t, err)
	require.NotEmpty(t, found)
	return slices.Max(found)
}

// run runs one of PostgreSQL's programs, as the account that may.
func (p *pair) run(t *testing.T, program string, args ...string) {
	t.Helper()
	if program != "env" {
		program = filepath.Join(postgresPrograms(t), program)
	}
	if os.Geteuid() == 0 {
		program, args = "runuser", append([]string{"-u", "postgres", "--", program}, args...)
	}
	cmd := exec.Command(program, args...)
	cmd.Dir = "/"
	out, err := os.CreateTemp(t.TempDir(), "out") // a server that goes on writing holds no pipe
	require.NoError(t, err)
	cmd.Stdout, cmd.Stderr = out, out
	err = cmd.Run()
	text, _ := os.ReadFile(out.Name())
	require.NoError(t, err, "%s: %s", program, text)
}

func freePort(t *testing.T) string {
	t.Helper()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	_, port, _ := net.SplitHostPort(l.Addr().String())
	return port
}

func (p *pair) killPrimary(t *testing.T) {
	t.Helper()
	text, err := os.ReadFile(filepath.Join(p.home, "postgres", "postmaster.pid"))
	require.NoError(t, err)
	var pid int
	_, err = fmt.Sscan(string(text), &pid)
	require.NoError(t, err)
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
}

// served are two processes that serve the pair behind one proxy.
func (p *pair) served(t *testing.T) *killed {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	k := &killed{t: t, home: t.TempDir(), http: &http.Client{Jar: jar, Timeout: 30 * time.Second}}
	env := append(os.Environ(), "KEEN_CROCK_DATABASE_URL="+p.dsn, "KEEN_CROCK_HOME="+k.home, "KEEN_CROCK_NIGHTLY_BACKUPS=0", "KEEN_CROCK_LOG_LEVEL=error")
	var hands []*httputil.ReverseProxy
	for range 2 {
		a := &app{t: t, env: env}
		a.run("0")
		t.Cleanup(func() { a.stop(syscall.SIGTERM) })
		u, err := url.Parse(a.url)
		require.NoError(t, err)
		hands = append(hands, &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(u)
			r.Out.Host = u.Host
		}})
		if k.app == nil {
			k.app = &app{t: t, env: env, cmd: a.cmd}
		}
	}
	var turn atomic.Int64
	proxy := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		hands[int(turn.Add(1))%len(hands)].ServeHTTP(w, r)
	}))
	t.Cleanup(proxy.Close)
	k.url = proxy.URL
	assert.NotEmpty(t, k.url)
	return k
}
