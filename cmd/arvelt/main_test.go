package main

import (
	"bytes"
	"context"
	"encoding/base64"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/store/storetest"
)

// call runs a command as a shell would.
func call(in string, env_ map[string]string, args ...string) (status int, out, errs string) {
	var o, e bytes.Buffer
	status = run(&env{ctx: context.Background(), args: args, in: strings.NewReader(in), out: &o, errs: &e,
		getenv: func(k string) string { return env_[k] }})
	return status, o.String(), e.String()
}

func TestCalcReadsAnObjectAndShowsItsWorking(t *testing.T) {
	status, out, errs := call(`{"phases":1,"table":"ccc_swa_70","size_mm2":6,"ib_a":32,"length_m":30,"limit_pc":5}`, nil,
		"calc", "iec230/voltage-drop")
	require.Zero(t, status, errs)
	var answer struct {
		Result  map[string]any
		Working []struct{ Symbol, Formula string }
	}
	require.NoError(t, json.Unmarshal([]byte(out), &answer))
	assert.InDelta(t, 7.3*32*30/1000, answer.Result["vd_v"], 0.01)
	assert.NotEmpty(t, answer.Working)
}

func TestWrongUseSaysWhatIsAccepted(t *testing.T) {
	for name, row := range map[string]struct {
		in   string
		args []string
		says string
	}{
		"no command":          {"", nil, "arvelt calc"},
		"an unknown command":  {"", []string{"wire"}, `no command "wire"`},
		"an unknown calc":     {"{}", []string{"calc", "iec230/guess"}, `no calculation "iec230/guess"`},
		"an unknown practice": {"{}", []string{"calc", "mars/zs-check"}, "no calculation"},
		"input not JSON":      {"5 m", []string{"calc", "iec230/voltage-drop"}, "JSON object"},
		"an input missing":    {"{}", []string{"calc", "iec230/voltage-drop"}, "is missing"},
		"an input unknown":    {`{"metres":3}`, []string{"calc", "iec230/voltage-drop"}, "metres"},
		"no file":             {"", []string{"check"}, "give one job file"},
		"a file not there":    {"", []string{"verify", "/nowhere/job.json"}, "no such file"},
		"no database":         {"", []string{"export", "J-1"}, "DATABASE_URL is not set"},
	} {
		t.Run(name, func(t *testing.T) {
			status, _, errs := call(row.in, nil, row.args...)
			assert.Equal(t, 2, status)
			assert.Contains(t, errs, row.says)
		})
	}
}

func TestListNamesEveryCalculationWithUnits(t *testing.T) {
	status, out, _ := call("", nil, "calc", "--list")
	require.Zero(t, status)
	for _, name := range []string{"cable-size", "voltage-drop", "zs-check", "zs-temp-verdict", "adiabatic", "pfc",
		"max-demand", "max-length", "ev-pen", "rcd-verdict", "tt-electrode", "rod", "bonding", "insulation", "bend-clip"} {
		assert.Contains(t, out, "iec230/"+name+":")
	}
	assert.Contains(t, out, "in m")
}

func TestCasesCountWhatDiffersAndWhatIsNotBuilt(t *testing.T) {
	path := filepath.Join(t.TempDir(), "cases.json")
	require.NoError(t, os.WriteFile(path, []byte(`[
		{"id":"right","practice":"iec230","calc":"voltage-drop","inputs":{"phases":1,"table":"ccc_swa_70","size_mm2":6,"ib_a":32,
		"length_m":30,"limit_pc":5},"expected":{"vd_v":{"value":7.008,"tol_rel":0.001}}},
		{"id":"wrong","practice":"iec230","calc":"voltage-drop","inputs":{"phases":1,"table":"ccc_swa_70","size_mm2":6,"ib_a":32,
		"length_m":30,"limit_pc":5},"expected":{"vd_v":{"value":9}}},
		{"id":"unbuilt","practice":"iec230","calc":"perpetual-motion","inputs":{},"expected":{}}]`), 0o600))
	status, out, _ := call("", nil, "calc", "--cases", path)
	assert.Equal(t, 1, status)
	lines := strings.Split(strings.TrimSpace(out), "\n")
	assert.Equal(t, "1 passed, 2 failed", lines[len(lines)-1])
	assert.Contains(t, out, "wrong iec230/voltage-drop: vd_v is 7.008, expected 9")
	assert.Contains(t, out, "unbuilt")
}

