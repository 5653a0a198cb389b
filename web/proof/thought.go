package proof

import (
	"fmt"
	"slices"
	"strings"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/proof"
	"kolvan/core/rig"
	"kolvan/web/room"
)

// thoughtView is the change somebody thinks of, and what it would bring to each use.
type thoughtView struct {
	Changes                 []room.Option
	Card, Processor, Pixels string
	Fault                   string
	Rows                    []comingRow
}

// thought is one change of the rig that may be thought of.
type thought struct {
	room.Option
	make    func(*rig.Rig)
	machine string // whose processor it is
}

// mostThoughts bounds what the list of changes offers of one kind.
const mostThoughts = 24

// thoughtsOf are the changes a rig can be thought to have: another slot, the link held to a
// generation, another cable of the same ends, another card.
func thoughtsOf(r *rig.Rig, planned int, bins *assess.Bins) (list []thought) {
	add := func(value, label string, change func(*rig.Rig)) {
		list = append(list, thought{Option: room.Option{Value: value, Label: label}, make: change})
	}
	for i := range r.Host.Slots {
		if slot := r.Host.Slots[i].Name; slot != r.Route.Slot && i < mostThoughts {
			add("slot "+slot, "in slot "+slot, func(then *rig.Rig) { then.Route.Slot = slot })
		}
	}
	for gen := planned - 1; gen >= 1; gen-- {
		add(fmt.Sprint("gen ", gen), fmt.Sprintf("link held to Gen %d", gen), func(then *rig.Rig) { then.Route.ForcedGen = rig.Of(gen) })
	}
	for i := range r.Route.Stages {
		for _, other := range cablesLike(&r.Route.Stages[i], bins) {
			add(fmt.Sprintf("cable %d %s", i, other.Name), other.Name+" for "+r.Route.Stages[i].Name, func(then *rig.Rig) {
				then.Route.Stages = slices.Clone(then.Route.Stages)
				then.Route.Stages[i] = *other
			})
		}
	}
	for i := range r.Runs {
		if machine := r.Runs[i].Machine; rig.Is(r.Runs[i].Side, "elsewhere") &&
			!slices.ContainsFunc(list, func(t thought) bool { return t.machine == machine }) {
			add("machine "+machine, "the processor of "+machine, func(*rig.Rig) {})
			list[len(list)-1].machine = machine
		}
	}
	for i := range bins.Cards[:min(len(bins.Cards), mostThoughts)] {
		if card := &bins.Cards[i]; card.Name != r.Card.Name {
			add("card "+card.Name, "the card "+card.Name, func(then *rig.Rig) { then.Card = *card })
		}
	}
	return list
}

// cablesLike are the cables with the ends of this one; none for what is no cable.
func cablesLike(s *rig.Stage, bins *assess.Bins) (list []*rig.Stage) {
	for i := range bins.Stages {
		other := &bins.Stages[i]
		if rig.Is(s.Kind, rig.Cable) && other.Kind == s.Kind && other.Name != s.Name && other.Plug.Form == s.Plug.Form &&
			other.Socket.Form == s.Socket.Form &&
			len(list) < mostThoughts {
			list = append(list, other)
		}
	}
	return list
}

// thoughtOf forecasts the change that the address tells, from the runs where they explain
// the use; what is not accepted is said and stays as it was typed.
func thoughtOf(d *room.Desk, l proof.Link) (*thoughtView, error) {
	r := d.Rig
	if len(r.Brief.Works) == 0 || l.Net.High <= 0 {
		return nil, nil
	}
	v := &thoughtView{Card: d.Form("faster_card"), Processor: d.Form("faster_processor"), Pixels: d.Form("more_pixels")}
	then, says, machine := *r, []string{}, ""
	for _, one := range thoughtsOf(r, d.Report.Link.GenEnds.High, d.Bins) {
		if one.Value == d.Form("change") {
			one.On = true
			one.make(&then)
			machine = one.machine
			says = append(says, one.Label)
		}
		v.Changes = append(v.Changes, one.Option)
	}
	ratios, typed, ok := v.typed()
	if !ok || !v.fromRuns(r, &then, l, machine, &ratios, &typed) {
		return v, nil
	}
	if says = append(says, typed...); len(says) > 0 {
		v.Rows = comingOf(r, &then, l, link.For(&then, d.Ref).NetEnds, ratios, strings.Join(says, ", "))
	}
	return v, nil
}

// typed reads the ratios that were typed, and says them; false where one is not accepted.
func (v *thoughtView) typed() (ratios proof.Ratios, says []string, ok bool) {
	ratios = proof.Same
	for _, typed := range []struct {
		text, what string
		into       *[2]float64
	}{{v.Card, "card", &ratios.Card}, {v.Processor, "processor", &ratios.Processor}, {v.Pixels, "pixels", &ratios.Pixels}} {
		text := strings.TrimSpace(typed.text)
		if text == "" {
			continue
		}
		var err error
		if *typed.into, err = proof.RatioOf(text); err != nil {
			v.Fault = finding.Begin(typed.what) + ": " + err.Error() + "."
			return ratios, nil, false
		}
		says = append(says, typed.what+" × "+text)
	}
	return ratios, says, true
}

// fromRuns finds the ratios that nobody typed from runs of the card, or in the machine, that
// is thought of; false where none tells.
func (v *thoughtView) fromRuns(r, then *rig.Rig, l proof.Link, machine string, ratios *proof.Ratios, says *[]string) (told bool) {
	if then.Card.Name != r.Card.Name && v.Card == "" {
		if ratios.Card, told = proof.CardRatio(r, l, then.Card.Name); !told {
			v.Fault = "Card: tell how many times as fast as " + r.Card.Name +
				" it is, from tests of both: a ratio like 1.5, or a range like 1.3,1.7. Runs of it in this host would tell too."
			return false
		}
		*says = append(*says, ratioWords(ratios.Card)+", by runs in this host")
	}
	if machine != "" && v.Processor == "" {
		if ratios.Processor, told = proof.ProcessorRatio(r, l, machine); !told {
			v.Fault = "Processor: tell how many times as fast it is: a ratio like 1.5, or a range like 1.3,1.7. Runs there, made as those here and " +
				"with what the link carried, would tell too."
			return false
		}
		*says = append(*says, ratioWords(ratios.Processor)+", by runs there")
	}
	return true
}

func ratioWords(r [2]float64) string { return fmt.Sprintf("%.2g to %.2g times as fast", r[0], r[1]) }
