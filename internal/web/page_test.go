package web_test

import (
	"io/fs"
	"net/http"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/ui"
)

// A script is handed out as it was compressed at the build to who reads that, and as it is to
// anyone else; what was compressed is no file of its own.
func TestScriptsAreCompressedForWhoReadsThat(t *testing.T) {
	scripts, err := fs.Glob(ui.Files(), "assets/index-*.js")
	require.NoError(t, err)
	if len(scripts) == 0 {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatal("the page is not built")
		}
		t.Skip("the page is not built")
	}
	tight, err := fs.ReadFile(ui.Files(), scripts[0]+".br")
	require.NoError(t, err)
	c := open(t).visitor()
	for said, coding := range map[string]string{"gzip, deflate, br, zstd": "br", "br;q=0": "", "identity": "", "": ""} {
		a := c.send(http.MethodGet, "/"+scripts[0], nil, map[string]string{"Accept-Encoding": said}).gives(http.StatusOK, nil)
		assert.Equal(t, coding, a.header.Get("Content-Encoding"), "accepts %q", said)
		assert.Contains(t, a.header.Values("Vary"), "Accept-Encoding")
		if coding == "br" {
			assert.Equal(t, tight, a.body)
		} else {
			assert.Contains(t, string(a.body), "import", "accepts %q", said)
		}
	}
	c.get("/"+scripts[0]+".br").gives(http.StatusNotFound, nil)
}
