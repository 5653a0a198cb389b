package need

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strings"

	"kolvan/core/rig"
)

// An Item is one part that is still to be had, with all the plan asks of it.
type Item struct {
	Part       string  `json:"part"`
	Kind       string  `json:"kind"`
	Where      string  `json:"where"`
	Conditions []Bound `json:"conditions"`
	Sockets    []Plug  `json:"sockets,omitzero"` // what the plan plugs into it
	Line       string  `json:"line"`             // to read in a shop
}

// A Plug is so many sockets of one kind that the plan uses of a part, and what for.
type Plug struct {
	Count     int    `json:"count"`
	Connector string `json:"connector"`
	For       string `json:"for"`
	Says      string `json:"says"`
}

// shopping lists the parts still to be had. What the plan asks of each is found by moving
// its figures both ways from where they do: where a certain trouble comes in, it begins.
func (s *search) shopping(needs []Need) []Item {
	items := []Item{}
	for _, levers := range s.byPart() {
		at := levers[0].part
		if levers[0].spec.ByOwner || !toBeHad(s.rig, at) {
			continue
		}
		does := s.where(needs, at)
		item := Item{Part: partName(s.rig, levers[0]), Kind: kindOf(s.rig, at), Where: at, Conditions: []Bound{},
			Sockets: socketsOf(does.rig, at)}
		for _, l := range does.levers {
			if l.part == at && !l.socket() {
				item.Conditions = append(item.Conditions, does.conditions(l)...)
			}
		}
		item.Line = item.line()
		items = append(items, item)
	}
	return items
}

// socket reports the kind of a supply's outlet, which its sockets tell.
func (l *lever) socket() bool {
	return rig.Within(l.at, "/supplies") && strings.HasSuffix(l.at, "/connector")
}

// kindOf is what a person asks for: of a stage, which sort.
func kindOf(r *rig.Rig, at string) string {
	if i := rig.EntryAt(at, "/route/stages"); i >= 0 && r.Route.Stages[i].Kind.Known {
		return rig.Spoken(r.Route.Stages[i].Kind.Value)
	}
	return rig.Called(r, at)
}

// toBeHad reports a part that is not here yet: a slot and what moves belong to the host.
func toBeHad(r *rig.Rig, at string) bool {
	if rig.Within(at, "/host") || rig.Within(at, "/route/displaced") {
		return false
	}
	part, _, err := rig.At(r, at)
	if err != nil {
		return false
	}
	field := part.FieldByName("Price")
	if !field.IsValid() {
		return false // a part of a part: it comes with it
	}
	price, priced := field.Interface().(rig.Price)
	return priced && !rig.Is(price.Owned, true)
}

// where is the search of a plan whose part does what its need asks, which is the plan itself
// for a part that nothing speaks against.
func (s *search) where(needs []Need, at string) *search {
	for _, n := range slices.Backward(needs) { // those with a load more stand last
		if n.Where == at {
			return s.of(n.does)
		}
	}
	return s
}

// of is the search of another plan.
func (s *search) of(r *rig.Rig) *search {
	other := *s
	other.rig, other.levers = r, leversOf(r, s.ref)
	other.base = saidOf(s.judge(r))
	return &other
}

// conditions are the ends between which a lever may lie without a certain trouble coming in;
// none where it may be anything.
func (s *search) conditions(l *lever) (list []Bound) {
	if l.words != nil {
		return s.conditionOfWords(l)
	}
	first, last := l.ends()
	below, above := l.beside()
	if at, because, ends := s.until(l, below, -1, first); ends && !l.spec.Sold.Down {
		list = append(list, l.condition(s.rig, at, because, true))
	}
	if at, because, ends := s.until(l, above, 1, last); ends && !l.spec.Sold.Up {
		list = append(list, l.condition(s.rig, at, because, false))
	}
	if len(list) == 2 && list[0].AtLeast == list[1].AtMost {
		only := list[0].AtLeast.(float64)
		b := Bound{At: l.at, Fact: l.spec.Called, OneOf: []any{only}, Unit: l.spec.Unit, Because: list[0].Because,
			Says: l.saysExactly(s.rig, only)}
		return []Bound{b}
	}
	return list
}

