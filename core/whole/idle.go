package whole

import (
	"reflect"
	"slices"

	"arvelt/core/install"
	"arvelt/core/working"
)

// idleLeaves are the leaves of the Survey and the Supply sheet that a job has nothing for: nothing was entered there, no check of it stands there that does
// not pass, and its kind does not ask for it. They stand behind the others.
func idleLeaves(v *View) []working.Leaf {
	j, about := v.Job, v.About
	empty := func(part any) bool { return reflect.ValueOf(part).IsZero() }
	open := map[working.Leaf]bool{}
	for i := range v.Checks {
		if c := &v.Checks[i]; c.Leaf != "" && c.Verdict != working.Pass && !c.Outside {
			open[c.Leaf] = true
		}
	}
	walked := about.Walk || len(j.Rooms) > 0
	out := []working.Leaf{}
	for _, leaf := range []struct {
		id   working.Leaf
		used bool
	}{
		{working.WalkLeaf, walked},
		{working.SettingOutLeaf, walked},
		{working.ScopeLeaf, walked},
		{working.SurgeLeaf, j.Kind == install.Surge || len(j.Surge.Devices) > 0 || j.Surge.Environment != "" || j.Surge.Consequence != ""},
		{working.StandbyLeaf, j.Standby.Source != "" || len(j.Standby.Carries) > 0 || slices.ContainsFunc(j.Chain.Enclosures, standby)},
		{working.OutdoorLeaf, about.Service || len(j.Outdoor.Runs) > 0 || !empty(j.Outdoor.Electrodes.Marks) || len(j.Outdoor.Electrodes.Rods) > 0},
		{working.OutageLeaf, about.Intake || j.Outage.Day != ""},
	} {
		if !leaf.used && !open[leaf.id] {
			out = append(out, leaf.id)
		}
	}
	return out
}

// standby reports whether an enclosure of the supply arrangement is of a second source.
func standby(e install.Enclosure) bool { return e.IslandedOnly != nil || e.SwitchesN != nil }
