package main

import (
	"encoding/json"
	"os"

	"arvelt/core/install"
	"arvelt/core/plan"
	"arvelt/core/proving"
	"arvelt/core/whole"
	"arvelt/core/working"
)

// sampleTarget is what the tests of the interface start from.
const sampleTarget = "../web/src/testing/sample.json"

// sample writes an empty one of each thing that the tests of the interface fill in: a field that is
// added to the model is there at once.
func sample() error {
	job := install.Job{Format: install.Format, Ref: "T-1", Title: "Test", Kind: install.EVCharger, Practice: whole.PracticeIDs[0],
		Rules: install.Rules{Edition: "2022"}, Site: install.Site{Customer: "C", Address: "A"},
		Supply: install.Supply{Earthing: install.TNCS, DeclaredV: 230}, Board: install.Board{Name: "A"},
		Materials: install.Materials{WastagePc: 5}}
	of := map[string]any{"job": &job, "room": &install.Room{}, "point": &install.RoomPoint{}, "circuit": &install.Circuit{},
		"record": &install.Record{}, "enclosure": &install.Enclosure{}, "testRow": &proving.Row{}, "task": &plan.Task{},
		"check": &working.Check{}, "view": &whole.View{}}
	for _, v := range of {
		install.Fill(v)
	}
	// What people of each role may do who hold what is usual for it.
	who := map[string]any{}
	for _, role := range install.Roles {
		p := install.Person{Role: role}
		switch role {
		case install.RoleSupervisor:
			p.Holds = install.EveryAuthority
		case install.RoleElectrician:
			p.Holds = install.AuthoritiesOf(install.Isolating, install.Testing, install.Energising, install.Releasing)
		}
		who[role] = map[string]any{"may": p.Kinds(), "holds": p.Holds.List(), "supervises": proving.Supervises(p)}
	}
	of["who"] = who
	raw, err := json.MarshalIndent(of, "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(sampleTarget, append(raw, '\n'), 0o644)
}
