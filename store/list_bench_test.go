package store_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"arvelt/store"
	"arvelt/store/storetest"
)

// BenchmarkList measures the first page, a search and an edit of a company of 500 and of 50,000
// jobs, in turns within one run of each.
func BenchmarkList(b *testing.B) {
	for _, jobs := range []int{500, 50_000} {
		f := newFirm(b, storetest.New(b), "f")
		storetest.Jobs(b, f.Store, f.job, jobs)
		find := func(q string, want int) func(*testing.B) {
			return func(b *testing.B) {
				for b.Loop() {
					page, err := f.Jobs(ctx, store.Find{Q: q})
					require.NoError(b, err)
					require.GreaterOrEqual(b, len(page.Jobs), want)
				}
			}
		}
		b.Run(fmt.Sprintf("mark/%d", jobs), func(b *testing.B) {
			for b.Loop() {
				_, err := f.ListMark(ctx)
				require.NoError(b, err)
			}
		})
		b.Run(fmt.Sprintf("first-page/%d", jobs), find("", 50))
		b.Run(fmt.Sprintf("reference/%d", jobs), find("G-000123", 1))
		b.Run(fmt.Sprintf("address/%d", jobs), find("123 ropewalk", 1))
		b.Run(fmt.Sprintf("no-hit/%d", jobs), find("nowhere at all", 0))
		b.Run(fmt.Sprintf("edit/%d", jobs), func(b *testing.B) {
			_, version := f.customer(b)
			for b.Loop() {
				_, err := f.site("edited", version, f.key())
				require.NoError(b, err)
				version++
			}
		})
	}
}
