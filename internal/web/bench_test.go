package web_test

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"
)

// BenchmarkAssess is one assessment through HTTP and PostgreSQL, client
// included. e2e's TestLoad measures the server in a process of its own.
func BenchmarkAssess(b *testing.B) {
	h := open(b)
	c := h.founded("marl")
	for _, line := range []string{"5 kg borax 15.00", "5 kg washing soda 9.00", "5 kg soap flakes 30.00", "5 kg bicarb 9.00"} {
		c.take(line)
	}
	body, err := json.Marshal(formulaFile("Load", "2 cups of soap-flakes", "1 cup of washing-soda", "1 cup of borax", "1 cup of sodium-bicarbonate"))
	require.NoError(b, err)
	c.http.Transport = &http.Transport{MaxIdleConnsPerHost: 32}
	b.ReportAllocs()
	b.SetParallelism(10)
	b.ResetTimer()
	b.RunParallel(func(pb *testing.PB) {
		for pb.Next() {
			r, _ := http.NewRequest("POST", c.url+"/api/assess", bytes.NewReader(body))
			r.Header.Set("Content-Type", "application/json")
			r.Header.Set("X-CSRF-Token", c.csrf)
			res, err := c.http.Do(r)
			if err != nil {
				b.Error(err)
				return
			}
			_, _ = io.Copy(io.Discard, res.Body)
			res.Body.Close()
		}
	})
}
