package main

import (
	"bytes"
	"context"
	"image"
	"image/jpeg"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/picture"
	"arvelt/store"
	"arvelt/store/storetest"
)

const phrase = "a lantern in the reeds"

// firm is a database with a company that has a job with a picture, as the command line reaches it.
func firm(t *testing.T) (env map[string]string, hash string) {
	url := storetest.URL(t)
	env = map[string]string{"DATABASE_URL": url, "ARVELT_OWNER_URL": storetest.Owner(t, url), "ARVELT_SECRET": "a secret of the tests, thirty-two",
		"ARVELT_PASSPHRASE": phrase}
	status, _, errs := call("long enough secret", env, "user", "o@firm.example", "Ove", "owner", "--company", "Firm")
	require.Zero(t, status, errs)
	ctx := context.Background()
	st := storetest.Open(t, url)
	company, err := st.CompanyByName(ctx, "Firm")
	require.NoError(t, err)
	sc := st.For(company)
	who, err := sc.Owner(ctx)
	require.NoError(t, err)
	l, err := sc.Create(ctx, who, "make-the-job", install.Job{Format: install.Format, Ref: "../A/1 b", Title: "Job", Kind: install.EVCharger,
		Practice: "iec230", Rules: install.Rules{Edition: "2018+A2:2022"}, Site: install.Site{Customer: "C", Address: "A"},
		Supply: install.Supply{DeclaredV: 230}, Board: install.Board{Name: "A"}, Schools: install.Schools{}})
	require.NoError(t, err)
	l, err = sc.Change(ctx, who, l.ID, "walk-the-room", func(l *store.Loaded) error { return l.Walk("kitchen 2d", "", false, 0) })
	require.NoError(t, err)
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, image.NewGray(image.Rect(0, 0, 32, 32)), nil))
	p, err := picture.Clean(ctx, &raw)
	require.NoError(t, err)
	_, err = sc.AddPhoto(ctx, who, l.ID, "keep-the-picture", l.Job.Rooms[0].ID, "", p, install.Sent{})
	require.NoError(t, err)
	return env, p.Hash
}

func TestBackupAndRestoreByTheCommandLine(t *testing.T) {
	env, _ := firm(t)
	path := filepath.Join(t.TempDir(), "arvelt.backup")
	status, out, errs := call("", env, "backup", path)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "companies 1, people 1, jobs 1, records 1, pictures 1")
	assert.Regexp(t, `SHA-256 [0-9a-f]{64}`, out)
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())

	status, _, errs = call("", env, "backup", path)
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "is there already")
	status, out, errs = call("", env, "restore", "--check", path)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "is whole")
	status, _, errs = call("", env, "restore", path)
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "the database is not empty (companies: 1): nothing was restored")

	bare := storetest.Bare(t)
	other := map[string]string{"DATABASE_URL": bare, "ARVELT_OWNER_URL": storetest.Owner(t, bare)}
	status, _, errs = call("not it, but long enough\n", other, "restore", path)
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "the passphrase is not that of this backup")
	status, out, errs = call(phrase+"\n", other, "restore", path)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "Everybody signs in again")
	status, out, errs = call("", other, "sessions", "o@firm.example")
	require.Zero(t, status, errs)
	assert.Empty(t, out)
	for _, words := range [][]string{{"backup"}, {"restore"}, {"restore", "/nowhere/x"}, {"backup", filepath.Join(path, "below")}} {
		status, _, errs = call("", env, words...)
		assert.Equal(t, 2, status, "%v: %s", words, errs)
	}
	delete(env, "ARVELT_OWNER_URL")
	status, _, errs = call("", env, "backup", path+"2")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "ARVELT_OWNER_URL is not set")
	assert.NoFileExists(t, path+"2.part")
}

// Everything of a company leaves as open files, named so that no reference leads out of the folder, and comes in elsewhere with its
// pictures; a file without them says what it lacks.
func TestAllOfACompanyLeavesWithItsPictures(t *testing.T) {
	env, hash := firm(t)
	folder := t.TempDir()
	status, out, errs := call("", env, "export", "--all", folder)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "jobs 1, pictures 1")
	const name = "%2E.%2FA%2F1 b"
	file := filepath.Join(folder, name, name+".json")
	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.Contains(t, string(raw), `"picturesLeftOut": [
    "`+hash+`"`)
	kept := filepath.Join(folder, name, "photos", hash+".jpg")
	jpg, err := os.ReadFile(kept)
	require.NoError(t, err)
	_, err = jpeg.Decode(bytes.NewReader(jpg))
	require.NoError(t, err)

	// Taken in beside its pictures, it has them.
	to := map[string]string{"DATABASE_URL": storetest.URL(t)}
	status, _, errs = call("long enough secret", to, "user", "n@else.example", "Nia", "owner", "--company", "Else")
	require.Zero(t, status, errs)
	missing := func(ref string) int {
		st := storetest.Open(t, to["DATABASE_URL"])
		id, err := st.CompanyByName(t.Context(), "Else")
		require.NoError(t, err)
		sc := st.For(id)
		who, err := sc.Owner(t.Context())
		require.NoError(t, err)
		job, err := sc.JobID(t.Context(), ref)
		require.NoError(t, err)
		l, err := sc.Job(t.Context(), who, job)
		require.NoError(t, err)
		if n := l.View().Imported.PicturesMissing; n > 0 {
			return n
		}
		there, err := sc.Photo(t.Context(), job, hash)
		require.NoError(t, err)
		assert.Equal(t, jpg, there)
		return 0
	}
	status, out, errs = call("", to, "import", file, "--as", "WITH")
	require.Zero(t, status, errs)
	assert.NotContains(t, out, "are not in")
	assert.Zero(t, missing("WITH"))
	// Another picture under its name is none of it.
	require.NoError(t, os.WriteFile(kept, jpg[:len(jpg)-2], 0o600))
	status, _, errs = call("", to, "import", file, "--as", "CUT")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "nothing was imported")
	assert.Contains(t, errs, "changed or cut short")
	require.NoError(t, os.Remove(kept))
	status, out, errs = call("", to, "import", file, "--as", "WITHOUT")
	require.Zero(t, status, errs)
	assert.Contains(t, out, "1 of its 1 pictures are not in")
	assert.Equal(t, 1, missing("WITHOUT"))
}
