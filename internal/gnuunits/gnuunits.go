// Package gnuunits lets tests ask GNU units, an independent program (Debian
// package "units"), for a conversion.
package gnuunits

import (
	"os"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Convert returns how many of one unit another is. The test is skipped where
// the program is absent, unless KEEN_CROCK_REQUIRE_ALL says that everything
// must run.
func Convert(t testing.TB, from, to string) float64 {
	t.Helper()
	program, err := exec.LookPath("units")
	if err != nil {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatal("GNU units is required: install the package “units”")
		}
		t.Skip("GNU units is not installed")
	}
	out, err := exec.Command(program, "--terse", "--digits", "12", from, to).Output()
	require.NoError(t, err, "%s to %s: %s", from, to, out)
	v, err := strconv.ParseFloat(strings.TrimSpace(string(out)), 64)
	require.NoError(t, err)
	return v
}
