package web_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/internal/backup"
	"keencrock/internal/blob"
	"keencrock/internal/blob/standin"
	"keencrock/internal/station/bench"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
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

// outsides are the places outside a database that photos are kept in: a folder, and a store that
// speaks S3.
func outsides(t *testing.T) map[string]blob.Store {
	t.Helper()
	bucket := &standin.Bucket{Name: "photos", KeyID: "crock", Now: time.Now}
	server := httptest.NewServer(bucket)
	t.Cleanup(server.Close)
	folder, err := blob.Open(t.Context(), t.TempDir()+"/photos", blob.Keys{})
	require.NoError(t, err)
	remote, err := blob.Open(t.Context(), strings.Replace(server.URL, "http://", "s3+http://", 1)+"/photos", blob.Keys{ID: "crock", Secret: "kept"})
	require.NoError(t, err)
	return map[string]blob.Store{"folder": folder, "s3": remote}
}

// Photos may stand outside the database: they are seen as ever and by nobody else, those that
// stood in it are moved, a backup holds them to the byte, and what is taken back is swept.
func TestPhotosOutsideTheDatabase(t *testing.T) {
	for name, blobs := range outsides(t) {
		t.Run(name, func(t *testing.T) {
			ctx := t.Context()
			h := open(t)
			inside := h.furnish(h.founded("marl"), "OWN") // before it was set
			h.outside = &tenant.PicturesOutside{Blobs: blobs}
			h.url = h.serve()
			c := h.signIn("marl")
			count := func() (n int) {
				require.NoError(t, blobs.Each(ctx, func(string, time.Time) error { n++; return nil }))
				return n
			}
			b := inside.finished
			c.post(at(b, "pictures"), api.BatchPicture{Jpeg: photo(300, 200)}).gives(http.StatusCreated, &b)
			last := b.Events[len(b.Events)-1]
			place := "/api/pictures/" + last.Picture.Id.String()
			before := c.get(place).gives(http.StatusOK, nil).body
			require.Equal(t, 1, count())
			old := c.get("/api/pictures/"+inside.picture.String()).gives(http.StatusOK, nil).body
			h.founded("theirs").get(place).refuses(http.StatusNotFound, "not-found")

			s := h.store()
			n, err := h.outside.MoveOut(ctx, s)
			require.NoError(t, err)
			assert.Equal(t, 2, n, "that of the log and that of the trial")
			n, err = h.outside.MoveOut(ctx, s)
			require.NoError(t, err)
			assert.Zero(t, n, "again is nothing")
			assert.Equal(t, 3, count())
			assert.Equal(t, old, c.get("/api/pictures/"+inside.picture.String()).gives(http.StatusOK, nil).body)

			kept := backup.Folder{Path: t.TempDir(), Version: "test", Outside: h.outside.Of}
			path, err := kept.Take(ctx, s, "keencrock", h.now)
			require.NoError(t, err)
			elsewhere := testdb.New(t)
			_, err = kept.Restore(ctx, elsewhere, path, bench.Migration(func() time.Time { return h.now }), store.Taking{}, h.now)
			require.NoError(t, err)
			restored := openOn(t, elsewhere) // which has no outside
			restored.now = h.now
			again := restored.signIn("marl")
			assert.Equal(t, before, again.get(place).gives(http.StatusOK, nil).body)
			assert.Equal(t, old, again.get("/api/pictures/"+inside.picture.String()).gives(http.StatusOK, nil).body)

			n, err = h.outside.MoveBack(ctx, s)
			require.NoError(t, err)
			assert.Equal(t, 3, n)
			n, err = h.outside.MoveOut(ctx, s)
			require.NoError(t, err)
			assert.Equal(t, 3, n)

			c.act(&b, api.BatchAct{Kind: "undone", Event: last.Seq})
			c.get(place).refuses(http.StatusNotFound, "not-found")
			require.NoError(t, blobs.Put(ctx, "somebody/else.txt", []byte("not ours")))
			n, err = h.outside.Sweep(ctx, s, time.Now())
			require.NoError(t, err)
			assert.Zero(t, n, "a transaction may still be going on")
			n, err = h.outside.Sweep(ctx, s, time.Now().Add(25*time.Hour))
			require.NoError(t, err)
			assert.Equal(t, 1, n)
			assert.Equal(t, 3, count(), "two photos, and what is not ours")
			assert.Equal(t, old, c.get("/api/pictures/"+inside.picture.String()).gives(http.StatusOK, nil).body)
			require.NoError(t, blobs.Drop(ctx, "somebody/else.txt"))
		})
	}
}
