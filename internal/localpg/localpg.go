// Package localpg finds PostgreSQL's programs, makes a private cluster in a
// folder of its own, and starts and stops it on loopback.
//
// PostgreSQL refuses to run as root. Started by root, the cluster belongs to
// the system's "postgres" user; when that user could not reach the folder,
// the cluster's data lies in /var/lib/keencrock instead. Any number of
// processes may use one cluster: the last one to leave stops it.
package localpg

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Cluster is a running private PostgreSQL.
type Cluster struct {
	URL   string // of the application's database, for daily work
	Owner string // of the same, for who owns its tables
	bin   string
	data  string
	as    *syscall.Credential // nil when not started by root
	lock  *os.File
	port  int
}

const (
	databaseUser    = "keencrock"     // owns the database
	applicationUser = "keencrock_app" // does the daily work in it
	databaseName    = "keencrock"
	startLimit      = 60 * time.Second
)

// Start makes the cluster in home if there is none, starts it if it does not
// run, and returns it with its database made. Errors are one sentence that
// says what to do.
func Start(ctx context.Context, home string) (*Cluster, error) {
	home, err := filepath.Abs(home)
	if err != nil {
		return nil, err
	}
	c := &Cluster{}
	if c.as, err = serverAccount(); err != nil {
		return nil, err
	}
	if err := c.makeHome(home); err != nil {
		return nil, fmt.Errorf("make the folder %s for the database: %w", home, err)
	}
	if c.data, err = c.dataFolder(home); err != nil {
		return nil, err
	}
	if c.bin, err = programsFor(c.data); err != nil {
		return nil, err
	}
	// starting and stopping is done by one process at a time
	gate, err := lockFile(filepath.Join(home, "starting.lock"), syscall.LOCK_EX)
	if err != nil {
		return nil, err
	}
	defer gate.Close()
	password, err := c.prepare(ctx, home)
	if err != nil {
		return nil, err
	}
	if c.lock, err = lockFile(filepath.Join(home, "users.lock"), syscall.LOCK_SH); err != nil {
		return nil, err
	}
	if err := c.reach(ctx, home, password); err != nil {
		defer c.lock.Close()
		return nil, errors.Join(err, c.stopUnused())
	}
	if err := c.keepReserve(); err != nil {
		slog.Warn("no room could be kept for when the disk is full", "error", err)
	}
	return c, nil
}

// reach starts the server unless it runs, and makes its database. A server that was
// just killed may look as if it ran for a moment longer: then it is looked at again.
func (c *Cluster) reach(ctx context.Context, home, password string) (err error) {
	var away *pgconn.ConnectError
	for tries := 0; tries < 50; tries++ {
		if c.port, err = c.run(ctx); err != nil {
			return err
		}
		if err = c.ensureDatabase(ctx, home, password); !errors.As(err, &away) || !wait(ctx, again) {
			return err
		}
	}
	return err
}

// Stop leaves the cluster, and stops it when no other process uses it.
func (c *Cluster) Stop() error {
	defer c.lock.Close()
	gate, err := lockFile(filepath.Join(filepath.Dir(c.lock.Name()), "starting.lock"), syscall.LOCK_EX)
	if err != nil {
		return err
	}
	defer gate.Close()
	return c.stopUnused()
}

// stopUnused stops the server unless another process uses it too. Only one
// process at a time may be here.
func (c *Cluster) stopUnused() error {
	if syscall.Flock(int(c.lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB) != nil || !c.running() {
		return nil
	}
	out, err := c.command(context.Background(), "pg_ctl", "-D", c.data, "-m", "fast", "-w", "stop").CombinedOutput()
	if err != nil && c.running() {
		return fmt.Errorf("stop the database: %w: %s", err, out)
	}
	return nil
}

// makeHome makes the folder that is the application's own, or closes one that stands
// open: nobody else on the machine has anything to hold or to read there. The account
// that runs the server for root may pass through.
func (c *Cluster) makeHome(home string) error {
	mode := os.FileMode(0o700)
	if c.as != nil {
		mode = 0o711
	}
	info, err := os.Stat(home)
	if errors.Is(err, os.ErrNotExist) {
		if err := os.MkdirAll(filepath.Dir(home), 0o755); err != nil {
			return err
		}
		return os.Mkdir(home, mode)
	}
	if err != nil || info.Mode().Perm()&^mode == 0 {
		return err
	}
	if err := os.Chmod(home, info.Mode().Perm()&mode); err != nil && !errors.Is(err, os.ErrPermission) {
		return err // a folder of another's cannot be closed; its files below are closed all the same
	}
	return nil
}

// lockFile locks a file that nobody else on the machine can open, and so none can hold.
func lockFile(path string, how int) (*os.File, error) {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := f.Chmod(0o600); err != nil {
		f.Close()
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), how); err != nil {
		f.Close()
		return nil, fmt.Errorf("lock %s: %w", path, err)
	}
	return f, nil
}

