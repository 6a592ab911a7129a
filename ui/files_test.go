package ui_test

import (
	"bytes"
	"compress/gzip"
	"io/fs"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/ui"
)

// firstLoad is the most script, compressed, that a first visit may cost; atTheDoor is the most of
// it that comes before anyone is in.
const (
	firstLoad = 350_000
	atTheDoor = 200_000
)

// onDemand is what no visit loads unless it is asked for: the reader of codes, where a browser
// has none of its own.
const onDemand = "codesByHand-"

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
	total, largest, first := 0, 0, 0
	files, err := fs.ReadDir(ui.Files(), "assets")
	require.NoError(t, err)
	for _, f := range files {
		if !strings.HasSuffix(f.Name(), ".js") || strings.HasPrefix(f.Name(), onDemand) {
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
		if slices.Contains(entry, "assets/"+f.Name()) {
			first += b.Len()
		}
		if strings.Contains(f.Name(), "Page-") {
			total -= b.Len() // a station is loaded when it is entered
			largest = max(largest, b.Len())
		}
	}
	t.Logf("at the door: %d bytes compressed; scripts all stations share: %d; the largest station: %d", first, total, largest)
	assert.Less(t, total+largest, firstLoad)
	assert.Less(t, first, atTheDoor)
}
