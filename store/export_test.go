package store

// Tables gives the tests the names of all tables with whether they are kept in a backup.
func Tables() map[string]bool {
	out := map[string]bool{}
	for _, t := range tables {
		out[t.name] = t.kept
	}
	return out
}
