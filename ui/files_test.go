package ui_test

import (
	"bytes"
	"compress/gzip"
	"io/fs"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/ui"
)

// firstLoad is the most script, compressed, that a first visit may cost.
const firstLoad = 350_000

// What a first visit loads is the page's own scripts and those of its largest
// station; nothing comes from elsewhere.
func TestAFirstVisitIsLight(t *testing.T) {
	page, err := fs.ReadFile(ui.Files(), "index.html")
	if err != nil {
		if os.Getenv("KEEN_CROCK_REQUIRE_ALL") != "" {
			t.Fatal("the page is not built")
		}
		t.Skip("the page is not built")
	}
	assert.NotRegexp(t, `(?:src|href)="(?:https?:)?//`, string(page), "everything ships with the page")
	assert.NotRegexp(t, `<script(?:[^>]*)>[^<]`, string(page), "no inline script")
	entry := regexp.MustCompile(`assets/[^"]+\.js`).FindAllString(string(page), -1)
	require.NotEmpty(t, entry)
	total, largest := 0, 0
	files, err := fs.ReadDir(ui.Files(), "assets")
	require.NoError(t, err)
	for _, f := range files {
		if !strings.HasSuffix(f.Name(), ".js") {
			continue
		}
		content, err := fs.ReadFile(ui.Files(), "assets/"+f.Name())
		require.NoError(t, err)
		var b bytes.Buffer
		z := gzip.NewWriter(&b)
		_, err = z.Write(content)
		require.NoError(t, err)
		require.NoError(t, z.Close())
		total += b.Len()
		if strings.Contains(f.Name(), "Page-") {
			total -= b.Len() // a station is loaded when it is entered
			largest = max(largest, b.Len())
		}
	}
	t.Logf("scripts all stations share: %d bytes compressed; the largest station: %d", total, largest)
	assert.Less(t, total+largest, firstLoad)
}
