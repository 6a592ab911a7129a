package web_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"net/http"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/backup"
	"keencrock/internal/station/bench"
	"keencrock/internal/store"
	"keencrock/internal/testdb"
)

// photo is a photo of something ochre.
func photo(w, h int) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, img.Bounds(), image.NewUniform(color.RGBA{190, 140, 60, 255}), image.Point{}, draw.Src)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, nil); err != nil {
		panic(err)
	}
	return b.Bytes()
}

// A photo stands in the log of a batch, also after it ended; whoever may look sees it, and
// what is taken back is gone for good.
func TestPhotosInTheLogOfABatch(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	b := w.finished
	c.post(at(b, "pictures"), api.BatchPicture{Jpeg: photo(2000, 1500), Text: " lumps in the corner "}).gives(http.StatusCreated, &b)
	last := b.Events[len(b.Events)-1]
	assert.EqualValues(t, "pictured", last.Kind)
	assert.Equal(t, "lumps in the corner", last.Text)
	assert.True(t, last.CanUndo, "whoever is in it may want it away")
	assert.Equal(t, [2]int{1600, 1200}, [2]int{last.Picture.Width, last.Picture.Height})

	place := "/api/pictures/" + last.Picture.Id.String()
	looker := h.with(c, "vetch", api.Viewer)
	seen := looker.get(place).gives(http.StatusOK, nil)
	assert.Equal(t, "image/jpeg", seen.header.Get("Content-Type"))
	size, err := jpeg.DecodeConfig(bytes.NewReader(seen.body))
	require.NoError(t, err)
	assert.Equal(t, 1600, size.Width)
	looker.post(at(b, "pictures"), api.BatchPicture{Jpeg: photo(20, 20)}).refuses(http.StatusForbidden, "not-allowed")

	c.post(at(b, "pictures"), api.BatchPicture{Jpeg: []byte("no photo")}).refuses(http.StatusUnprocessableEntity, "no-picture")
	c.call(http.MethodPost, at(b, "pictures"), map[string]string{"jpeg": "not base64!"}).refuses(http.StatusUnprocessableEntity, "bad-field")
	c.post("/api/batches/"+uuid.NewString()+"/pictures", api.BatchPicture{Jpeg: photo(20, 20)}).refuses(http.StatusNotFound, "not-found")

	c.act(&b, api.BatchAct{Kind: "undone", Event: last.Seq})
	assert.True(t, b.Events[last.Seq-1].Undone)
	assert.Zero(t, b.Events[last.Seq-1].Picture)
	c.get(place).refuses(http.StatusNotFound, "not-found")
	c.post(at(b, "acts"), api.BatchAct{Kind: "undone", Event: last.Seq}).refuses(http.StatusConflict, "batch-closed")

	for range 40 {
		c.post(at(b, "pictures"), api.BatchPicture{Jpeg: photo(20, 20)}).gives(http.StatusCreated, nil)
	}
	c.post(at(b, "pictures"), api.BatchPicture{Jpeg: photo(20, 20)}).refuses(http.StatusUnprocessableEntity, "too-many-pictures")
}

// A backup holds the photos too, to the byte.
func TestPhotosAreInABackup(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	place := "/api/pictures/" + w.picture.String()
	before := c.get(place).gives(http.StatusOK, nil).body

	kept := backup.Folder{Path: t.TempDir(), Version: "test"}
	path, err := kept.Take(context.Background(), h.store(), "keencrock", h.now)
	require.NoError(t, err)
	elsewhere := testdb.New(t)
	_, err = kept.Restore(context.Background(), elsewhere, path, bench.Migration(func() time.Time { return h.now }), store.Taking{}, h.now)
	require.NoError(t, err)
	restored := openOn(t, elsewhere)
	restored.now = h.now
	assert.Equal(t, before, restored.signIn("marl").get(place).gives(http.StatusOK, nil).body)
}
