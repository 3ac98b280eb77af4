package survey_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/core/install"
	"arvelt/core/rulebook"
	"arvelt/core/rulebook/iec230"
	"arvelt/core/rulebook/split120"
	"arvelt/core/survey"
	"arvelt/core/working"
)

// Worked by hand: a joist 175 mm deep over 3.6 m (BS rule: a quarter of the depth, 0.25 to 0.4 of the span; an eighth, 0.07 to 0.25), and one
// 235 mm deep (IRC: a third of the depth with 51 mm to each edge; a sixth outside the middle third. NBC: a quarter and 50 mm).
func TestWhatIsCutOutOfTimber(t *testing.T) {
	ca := install.Job{Practice: split120.CanadaID}
	for name, x := range map[string]struct {
		job  install.Job
		cut  install.TimberCut
		want working.Verdict
	}{
		"hole in its zone":           {install.Job{}, install.TimberCut{SizeMM: 43, DepthMM: 175, SpanMM: 3600, FromMM: 900}, working.Pass},
		"a millimetre too large":     {install.Job{}, install.TimberCut{SizeMM: 44, DepthMM: 175, SpanMM: 3600, FromMM: 900}, working.Fail},
		"too near the support":       {install.Job{}, install.TimberCut{SizeMM: 20, DepthMM: 175, SpanMM: 3600, FromMM: 899}, working.Fail},
		"in the middle":              {install.Job{}, install.TimberCut{SizeMM: 20, DepthMM: 175, SpanMM: 3600, FromMM: 1500}, working.Fail},
		"notch":                      {install.Job{}, install.TimberCut{Notch: true, SizeMM: 21, DepthMM: 175, SpanMM: 3600, FromMM: 252}, working.Pass},
		"notch too deep":             {install.Job{}, install.TimberCut{Notch: true, SizeMM: 22, DepthMM: 175, SpanMM: 3600, FromMM: 252}, working.Fail},
		"not measured":               {install.Job{}, install.TimberCut{SizeMM: 20}, working.Unknown},
		"an I-joist without a chart": {install.Job{}, install.TimberCut{SizeMM: 20, Made: true}, working.Unknown},
		"an I-joist with one":        {install.Job{}, install.TimberCut{SizeMM: 20, Made: true, Allowed: "chart 4 of the maker"}, working.Pass},
		"a third": {install.Job{Practice: "split120"}, install.TimberCut{SizeMM: 78, DepthMM: 235, SpanMM: 3600, FromMM: 1800},
			working.Pass},
		"more than a third": {install.Job{Practice: "split120"}, install.TimberCut{SizeMM: 79, DepthMM: 235, SpanMM: 3600, FromMM: 1800},
			working.Fail},
		"shallow, edges": {install.Job{Practice: "split120"}, install.TimberCut{SizeMM: 40, DepthMM: 140, SpanMM: 3600, FromMM: 900}, working.Fail},
		"notch in the middle third": {install.Job{Practice: "split120"}, install.TimberCut{Notch: true, SizeMM: 20, DepthMM: 235, SpanMM: 3600,
			FromMM: 1300}, working.Fail},
		"Canada, a third":   {ca, install.TimberCut{SizeMM: 78, DepthMM: 235, SpanMM: 3600, FromMM: 1800}, working.Fail},
		"Canada, a quarter": {ca, install.TimberCut{SizeMM: 58, DepthMM: 235, SpanMM: 3600, FromMM: 1800}, working.Pass},
	} {
		book := rulebook.Complete(iec230.Practice{})
		if x.job.Practice != "" {
			book = rulebook.Complete(split120.Practice{})
		}
		x.cut.Place = "joists"
		got := survey.TimberOf(&x.job, book, &x.cut)
		assert.Equal(t, x.want, got.Verdict, "%s: %v", name, got.Remarks)
	}
}
