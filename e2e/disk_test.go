package e2e

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/demo"
)

// smallDisk is a folder on a disk of its own that holds so many bytes.
func smallDisk(t *testing.T, size string) string {
	t.Helper()
	folder := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size="+size, "tmpfs", folder).CombinedOutput(); err != nil {
		t.Skipf("a disk needs rights that are not had here: %s", out)
	}
	t.Cleanup(func() { require.NoError(t, exec.Command("umount", "-l", folder).Run()) })
	for parent := filepath.Dir(folder); parent != os.TempDir() && parent != "/"; parent = filepath.Dir(parent) {
		require.NoError(t, os.Chmod(parent, 0o755)) // the database has an account of its own
	}
	return folder
}

// fill writes a file until so many bytes are left on its disk.
func fill(t *testing.T, path string, left int64) {
	t.Helper()
	f, err := os.Create(path)
	require.NoError(t, err)
	defer f.Close()
	for size := int64(1 << 20); size >= 1; { // at last byte by byte
		var disk syscall.Statfs_t
		require.NoError(t, syscall.Statfs(filepath.Dir(path), &disk))
		if int64(disk.Bavail)*disk.Bsize-size >= left {
			if _, err := f.Write(make([]byte, size)); err == nil {
				continue
			} else if !errors.Is(err, syscall.ENOSPC) {
				require.NoError(t, err)
			}
		}
		size /= 16
	}
}

// forgetTables takes away what the database keeps for new connections, as it does itself when its tables were looked at:
// the next one has to write it, and is refused where it cannot.
func forgetTables(t *testing.T, home string) {
	t.Helper()
	forgotten := 0
	require.NoError(t, filepath.WalkDir(home, func(path string, d os.DirEntry, err error) error {
		if err == nil && d.Name() == "pg_internal.init" {
			forgotten++
			err = os.Remove(path)
		}
		return err
	}))
	require.Positive(t, forgotten)
}

// TestAFullDiskIsSaidAndOutlived fills the disk under the database while deliveries come
// in, to the last byte or nearly: what cannot be kept is refused with what to do, before
// the database stops for want of room; the shelf can be read and people come in, also after
// the database and the server were started anew; and when there is room again it goes on by
// itself, with all that was answered, and what was not taken in once.
func TestAFullDiskIsSaidAndOutlived(t *testing.T) {
	t.Parallel()
	for name, left := range map[string]int64{"to the last byte": 0, "with 3 MB left": 3 << 20} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			home := smallDisk(t, "320m")
			k := newKilledIn(t, home, 0)
			k.furnish()
			ballast := filepath.Join(home, "ballast")
			fill(t, ballast, left)
			forgetTables(t, home)
			require.False(t, k.deliver(), "all is taken in with no room left")
			assert.Contains(t, k.asked[0].last, "503 ")
			assert.Contains(t, k.asked[0].last, `"disk-full"`)
			reads := func(when string) {
				status, _, err := k.send("GET", "/api/shelf", asJSON, nil, "")
				require.NoError(t, err)
				assert.Equal(t, http.StatusOK, status, "what is there can be read %s", when)
				status, body, err := k.send("POST", "/api/session", asJSON, []byte(fmt.Sprintf(`{"login": %q, "password": %q}`, demo.Login, demo.Password)), "")
				require.NoError(t, err)
				assert.Equal(t, http.StatusCreated, status, "people come in %s: %s", when, body)
				var session api.Session
				require.NoError(t, json.Unmarshal(body, &session))
				k.token = session.CsrfToken
			}
			reads("while it is full")
			_, waiting, err := k.send("GET", "/api/waiting", asJSON, nil, "")
			require.NoError(t, err)
			assert.Contains(t, string(waiting), "nearly full", "it is said on every page")
			if left == 0 {
				require.Eventually(t, func() bool { // what is let go for those who come in is taken, too
					fill(t, filepath.Join(home, fmt.Sprint("more", time.Now().UnixNano())), 0)
					kept, err := os.Stat(filepath.Join(home, "postgres.reserve"))
					return assert.NoError(t, err) && kept.Size() <= 46<<20
				}, time.Minute, 20*time.Millisecond)
				fill(t, filepath.Join(home, "last"), 0)
				backup := exec.Command(binary, "backup")
				backup.Env = k.env
				out, err := backup.CombinedOutput()
				require.Error(t, err, "a backup has no room either")
				assert.Contains(t, string(out), "no space left")
				assert.Zero(t, k.backups(), "and leaves nothing half done")
			}

			was := k.databasePID()
			k.killDatabase()
			soon := func(what string, is func() bool) { require.Eventually(t, is, time.Minute, 20*time.Millisecond, what) }
			soon("the database is started again", func() bool { return k.databasePID() != was && k.databasePID() != "" })
			soon("it answers", func() bool {
				status, _, err := k.send("GET", "/api/shelf.csv", asJSON, nil, "")
				return err == nil && status == http.StatusOK
			})
			reads("after the database was killed")
			require.NoError(t, k.cmd.Process.Kill())
			_ = k.cmd.Wait()
			k.run("0")
			reads("after a new start")

			require.NoError(t, os.Remove(ballast))
			k.settle()
			k.adds(0)
		})
	}
}
