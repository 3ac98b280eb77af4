package install

// CheckKey names a check of a circuit, or of the job where circuit is empty, for the finding that answers it.
func CheckKey(circuit, check string) string { return "check " + circuit + " " + check }

// TestKey names a test in the same way.
func TestKey(circuit, test string) string { return "test " + circuit + " " + test }

// Answered reports whether a finding is noted of a check or a test that fails, by its key. One that was taken back answers nothing.
func (j *Job) Answered(key string) bool {
	for _, r := range j.Current(Observation) {
		if r.Answers == key && !r.Done {
			return true
		}
	}
	return false
}