// A job leaves by export, is checked and verified without a database, and comes
// in elsewhere by import.
func TestAJobLeavesAndComesBack(t *testing.T) {
	from, to := map[string]string{"DATABASE_URL": storetest.URL(t),
		"ARVELT_SECRET": "a secret of the tests, thirty-two"}, map[string]string{"DATABASE_URL": storetest.URL(t)}
	status, out, errs := call("", from, "demo")
	require.Zero(t, status, errs)
	assert.Contains(t, out, "demo company is loaded")
	status, _, errs = call("long enough secret", to, "user", "o@firm.example", "Owner", "owner", "--company", "Firm")
	require.Zero(t, status, errs)

	status, _, errs = call("long enough secret", to, "user", "k@firm.example", "King", "king")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "the role one of")
	for in, says := range map[string][]string{
		"short":              {"at least 12 characters", "user", "k@firm.example", "King", "owner", "--company", "Firm"},
		"long enough secret": {"--company", "user", "k@firm.example", "King", "owner"},
		"firm-firm-firm-99":  {"not made of common words", "user", "k@firm.example", "King", "owner", "--company", "Firm"},
		"another good one":   {"somebody's already", "user", "O@firm.example", "King", "owner", "--company", "Firm"},
		"tin kettle on fire": {"the demo company", "user", "k@firm.example", "King", "owner", "--company", "Pellmore Wiring"},
	} {
		db := to
		if strings.Contains(in, "kettle") {
			db = from
		}
		status, _, errs = call(in, db, says[1:]...)
		assert.Equal(t, 2, status, in)
		assert.Contains(t, errs, says[0])
		assert.NotContains(t, errs, in, "a password is not repeated")
	}
	for _, words := range [][]string{{"role", "O@firm.example", "office"}, {"leave", "o@firm.example"}, {"role", "nobody@firm.example", "office"},
		{"authorise", "o@firm.example", "fly"}, {"authorise", "o@firm.example", "sign", "--until", "2001-01-01"}} {
		status, _, errs = call("", to, words...)
		assert.Equal(t, 2, status, "%v: %s", words, errs)
	}
	for _, words := range [][]string{{"authorise", "o@firm.example", "sign", "--licence", "L-1"}, {"sessions", "o@firm.example", "--end"},
		{"password", "o@firm.example"}} {
		status, _, errs = call("a quite other secret", to, words...)
		assert.Zero(t, status, "%v: %s", words, errs)
	}

	file := func(ref string) string {
		status, out, errs := call("", from, "export", ref)
		require.Zero(t, status, errs)
		path := filepath.Join(t.TempDir(), ref+".json")
		require.NoError(t, os.WriteFile(path, []byte(out), 0o600))
		return path
	}
	signed, failing := file("PW-2029"), file("PW-2046")

	status, out, errs = call("", nil, "check", signed)
	assert.Zero(t, status, errs)
	assert.Contains(t, out, "Voltage drop")
	status, out, errs = call("", nil, "check", failing, "--json")
	assert.Equal(t, 1, status, errs)
	var figures []figure
	require.NoError(t, json.Unmarshal([]byte(out), &figures))
	failed := map[string]bool{}
	for _, f := range figures {
		assert.NotEmpty(t, f.Sources, f.ID)
		if f.Verdict == "fail" {
			failed[f.ID] = true
		}
	}
	assert.Equal(t, map[string]bool{"demand": true, "voltage-drop": true}, failed)

	// What the chain and the works outdoors say is among it: a wrong joint is no exit 0.
	_, out, _ = call("", nil, "check", file("PW-2050"), "--json")
	require.NoError(t, json.Unmarshal([]byte(out), &figures))
	said := map[string]string{}
	for _, f := range figures {
		said[f.ID] = string(f.Verdict)
	}
	assert.Equal(t, "fail", said["joint-panel"], "the joint of Panel A")
	assert.Contains(t, said, "run-cover-yard-2", "the cover below the drive")

	raw, err := os.ReadFile(signed)
	require.NoError(t, err)
	key := regexp.MustCompile(`"key": "([^"]{44})"`).FindSubmatch(raw)
	require.NotNil(t, key, "the seal names the company's key")
	status, out, _ = call("", nil, "verify", signed, "--key", string(key[1]))
	assert.Zero(t, status)
	assert.Contains(t, out, "unchanged: revision A, signed by Tobias Marrick")
	assert.Contains(t, out, "sealed by Pellmore Wiring")
	status, out, _ = call("", nil, "verify", signed)
	assert.Equal(t, 3, status)
	assert.Contains(t, out, "compare that with the company's own word")
	status, out, _ = call("", nil, "verify", signed, "--key", base64.StdEncoding.EncodeToString(make([]byte, 32)))
	assert.Equal(t, 3, status)
	assert.Contains(t, out, "sealed by nobody who is known")
	status, _, errs = call("", nil, "verify", signed, "--key", "nonsense")
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "44 signs of base64")
	tampered := filepath.Join(t.TempDir(), "tampered.json")
	require.NoError(t, os.WriteFile(tampered, bytes.Replace(raw, []byte(`"value": 27`), []byte(`"value": 28`), 1), 0o600))
	status, out, _ = call("", nil, "verify", tampered)
	assert.Equal(t, 1, status)
	assert.Contains(t, out, "changed: ")
	status, _, errs = call("", to, "import", tampered)
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "nothing was imported")

	status, out, errs = call("", to, "import", signed)
	require.Zero(t, status, errs)
	assert.Contains(t, out, "Imported as PW-2029")
	status, out, errs = call("", to, "export", "PW-2029")
	require.Zero(t, status, errs)
	assert.Equal(t, string(raw), out, "a round trip is equal to the byte")
	status, _, errs = call("", to, "import", signed)
	assert.Equal(t, 2, status)
	assert.Contains(t, errs, "another job's already")
	status, _, errs = call("", to, "import", signed, "--as", "COPY")
	assert.Zero(t, status, errs)
}
