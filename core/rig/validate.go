package rig

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// maxItems bounds every list of the format that has no bound of its own, so that no file can
// make the checks that look through lists slow.
const maxItems = 64

// maxText bounds every text, in characters.
const maxText = 500

// What a rig may have in all, so that every file the format takes is judged in
// little time and memory. A real rig never comes near.
const (
	maxLeadEnds = 256
	maxSockets  = 512 // inlets and outlets
)

// Validate checks bounds, names and references. The error joins a *FieldError
// for every fault.
func Validate(r *Rig) error {
	c := &checker{}
	Walk(r, c.node)
	c.totals(r)
	if len(c.faults) == 0 {
		c.names(r)
	}
	if len(c.faults) == 0 {
		c.references(r)
	}
	return c.err()
}

// Holds reports that the format holds as many supplies, leads and ends of leads as
// the rig has: a change that is tried on a copy may bring more.
func (r *Rig) Holds() bool {
	ends := 0
	for i := range r.Leads {
		ends += len(r.Leads[i].From) + len(r.Leads[i].To)
	}
	return len(r.Supplies) <= maxItems && len(r.Leads) <= maxItems && ends <= maxLeadEnds
}

// totals bounds what lists of lists come to.
func (c *checker) totals(r *Rig) {
	ends, sockets := 0, len(r.Host.Inlets)+len(r.Host.Outlets)
	for i := range r.Leads {
		ends += len(r.Leads[i].From) + len(r.Leads[i].To)
	}
	for i := range r.Supplies {
		sockets += len(r.Supplies[i].Outlets) + len(r.Supplies[i].Inlets)
	}
	for i := range r.Route.Stages {
		sockets += len(r.Route.Stages[i].Outlets) + len(r.Route.Stages[i].Inlets)
	}
	if ends > maxLeadEnds {
		c.fault("/leads", fmt.Sprintf("leads with %d ends", ends), fmt.Sprintf("at most %d ends of leads in all", maxLeadEnds))
	}
	if sockets > maxSockets {
		c.fault(
			"/supplies", fmt.Sprintf("%d inlets and outlets", sockets),
			fmt.Sprintf("at most %d inlets and outlets of supplies and stages in all", maxSockets),
		)
	}
}

// ValidatePart checks the bounds of one part.
func ValidatePart(v any) error {
	c := &checker{}
	Walk(v, c.node)
	return c.err()
}

// mostFaults are named one by one; nobody reads more.
const mostFaults = 40

type checker struct {
	faults []error
	more   int
}

func (c *checker) fault(path, value, accepts string) {
	if len(c.faults) == mostFaults {
		c.more++
		return
	}
	c.faults = append(c.faults, &FieldError{Path: path, Value: value, Accepts: accepts})
}

func (c *checker) err() error {
	if c.more > 0 {
		c.faults = append(c.faults, fmt.Errorf("and %d faults more", c.more))
	}
	return errors.Join(c.faults...)
}

func (c *checker) node(n Node) {
	if n.Value.Kind() == reflect.Slice && n.Value.Len() > n.Spec.Most {
		c.fault(n.Path(), fmt.Sprintf("a list of %d", n.Value.Len()), fmt.Sprintf("at most %d entries", n.Spec.Most))
	}
	if n.List {
		return
	}
	if !n.Known() {
		if n.Spec.Needed {
			c.fault(n.Path(), `""`, "a text that is not empty")
		}
		return
	}
	c.factParts(n)
	c.value(n)
}

var sourceSpec = Spec{Kind: Choice, Choices: Source("").Words().All()}

// factParts checks what stands beside a fact's value.
func (c *checker) factParts(n Node) {
	source, remark := n.Origin()
	if source != "" {
		c.word(n, "/source", string(source), &sourceSpec)
	}
	if n.fact != nil && n.fact.typed() != "" {
		c.word(n, "/as", n.fact.typed(), &Spec{})
	}
	if remark != "" {
		c.word(n, "/remark", remark, &Spec{})
	}
	t, told := n.Tolerance()
	if !told && t == 0 {
		return
	}
	numeric := n.Spec.Kind == Number || n.Spec.Kind == Whole
	if !numeric || t < 0 || t > maxNumber || math.IsNaN(t) {
		c.fault(n.Path()+"/tolerance", fmt.Sprint(t), "a tolerance of 0 or more, for a number only")
	}
}

