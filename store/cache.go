package store

import (
	"maps"
	"slices"

	"github.com/google/uuid"
	"github.com/maypok86/otter/v2"

	"arvelt/core/install"
	"arvelt/core/materials"
)

// jobCache keeps states of jobs that were loaded or saved here and the price lists of companies,
// each under its stamp. The database is asked for the stamp on every load and sends the rest only
// where it is another, so nothing stale is ever used, not even of a database that was restored.
type jobCache struct {
	jobs   *otter.Cache[string, *cachedJob]
	prices *otter.Cache[string, cachedPrices]
}

type cachedJob struct {
	stamp     uuid.UUID
	job       install.Job
	versions  map[string]int
	stale     map[string]*StaleError
	revisions []string
}

type cachedPrices struct {
	stamp   uuid.UUID
	prices  map[string]materials.Item
	company Company
}

// How much is kept of jobs and of companies, in bytes as far as that is known.
const (
	jobsMost   = 128 << 20
	pricesMost = 16 << 20
)

func newJobCache() *jobCache {
	return &jobCache{
		jobs:   otter.Must(&otter.Options[string, *cachedJob]{MaximumWeight: jobsMost, Weigher: weightOf}),
		prices: otter.Must(&otter.Options[string, cachedPrices]{MaximumWeight: pricesMost, Weigher: weightOfPrices})}
}

// weightOf is about how many bytes a job takes: its parts as they were read, decoded beside them,
// and its records.
func weightOf(_ string, k *cachedJob) uint32 {
	n := 4000 + 800*len(k.job.Records)
	for _, s := range k.stale {
		n += 3 * len(s.Body)
	}
	return uint32(n)
}

func weightOfPrices(_ string, p cachedPrices) uint32 { return uint32(1000 + 200*len(p.prices)) }

// job returns what is kept of a job in a state, nil when nothing is. A nil cache keeps nothing.
func (c *jobCache) job(id string, stamp uuid.UUID) *cachedJob {
	if c == nil {
		return nil
	}
	if k, ok := c.jobs.GetIfPresent(id); ok && k.stamp == stamp {
		return k
	}
	return nil
}

func (c *jobCache) company(id string, stamp uuid.UUID) (cachedPrices, bool) {
	if c == nil {
		return cachedPrices{}, false
	}
	p, ok := c.prices.GetIfPresent(id)
	return p, ok && p.stamp == stamp
}

func (c *jobCache) keepCompany(id string, p cachedPrices) {
	if c != nil {
		c.prices.Set(id, p)
	}
}

// keep keeps a job as it is committed under its stamp.
func (c *jobCache) keep(l *Loaded) {
	if c != nil {
		c.jobs.Set(l.ID, &cachedJob{stamp: l.stamp, job: copied(&l.Job), versions: maps.Clone(l.Versions),
			stale: maps.Clone(l.stale), revisions: slices.Clone(l.Revisions)})
	}
}

// into fills a load from what is kept.
func (k *cachedJob) into(l *Loaded) {
	l.Job, l.Versions, l.stale, l.Revisions = copied(&k.job), maps.Clone(k.versions), maps.Clone(k.stale), slices.Clone(k.revisions)
}

// copied copies a job as far as a change of it reaches: its lists and maps. A
// part inside a list is replaced whole and never changed in place.
func copied(j *install.Job) install.Job {
	c := *j
	c.Circuits, c.Rooms, c.Boards, c.Records, c.Seals = slices.Clone(j.Circuits), slices.Clone(j.Rooms), slices.Clone(j.Boards), slices.Clone(j.Records),
		slices.Clone(j.Seals)
	c.Materials.Lines, c.Plan.Tasks = maps.Clone(j.Materials.Lines), maps.Clone(j.Plan.Tasks)
	return c
}
