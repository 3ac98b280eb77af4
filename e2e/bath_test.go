package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// The points of a bathroom are measured from the bath on a phone: what is not measured is
// named, what stands too near or is not protected against water fails, and the working
// opens from there. Another country's distance is a local choice with its reason.
func TestABathroomIsMeasuredFromTheBath(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.open("PW-2044", "survey")
	p.leaf("walk")
	p.Click(`[data-room="bathroom"] button`)
	p.Press("Table")
	p.Press("Where it goes")
	p.Has(`[data-bath="bath"] [data-check^="bath-"][data-verdict="unknown"]`)
	p.See("how far it is from the edge of the bath or tray: towel rail")

	for row, x := range map[string][3]string{"3": {"300", "900", "IPX4"}, "4": {"500", "1800", "IPX4"}} { // towel rail, mirror light
		p.fill("points["+row+"].bathMM", x[0])
		p.fill("points["+row+"].heightMM", x[1])
		p.fill("points["+row+"].ip", x[2])
	}
	p.Saved()
	p.Has(`[data-check^="bath-"][data-verdict="pass"]`)
	p.Has(`[data-check^="bath-bond-"][data-verdict="unknown"]`) // no circuit is known yet that serves the room
	p.fill("points[4].ip", "IP20")
	p.Saved()
	p.Has(`[data-check^="bath-"][data-verdict="fail"]`)
	p.See("Mirror light in zone 2 is IP20 and needs IPX4")
	p.Click(`[data-check^="bath-"][data-verdict="fail"]`)
	p.Has(`[data-drawer^="bath-"]`)
	p.See("zone by distance and height")
	p.Press("×", "[data-drawer]")
	p.fill("points[4].ip", "splash")
	p.See("a code as IPX4 or IP44")
	p.fill("points[4].ip", "IPX4")
	p.choose("bath.fitted", "open shower")
	p.Saved()
	p.Has(`[data-bath="open shower"]`)
	assert.LessOrEqual(t, p.Sideways(), 0)
}
