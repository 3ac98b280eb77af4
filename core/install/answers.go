package install

// CheckKey names a check of a circuit, or of the job where circuit is empty, for the finding that answers it.
func CheckKey(circuit, check string) string { return "check " + circuit + " " + check }

// TestKey names a test in the same way.
func TestKey(circuit, test string) string { return "test " + circuit + " " + test }

// Answered are the keys of the checks and tests that a finding is about. One that was taken back answers nothing.
func (j *Job) Answered() map[string]bool {
	out := map[string]bool{}
	for _, r := range j.Current(Observation) {
		if r.Answers != "" && !r.Done {
			out[r.Answers] = true
		}
	}
	return out
}
