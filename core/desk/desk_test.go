package desk

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/survey"
	"arvelt/core/working"
)

var good = rulebook.Number{Number: "4544173026556", Verdict: working.Pass}

func TestALetterIsHeldBackUntilItsFactsAreThere(t *testing.T) {
	for _, k := range Kinds() {
		empty := Write(k, &install.Job{}, &rulebook.Report{},
			rulebook.Number{Verdict: working.Fail, Number: "99", Summary: "a digit is wrong"}, Seen{}, "")
		require.NotEmpty(t, empty.Missing, k.ID)
		assert.Contains(t, empty.Missing[0], "a digit is wrong", "a number that fails its check is not sent")
		for _, f := range empty.Facts {
			assert.True(t, f.Missing, "%s: %s is not invented", k.ID, f.Name)
		}
	}
}

func TestALetterSaysWhatTheOperatorAsks(t *testing.T) {
	fuse := 60.0
	job := &install.Job{Site: install.Site{Customer: "Ms Roe", Address: "3 Weir Lane", Town: "Ash", Access: "ring", Phone: "1"},
		Supply:   install.Supply{MainFuseA: install.Fact{Value: &fuse, Basis: install.Assumed}},
		Loads:    install.Loads{Items: []install.Load{{}}},
		Circuits: []install.Circuit{{ID: "c1", Name: "Kiln"}, {ID: "c2", Name: "Shed light", From: "c1"}},
		Outage:   install.Outage{Day: "2026-06-10"},
		Chain: install.Chain{Enclosures: []install.Enclosure{{ID: "h", Name: "Head", Owner: install.OwnerOperator,
			SealNo: "77", Condition: "scorched"}, {ID: "b", Name: "Board", From: "h", Owner: install.OwnerCustomer, Condition: "dusty"}}}}
	report := &rulebook.Report{Demand: rulebook.Demand{BeforeA: 40, AfterA: 72, FuseA: 60},
		Circuits: []rulebook.CircuitReport{{ID: "c1", Summary: rulebook.Summary{DesignA: 32.04}}}}
	var seen Seen
	said := func(kind string) map[string]string {
		k, ok := KindOf(kind)
		require.True(t, ok)
		l := Write(k, job, report, good, seen, "note")
		assert.Empty(t, l.Missing, kind)
		out := map[string]string{}
		for _, f := range l.Facts {
			out[f.Name] = f.Value
		}
		return out
	}
	apply := said("apply-load")
	assert.Equal(t, "40 A before, 72 A after, on a supply of 60 A", apply["Maximum demand"])
	assert.Equal(t, "Kiln, 32 A", apply["New loads"], "what is computed, and what another circuit feeds only once")
	k, _ := KindOf("apply-load")
	assert.Contains(t, Write(k, job, &rulebook.Report{Demand: report.Demand}, good, Seen{}, "").Missing,
		"the new circuits (Circuits sheet)", "a load that is not computed is not sent as 0 A")
	assert.Equal(t, "60\u00a0A (assumed)", said("isolator")["Main fuse"])
	damage := said("damage")
	assert.Equal(t, "Head (seal 77)", damage["Equipment"])
	assert.Equal(t, "Head: scorched", damage["What was seen"], "the customer's own board is not the operator's")
	seen.Damage = []survey.Finding{{Title: "Damage", Seen: "lid cracked", Class: "C1", At: "2026-06-01", By: "Remy", Where: "cut-out",
		Photos: []string{"a", "b"}}}
	damage = said("damage")
	assert.Equal(t, "Head (seal 77), cut-out", damage["Equipment"])
	assert.Contains(t, damage["What was seen"], "Damage: lid cracked (class C1, 2026-06-01, seen by Remy); photos that go with it: 2")
	assert.Equal(t, "2026-06-10", said("fuse-removal")["Wanted day"])
}
