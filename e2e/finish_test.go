package e2e

import "testing"

// The finish of a room and the lamps of its lights are said on the walk, on a phone, and are what the office orders; a price that the list
// does not have is asked for.
func TestFinishAndLampsReachTheOrder(t *testing.T) {
	s := start(t)
	p := s.person("Jana Okell")
	p.Size(390, 844)
	p.open("PW-2044", "survey")
	p.leaf("walk")
	p.Click(`[data-room="bathroom"] button`)
	p.Press("Table")
	p.choose("finish", "brass")
	p.Press("Lamps")
	p.choose("points[0].lamp.cap", "GU10")
	p.fill("points[0].lamp.colourK", "1200")
	p.See("1800")
	p.fill("points[0].lamp.colourK", "3000")
	p.fill("points[0].lamp.powerW", "5")
	p.Saved()
	p.Sideways()

	office := s.person("Dot Farley")
	office.open("PW-2044", "materials")
	office.See("Shaver point, brass")
	office.See("Lamp GU10, 3000 K, 5 W")
	office.See("Earth tail from the box to a metal plate")
	office.choose("finish", "steel")
	office.Saved()
	office.See("Double socket-outlet, brushed steel")
	office.See("Shaver point, brass")
	office.See("have no price")
}
