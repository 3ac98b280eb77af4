package cutting

// dice are numbers by chance that are the same for the same seed, so that the same problem gives the same plan (Vigna, splitmix64).
type dice uint64

func (d *dice) next() uint64 {
	*d += 0x9E3779B97F4A7C15
	z := uint64(*d)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return z ^ z>>31
}

// below is a number from 0 to below n.
func (d *dice) below(n int) int { return int(d.next() % uint64(n)) }

// shuffle puts a list into any order.
func (d *dice) shuffle(list []int) []int {
	for i := len(list) - 1; i > 0; i-- {
		j := d.below(i + 1)
		list[i], list[j] = list[j], list[i]
	}
	return list
}
