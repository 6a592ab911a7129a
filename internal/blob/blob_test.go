package blob_test

import (
	"bytes"
	"context"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/blob"
	"keencrock/internal/blob/standin"
)

// Whatever it is, a store keeps what it is given, in place of what stood there, and says what it
// holds.
func TestStoresKeepWhatTheyAreGiven(t *testing.T) {
	bucket := &standin.Bucket{Name: "pictures", KeyID: "crock", Now: time.Now}
	server := httptest.NewServer(bucket)
	defer server.Close()
	host := strings.TrimPrefix(server.URL, "http://")
	folder := t.TempDir() + "/pictures"
	for _, where := range []string{folder, "s3+http://" + host + "/pictures"} {
		ctx := t.Context()
		s, err := blob.Open(ctx, where, blob.Keys{ID: "crock", Secret: "kept"})
		require.NoError(t, err, where)
		_, err = s.Get(ctx, "a/one.jpg")
		require.ErrorIs(t, err, blob.ErrNone, where)
		large := bytes.Repeat([]byte("crock"), 200_000) // many chunks
		require.NoError(t, s.Put(ctx, "a/one.jpg", large))
		require.NoError(t, s.Put(ctx, "b/two.jpg", []byte("two")))
		require.NoError(t, s.Put(ctx, "b/two.jpg", []byte("three")), "in its place")
		got, err := s.Get(ctx, "a/one.jpg")
		require.NoError(t, err)
		assert.True(t, bytes.Equal(large, got), where)
		got, err = s.Get(ctx, "b/two.jpg")
		require.NoError(t, err)
		assert.Equal(t, "three", string(got))
		names := map[string]bool{}
		require.NoError(t, s.Each(ctx, func(name string, at time.Time) error {
			names[name] = true
			assert.WithinDuration(t, time.Now(), at, time.Hour)
			return nil
		}))
		assert.Equal(t, map[string]bool{"a/one.jpg": true, "b/two.jpg": true}, names)
		require.NoError(t, s.Drop(ctx, "a/one.jpg"))
		require.NoError(t, s.Drop(ctx, "a/one.jpg"), "twice")
		_, err = s.Get(ctx, "a/one.jpg")
		require.ErrorIs(t, err, blob.ErrNone)
		for _, name := range []string{"../out", "a//b", "", "/etc/passwd", "a/.hidden", `a\b`} {
			assert.Error(t, s.Put(ctx, name, nil), name)
			_, err := s.Get(ctx, name)
			assert.Error(t, err, name)
			assert.NotErrorIs(t, err, blob.ErrNone, name)
			assert.Error(t, s.Drop(ctx, name), name)
		}
	}
	info, err := os.Stat(folder)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o700), info.Mode().Perm(), "nobody else reads it")
}

func TestStoresThatCannotBeAreRefusedAtTheStart(t *testing.T) {
	bucket := &standin.Bucket{Name: "pictures", KeyID: "crock", Now: time.Now}
	server := httptest.NewServer(bucket)
	defer server.Close()
	host := strings.TrimPrefix(server.URL, "http://")
	file := t.TempDir() + "/file"
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	for where, keys := range map[string]blob.Keys{
		"ftp://" + host + "/pictures":       {ID: "crock", Secret: "kept"},
		"s3+http://" + host:                 {ID: "crock", Secret: "kept"},
		"s3+http://" + host + "/pictures":   {},
		"s3+http://" + host + "/pictures/":  {ID: "somebody", Secret: "else"},
		"s3+http://" + host + "/other":      {ID: "crock", Secret: "kept"},
		"s3+http://" + host + "/pictures/a": {ID: "crock", Secret: "kept"},
		file:                                {},
	} {
		_, err := blob.Open(context.Background(), where, keys)
		assert.Error(t, err, where)
	}
}
