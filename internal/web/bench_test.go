package web_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"net"
	"net/http"
	"runtime/debug"
	"slices"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/material"
	"keencrock/internal/exchange"
	"keencrock/internal/testdb"
)

// asked is what the benchmarks ask for an assessment of.
func asked() []byte {
	body, err := json.Marshal(formulaFile("Load", "2 cups of soap-flakes", "1 cup of washing-soda", "1 cup of borax", "1 cup of sodium-bicarbonate"))
	if err != nil {
		panic(err)
	}
	return body
}

// stocked is a workshop with what is asked for on its shelf.
func stocked(b *testing.B) *client {
	c := open(b).founded("marl")
	for _, line := range []string{"5 kg borax 15.00", "5 kg washing soda 9.00", "5 kg soap flakes 30.00", "5 kg bicarb 9.00"} {
		c.take(line)
	}
	c.http.Transport = &http.Transport{MaxIdleConnsPerHost: 32}
	return c
}

// post asks again and again, from many at once.
func post(b *testing.B, client *http.Client, url, csrf string, body []byte) {
	measured(b, func() error {
		r, _ := http.NewRequest("POST", url, bytes.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("X-CSRF-Token", csrf)
		res, err := client.Do(r)
		if err != nil {
			return err
		}
		_, err = io.Copy(io.Discard, res.Body)
		return errors.Join(err, res.Body.Close())
	})
}

// measured does something again and again, from many at once, with as much heap between
// collections as it is served with. What is compared is the time an operation takes of the
// whole machine; of several runs (-count 5) the median counts.
func measured(b *testing.B, f func() error) {
	defer debug.SetGCPercent(debug.SetGCPercent(400))
	b.ReportAllocs()
	b.SetParallelism(10)
	b.ResetTimer()
	b.RunParallel(func(pb *testing.PB) {
		for pb.Next() {
			if err := f(); err != nil {
				b.Error(err)
				return
			}
		}
	})
}

// BenchmarkAssess is one assessment through HTTP and PostgreSQL, client
// included, and beside it what of that is the core's own, and a bare handler of the same
// framework that decodes the same request and encodes the same answer, and does nothing
// between. What the house adds is the first less the second. e2e's TestSpeed measures the
// server in a process of its own.
func BenchmarkAssess(b *testing.B) {
	c := stocked(b)
	b.Run("house", func(b *testing.B) { post(b, c.http, c.url+"/api/assess", c.csrf, asked()) })
	b.Run("core", func(b *testing.B) {
		var file api.FormulaFile
		require.NoError(b, json.Unmarshal(asked(), &file))
		f, _ := exchange.ToFormula(&file)
		options := assess.Options{Prices: costing.Prices{Currency: "EUR", PerGram: map[string]costing.Price{}}, Water: &assess.Water{}}
		for _, l := range f.Lines {
			options.Prices.PerGram[l.Material] = costing.OnePrice(decimal.RequireFromString("0.003"))
		}
		measured(b, func() error {
			assess.Formula(f, material.Shipped(), options).LineCosts()
			return nil
		})
	})
	b.Run("bare", func(b *testing.B) {
		var answer api.Assessment
		c.call("POST", "/api/assess", json.RawMessage(asked())).gives(http.StatusOK, &answer)
		app := fiber.New()
		app.Post("/api/assess", func(c fiber.Ctx) error {
			var file api.FormulaFile
			if err := json.Unmarshal(c.Body(), &file); err != nil {
				return err
			}
			return c.JSON(answer)
		})
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(b, err)
		go app.Listener(l, fiber.ListenConfig{DisableStartupMessage: true})
		b.Cleanup(func() { _ = app.ShutdownWithTimeout(time.Second) })
		post(b, c.http, "http://"+l.Addr().String()+"/api/assess", "", asked())
	})
}

// BenchmarkLists reads every list and the strip of a workshop of many years:
// 20,000 lots, 10,000 batches, 100,000 jars. The figure is the median.
func BenchmarkLists(b *testing.B) {
	h := open(b)
	c := h.founded("marl")
	testdb.Grow(b, h.dsn, 20_000, 10_000)
	for _, path := range []string{"/api/shelf", "/api/lots", "/api/batches", "/api/batches?state=weighing", "/api/pantry", "/api/waiting", "/api/formulas", "/api/materials"} {
		b.Run(path, func(b *testing.B) {
			var took []time.Duration
			for b.Loop() {
				since := time.Now()
				res, err := c.http.Get(c.url + path)
				require.NoError(b, err)
				_, _ = io.Copy(io.Discard, res.Body)
				res.Body.Close()
				require.Equal(b, http.StatusOK, res.StatusCode)
				took = append(took, time.Since(since))
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/median")
		})
	}
}

// BenchmarkRack reads the rack with 500 things on it, each dried, weighed in three
// times and stirred. The figure is the median.
func BenchmarkRack(b *testing.B) {
	h := open(b)
	c := h.founded("marl")
	soda, acid := c.take("2 kg washing soda 8.00"), c.take("1 kg citric acid 6.00")
	batch := c.begin(c.tabFormula(), api.Target{Factor: 1})
	batch = c.weigh(batch, 0, soda.Code, 600)
	batch = c.weigh(batch, 1, acid.Code, 300)
	for batch.State != api.BatchStateStanding {
		c.act(&batch, api.BatchAct{Kind: "step-passed"})
	}
	for _, g := range []float64{900, 896, 893} {
		h.now = h.now.Add(5 * time.Hour)
		c = h.signIn("marl")
		c.act(&batch, api.BatchAct{Kind: "weighed-in", Grams: g})
	}
	testdb.Again(b, h.dsn, 499)
	var took []time.Duration
	for b.Loop() {
		since := time.Now()
		res, err := c.http.Get(c.url + "/api/rack")
		require.NoError(b, err)
		n, _ := io.Copy(io.Discard, res.Body)
		res.Body.Close()
		require.Equal(b, http.StatusOK, res.StatusCode)
		require.Greater(b, n, int64(100_000))
		took = append(took, time.Since(since))
	}
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)/2].Microseconds())/1000, "ms/median")
}
