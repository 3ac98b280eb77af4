package e2e

import "testing"

// BenchmarkTodayOpens is how long the day takes to stand on a phone with a processor four times slowed and without a connection, out of what was kept.
func BenchmarkTodayOpens(b *testing.B) {
	s := start(b)
	p := s.person("Jana Okell")
	p.Front()
	p.Size(390, 844)
	p.Open("/today")
	p.Has("[data-day-next]")
	p.Until("the shell to be kept", `navigator.serviceWorker.ready.then(() => navigator.serviceWorker.controller !== null)`)
	p.Open("/today") // once more, by the shell that was kept
	p.Has("[data-day-next]")
	p.Watch("[data-day-next]")
	p.Offline(true)
	p.Slowed(4)
	sum, longest, n := 0.0, 0.0, 0
	for b.Loop() {
		p.Open("/today")
		at, task := p.Stood()
		sum, longest, n = sum+at, max(longest, task), n+1
	}
	p.Slowed(1)
	p.Offline(false)
	b.ReportMetric(sum/float64(n), "ms/open")
	b.ReportMetric(longest, "ms/longest-task")
}