func (s *search) conditionOfWords(l *lever) []Bound {
	var does []any
	var because []Trouble
	for i, word := range l.words {
		o := s.try(setting{l, i, word})
		if len(o.comes) == 0 || word == l.isWord {
			does = append(does, l.value(word))
		} else {
			because = append(because, o.comes...)
		}
	}
	if because == nil || does == nil {
		return nil
	}
	return []Bound{{
		At: l.at, Fact: l.spec.Called, OneOf: does, Unit: l.spec.Unit, Because: titles(because), Says: l.saysOneOf(s.rig, does),
	}}
}

// until is the last place on a way at which nothing certain comes in, and what does behind
// it; false where nothing does up to the end.
func (s *search) until(l *lever, from, step, end int) (last int, because string, ends bool) {
	before := from - step
	for _, at := range places(from, step, end, len(l.sizes()) > 0) {
		if s.ctx.Err() != nil {
			return 0, "", false
		}
		if o := s.try(l.to(at)); len(o.comes) > 0 {
			at = nearest(before, at, func(i int) bool { o := s.try(l.to(i)); return len(o.comes) > 0 })
			comes := s.try(l.to(at)).comes
			return at - step, titles(comes), true
		}
		before = at
	}
	return 0, "", false
}

// condition is one end of what a lever may be. Nearer than the grid to what it is, it is what
// it is.
func (l *lever) condition(r *rig.Rig, at int, because string, least bool) Bound {
	below, above := l.beside()
	value := l.now
	if at <= below || at >= above {
		value = l.grid(at)
	}
	b := Bound{At: l.at, Fact: l.spec.Called, Unit: l.spec.Unit, Because: because, Says: l.saysNumber(r, value, value, least)}
	if least {
		b.AtLeast = value
	} else {
		b.AtMost = value
	}
	return b
}

// socketsOf are the outlets of a part that the plan's leads come from.
func socketsOf(r *rig.Rig, at string) (list []Plug) {
	i := rig.EntryAt(at, "/supplies")
	if i < 0 {
		return nil
	}
	for j := range r.Leads {
		for _, end := range r.Leads[j].From {
			kind := connectorOf(&r.Supplies[i], end)
			if kind == "" {
				continue
			}
			list = add(list, kind, loadsOf(&r.Leads[j]))
		}
	}
	for k := range list {
		p := &list[k]
		p.Says = fmt.Sprintf("%d × %s (%s)", p.Count, rig.Connector("").Words().Spoken(p.Connector), p.For)
	}
	return list
}

// connectorOf is the kind of the outlet that a lead's end is in; "" for an end elsewhere.
func connectorOf(s *rig.Supply, end rig.LeadEnd) string {
	if end.Part != s.Name {
		return ""
	}
	for i := range s.Outlets {
		if o := &s.Outlets[i]; o.Name == end.At && o.Connector.Known {
			return string(o.Connector.Value)
		}
	}
	return string(end.Connector.Value)
}

func loadsOf(l *rig.Lead) string {
	var words []string
	for _, end := range l.To {
		if end.Part != "" {
			words = append(words, strings.TrimSpace(end.Part+" "+end.At))
		}
	}
	return strings.Join(words, ", ")
}

func add(list []Plug, kind, load string) []Plug {
	for i := range list {
		if p := &list[i]; p.Connector == kind {
			p.Count++
			p.For = strings.Trim(p.For+"; "+load, "; ")
			return list
		}
	}
	return append(list, Plug{Count: 1, Connector: kind, For: load})
}

// line is an item on one line.
func (i *Item) line() string {
	words := make([]string, 0, 1+len(i.Conditions)+len(i.Sockets))
	for _, c := range i.Conditions {
		words = append(words, c.Says)
	}
	for _, p := range i.Sockets {
		words = append(words, p.Says)
	}
	if len(words) == 0 {
		return i.Kind + ": any; nothing of it decides"
	}
	return i.Kind + ": " + strings.Join(words, "; ")
}

// WriteCSV writes the shopping list, a condition a row.
func (l *List) WriteCSV(w io.Writer) error {
	rows := [][]string{{"part", "kind", "fact", "condition", "because", "at"}}
	for _, item := range l.Shopping {
		for _, b := range item.Conditions {
			rows = append(rows, []string{item.Part, item.Kind, b.Fact, b.Says, b.Because, b.At})
		}
		for _, s := range item.Sockets {
			rows = append(rows, []string{item.Part, item.Kind, "sockets", s.Says, s.For, item.Where})
		}
	}
	return csv.NewWriter(w).WriteAll(rows)
}