func (c *checker) value(n Node) {
	switch n.Spec.Kind {
	case Whole, Number:
		v, number := n.told(), 0.0
		if v.CanInt() {
			number = float64(v.Int())
		} else {
			number = v.Float()
		}
		if !n.Spec.Holds(number) {
			c.fault(n.Path(), strconv.FormatFloat(number, 'g', -1, 64), n.Spec.Accepts())
		}
	case Choice, Text:
		c.word(n, "", n.told().String(), n.Spec)
	case ChoiceList, TextList:
		c.list(n)
	}
}

func (c *checker) list(n Node) {
	v := n.told()
	if v.Len() > maxItems {
		c.fault(n.Path(), fmt.Sprintf("a list of %d", v.Len()), fmt.Sprintf("at most %d entries", maxItems))
		return
	}
	for i := range v.Len() {
		c.word(n, "/"+strconv.Itoa(i), v.Index(i).String(), n.Spec)
	}
}

// word checks a text of the node, or what stands below it.
func (c *checker) word(n Node, below, word string, spec *Spec) {
	if spec.Choices != nil && !slices.Contains(spec.Choices, word) {
		c.fault(n.Path()+below, quote(word), spec.Accepts())
	}
	if utf8.RuneCountInString(word) > maxText {
		c.fault(n.Path()+below, quote(word), fmt.Sprintf("a text of at most %d characters", maxText))
	}
	if err := printable(word, below == "/remark"); err != nil {
		c.fault(n.Path()+below, quote(word), err.Error())
	}
}

// printable refuses what is no text or would act on a terminal that shows it; a
// remark may have several lines.
func printable(word string, lines bool) error {
	if !utf8.ValidString(word) {
		return errors.New("a text in UTF-8")
	}
	for _, r := range word {
		if (unicode.IsControl(r) || turnsText(r)) && (!lines || r != '\n' && r != '\t') {
			return errors.New("a text without control characters")
		}
	}
	return nil
}

// turnsText reports the marks that make text run the other way, behind which
// what stands there can be hidden.
func turnsText(r rune) bool {
	return r >= 0x202A && r <= 0x202E || r >= 0x2066 && r <= 0x2069
}

// unique reports names that stand twice; places give each name's pointer.
func (c *checker) unique(places []place) {
	seen := map[string]string{}
	for _, p := range places {
		if first, twice := seen[p.name]; twice {
			c.fault(p.path, quote(p.name), "a name that is not used yet; "+first+" has it")
			continue
		}
		seen[p.name] = p.path
	}
}

type place struct{ name, path string }

func placesOf[T any](list []T, path string, name func(*T) string) []place {
	places := make([]place, len(list))
	for i := range list {
		places[i] = place{name(&list[i]), path + "/" + strconv.Itoa(i) + "/name"}
	}
	return places
}

func outletName(o *Outlet) string { return o.Name }
func stageName(s *Stage) string   { return s.Name }

func (c *checker) names(r *Rig) {
	c.unique(placesOf(r.Host.Slots, "/host/slots", func(s *Slot) string { return s.Name }))
	c.unique(occupantPlaces(r))
	c.unique(powerPlaces(r))
	c.unique(placesOf(r.Card.Plugs, "/card/plugs", func(p *CardPlug) string { return p.Name }))
	c.unique(placesOf(r.Chamber.Things, "/chamber/things", func(t *Thing) string { return t.Name }))
	c.unique(placesOf(r.Chamber.Covers, "/chamber/covers", func(v *Cover) string { return v.Name }))
	c.unique(placesOf(r.Chamber.Fans, "/chamber/fans", func(f *Fan) string { return f.Name }))
	c.unique(placesOf(r.Host.Inlets, "/host/inlets", func(i *Inlet) string { return i.Name }))
	c.unique(placesOf(r.Host.Outlets, "/host/outlets", outletName))
	for i := range r.Supplies {
		at := fmt.Sprintf("/supplies/%d", i)
		c.unique(placesOf(r.Supplies[i].Outlets, at+"/outlets", outletName))
		c.unique(placesOf(r.Supplies[i].Rails, at+"/rails", func(r *Rail) string { return r.Name }))
	}
	for i := range r.Route.Stages {
		at := fmt.Sprintf("/route/stages/%d", i)
		c.unique(placesOf(r.Route.Stages[i].Outlets, at+"/outlets", outletName))
		c.unique(placesOf(r.Route.Stages[i].Inlets, at+"/inlets", func(i *Inlet) string { return i.Name }))
	}
}

