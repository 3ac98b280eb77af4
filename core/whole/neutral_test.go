package whole

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/proving"
	"arvelt/core/working"
)

// energised works one of the houses of the trials to where it is energised for a test.
func energised(t *testing.T, h *trial) *site {
	t.Helper()
	s := &site{T: t, j: h.job(), now: day}
	s.must(isolates(h))
	for _, id := range h.steps() {
		s.must(install.Record{Kind: install.Tick, Subject: id, Done: true})
	}
	for i := range h.rows {
		s.must(answered(&h.rows[i]))
	}
	s.putBack()
	s.must(s.closing(install.ForTest, "main", "own:c2"))
	return s
}

// isolates opens all that feeds a house of the trials.
func isolates(h *trial) install.Record {
	iso := isolation()
	iso.Opens = []install.Opened{{Device: "main", Kept: install.ByLock}, {Device: "own:c2", Kept: install.ByLock}}
	iso.Proofs = nil
	for _, place := range []string{"board:", "circuit:c1", "circuit:c2"} {
		p, v := install.Proof{At: place, Cables: 2}, 0.4
		for _, pair := range h.pairs {
			p.Read = append(p.Read, install.Pair{Pair: pair, V: &v})
		}
		iso.Proofs = append(iso.Proofs, p)
	}
	return iso
}

// A reading that says that the neutral of the supply may be open stops every other live test and every disconnecting of earth or neutral, ends what
// is permitted and holds every use, until the operator was told and the supervisor orders the retest; or what was loose is put right dead.
func TestASuspectedOpenNeutralStopsWhatComesAfter(t *testing.T) {
	for n, reads := range [][2]install.Record{ // well, then not
		{reading("voltage", 231), reading("voltage", 188)},
		{reading("volts-an", 121), reading("volts-an", 139)},
	} {
		h := trials[n]
		t.Run(h.job().Practice, func(t *testing.T) {
			tests := func(s *site) proving.Sheet { return Of(s.j, nil, vik, s.now).Tests }
			s := energised(t, h)
			well, bad := reads[0], reads[1]
			well.Circuit, bad.Circuit = "", ""
			s.must(well)
			require.Nil(t, tests(s).Suspect)
			require.Equal(t, proving.PartTest, s.part("main").State)
			s.must(bad)
			sheet := tests(s)
			require.NotNil(t, sheet.Suspect)
			failed := s.j.Records[len(s.j.Records)-1].ID
			assert.False(t, sheet.Suspect.Reported)
			closed := 0
			for i := range sheet.Rows {
				if r := &sheet.Rows[i]; r.Live && slices.Contains([]string{"voltage", "voltage-ne", "volts-ll", "volts-an", "volts-bn"}, r.ID) {
					assert.Empty(t, r.Closed, "%s tells it from a wrong reading", r.ID)
				} else if r.Live {
					closed++
					assert.Contains(t, r.Closed, "An open neutral is suspected", r.ID)
				} else if len(r.Parting) > 0 {
					closed++
					assert.Contains(t, r.Closed, "bonding or neutral is disconnected", r.ID)
				}
			}
			assert.Greater(t, closed, 4)
			s.refused(answer("functional", true), "An open neutral is suspected")
			s.must(isolates(h))
			require.NotNil(t, tests(s).Suspect, "also with the main open")
			for _, use := range install.PermitUses {
				assert.True(t, strings.Contains(strings.Join(s.waitsFor("main", use), "\n"), "an open neutral is suspected"), use)
			}
			order := install.Record{Kind: install.RetestOrder, By: "Sup", Role: proving.Supervisor, Subject: failed, Path: install.OrderRetest,
				Note: "the operator remade its joint"}
			s.refused(order, "report it to the ")
			ours := *s.j // the other way: it was our own joint
			own := &site{T: t, j: &ours, now: s.now, n: s.n}
			own.must(install.Record{Kind: install.LooseEnd, Note: "neutral loose in the main switch"})
			require.NotNil(t, tests(own).Suspect, "noted, and not put right")
			own.must(install.Record{Kind: install.LooseEnd, Subject: ours.Records[len(ours.Records)-1].ID, Done: true, Note: "remade, torqued"})
			assert.Nil(t, tests(own).Suspect)
			assert.NotContains(t, strings.Join(own.waits("main"), "\n"), "neutral is suspected")
			s.must(install.Record{Kind: install.Operator, Path: "reported", Reference: "R-7", Person: "Ms Lund", Called: "2026-05-04T10:30"})
			require.True(t, tests(s).Suspect.Reported)
			s.must(order)
			assert.Nil(t, tests(s).Suspect, "the retest is ordered")
			for _, why := range s.waitsFor("main", install.ForTest) {
				assert.NotContains(t, why, "neutral")
			}
			again := s.closing(install.ForTest, "main", "own:c2")
			s.must(again)
			s.must(well)
			row := tests(s).Rows
			for i := range row {
				if row[i].ID == bad.Subject {
					assert.Equal(t, working.Pass, row[i].Verdict, row[i].Summary)
				}
			}
		})
	}
}
