package handover

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
)

// Whatever bytes arrive, reading ends with a job or an error; a job that was
// read is written and read again to the same job.
func FuzzRead(f *testing.F) {
	job := install.Job{Format: install.Format, Ref: "J", Title: "T", Records: []install.Record{{ID: "r", Kind: install.Tick}}}
	job.Tidy()
	var good bytes.Buffer
	require.NoError(f, Write(&good, &job))
	f.Add(good.Bytes())
	f.Add(good.Bytes()[:good.Len()/2])
	f.Add([]byte(`{"format":"arvelt-job/1"}`))
	f.Add([]byte(`[1e999]`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		read, err := Read(bytes.NewReader(raw))
		if err != nil {
			assert.Nil(t, read)
			return
		}
		var once, twice bytes.Buffer
		require.NoError(t, Write(&once, read))
		again, err := Read(bytes.NewReader(once.Bytes()))
		require.NoError(t, err)
		require.NoError(t, Write(&twice, again))
		assert.Equal(t, once.String(), twice.String())
	})
}
