package whole

import (
	"fmt"
	"testing"
	"time"

	"arvelt/core/install"
)

// recorded is a house of so many circuits with so many readings, as a long job gathers
// them: each test again and again.
func recorded(circuits, records int) *install.Job {
	j := designed()
	one := j.Circuits[0]
	for n := 2; n <= circuits; n++ {
		c := one
		c.ID, c.Name = fmt.Sprintf("c%d", n), fmt.Sprintf("Point %d", n)
		c.Protection.Way = 0
		j.Circuits = append(j.Circuits, c)
	}
	tests := []string{"r1r2", "insulation-ln", "insulation-le", "zs"}
	for n := range records {
		v := 0.1 + float64(n%7)/100
		j.Records = append(j.Records, install.Record{ID: fmt.Sprintf("b%d", n), Kind: install.Reading,
			Subject: tests[n%len(tests)], Circuit: fmt.Sprintf("c%d", 1+n/len(tests)%circuits), Value: &v, Instrument: "M3",
			At: day.Add(time.Duration(n) * time.Second)})
	}
	return j
}

// The view of a job with its readings: what every open and every save computes.
func BenchmarkViewWithRecords(b *testing.B) {
	for _, size := range []struct{ circuits, records int }{{12, 0}, {12, 250}, {60, 0}, {60, 2000}} {
		j := recorded(size.circuits, size.records)
		b.Run(fmt.Sprintf("circuits=%d/records=%d", size.circuits, size.records), func(b *testing.B) {
			for b.Loop() {
				Of(j, nil, vik, day)
			}
		})
	}
}