// serverAccount is who runs the server when root starts it.
func serverAccount() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, errors.New("PostgreSQL refuses to run as root, and there is no “postgres” user: start Keen Crock as another user")
	}
	uid, _ := strconv.ParseUint(u.Uid, 10, 32)
	gid, _ := strconv.ParseUint(u.Gid, 10, 32)
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}

func (c *Cluster) command(ctx context.Context, program string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, program), args...)
	cmd.Dir = "/"
	// a group of its own, so that Ctrl-C reaches only Keen Crock, which then
	// stops the database in good order
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.as}
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8")
	return cmd
}

// dataFolder is where the cluster's files lie: in home, or, where the
// account that runs the server could not reach that, in /var/lib.
func (c *Cluster) dataFolder(home string) (string, error) {
	folder := filepath.Join(home, "postgres")
	if c.as == nil {
		return folder, nil
	}
	for parent := home; ; parent = filepath.Dir(parent) {
		info, err := os.Stat(parent)
		if err != nil {
			return "", err
		}
		if info.Mode().Perm()&0o001 == 0 {
			sum := sha256.Sum256([]byte(home))
			folder = filepath.Join("/var/lib/keencrock", hex.EncodeToString(sum[:8]))
			break
		}
		if parent == filepath.Dir(parent) {
			break
		}
	}
	return folder, os.MkdirAll(filepath.Dir(folder), 0o755)
}

// prepare makes the cluster unless it is there, and returns its password.
//
// A cluster is made in a folder beside its place and moved there as the last
// step, its password kept before: whenever a first start is broken off, the
// next one finds a whole cluster with its password, or none.
func (c *Cluster) prepare(ctx context.Context, home string) (string, error) {
	secret := filepath.Join(home, "database-password")
	saved, err := os.ReadFile(secret)
	if _, e := os.Stat(filepath.Join(c.data, "PG_VERSION")); e == nil {
		if err != nil || len(saved) == 0 {
			return "", fmt.Errorf("the password of the database in %s is lost (%s): restore that file, or move the folder away to start empty", c.data, secret)
		}
		return string(saved), nil
	}
	c.removeLeftOvers()
	password := rand.Text()
	file, err := c.passwordFile(password)
	if err != nil {
		return "", err
	}
	defer os.Remove(file)
	making, err := c.makingFolder()
	if err != nil {
		return "", err
	}
	out, err := c.command(ctx, "initdb", "-D", making, "-U", databaseUser, "--pwfile", file,
		"--auth", "scram-sha-256", "--data-checksums", "--encoding", "UTF8", "--locale", "C.UTF-8").CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("make the database in %s: %w: %s", c.data, err, lastLine(out))
	}
	if err := writeWhole(secret, password); err != nil {
		return "", err
	}
	if err := os.RemoveAll(c.data); err != nil { // it holds no cluster
		return "", err
	}
	return password, os.Rename(making, c.data)
}

// removeLeftOvers clears away what broken-off starts left behind. What cannot
// be removed, since a program of such a start still writes there, is left: it
// is in nobody's way.
func (c *Cluster) removeLeftOvers() {
	folders, _ := filepath.Glob(c.data + ".new-*")
	for _, folder := range folders {
		_ = os.RemoveAll(folder)
	}
}

// makingFolder is a fresh folder in which a cluster is made.
func (c *Cluster) makingFolder() (string, error) {
	folder, err := os.MkdirTemp(filepath.Dir(c.data), filepath.Base(c.data)+".new-*")
	if err != nil || c.as == nil {
		return folder, err
	}
	return folder, os.Chown(folder, int(c.as.Uid), int(c.as.Gid))
}

// passwordFile is a file that initdb can read the password from.
func (c *Cluster) passwordFile(password string) (string, error) {
	file, err := os.CreateTemp("", "keencrock-*")
	if err != nil {
		return "", err
	}
	defer file.Close()
	if _, err := file.WriteString(password); err != nil {
		return "", err
	}
	if c.as == nil {
		return file.Name(), nil
	}
	return file.Name(), os.Chown(file.Name(), int(c.as.Uid), int(c.as.Gid))
}

