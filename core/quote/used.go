package quote

import (
	"arvelt/core/install"
	"arvelt/core/materials"
	"arvelt/core/plan"
	"arvelt/core/unit"
)

// Used is what a job really took beside what it was priced with.
type Used struct {
	Tasks []UsedTask `json:"tasks"`
	Parts []UsedPart `json:"parts"`
	// Hours are those of the plan, Worked those that were noted, person-hours; Noted is how many of the steps that are done have any.
	Hours  float64 `json:"hours"`
	Worked float64 `json:"worked"`
	Done   int     `json:"done"`
	Noted  int     `json:"noted"`
	// Offered are the hours and the parts of the offer that was accepted; nil while none was.
	OfferedHours *float64 `json:"offeredHours"`
	OfferedParts *float64 `json:"offeredParts"`
	// PartsCost is what the parts that came cost, less what went back, by the list's net prices; Counted is of how many products that is known.
	PartsCost float64 `json:"partsCost"`
	Counted   int     `json:"counted"`
}

// UsedTask is a step of the plan with the hours that were worked on it.
type UsedTask struct {
	ID     string  `json:"id"`
	Title  string  `json:"title"`
	Hours  float64 `json:"hours"`  // person-hours of the plan
	Worked float64 `json:"worked"` // 0 where nobody noted any
	Done   bool    `json:"done"`
	Over   bool    `json:"over"` // by more than a quarter
}

// UsedPart is a product of the order list with how much of it stayed in the job.
type UsedPart struct {
	Key       string  `json:"key"`
	Name      string  `json:"name"`
	Unit      string  `json:"unit"`
	Planned   float64 `json:"planned"`
	Delivered float64 `json:"delivered"`
	Returned  float64 `json:"returned"`
	Taken     float64 `json:"taken"` // out of the company's stock
	Left      float64 `json:"left"`  // to it
	Used      float64 `json:"used"`
	// Paid is what the merchant confirmed for one unit; nil where the price is that of the company's list.
	Paid *float64 `json:"paid"`
	More float64  `json:"more"` // than was planned, in money, net; below 0 for less
}

// UsedOf puts what a job took beside what it was planned with.
func UsedOf(job *install.Job, take *materials.TakeOff, tasks []plan.Task) Used {
	out := Used{Tasks: []UsedTask{}, Parts: []UsedPart{}}
	for i := range tasks {
		t := &tasks[i]
		if t.Others != "" {
			continue
		}
		u := UsedTask{ID: t.ID, Title: t.Title, Hours: t.Hours * float64(t.Crew), Worked: t.Worked, Done: t.Done, Over: t.Over}
		out.Hours, out.Worked = out.Hours+u.Hours, out.Worked+u.Worked
		if u.Done {
			out.Done++
			if u.Worked > 0 {
				out.Noted++
			}
		}
		out.Tasks = append(out.Tasks, u)
	}
	for i := range take.Lines {
		l := &take.Lines[i]
		came, back := l.Delivered+l.Taken, l.Returned+l.Left
		if l.Order == 0 && came == 0 {
			continue
		}
		p := UsedPart{Key: l.Key, Name: l.Name, Unit: l.Unit, Planned: l.Order, Delivered: l.Delivered, Returned: l.Returned,
			Taken: l.Taken, Left: l.Left, Paid: l.Paid}
		p.Used = unit.Significant(max(0, came-back), 9)
		if came > 0 && l.Price != nil && l.Order > 0 {
			planned := *l.Price / l.Order
			each := planned
			if l.Paid != nil {
				each = *l.Paid
			}
			p.More = centsOf(p.Used*each - p.Planned*planned).float()
			out.PartsCost += centsOf(p.Used * each).float()
			out.Counted++
		}
		out.Parts = append(out.Parts, p)
	}
	out.PartsCost = centsOf(out.PartsCost).float()
	if offer, answer := job.LastOffer(); answer != nil && answer.Path == install.Accepted && offer.Quoted != nil {
		h, parts := 0.0, cents(0)
		for _, line := range offer.Quoted.Items {
			h += line.Hours
			parts += centsOf(line.Parts)
		}
		cost := parts.float()
		out.OfferedHours, out.OfferedParts = &h, &cost
	}
	return out
}
