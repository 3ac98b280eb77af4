package store

import (
	"maps"
	"slices"
	"sync"

	"arvelt/core/install"
	"arvelt/core/materials"
)

// jobCache keeps the last state of jobs that were loaded or saved here, each
// under the version it had, and the price lists of companies likewise. The
// database is asked for the version on every load and sends the rest only when
// another instance has moved it on, so nothing stale is ever used.
type jobCache struct {
	mu     sync.Mutex
	jobs   map[string]*cachedJob
	prices map[string]cachedPrices
}

type cachedJob struct {
	version   int
	company   string // whose job it is
	job       install.Job
	versions  map[string]int
	stale     map[string]*StaleError
	revisions []string
}

type cachedPrices struct {
	version int
	prices  map[string]materials.Item
	company Company
}

// jobsMost bounds the jobs that are kept; beyond it all are forgotten.
const jobsMost = 500

func newJobCache() *jobCache {
	return &jobCache{jobs: map[string]*cachedJob{}, prices: map[string]cachedPrices{}}
}

// job returns what is kept of a job, nil when nothing is. A nil cache keeps nothing.
func (c *jobCache) job(id string) *cachedJob {
	if c == nil {
		return nil
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.jobs[id]
}

func (c *jobCache) company(id string) (cachedPrices, bool) {
	if c == nil {
		return cachedPrices{}, false
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	p, ok := c.prices[id]
	return p, ok
}

// both returns what is kept of a job and of its company's list.
func (c *jobCache) both(id, company string) (job *cachedJob, list cachedPrices, ok bool) {
	if job = c.job(id); job == nil || job.company != company {
		return nil, list, false
	}
	list, ok = c.company(company)
	return job, list, ok
}

func (c *jobCache) keepCompany(id string, p cachedPrices) {
	if c == nil {
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	c.prices[id] = p
}

// keep keeps a job as it is committed under its version.
func (c *jobCache) keep(l *Loaded) {
	if c == nil {
		return
	}
	k := &cachedJob{version: l.Version, company: l.company, job: copied(&l.Job), versions: maps.Clone(l.Versions),
		stale: maps.Clone(l.stale), revisions: slices.Clone(l.Revisions)}
	c.mu.Lock()
	defer c.mu.Unlock()
	if old := c.jobs[l.ID]; old != nil && old.version >= k.version {
		return
	}
	if len(c.jobs) >= jobsMost {
		clear(c.jobs)
	}
	c.jobs[l.ID] = k
}

// into fills a load from what is kept.
func (k *cachedJob) into(l *Loaded) {
	l.Job, l.Versions, l.stale, l.Revisions = copied(&k.job), maps.Clone(k.versions), maps.Clone(k.stale), slices.Clone(k.revisions)
}

// copied copies a job as far as a change of it reaches: its lists and maps. A
// part inside a list is replaced whole and never changed in place.
func copied(j *install.Job) install.Job {
	c := *j
	c.Circuits, c.Rooms, c.Records, c.Seals = slices.Clone(j.Circuits), slices.Clone(j.Rooms), slices.Clone(j.Records),
		slices.Clone(j.Seals)
	c.Materials.Lines, c.Plan.Tasks = maps.Clone(j.Materials.Lines), maps.Clone(j.Plan.Tasks)
	return c
}
