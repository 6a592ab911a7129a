package e2e

import (
	"errors"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

// fill writes a file until its disk is full.
func fill(t *testing.T, path string) {
	t.Helper()
	f, err := os.Create(path)
	require.NoError(t, err)
	defer f.Close()
	for size := 1 << 20; size >= 1; { // at last byte by byte
		if _, err := f.Write(make([]byte, size)); err == nil {
			continue
		} else if !errors.Is(err, syscall.ENOSPC) {
			require.NoError(t, err)
		}
		size /= 16
	}
}

// TestAFullDiskIsSaidAndOutlived fills the disk under the database while deliveries come
// in: what cannot be kept is refused with what to do, the shelf can be read, and when there
// is room again all that was answered is there, and what was not is taken in once.
func TestAFullDiskIsSaidAndOutlived(t *testing.T) {
	t.Parallel()
	home := smallDisk(t, "256m")
	k := newKilledIn(t, home, 0)
	k.furnish()
	ballast := filepath.Join(home, "ballast")
	fill(t, ballast)
	for n := 0; len(k.asked) == 0; n++ {
		require.Less(t, n, 2000, "the disk is full, and still all is taken in")
		k.deliver()
	}
	assert.Contains(t, k.asked[0].last, "503 ")
	assert.Contains(t, k.asked[0].last, `"disk-full"`)
	status, _, err := k.send("GET", "/api/shelf", asJSON, nil, "")
	require.NoError(t, err)
	assert.Equal(t, http.StatusOK, status, "what is there can be read")
	backup := exec.Command(binary, "backup")
	backup.Env = k.env
	out, err := backup.CombinedOutput()
	require.Error(t, err, "a backup has no room either")
	assert.Contains(t, string(out), "no space left")
	assert.Zero(t, k.backups(), "and leaves nothing half done")
	require.NoError(t, os.Remove(ballast))
	k.settle()
	k.adds(0)
}