// writeWhole writes a file of which a reader sees all or nothing, and which
// outlives a loss of power.
func writeWhole(path, text string) error {
	file, err := os.OpenFile(path+".new", os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer file.Close()
	if _, err := file.WriteString(text); err != nil {
		return err
	}
	if err := file.Sync(); err != nil {
		return err
	}
	return os.Rename(path+".new", path)
}

// run starts the server unless it runs, and returns its port.
func (c *Cluster) run(ctx context.Context) (port int, err error) {
	// not broken off half-way: a server nobody has heard of yet cannot be stopped
	ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), startLimit)
	defer cancel()
	switch came, err := c.clearPIDFile(); {
	case err != nil:
		return 0, err
	case came:
		return c.portInUse(ctx)
	}
	if err := c.letReserveGo(); err != nil {
		return 0, err
	}
	if port, err = c.choosePort(); err != nil {
		return 0, err
	}
	options := fmt.Sprintf("-h 127.0.0.1 -p %d -c unix_socket_directories='' -c max_connections=60 -c shared_buffers=64MB -c max_wal_size=256MB", port) +
		" -c autovacuum_naptime=15s -c autovacuum_analyze_threshold=10" // a workshop's tables are small: see survey in the store
	log := filepath.Join(c.data, "server.log")
	start := c.command(ctx, "pg_ctl", "-D", c.data, "-l", log, "-o", options, "-w", "-t", strconv.Itoa(int(startLimit.Seconds())), "start")
	if err := start.Run(); err != nil {
		if c.running() { // one that was killed had begun to start it, and that went on
			return c.portInUse(ctx)
		}
		text, _ := os.ReadFile(log)
		return 0, fmt.Errorf("the database in %s will not start (%s); its log is %s", c.data, lastLine(text), log)
	}
	return port, nil
}

// choosePort is the port at which the server was last, since other processes look for
// it there: one of them may have been waiting for it when this one came to start it. It
// is another only for who is alone.
func (c *Cluster) choosePort() (int, error) {
	kept := filepath.Join(filepath.Dir(c.lock.Name()), "database-port")
	if text, err := os.ReadFile(kept); err == nil {
		if port, err := strconv.Atoi(string(text)); err == nil && (!c.alone() || isFree(port)) {
			return port, nil
		}
	}
	port, err := freePort()
	if err != nil {
		return 0, err
	}
	return port, writeWhole(kept, strconv.Itoa(port))
}

func isFree(port int) bool {
	l, err := net.Listen("tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return false
	}
	return l.Close() == nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// ensureDatabase makes the application's database if there is none, and the role that
// works in it, and says their addresses.
func (c *Cluster) ensureDatabase(ctx context.Context, home, password string) error {
	at := func(user, password, name string) string {
		u := url.URL{Scheme: "postgres", User: url.UserPassword(user, password),
			Host: fmt.Sprintf("127.0.0.1:%d", c.port), Path: name, RawQuery: "sslmode=disable"}
		return u.String()
	}
	application, err := secretIn(filepath.Join(home, "application-password"))
	if err != nil {
		return err
	}
	conn, err := pgx.Connect(ctx, at(databaseUser, password, "postgres"))
	if err != nil {
		if free, unknown := c.FreeBytes(); unknown == nil && free < connectNeeds {
			return fmt.Errorf("reach the private database: no space left on its disk: %w", err)
		}
		return fmt.Errorf("reach the private database: %w", err)
	}
	defer conn.Close(ctx)
	var hasDatabase, hasRole bool
	if err := conn.QueryRow(ctx, "select exists (select 1 from pg_database where datname = $1), to_regrole($2) is not null", databaseName, applicationUser).Scan(&hasDatabase, &hasRole); err != nil {
		return err
	}
	verb := "alter"
	if !hasRole {
		verb = "create"
	}
	// the password has letters and digits alone
	if _, err := conn.Exec(ctx, fmt.Sprintf("%s role %s login password '%s'", verb, applicationUser, application)); err != nil {
		return fmt.Errorf("make the role that works in the database: %w", err)
	}
	if !hasDatabase {
		if _, err := conn.Exec(ctx, "create database "+databaseName); err != nil {
			return fmt.Errorf("make the database: %w", err)
		}
	}
	c.URL, c.Owner = at(applicationUser, application, databaseName), at(databaseUser, password, databaseName)
	return nil
}

// secretIn is the password in a file, made now where there is none.
func secretIn(path string) (string, error) {
	saved, err := os.ReadFile(path)
	if err == nil && len(saved) > 0 {
		return string(saved), nil
	}
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return "", err
	}
	secret := rand.Text()
	return secret, writeWhole(path, secret)
}

func lastLine(text []byte) string {
	lines := strings.Split(strings.TrimSpace(string(text)), "\n")
	return strings.TrimSpace(lines[len(lines)-1])
}
