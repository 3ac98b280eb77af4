package storetest

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"

	"arvelt/store"
)

// Jobs adds n jobs to the list of the company that has the job like; nothing of them but what the list shows.
func Jobs(t testing.TB, st *store.Store, like string, n int) {
	t.Helper()
	for _, sql := range []struct {
		do   string
		args []any
	}{
		{`INSERT INTO job (company_id, ref, title, kind, practice, edition, version, customer, town, address, stage, updated_at)
			SELECT company_id, 'G-' || lpad(n::text, 6, '0'), 'House ' || n, kind, practice, edition, 1, 'Customer ' || n % 900,
			'Town ' || n % 40, n || ' Ropewalk ' || n % 10, 'design', now() - n * interval '1 minute' FROM job,
			generate_series(1, $1) AS n WHERE job.id = $2`, []any{n, like}},
		{`INSERT INTO job_find SELECT id, company_id, lower(concat_ws(' ', ref, title, customer, address, town, stage, kind)) FROM job
			ON CONFLICT DO NOTHING`, nil},
		{`UPDATE company SET jobs = (SELECT count(*) FROM job WHERE company_id = company.id)`, nil},
		{`VACUUM ANALYZE job, job_find`, nil},
	} {
		_, err := Raw(t, st).Exec(context.Background(), sql.do, sql.args...)
		require.NoError(t, err)
	}
}
