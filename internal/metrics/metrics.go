// Package metrics counts what the program does, in the form that Prometheus reads (text format 0.0.4,
// OpenMetrics 1.0). It names no page, no creator and no visitor.
package metrics

import (
	"context"
	"log/slog"
	"net/http"
	"strconv"
	"time"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"jundle/internal/ingest"
	"jundle/internal/store"
)

// askedWithin is how long the database may take to say how things stand.
const askedWithin = 3 * time.Second

// Metrics are all there are of a process.
type Metrics struct {
	registry *prometheus.Registry
	requests *prometheus.CounterVec
	seconds  *prometheus.HistogramVec
}

// Sources are what the figures of the moment come from.
type Sources struct {
	Stores store.Stores
	// Events tells how the way of events stands, and Waiting how many the log holds for the table.
	Events  func() ingest.Health
	Waiting func(ctx context.Context) (uint64, error)
}

// New makes the metrics of a process.
func New(from Sources) *Metrics {
	m := &Metrics{
		registry: prometheus.NewRegistry(),
		requests: prometheus.NewCounterVec(prometheus.CounterOpts{
			Name: "jundle_requests_total", Help: "Requests answered, by part, method and class of status.",
		}, []string{"part", "method", "status"}),
		seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "jundle_request_seconds", Help: "How long answers took, by part.",
			Buckets: []float64{0.0005, 0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10},
		}, []string{"part"}),
	}
	m.registry.MustRegister(m.requests, m.seconds, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}), &moment{from})
	return m
}

// Handler answers a scrape.
func (m *Metrics) Handler() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{MaxRequestsInFlight: 2, Timeout: 10 * time.Second})
}

// methods are those that are told apart: anybody can make up another.
var methods = map[string]bool{"GET": true, "HEAD": true, "POST": true, "PUT": true, "DELETE": true}

// Count counts the requests that a part answers.
func (m *Metrics) Count(part string, next http.Handler) http.Handler {
	seconds := m.seconds.WithLabelValues(part)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		begun, keeper := time.Now(), &StatusKeeper{ResponseWriter: w, Status: http.StatusOK}
		next.ServeHTTP(keeper, r)
		method := r.Method
		if !methods[method] {
			method = "other"
		}
		m.requests.WithLabelValues(part, method, strconv.Itoa(keeper.Status/100)+"xx").Inc()
		seconds.Observe(time.Since(begun).Seconds())
	})
}

// StatusKeeper remembers the status of an answer.
type StatusKeeper struct {
	http.ResponseWriter
	Status int
}

// WriteHeader implements http.ResponseWriter.
func (k *StatusKeeper) WriteHeader(status int) {
	k.Status = status
	k.ResponseWriter.WriteHeader(status)
}

// Flush is for handlers that write an answer bit by bit.
func (k *StatusKeeper) Flush() { _ = http.NewResponseController(k.ResponseWriter).Flush() }

// Unwrap is for http.ResponseController.
func (k *StatusKeeper) Unwrap() http.ResponseWriter { return k.ResponseWriter }

var (
	logWaiting  = prometheus.NewDesc("jundle_log_events", "Events in the log that are not in the table yet.", nil, nil)
	spooled     = prometheus.NewDesc("jundle_spool_bytes", "Bytes of events in the spool, while the log is away.", nil, nil)
	held        = prometheus.NewDesc("jundle_held_events", "Events held in memory.", nil, nil)
	shed        = prometheus.NewDesc("jundle_shed_events_total", "Events that could not be kept.", nil, nil)
	refused     = prometheus.NewDesc("jundle_refused_events_total", "Events that the table refused for good.", nil, nil)
	jobs        = prometheus.NewDesc("jundle_jobs", "Jobs that are not done, by queue and state.", []string{"queue", "state"}, nil)
	behind      = prometheus.NewDesc("jundle_sums_due_days", "Days of pages whose sums wait to be made anew.", nil, nil)
	behindSince = prometheus.NewDesc("jundle_sums_due_seconds", "How long the first of them has waited.", nil, nil)
	hooks       = prometheus.NewDesc("jundle_webhook_messages", "Messages to webhooks that wait.", nil, nil)
	connections = prometheus.NewDesc("jundle_pool_connections", "Connections to the database, by pool and state.",
		[]string{"pool", "state"}, nil)
	poolWaits = prometheus.NewDesc("jundle_pool_waits_total", "How often somebody waited for a connection, by pool.", []string{"pool"}, nil)
)

// moment reads how things stand when somebody asks.
type moment struct{ Sources }

// Describe implements prometheus.Collector: it is unchecked, because what the database does not say is
// left out.
func (*moment) Describe(chan<- *prometheus.Desc) {}

// Collect implements prometheus.Collector.
func (m *moment) Collect(out chan<- prometheus.Metric) {
	gauge := func(of *prometheus.Desc, value float64, labels ...string) {
		out <- prometheus.MustNewConstMetric(of, prometheus.GaugeValue, value, labels...)
	}
	count := func(of *prometheus.Desc, value float64, labels ...string) {
		out <- prometheus.MustNewConstMetric(of, prometheus.CounterValue, value, labels...)
	}
	ctx, cancel := context.WithTimeout(context.Background(), askedWithin)
	defer cancel()
	health := m.Events()
	gauge(spooled, float64(health.Spooled))
	gauge(held, float64(health.Held))
	count(shed, float64(health.Shed))
	count(refused, float64(health.Refused))
	if waiting, err := m.Waiting(ctx); err == nil {
		gauge(logWaiting, float64(waiting))
	}
	for name, pool := range map[string]*pgxpool.Pool{
		"visitors": m.Stores.Visitors.Pool(), "studio": m.Stores.Studio.Pool(), "background": m.Stores.Background.Pool(),
	} {
		stat := pool.Stat()
		gauge(connections, float64(stat.AcquiredConns()), name, "busy")
		gauge(connections, float64(stat.IdleConns()), name, "idle")
		gauge(connections, float64(stat.MaxConns()), name, "most")
		count(poolWaits, float64(stat.EmptyAcquireCount()), name)
	}
	backlog, err := m.Stores.Background.Backlog(ctx)
	if err != nil {
		slog.Warn("the database did not say how much waits", "error", err)
		return
	}
	for _, each := range backlog.Jobs {
		gauge(jobs, float64(each.Count), each.Queue, each.State)
	}
	gauge(behind, float64(backlog.DaysDue))
	gauge(behindSince, backlog.DueFor.Seconds())
	gauge(hooks, float64(backlog.Messages))
}
