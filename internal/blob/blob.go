// Package blob keeps bytes under names outside the database: in a folder, or in a store that
// speaks the S3 protocol. What a name means, and who may read it, is for who uses it to know.
package blob

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"
)

// Store keeps bytes under names such as "a/b.jpg".
type Store interface {
	// Put keeps bytes under a name, in place of what stood there, and returns when they are safe.
	Put(ctx context.Context, name string, data []byte) error
	// Get returns what stands under a name; ErrNone where nothing does.
	Get(ctx context.Context, name string) ([]byte, error)
	// Drop takes away what stands under a name; that nothing does is no error.
	Drop(ctx context.Context, name string) error
	// Each calls a function with every name, in no order, and when it was put there.
	Each(ctx context.Context, f func(name string, at time.Time) error) error
}

// ErrNone is that nothing stands under a name.
var ErrNone = errors.New("nothing stands under that name")

// Most is how many bytes stand under a name at the most.
const Most = 32 << 20

// Keys are what a store of S3 is opened with.
type Keys struct{ ID, Secret string }

// Open opens a store by where it is: a folder, or s3://HOST[:PORT]/BUCKET (TLS) or
// s3+http://HOST[:PORT]/BUCKET. It is tried before it is returned.
func Open(ctx context.Context, where string, keys Keys) (Store, error) {
	scheme, rest, remote := strings.Cut(where, "://")
	if !remote {
		return openFolder(where)
	}
	switch scheme {
	case "s3", "s3+http":
	default:
		return nil, fmt.Errorf("pictures cannot be kept at %q: give a folder, or s3://HOST/BUCKET", where)
	}
	host, bucket, ok := strings.Cut(rest, "/")
	if bucket = strings.Trim(bucket, "/"); !ok || host == "" || bucket == "" || strings.Contains(bucket, "/") {
		return nil, fmt.Errorf("pictures cannot be kept at %q: it needs a host and a bucket, as in s3://HOST/BUCKET", where)
	}
	if keys.ID == "" || keys.Secret == "" {
		return nil, fmt.Errorf("the store of pictures at %s wants keys: set KEEN_CROCK_PICTURES_KEY and KEEN_CROCK_PICTURES_SECRET", host)
	}
	return openS3(ctx, host, bucket, scheme == "s3", keys)
}

// sound reports whether a name is one that stays within a store.
func sound(name string) error {
	for _, part := range strings.Split(name, "/") {
		if part == "" || part[0] == '.' || strings.ContainsAny(part, "\\\x00") {
			return fmt.Errorf("%q is no name to keep something under", name)
		}
	}
	return nil
}
