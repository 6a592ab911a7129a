package web

import (
	"net/http"
	"strconv"
	"time"

	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"keencrock/internal/tenant"
)

// metrics count what a server does, for who watches over it: in the open format of
// Prometheus, and never by person or workshop.
type metrics struct {
	registry *prometheus.Registry
	requests *prometheus.CounterVec
	seconds  *prometheus.HistogramVec
	inFlight prometheus.Gauge
	streams  prometheus.Gauge
}

func newMetrics(house *tenant.House) *metrics {
	m := &metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewCounterVec(prometheus.CounterOpts{Name: "keencrock_requests_total", Help: "Requests answered, by operation of the contract and kind of status."}, []string{"operation", "status"}),
		seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "keencrock_request_seconds", Help: "How long requests took, by operation of the contract.",
			Buckets: []float64{.002, .005, .01, .025, .05, .1, .25, .5, 1, 2.5, 10}}, []string{"operation"}),
		inFlight: prometheus.NewGauge(prometheus.GaugeOpts{Name: "keencrock_requests_in_flight", Help: "Requests being answered."}),
		streams:  prometheus.NewGauge(prometheus.GaugeOpts{Name: "keencrock_streams", Help: "Streams of live changes and readings that are open."}),
	}
	m.registry.MustRegister(m.requests, m.seconds, m.inFlight, m.streams, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	for state, count := range map[string]func(busy, idle, most int) int{
		"busy": func(busy, _, _ int) int { return busy }, "idle": func(_, idle, _ int) int { return idle }, "most": func(_, _, most int) int { return most },
	} {
		m.registry.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "keencrock_database_connections", Help: "Connections to the database.",
			ConstLabels: prometheus.Labels{"state": state}}, func() float64 { return float64(count(house.Connections())) }))
	}
	m.registry.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "keencrock_disk_free_bytes", Help: "Room on the disk of the private database; -1 where it is not known."},
		func() float64 {
			if disk := house.Store.Space(); disk.Known {
				return float64(disk.FreeBytes)
			}
			return -1
		}))
	return m
}

// begin counts a request in, and returns what counts it out.
func (m *metrics) begin() (end func()) {
	m.inFlight.Inc()
	return m.inFlight.Dec
}

func (m *metrics) count(operation string, status int, took time.Duration) {
	m.requests.WithLabelValues(operation, strconv.Itoa(status/100)+"xx").Inc()
	m.seconds.WithLabelValues(operation).Observe(took.Seconds())
}

func (m *metrics) handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{})
}
