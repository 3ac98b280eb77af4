package api_test

import (
	"context"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/api"
	"arvelt/core/handover"
	"arvelt/demo"
	"arvelt/store"
	"arvelt/store/storetest"
)

// signed opens the signed job of the demo again and signs it anew, in the name of the company.
func (w *world) signed() api.JobView {
	c := w.as("tobias")
	id := c.made(c.job("PW-2029").Id, put{"kind": "reopen"}).Id
	a := c.do("POST", "/api/jobs/"+id+"/sign", put{"password": demo.Password, "note": "again"})
	require.Equal(w, 200, a.status, a.text)
	return c.job("PW-2029")
}

// Who signs says their password again; the seal is the company's, whose public key anybody reads, and says so on the
// sheet; without a secret, or with another, nothing is sealed.
func TestASignatureIsSealedInTheNameOfTheCompany(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	id := c.made(c.job("PW-2029").Id, put{"kind": "reopen"}).Id
	c.held(id, put{"kind": "signature"}, 409, "not recorded by itself")
	a := c.do("POST", "/api/jobs/"+id+"/sign", put{"password": "copper-and-verdigri"})
	assert.Equal(t, 422, a.status)
	assert.NotContains(t, a.text, "verdigri")
	w.st.UseSecret("")
	a = c.do("POST", "/api/jobs/"+id+"/sign", put{"password": demo.Password})
	assert.Equal(t, 409, a.status)
	assert.Contains(t, a.problem(t).Title, "ARVELT_SECRET_FILE")
	w.st.UseSecret(secret)
	a = c.do("POST", "/api/jobs/"+id+"/sign", put{"password": demo.Password, "note": "again"})
	require.Equal(t, 200, a.status, a.text)
	v := c.job("PW-2029")
	require.NotNil(t, v.View.Sealed)
	assert.Equal(t, handover.Unchanged, v.View.Sealed.Outcome, v.View.Sealed.Says)
	seal := v.View.Job.Seals[len(v.View.Job.Seals)-1]
	assert.Equal(t, []string{"Pellmore Wiring", v.View.Sealed.Key}, []string{seal.Company, seal.Key})
	records := v.View.Job.Records
	assert.Contains(t, records[len(records)-1].Under, "authorised by Ines Pellmore")

	// The key is public, and by it a file is known as the company's.
	company, err := w.st.PersonByEmail(context.Background(), "tobias@pellmore.example")
	require.NoError(t, err)
	page := w.stranger().do("GET", "/key/"+company.CompanyID, nil)
	require.Equal(t, 200, page.status)
	assert.Contains(t, page.text, seal.Key)
	assert.Contains(t, page.text, v.View.Sealed.Print)
	assert.Equal(t, 404, w.stranger().do("GET", "/key/"+strings.Repeat("0", 8)+"-0000-4000-8000-000000000000", nil).status)
	assert.Equal(t, 404, w.stranger().do("GET", "/key/nobody", nil).status)
	file := c.do("GET", "/api/jobs/"+v.Id+"/file", nil).text
	job, err := handover.Read(strings.NewReader(file))
	require.NoError(t, err)
	key, err := handover.PublicKey(seal.Key)
	require.NoError(t, err)
	outcome, says := handover.Verify(job, key)
	assert.Equal(t, handover.Unchanged, outcome, says)

	// The private half is not in the database in the clear, and another secret opens it for nobody.
	w.st.UseSecret("another secret, which is not that one")
	_, err = w.st.For(company.CompanyID).Signer(context.Background())
	var wrong *store.WrongSecretError
	require.ErrorAs(t, err, &wrong)
	assert.NotRegexp(t, regexp.MustCompile(`"(secret|sealed_key|private)"`), file)
}

