package e2e

import (
	"os/exec"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The demo adds up after all that was done to it, while the server runs.
func TestTheDemoAddsUp(t *testing.T) {
	a := startDemo(t)
	verify := exec.Command(binary, "verify")
	verify.Env = a.env
	out, err := verify.Output()
	require.NoError(t, err, "%s", out)
	assert.Equal(t, "All adds up, in 1 workshop.\n", string(out))
}
