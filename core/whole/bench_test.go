package whole

import "testing"

// BenchmarkView is the whole job: checks, take-off, tasks, tests, readiness.
func BenchmarkView(b *testing.B) {
	job := designed()
	b.ReportAllocs()
	for b.Loop() {
		if v := Of(job, nil, vik, day); len(v.Tasks) == 0 {
			b.Fatal("tasks")
		}
	}
}