// What came as a file says so, its people are names and nobody of ours, and what they isolated today isolates nothing.
func TestWhatIsImportedIsNobodysHere(t *testing.T) {
	w := serve(t)
	jana := w.as("jana")
	id := jana.job("PW-2040").Id
	jana.made(id, jana.isolates(id))
	require.NotNil(t, jana.job("PW-2040").View.Tests.Isolation)
	file := jana.do("GET", "/api/jobs/"+id+"/file", nil).text
	dot := w.as("dot")
	a := dot.do("POST", "/api/jobs/import?as=Q-1", file)
	require.Equal(t, 201, a.status, a.text)
	// A forger writes her name, with and without her id.
	job, err := handover.Read(strings.NewReader(file))
	require.NoError(t, err)
	for i := range job.Records {
		job.Records[i].PersonID = ""
	}
	var forged strings.Builder
	require.NoError(t, handover.Write(&forged, job))
	a = dot.do("POST", "/api/jobs/import?as=Q-2", forged.String())
	require.Equal(t, 201, a.status, a.text)
	for _, ref := range []string{"Q-1", "Q-2"} {
		v := jana.job(ref)
		require.NotNil(t, v.View.Imported, ref)
		assert.Equal(t, []any{"Dot Farley", len(job.Records)}, []any{v.View.Imported.By, v.View.Imported.Records})
		assert.Nil(t, v.View.Tests.Isolation, "hers of the file is not hers")
		for _, row := range v.View.Tests.Rows {
			if !row.Live {
				assert.NotEmpty(t, row.Closed, row.ID)
			}
		}
		jana.made(v.Id, jana.isolates(v.Id))
		assert.NotNil(t, jana.job(ref).View.Tests.Isolation, "her own is")
	}
	assert.Nil(t, jana.job("PW-2040").View.Imported)

	// A signed file of another company is whole, and by nobody who is known here.
	other := serve(t)
	_, err = storetest.Raw(t, other.st).Exec(context.Background(), `DELETE FROM company_key`) // it makes one of its own
	require.NoError(t, err)
	signed := other.signed()
	file = other.as("tobias").do("GET", "/api/jobs/"+signed.Id+"/file", nil).text
	_, err = storetest.Raw(t, w.st).Exec(context.Background(), `UPDATE job SET ref = 'moved' WHERE ref = 'PW-2029'`)
	require.NoError(t, err)
	a = dot.do("POST", "/api/jobs/import", file)
	require.Equal(t, 201, a.status, a.text)
	var v api.JobView
	a.into(t, &v)
	require.NotNil(t, v.View.Imported)
	assert.Equal(t, handover.Unknown, v.View.Sealed.Outcome)
	assert.Contains(t, v.View.Sealed.Says, "compare that with the company's own word")
	job, err = handover.Read(strings.NewReader(file))
	require.NoError(t, err)
	job.Seals[0].By = "Mallory Forger"
	forged.Reset()
	require.NoError(t, handover.Write(&forged, job))
	a = dot.do("POST", "/api/jobs/import?as=Z-1", forged.String())
	assert.Equal(t, 400, a.status)
	assert.Contains(t, a.problem(t).Title, "Mallory Forger")
}

// Whatever reads JSON refuses what two readers would read otherwise.
func TestKeysTwiceAreRefusedEverywhere(t *testing.T) {
	w := serve(t)
	c := w.as("tobias")
	v := c.job("PW-2037")
	for path, body := range map[string]string{
		"POST /api/jobs":                                             `{"ref":"A","ref":"B","title":"t","kind":"rewire"}`,
		"POST /api/jobs/" + v.Id + "/records":                        `{"kind":"loose-end","note":"a","NOTE":"b"}`,
		"POST /api/session":                                          `{"email":"a@b","Email":"c@d","password":"x"}`,
		"PUT /api/jobs/" + v.Id + "/parts?part=plan&base=" + "1":     `{"startDate":"","startDate":"2031-01-01","tasks":{}}`,
		"PUT /api/jobs/" + v.Id + "/parts?part=plan&base=" + "1&x=1": `{"StartDate":"","tasks":{}}`,
		"POST /api/jobs/import":                                      `{"format":"x","format":"y"}`,
		"POST /api/bench/iec230/voltage-drop":                        `{"current_a":20,"current_a":1}`,
	} {
		method, at, _ := strings.Cut(path, " ")
		a := c.do(method, at, body)
		if at == "/api/bench/iec230/voltage-drop" && a.status == 404 {
			continue // the calculators have their own address, tested by their package
		}
		assert.Contains(t, []int{http.StatusBadRequest, http.StatusUnprocessableEntity}, a.status, "%s: %s", path, a.text)
		assert.Regexp(t, "twice|is not accepted; give", a.text, path)
	}
}

// The secret is read from a file that is for its owner alone.
func TestTheSecretIsForItsOwnerAlone(t *testing.T) {
	path := filepath.Join(t.TempDir(), "secret")
	env := map[string]string{}
	getenv := func(name string) string { return env[name] }
	read := func() (string, error) { return store.Secret(getenv) }
	text, err := read()
	require.NoError(t, err)
	assert.Empty(t, text)
	env["ARVELT_SECRET_FILE"] = path
	_, err = read()
	require.Error(t, err)
	const good = "thirty-two signs that nobody knows"
	require.NoError(t, os.WriteFile(path, []byte(good+"\n"), 0o600))
	text, err = read()
	require.NoError(t, err)
	assert.Equal(t, good, text)
	require.NoError(t, os.Chmod(path, 0o640))
	_, err = read()
	assert.ErrorContains(t, err, "mode 600")
	env["ARVELT_SECRET"] = "short"
	_, err = read()
	require.ErrorContains(t, err, "at least 32")
	assert.NotContains(t, err.Error(), "short")
}
