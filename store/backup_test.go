package store_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"io"
	"testing"

	"filippo.io/age"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/demo"
	"arvelt/picture"
	"arvelt/store"
	"arvelt/store/storetest"
)

const (
	phrase    = "four grey herons, one pond"
	oldSecret = "the secret of the old server, lost"
	newSecret = "another secret of another server now"
)

// photographed is a picture.
func photographed(t *testing.T) picture.Picture {
	img := image.NewRGBA(image.Rect(0, 0, 40, 30))
	for i := range 1200 {
		img.Set(i%40, i/40, color.RGBA{uint8(i), uint8(i / 3), 90, 255})
	}
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, img, nil))
	p, err := picture.Clean(ctx, &raw)
	require.NoError(t, err)
	return p
}

// demonstrated is a database with the demo company, sealed by the old server.
var demonstrated = storetest.NewTemplate("sealed", func(url string) error {
	st, err := store.Open(ctx, url)
	if err != nil {
		return err
	}
	defer st.Close()
	st.UseSecret(oldSecret)
	_, err = demo.Load(ctx, st)
	return err
})

// lived is a database with the demo company, signed jobs among it, another company and a picture.
func lived(t *testing.T) (url string, st *store.Store, job string, p picture.Picture) {
	url = demonstrated.URL(t)
	st = storetest.Open(t, url)
	f := newFirm(t, st, "other")
	err := st.KeepSession(ctx, "a session", []byte("x"), st.Now().AddDate(0, 0, 1))
	require.NoError(t, err)
	p = photographed(t)
	l, err := f.Change(ctx, f.who, f.job, f.key(), func(l *store.Loaded) error { return l.Walk("kitchen 2d", "", false, 0) })
	require.NoError(t, err)
	_, err = f.AddPhoto(ctx, f.who, f.job, f.key(), l.Job.Rooms[0].ID, "The meter’s; “position”", p, install.Sent{})
	require.NoError(t, err)
	return url, st, f.job, p
}

func backedUp(t *testing.T, url string) (store.Backup, []byte) {
	var file bytes.Buffer
	made, err := store.MakeBackup(ctx, storetest.Owner(t, url), oldSecret, phrase, &file)
	require.NoError(t, err)
	return made, file.Bytes()
}

// dump is all that a backup is to bring back, table by table: what a restore changes on purpose left out.
func dump(t *testing.T, st *store.Store) map[string]string {
	raw := storetest.Raw(t, st)
	out := map[string]string{}
	for table, kept := range store.Tables() {
		if !kept {
			continue
		}
		where := ""
		if table == "happening" {
			where = ` WHERE what <> 'restored a backup'`
		}
		var text string
		require.NoError(t, raw.QueryRow(ctx, `SELECT coalesce(string_agg((to_jsonb(x) - 'version' - 'stamp' - 'sealed')::text, E'\n' ORDER BY
			(to_jsonb(x) - 'version' - 'stamp' - 'sealed')::text), '') FROM `+table+` x`+where).Scan(&text), table)
		out[table] = text
	}
	return out
}

// The drill: a backup is made, the machine is gone with its secret, and a new one brings everything back.
func TestABackupIsRestoredOnANewMachine(t *testing.T) {
	url, st, job, p := lived(t)
	before := dump(t, st)
	demoCompany, err := st.CompanyByName(ctx, demo.Company)
	require.NoError(t, err)
	key, err := st.For(demoCompany).PublicKey(ctx)
	require.NoError(t, err)
	made, file := backedUp(t, url)
	for table, text := range before {
		assert.Equal(t, text == "", made.Tables[table].Rows == 0, table)
	}
	for _, plain := range []string{oldSecret, "Pellmore", "company_id"} {
		assert.NotContains(t, string(file), plain, "nothing of it is in the clear")
	}

	fresh := storetest.Bare(t)
	found, err := store.Restore(ctx, storetest.Owner(t, fresh), fresh, newSecret, phrase, bytes.NewReader(file), false)
	require.NoError(t, err)
	assert.Equal(t, made.Tables, found.Tables)
	assert.Equal(t, 1, found.Resealed, "the demo company has sealed")
	again := storetest.Open(t, fresh) // by the role of the application, made and equipped
	again.UseSecret(newSecret)
	after := dump(t, again)
	for table := range before {
		assert.Equal(t, before[table], after[table], table)
	}
	signer, err := again.For(demoCompany).Signer(ctx)
	require.NoError(t, err, "it signs on, without the old server's secret")
	assert.Equal(t, key, signer.Key.Public())
	f := newFirm(t, again, "new") // numbers of rows go on
	id, err := again.CompanyByName(ctx, "other")
	require.NoError(t, err)
	jpeg, err := again.For(id).Photo(ctx, job, p.Hash)
	require.NoError(t, err)
	assert.Equal(t, p.JPEG, jpeg)
	lines, err := again.For(id).Happenings(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, store.RestoredAll, lines[0].What)
	_, there, err := again.FindSession(ctx, "a session")
	require.NoError(t, err)
	assert.False(t, there, "everybody signs in again")
	_, err = f.site("Next", 1, f.key())
	require.NoError(t, err)
	_, err = storetest.Raw(t, again).Exec(ctx, `UPDATE edit SET what = ''`)
	require.ErrorContains(t, err, "append-only", "what holds the audit is back too")
	as(t, again, f.CompanyID, func(tx pgx.Tx) {
		_, state := attempt(t, tx, `DELETE FROM job_record`)
		assert.Equal(t, "42501", state)
	})
}