func occupantPlaces(r *Rig) []place {
	return append(placesOf(r.Host.Drives, "/host/drives", func(d *Drive) string { return d.Name }),
		placesOf(r.Host.Networks, "/host/networks", func(n *Network) string { return n.Name })...)
}

// powerPlaces are the names a lead's end may carry: they share one name space.
func powerPlaces(r *Rig) []place {
	places := []place{{CardPart, "/card"}, {HostPart, "/host"}}
	places = append(places, placesOf(r.Supplies, "/supplies", func(s *Supply) string { return s.Name })...)
	places = append(places, placesOf(r.Route.Stages, "/route/stages", stageName)...)
	return append(places, placesOf(r.Leads, "/leads", func(l *Lead) string { return l.Name })...)
}

func has(places []place, name string) bool {
	return slices.ContainsFunc(places, func(p place) bool { return p.name == name })
}

func listed(places []place) string {
	names := make([]string, len(places))
	for i, p := range places {
		names[i] = quote(p.name)
	}
	if len(names) == 0 {
		return "nothing yet: none is listed"
	}
	return "one of " + strings.Join(names, ", ")
}

// refer reports a reference to a name that is not there; empty ones are open.
func (c *checker) refer(path, name string, to []place) {
	if name != "" && !has(to, name) {
		c.fault(path, quote(name), listed(to))
	}
}

func (c *checker) references(r *Rig) {
	slots := placesOf(r.Host.Slots, "", func(s *Slot) string { return s.Name })
	occupants := occupantPlaces(r)
	for i := range r.Route.Stages {
		c.refer(
			fmt.Sprintf("/route/stages/%d/supply", i), r.Route.Stages[i].Supply,
			placesOf(r.Supplies, "", func(s *Supply) string { return s.Name }),
		)
	}
	drives := placesOf(r.Host.Drives, "", func(d *Drive) string { return d.Name })
	for i := range r.Brief.Works {
		c.refer(fmt.Sprintf("/brief/works/%d/on", i), r.Brief.Works[i].On, drives)
	}
	c.refer("/host/supply", r.Host.Supply, placesOf(r.Supplies, "", func(s *Supply) string { return s.Name }))
	c.refer("/route/slot", r.Route.Slot, slots)
	for i, slot := range r.Host.Slots {
		if slot.Occupant.Known && slot.Occupant.Value != NoOccupant {
			c.refer(fmt.Sprintf("/host/slots/%d/occupant", i), slot.Occupant.Value, occupants)
		}
	}
	for i, d := range r.Route.Displaced {
		c.refer(fmt.Sprintf("/route/displaced/%d/occupant", i), d.Occupant, occupants)
		c.refer(fmt.Sprintf("/route/displaced/%d/slot", i), d.Slot, slots)
	}
	covers := placesOf(r.Chamber.Covers, "", func(v *Cover) string { return v.Name })
	for i, name := range r.Brief.CoversOff {
		c.refer(fmt.Sprintf("/brief/covers_off/%d", i), name, covers)
	}
	c.outletRails(r)
	for i := range r.Leads {
		c.lead(r, i)
	}
	if len(c.faults) == 0 {
		c.loops(r)
	}
}

func (c *checker) outletRails(r *Rig) {
	for i, s := range r.Supplies {
		rails := placesOf(s.Rails, "", func(r *Rail) string { return r.Name })
		for j, o := range s.Outlets {
			c.refer(fmt.Sprintf("/supplies/%d/outlets/%d/rail", i, j), o.Rail, rails)
		}
	}
}

