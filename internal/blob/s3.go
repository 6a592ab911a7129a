package blob

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net/http"
	"time"

	"github.com/minio/minio-go/v7"
	"github.com/minio/minio-go/v7/pkg/credentials"
)

// patience is how long one call to a store may take.
const patience = 20 * time.Second

// s3 keeps bytes in a bucket.
type s3 struct {
	client *minio.Client
	bucket string
}

func openS3(ctx context.Context, host, bucket string, secure bool, keys Keys) (Store, error) {
	client, err := minio.New(host, &minio.Options{Creds: credentials.NewStaticV4(keys.ID, keys.Secret, ""), Secure: secure, BucketLookup: minio.BucketLookupPath, Region: "us-east-1", MaxRetries: 3})
	if err != nil {
		return nil, fmt.Errorf("the store of pictures at %s: %w", host, err)
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	there, err := client.BucketExists(ctx, bucket)
	if err != nil {
		return nil, fmt.Errorf("the store of pictures at %s: %w", host, err)
	}
	if !there {
		return nil, fmt.Errorf("the store of pictures at %s has no bucket %q", host, bucket)
	}
	return s3{client, bucket}, nil
}

func (s s3) Put(ctx context.Context, name string, data []byte) error {
	if err := sound(name); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	_, err := s.client.PutObject(ctx, s.bucket, name, bytes.NewReader(data), int64(len(data)), minio.PutObjectOptions{ContentType: "application/octet-stream", DisableMultipart: true})
	return err
}

func (s s3) Get(ctx context.Context, name string) ([]byte, error) {
	if err := sound(name); err != nil {
		return nil, err
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	object, err := s.client.GetObject(ctx, s.bucket, name, minio.GetObjectOptions{})
	if err != nil {
		return nil, err
	}
	defer object.Close()
	data, err := io.ReadAll(io.LimitReader(object, Most+1))
	switch {
	case minio.ToErrorResponse(err).StatusCode == http.StatusNotFound:
		return nil, ErrNone
	case err != nil:
		return nil, err
	case len(data) > Most:
		return nil, fmt.Errorf("%s holds more than %d bytes", name, Most)
	}
	return data, nil
}

func (s s3) Drop(ctx context.Context, name string) error {
	if err := sound(name); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	return s.client.RemoveObject(ctx, s.bucket, name, minio.RemoveObjectOptions{})
}

func (s s3) Each(ctx context.Context, do func(name string, at time.Time) error) error {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	for o := range s.client.ListObjects(ctx, s.bucket, minio.ListObjectsOptions{Recursive: true}) {
		if o.Err != nil {
			return o.Err
		}
		if err := do(o.Key, o.LastModified); err != nil {
			return err
		}
	}
	return nil
}
