package demo

import (
	"arvelt/core/install"
	"arvelt/core/rulebook/split120"
)

// lantern is a service of the Canadian practice on the drawing board: the load by its own
// rule with the basement counted, two rods, the clauses and the words of Canada.
func (b *builder) lantern() error {
	job := harbourHouse()
	job.Ref, job.Title = "PW-2058", "Service of 200 A and a charger at the lantern keeper's house"
	job.Practice, job.Edition = split120.CanadaID, "2024"
	job.Site = install.Site{Customer: "Maude Ferrier", Phone: "000 6642", Address: "3 Lantern Point", Town: "Outer Tarrow",
		Premises: "owner-occupied", Access: "By the causeway, not two hours around high water"}
	job.Supply.Operator, job.Supply.Number, job.Supply.MeterSerial = "Outer Tarrow Power", "7702 118 404", "KM 55 120 509"
	job.Supply.Registered = "3 Lantern Point"
	job.Loads.BasementM2 = measured(62)
	galley := &job.Circuits[2]
	galley.Serves.Boxes[0].Feed = "line"
	_, err := b.create("tobias", 4, job)
	return err
}