func (c *checker) lead(r *Rig, i int) {
	sources := append(placesOf(r.Supplies, "", func(s *Supply) string { return s.Name }), placesOf(r.Route.Stages, "", stageName)...)
	sources = append(sources, placesOf(r.Leads, "", func(l *Lead) string { return l.Name })...)
	sources = append(sources, place{HostPart, ""})
	loads := append([]place{{CardPart, ""}, {HostPart, ""}}, placesOf(r.Route.Stages, "", stageName)...)
	loads = append(loads, placesOf(converters(r), "", func(s *Supply) string { return s.Name })...)
	for j, end := range r.Leads[i].From {
		at := fmt.Sprintf("/leads/%d/from/%d", i, j)
		c.refer(at+"/part", end.Part, sources)
		if has(sources, end.Part) {
			c.refer(at+"/at", end.At, outletsOf(r, end.Part))
		}
	}
	for j, end := range r.Leads[i].To {
		at := fmt.Sprintf("/leads/%d/to/%d", i, j)
		c.refer(at+"/part", end.Part, loads)
		if has(loads, end.Part) && (end.Part != HostPart || r.Host.Inlets != nil) {
			c.refer(at+"/at", end.At, inletsOf(r, end.Part))
		}
	}
	for j, w := range r.Leads[i].Wires {
		at := fmt.Sprintf("/leads/%d/wires/%d", i, j)
		if w.FromEnd > len(r.Leads[i].From) {
			c.fault(
				at+"/from_end", strconv.Itoa(w.FromEnd),
				fmt.Sprintf("a source end of the lead, from 1; it has %d", len(r.Leads[i].From)),
			)
		}
		if w.ToEnd > len(r.Leads[i].To) {
			c.fault(at+"/to_end", strconv.Itoa(w.ToEnd), fmt.Sprintf("a load end of the lead, from 1; it has %d", len(r.Leads[i].To)))
		}
	}
}

func outletsOf(r *Rig, part string) []place {
	if part == HostPart {
		return placesOf(r.Host.Outlets, "", outletName)
	}
	if s := r.Supply(part); s != nil {
		return placesOf(s.Outlets, "", outletName)
	}
	if s := r.Stage(part); s != nil {
		return placesOf(s.Outlets, "", outletName)
	}
	var free []place
	if l := r.Lead(part); l != nil {
		for _, end := range l.To {
			if end.Part == "" {
				free = append(free, place{end.At, ""})
			}
		}
	}
	return free
}

func inletsOf(r *Rig, part string) []place {
	if part == CardPart {
		return placesOf(r.Card.Plugs, "", func(p *CardPlug) string { return p.Name })
	}
	if part == HostPart {
		return placesOf(r.Host.Inlets, "", func(i *Inlet) string { return i.Name })
	}
	if s := r.Stage(part); s != nil {
		return placesOf(s.Inlets, "", func(i *Inlet) string { return i.Name })
	}
	if s := r.Supply(part); s != nil {
		return placesOf(s.Inlets, "", func(i *Inlet) string { return i.Name })
	}
	return nil
}

// loops refuses leads and docks that end up feeding themselves.
func (c *checker) loops(r *Rig) {
	state := make([]visit, len(r.Leads))
	for i := range r.Leads {
		if feedsItself(r, i, state) {
			c.fault(fmt.Sprintf("/leads/%d/from", i), quote(r.Leads[i].Name), "a lead that does not come back to itself")
			return
		}
	}
}

// visit is how far the search upstream has come with a lead.
type visit byte

const (
	unseen visit = iota
	open
	done
)

func feedsItself(r *Rig, i int, state []visit) bool {
	if state[i] != unseen {
		return state[i] == open
	}
	state[i] = open
	for _, end := range r.Leads[i].From {
		for j := range r.Leads {
			up := &r.Leads[j]
			feeds := up.Name == end.Part ||
				(end.Part == HostPart || r.Stage(end.Part) != nil || r.Supply(end.Part) != nil) && up.EndsAt(end.Part)
			if feeds && feedsItself(r, j, state) {
				return true
			}
		}
	}
	state[i] = done
	return false
}

// EndsAt reports a lead with a load end at that part.
func (l *Lead) EndsAt(part string) bool {
	return slices.ContainsFunc(l.To, func(e LeadEnd) bool { return e.Part == part })
}
