// Package standin is a small stand-in of a store that speaks S3, for tests and for trying it
// out: one bucket in memory, without versions, parts or rights beyond its key.
package standin

import (
	"bufio"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Bucket is one bucket that is opened with one key.
type Bucket struct {
	Name, KeyID string
	Now         func() time.Time

	mu      sync.Mutex
	objects map[string]object
}

type object struct {
	data []byte
	at   time.Time
}

// most is how long an object may be, in bytes.
const most = 64 << 20

// ServeHTTP answers what a client of S3 asks of one bucket by path: whether it is there, what it
// holds, and objects put, got and removed.
func (b *Bucket) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !strings.Contains(r.Header.Get("Authorization"), "Credential="+b.KeyID+"/") {
		refuse(w, http.StatusForbidden, "InvalidAccessKeyId")
		return
	}
	bucket, name, _ := strings.Cut(strings.TrimPrefix(r.URL.Path, "/"), "/")
	if bucket != b.Name {
		refuse(w, http.StatusNotFound, "NoSuchBucket")
		return
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if name == "" {
		b.list(w, r)
		return
	}
	switch r.Method {
	case http.MethodPut:
		data, err := body(r)
		if err != nil {
			refuse(w, http.StatusBadRequest, "IncompleteBody")
			return
		}
		if b.objects == nil {
			b.objects = map[string]object{}
		}
		b.objects[name] = object{data, b.Now()}
		w.Header().Set("ETag", `"stood-in"`)
	case http.MethodGet, http.MethodHead:
		o, ok := b.objects[name]
		if !ok {
			refuse(w, http.StatusNotFound, "NoSuchKey")
			return
		}
		w.Header().Set("ETag", `"stood-in"`)
		http.ServeContent(w, r, "", o.at, bytes.NewReader(o.data))
	case http.MethodDelete:
		delete(b.objects, name)
		w.WriteHeader(http.StatusNoContent)
	default:
		refuse(w, http.StatusMethodNotAllowed, "MethodNotAllowed")
	}
}

func (b *Bucket) list(w http.ResponseWriter, r *http.Request) {
	type content struct {
		Key          string
		LastModified string
		ETag         string
		Size         int
	}
	out := struct {
		XMLName  xml.Name `xml:"ListBucketResult"`
		Name     string
		KeyCount int
		MaxKeys  int
		Contents []content
	}{Name: b.Name, MaxKeys: 1000}
	if r.Method == http.MethodGet {
		for name, o := range b.objects {
			out.Contents = append(out.Contents, content{name, o.at.UTC().Format("2006-01-02T15:04:05.000Z"), `"stood-in"`, len(o.data)})
		}
	}
	out.KeyCount = len(out.Contents)
	w.Header().Set("Content-Type", "application/xml")
	_ = xml.NewEncoder(w).Encode(out)
}

func refuse(w http.ResponseWriter, status int, code string) {
	w.Header().Set("Content-Type", "application/xml")
	w.WriteHeader(status)
	fmt.Fprintf(w, "<Error><Code>%s</Code><Message>%s</Message></Error>", code, code)
}

// body reads what is put: plain, or in signed chunks as a client without TLS sends it.
func body(r *http.Request) ([]byte, error) {
	if !strings.HasPrefix(r.Header.Get("X-Amz-Content-Sha256"), "STREAMING-") {
		return io.ReadAll(io.LimitReader(r.Body, most))
	}
	in := bufio.NewReader(io.LimitReader(r.Body, most))
	var data []byte
	for {
		head, err := in.ReadString('\n')
		if err != nil {
			return nil, err
		}
		size, _, _ := strings.Cut(strings.TrimSpace(head), ";")
		n, err := strconv.ParseInt(size, 16, 32)
		if err != nil || n < 0 || n > most {
			return nil, errors.Join(err, errors.New("a chunk without a size"))
		}
		if n == 0 {
			return data, nil
		}
		chunk := make([]byte, n+2) // and the end of its line
		if _, err := io.ReadFull(in, chunk); err != nil {
			return nil, err
		}
		data = append(data, chunk[:n]...)
	}
}
