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
		_, err := f.Pool.Exec(ctx, `INSERT INTO job (company_id, ref, title, kind, practice, edition, version, customer, town, address, stage,
			updated_at) SELECT company_id, 'G-' || lpad(n::text, 6, '0'), 'House ' || n, kind, practice, edition, 1, 'Customer ' || n % 900,
			'Town ' || n % 40, n || ' Ropewalk ' || n % 10, 'design', now() - n * interval '1 minute' FROM job,
			generate_series(1, $1) AS n WHERE job.id = $2`, jobs, f.job)
		require.NoError(b, err)
		_, err = f.Pool.Exec(ctx, `INSERT INTO job_find SELECT id, company_id, lower(concat_ws(' ', ref, title, customer, address, town, stage,
			kind)) FROM job ON CONFLICT DO NOTHING`)
		require.NoError(b, err)
		_, err = f.Pool.Exec(ctx, `UPDATE company SET jobs = $1`, jobs+1)
		require.NoError(b, err)
		_, err = f.Pool.Exec(ctx, `VACUUM ANALYZE job, job_find`)
		require.NoError(b, err)
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
