package web

import (
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/adaptor"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"
)

// metrics are what a machine that watches machines wants to know, in the open text format.
type metrics struct {
	seconds *prometheus.HistogramVec
	handler fiber.Handler
}

// Measure counts requests and what they took from now on, and shows it at /metrics to who sits
// at this machine.
func (a *App) Measure() error {
	registry := prometheus.NewRegistry()
	m := &metrics{seconds: prometheus.NewHistogramVec(prometheus.HistogramOpts{
		Name: "kolvan_request_seconds", Help: "What requests took, by method and by the hundred of their status.",
		Buckets: []float64{0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5},
	}, []string{"method", "status"})}
	devices := prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: "kolvan_paired_devices", Help: "Devices that are let in."}, func() float64 {
		if a.network.Devices == nil {
			return 0
		}
		return float64(len(a.network.Devices.Devices()))
	})
	for _, c := range []prometheus.Collector{m.seconds, devices, collectors.NewGoCollector(),
		collectors.NewProcessCollector(collectors.ProcessCollectorOpts{})} {
		if err := registry.Register(c); err != nil {
			return err
		}
	}
	m.handler = adaptor.HTTPHandler(promhttp.HandlerFor(registry, promhttp.HandlerOpts{}))
	a.metrics = m
	return nil
}

// took counts a request, where that is asked for. The stream of events is not one that ends.
func (a *App) took(c fiber.Ctx, err error, since time.Time) {
	if a.metrics != nil && c.Path() != "/events" {
		status := c.Response().StatusCode()
		if err != nil { // it is answered after this
			status, _ = statusOf(err)
		}
		hundred := strconv.Itoa(status/100) + "xx"
		a.metrics.seconds.WithLabelValues(string(c.Request().Header.Method()), hundred).Observe(time.Since(since).Seconds())
	}
}

// showMetrics answers only who sits at this machine, and only where they are asked for.
func (a *App) showMetrics(c fiber.Ctx) error {
	if a.metrics == nil || !visitorOf(c).here {
		return fiber.ErrNotFound
	}
	return a.metrics.handler(c)
}
