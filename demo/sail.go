package demo

import (
	"slices"

	"arvelt/core/install"
)

// sail is a service of the split-phase practice with a standby generator behind its
// transfer switch, from the design to the signature.
func (b *builder) sail() error {
	job := harbourHouse()
	job.Ref, job.Title = "PW-2057", "Service of 200 A and a standby generator"
	job.Site = install.Site{Customer: "Odo Brackwell", Phone: "000 6631", Address: "27 Sailcloth Lane",
		Town: "Harrow Sound", Premises: "owner-occupied", Access: "Side gate, code with the office",
		Extent: "The service from the drop to Panel A, the standby generator and its transfer switch, the charge point and the " +
			"outlets of the boat bay and the galley",
		Limits: "Branch circuits that stay were moved over and not opened behind the walls",
		Others: "Gas line to the generator by the gas fitter"}
	job.Supply.Number, job.Supply.MeterSerial, job.Supply.Registered = "4410 882 903", "KM 55 120 377", "27 Sailcloth Lane"
	galley := &job.Circuits[2]
	galley.Serves.Boxes[0].Feed = "line"
	panel := job.Chain.Enclosure("panel")
	transfer := install.Enclosure{ID: "transfer", Kind: "transfer", Name: "Transfer switch", From: "outside",
		Owner: install.OwnerCustomer, Disconnect: no(), SwitchesN: no(), RatingA: measured(200),
		TorqueNm: fact(31, install.Enquiry, ""), TorqueSheet: "Ambrel TS-200 sheet 2", New: true, Mounted: install.OnMasonry, Feed: panel.Feed}
	panel.From = transfer.ID
	panel.Feed.LengthM = measured(1.4)
	job.Chain.Enclosures = slices.Insert(job.Chain.Enclosures, 3, transfer)
	job.Standby = install.Standby{Source: "generator", Automatic: true, SourceVA: 14000, SenseS: 3, CrankS: 5, WarmS: 12,
		SwitchS: 1, ReturnS: 300, CoolS: 300, Carries: []install.Carry{
			{Name: "Bilge pumps", RunVA: 1500, StartVA: 4200, LegA: true, LegB: true},
			{Name: "Cold store", RunVA: 900, StartVA: 2600, LegA: true}, {Name: "Lights", RunVA: 600, LegB: true},
			{Name: "Water heater", RunVA: 4500, Shed: true, LegA: true, LegB: true},
			{Name: "Charge point", RunVA: 11520, Shed: true, LegA: true, LegB: true}}}
	job.Outage.Day, job.Outage.BookedOn = inDays(-12), inDays(-12)
	readyForTheCut(&job)
	id, err := b.create("tobias", 34, job)
	if err != nil {
		return err
	}
	return first(
		func() error {
			return b.record(id, "tobias", 33, 9, install.Record{Kind: install.Scope, Person: "Odo Brackwell"})
		},
		func() error { return b.deliver(id, "dot", 26, true) },
		func() error { return b.tick(id, "jana", 20, 8, install.FirstFix) },
		func() error { return b.isolate(id, "jana", 12, 7.5, true) },
		func() error { return b.tick(id, "jana", 12, 8, install.SecondFix) },
		func() error { return b.read(id, "jana", 12, 13, false, sailReadings) },
		func() error { return b.tick(id, "jana", 12, 16.7, install.SecondFix) },
		func() error { return b.permit(id, "jana", 12, 17, install.ForTest) },
		func() error { return b.read(id, "jana", 12, 17.2, true, sailReadings) },
		func() error { return b.tick(id, "jana", 12, 19, install.SecondFix) },
		func() error { return b.permit(id, "jana", 12, 19.5, install.IntoUse) },
		func() error { return b.tick(id, "jana", 11, 10, install.Handover) },
		func() error {
			return b.record(id, "tobias", 10, 16, install.Record{Kind: install.Signature, Note: "Checked against the readings and the utility's letter."})
		},
	)
}

// readyForTheCut settles what the list before a planned outage asks beside the work and its parts.
func readyForTheCut(job *install.Job) {
	o := &job.Outage
	job.Supply.Meter = install.MeterSet{On: inDays(-11), Serial: "KM 55 120 902", Out: "48 203", Reading: "0", Seal: "TV 9918"}
	o.Inspector.Who, o.Inspector.On = "Aldous Finn, town office", o.Day
	o.LightReady, o.DarkReady, o.NoTemporary, o.NoTails, o.Crew = yes(), yes(), true, true, 3
	job.Outdoor.Electrodes.Marks = install.Marks{Located: "FB-20914", LocatedTo: inDays(-5), DugBy: "our crew", Liable: "our crew"}
}

// sailReadings are the figures that were read, by test.
var sailReadings = map[string]float64{"torque": 274, "volts-ll": 241, "volts-an": 120.4, "volts-bn": 120.6, "load-an": 119.8, "load-bn": 121, "ng-volts": 0.8,
	"ground-continuity": 0.06}