// A server that runs while a backup is put back answers with what is there then, and who read what is gone overwrites nothing.
func TestARunningServerNoticesARestore(t *testing.T) {
	url := storetest.URL(t)
	st := storetest.Open(t, url)
	f := newFirm(t, st, "firm")
	_, err := f.site("As backed up", 1, f.key())
	require.NoError(t, err)
	_, file := backedUp(t, url)
	owner := storetest.Owner(t, url)
	_, err = f.site("Lost with the disk", 2, f.key())
	require.NoError(t, err)
	read, versions := f.customer(t) // kept at hand
	require.Equal(t, "Lost with the disk", read)

	_, err = store.Restore(ctx, owner, url, "", phrase, bytes.NewReader(file), false)
	var full *store.FullError
	require.ErrorAs(t, err, &full)
	assert.Equal(t, 1, full.Companies)
	_, err = store.Restore(ctx, owner, url, "", phrase, bytes.NewReader(file), true)
	require.NoError(t, err)
	now, version := f.customer(t)
	assert.Equal(t, "As backed up", now)
	assert.Greater(t, version, versions)
	_, err = f.site("Over it", versions, f.key())
	var stale *store.StaleError
	require.ErrorAs(t, err, &stale)
	_, err = f.site("After", version, f.key())
	require.NoError(t, err)
}

// What is no backup, damaged, cut short, of another passphrase or of a newer Arvelt touches nothing, and says why.
func TestWhatIsNoBackupTouchesNothing(t *testing.T) {
	url, st, _, _ := lived(t)
	_, file := backedUp(t, url)
	before := dump(t, st)
	flipped := bytes.Clone(file)
	flipped[len(file)/2] ^= 1
	var other bytes.Buffer
	to, err := age.NewScryptRecipient(phrase)
	require.NoError(t, err)
	to.SetWorkFactor(10)
	w, err := age.Encrypt(&other, to)
	require.NoError(t, err)
	_, err = io.WriteString(w, "a letter")
	require.NoError(t, err)
	require.NoError(t, w.Close())
	for name, bad := range map[string]struct {
		file   []byte
		phrase string
		says   string
	}{
		"another passphrase": {file, "four grey herons, two ponds", "passphrase is not that of this backup"},
		"a bit of it":        {flipped, phrase, "damaged or cut short"},
		"its end is missing": {file[:len(file)-70_000], phrase, "damaged or cut short"},
		"its last sign":      {file[:len(file)-1], phrase, "damaged or cut short"},
		"another file":       {[]byte("PGDMP and so on"), phrase, "no backup of Arvelt"},
		"of something else":  {other.Bytes(), phrase, "damaged or cut short"},
		"nothing":            {nil, phrase, "no backup of Arvelt"},
	} {
		t.Run(name, func(t *testing.T) {
			var no *store.NoBackupError
			_, err := store.Restore(ctx, storetest.Owner(t, url), url, newSecret, bad.phrase, bytes.NewReader(bad.file), true)
			require.ErrorAs(t, err, &no)
			assert.Contains(t, err.Error(), bad.says)
		})
	}
	assert.Equal(t, before, dump(t, st))
	_, err = store.MakeBackup(ctx, storetest.Owner(t, url), oldSecret, "too short", io.Discard)
	assert.ErrorContains(t, err, "at least 12")
	_, err = store.MakeBackup(ctx, url, oldSecret, phrase, io.Discard)
	assert.ErrorIs(t, err, store.ErrNoOwner, "the application sees no company at all")
}

// Keys whose secret is not known stay as they are, and it is said how many: the company signs again with the old secret.
func TestKeysOfALostSecretAreSaid(t *testing.T) {
	url, _, _, _ := lived(t)
	var file bytes.Buffer
	_, err := store.MakeBackup(ctx, storetest.Owner(t, url), "", phrase, &file)
	require.NoError(t, err)
	fresh := storetest.Bare(t)
	found, err := store.Restore(ctx, storetest.Owner(t, fresh), fresh, newSecret, phrase, bytes.NewReader(file.Bytes()), false)
	require.NoError(t, err)
	assert.Equal(t, [2]int{0, 1}, [2]int{found.Resealed, found.Closed})
	st := storetest.Open(t, fresh)
	id, err := st.CompanyByName(ctx, demo.Company)
	require.NoError(t, err)
	st.UseSecret(newSecret)
	_, err = st.For(id).Signer(ctx)
	var wrong *store.WrongSecretError
	require.ErrorAs(t, err, &wrong)
	st.UseSecret(oldSecret)
	_, err = st.For(id).Signer(ctx)
	require.NoError(t, err)
}
