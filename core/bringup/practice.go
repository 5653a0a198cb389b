package bringup

import (
	"math/rand/v2"
)

// A Practice is a hunt for a hidden fault, drawn by seed and weight. What a test shows is
// played on one evening, without slips.
type Practice struct {
	Finder *Finder
	Fault  *Fault
	dice   throws
}

// Practice hides a fault; false for a rig that can have none.
func (f *Finder) Practice(seed uint64) (*Practice, bool) {
	rng := rand.New(rand.NewPCG(seed, 0x7072))
	total := 0.0
	listed := f.listed()
	for i := range listed {
		total += listed[i].prior
	}
	at := rng.Float64() * total
	for i := range listed {
		if at -= listed[i].prior; at > 0 && i+1 < len(listed) {
			continue
		}
		p := &Practice{Finder: f, Fault: listed[i].faults[0]}
		for p.dice = throwAll(rng, 1); !f.feels([]*Fault{p.Fault}, p.dice); {
			p.dice = throwAll(rng, 1)
		}
		return p, true
	}
	return nil, false
}

// Has reports a test of this rig.
func (p *Practice) Has(test string) bool { return p.Finder.test(test) >= 0 }

// Shows is what a test shows.
func (p *Practice) Shows(test string) string {
	return p.Finder.w.shows(p.Finder.tests[p.Finder.test(test)], []*Fault{p.Fault}, p.dice)
}

// Faults are those that this rig can have.
func (p *Practice) Faults() (list []*Fault) {
	for _, h := range p.Finder.listed() {
		list = append(list, h.faults[0])
	}
	return list
}

// Solve does what the finder would have done, to its end.
func (p *Practice) Solve() (seen []Seen) {
	for {
		s := p.Finder.Search(seen)
		if s.Next == nil {
			return seen
		}
		seen = append(seen, Seen{s.Next.Test, p.Shows(s.Next.Test)})
	}
}
