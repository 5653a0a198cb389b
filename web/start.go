package web

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/core/units"
	"kolvan/web/fields"
	"kolvan/web/phrase"
)

// start leads a rig that is not whole yet to a verdict: one step at a time, each a
// list with the best first, and one press.
type start struct {
	Steps   []startStep
	At      int
	Title   string
	Help    string
	Host    bool // three ways in: from the list, described, or a file
	Kind    string
	Choices []startChoice
	ByHand  string // where the step is done by hand; "" where it is not
	ByStep  string // what is asked where one goes step by step; "" where there is one list
	Sockets []socketSeen
	Hosts   []fields.Choice
	Notches []notchAsked // slots whose key decides which ways there are
	Uses    []useChoice  // what for, asked before the host; it may be passed by
}

type startStep struct {
	Label      string
	Done, Here bool
	Back       string // where a step that is done is done again
}

// startBack is where each step is done again.
var startBack = [...]string{"survey?sel=/host", "route?sel=/card", "route?sel=/ways", "power", "fit?sel=/chamber"}

type startChoice struct {
	Name, About string
	Price, Why  string // what it costs, why it stands first
	Mine        bool
	Post        string // the edit, and what it is sent
	Vals        map[string]any
}

// startSteps are the steps in the order of the work.
var startSteps = []string{"Host", "Card", "Way", "Supply and leads", "Room"}

// mostStart are the choices shown of a step; the search has the rest.
const mostStart = 8

// The steps, by their places.
const (
	hostStep = iota
	cardStep
	wayStep
	feedStep
	roomStep
)

// stepOf is the step a rig waits for; −1 for one that has all it takes for a whole
// verdict, or that is being described by hand.
func stepOf(r *rig.Rig, report *assess.Report) int {
	switch {
	case r.Host.Name == "" && len(r.Host.Slots) == 0:
		return hostStep
	case r.Route.Slot == "" && len(r.Host.Slots) == 0:
		return -1
	case r.Card.Name == "":
		return cardStep
	case r.Route.Slot == "" || endForm(r) != r.Card.EdgeForm():
		return wayStep
	case unfed(report) != nil:
		return feedStep
	case !report.Chamber.Open() && !r.Chamber.Box.X.Known && !r.Chamber.Takes.Length.Known && r.Chamber.Name == "":
		return roomStep
	default:
		return -1
	}
}

// unfed is the first load found without a feed.
func unfed(report *assess.Report) *finding.Finding {
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Rule == power.RuleUnfed && f.Level == finding.Blocked {
			return f
		}
	}
	return nil
}

// starting lays a step out.
func starting(step int, r *rig.Rig, report *assess.Report, list []found) *start {
	s := &start{At: step}
	for i, label := range startSteps {
		s.Steps = append(s.Steps, startStep{label, i < step, i == step, startBack[i]})
	}
	switch step {
	case hostStep:
		s.Title, s.Help, s.Host, s.Kind, s.ByHand = "Which host is it?",
			"Three ways in. What you do not know yet is asked for later, and only where it decides something.", true, "host", "survey?sel=/host"
		s.Choices, s.Sockets, s.Hosts, s.Uses = partChoices(list, "host", nil), socketsSeen, hostKinds(), useChoices(r)
	case cardStep:
		s.Title, s.Help, s.Kind, s.ByHand = "Which card?", "Your own first, then those with the memory your uses need, the cheaper first.",
			"card", "route?sel=/card"
		s.Choices = partChoices(list, "card", byNeed(r))
		for i := range s.Choices {
			if !s.Choices[i].Mine {
				s.Choices[i].Why = fmt.Sprintf("cheapest with %v", neededMemory(r))
				break
			}
		}
	case wayStep:
		s.Title, s.Help, s.Kind, s.ByHand = "Which way onto the bus?",
			"Each is a whole plan: stages, new places, supply and leads. One press takes it.", "stage", "route?sel=/route"
		s.ByStep, s.Choices, s.Notches = "What goes in next?", stageChoices(r, list), notchesAsked(r)
		if r.Route.Slot == "" {
			s.Kind, s.ByStep, s.Choices = "", "Where does the card join?", slotChoices(r)
		}
	case feedStep:
		s.Title, s.Help, s.Kind, s.ByHand = "What feeds it?", unfed(
			report,
		).Says+" Each of these was tried on this rig and brings in nothing that forbids going on.", "supply", "power"
		s.Choices = feedChoices(report)
	case roomStep:
		s.Title, s.Help = "Where does the card stand?", "In a case it has to go in and the cover has to close: that is measured and drawn at Fit."
		s.Choices = []startChoice{
			{
				Name: "In the open, beside the host", About: "nothing to meet", Post: "set",
				Vals: map[string]any{"path": "/chamber/open", "value": "yes"},
			},
			{
				Name: "In a case, or inside the host", About: "its inner size is asked for next", Post: "set",
				Vals: map[string]any{"path": "/chamber/name", "value": "case", "sel": "/chamber", "station": "fit"},
			},
		}
	}
	return s
}

// notchAsked is an M.2 slot of which nobody has told the key, or what came in it: both decide
// what goes into it, and what has to leave.
type notchAsked struct {
	Slot, KeyAt string // its name, and the place of its key
	Keys        []fields.KeyPicture
	Held        []fields.Choice // what may have come in it; none where that is told
}

// AsksKey says that a key is open: which ways there are cannot be told before it is.
func (s *start) AsksKey() bool {
	return slices.ContainsFunc(s.Notches, func(n notchAsked) bool { return len(n.Keys) > 0 })
}

func notchesAsked(r *rig.Rig) (list []notchAsked) {
	for i := range r.Host.Slots {
		s := &r.Host.Slots[i]
		if !rig.Is(s.Form, rig.M2) || s.Key.Known && s.Occupant.Known {
			continue
		}
		asked := notchAsked{Slot: s.Name, KeyAt: rig.SlotPath(i) + "/key"}
		if !s.Occupant.Known {
			asked.Held = heldChoices
		}
		if !s.Key.Known {
			asked.Keys = fields.KeyPictures(rig.Key("").Words().All(), "")
		}
		list = append(list, asked)
	}
	return list
}

// heldChoices are what an M.2 slot comes with.
var heldChoices = []fields.Choice{
	{Value: "system", Label: "the drive the system starts from"}, {Value: "drive", Label: "another drive"},
	{Value: "radio", Label: "a wireless card"}, {Value: rig.NoOccupant, Label: "nothing: it was empty"},
}

// setHeld tells what came in a slot, and puts it among the drives or the networks of the host.
func setHeld(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	i := slices.IndexFunc(r.Host.Slots, func(s rig.Slot) bool { return s.Name == c.FormValue("slot") })
	if i < 0 {
		return "", "", &rig.FieldError{Path: "slot", Value: fmt.Sprintf("%q", c.FormValue("slot")), Accepts: "a slot of this host"}
	}
	slot, name := &r.Host.Slots[i], rig.NoOccupant
	free := func(name string) string {
		if taken := rig.Options(r, rig.SlotPath(i)+"/occupant"); slices.Contains(taken, name) {
			return name + " of " + slot.Name
		}
		return name
	}
	switch c.FormValue("held") {
	case "system":
		name = free("boot drive")
		r.Host.Drives = append(r.Host.Drives, rig.Drive{Name: name, Boots: rig.Of(true)})
	case "drive":
		name = free("data drive")
		r.Host.Drives = append(r.Host.Drives, rig.Drive{Name: name, Boots: rig.Of(false)})
	case "radio":
		name = free("wireless card")
		r.Host.Networks = append(r.Host.Networks, rig.Network{Name: name, Kind: rig.Of(rig.Wireless)})
	case rig.NoOccupant:
	default:
		return "", "", &rig.FieldError{Path: "held", Value: fmt.Sprintf("%q", c.FormValue("held")), Accepts: "system, drive, radio or none"}
	}
	slot.Occupant = rig.Of(name)
	return "what " + slot.Name + " came with", "", nil
}

// useChoice is a sort of use, put into the brief by a press and taken out by another.
type useChoice struct {
	Kind, Label string
	On          bool
}

// firstUses are the sorts of use asked for first: what does not fit its card is found later.
var firstUses = []rig.UseKind{
	"game-light", "game-rate", "game-stream", "desktop", rig.UseEncode, "stack", rig.UseRender, rig.UseModel, "train", "compute",
}

func useChoices(r *rig.Rig) (list []useChoice) {
	for _, kind := range firstUses {
		list = append(list, useChoice{string(kind), rig.Spoken(kind), useAt(r, kind) >= 0})
	}
	return list
}

// useAt is where the brief has a use of a sort; −1 where it has none.
func useAt(r *rig.Rig, kind rig.UseKind) int {
	return slices.IndexFunc(r.Brief.Works, func(w rig.Work) bool { return rig.Is(w.Kind, kind) })
}

// setPurpose puts a use of a sort into the brief, or takes it out.
func setPurpose(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	kind := rig.UseKind(c.FormValue("kind"))
	if !slices.Contains(kind.Words().All(), string(kind)) {
		return "", "", &rig.FieldError{
			Path: "kind", Value: fmt.Sprintf("%q", kind), Accepts: "one of " + strings.Join(kind.Words().All(), ", "),
		}
	}
	name := rig.Spoken(kind)
	if at := useAt(r, kind); at >= 0 {
		r.Brief.Works = slices.Delete(r.Brief.Works, at, at+1)
		return "not for " + name, "", nil
	}
	use := rig.Work{Name: finding.Begin(name), Kind: rig.Of(kind)}
	if kind == rig.UseEncode {
		use.Encoder = rig.Of("any")
	}
	r.Brief.Works = append(r.Brief.Works, use)
	return "for " + name, "", nil
}

func hostKinds() (list []fields.Choice) {
	for _, kind := range rig.HostKind("").Words().All() {
		list = append(list, fields.Choice{Value: kind, Label: rig.Spoken(rig.HostKind(kind))})
	}
	return list
}

// partChoices are the parts of a kind, one's own first, in an order of their own.
func partChoices(list []found, kind string, order func(a, b any) int) (choices []startChoice) {
	list = slices.DeleteFunc(slices.Clone(list), func(f found) bool { return f.Kind != kind || f.Unreadable != nil })
	if order != nil {
		slices.SortStableFunc(list, func(a, b found) int {
			if a.Mine != b.Mine {
				return cmp.Compare(phrase.OfBool(b.Mine), phrase.OfBool(a.Mine))
			}
			return order(a.part, b.part)
		})
	}
	for _, f := range list[:min(len(list), mostStart)] {
		choices = append(choices, startChoice{
			Name: f.Name, About: f.About, Price: priceWords(f.part), Mine: f.Mine, Post: "use", Vals: map[string]any{"part": f.ID},
		})
	}
	return choices
}

// priceWords is what a part costs; nothing where nobody told.
func priceWords(part any) string {
	if priced, ok := part.(interface{ Costs() (units.Money, bool) }); ok {
		if price, told := priced.Costs(); told {
			return price.String()
		}
	}
	return ""
}

// usualMemory is what a card is looked for with while no use says more (P).
const usualMemory units.Gibibyte = 8

// neededMemory is what the uses need of a card's memory, or what is usual.
func neededMemory(r *rig.Rig) units.Gibibyte {
	needs := usualMemory
	for _, use := range r.Brief.Works {
		if use.Memory.Known {
			needs = max(needs, use.Memory.Value)
		}
	}
	return needs
}

// byNeed puts cards with the memory that the uses need first, the cheaper first.
func byNeed(r *rig.Rig) func(a, b any) int {
	needs := neededMemory(r)
	short := func(c *rig.Card) int { return phrase.OfBool(c.Memory.Value < needs) }
	return func(a, b any) int {
		x, y := a.(*rig.Card), b.(*rig.Card)
		return cmp.Or(cmp.Compare(short(x), short(y)), cmp.Compare(x.Price.Amount.Value, y.Price.Amount.Value))
	}
}

// slotChoices are the slots that may carry PCIe, by what they would give.
func slotChoices(r *rig.Rig) (choices []startChoice) {
	slots := make([]*rig.Slot, 0, len(r.Host.Slots))
	for i := range r.Host.Slots {
		if s := &r.Host.Slots[i]; !s.Carries.Known || slices.Contains(s.Carries.Value, rig.PCIe) {
			slots = append(slots, s)
		}
	}
	free := func(s *rig.Slot) int { return phrase.OfBool(s.Occupant.Known && s.Occupant.Value != rig.NoOccupant) }
	gives := func(s *rig.Slot) int { return s.Lanes.Value << s.Gen.Value }
	slices.SortStableFunc(slots, func(a, b *rig.Slot) int {
		return cmp.Or(cmp.Compare(gives(b), gives(a)), cmp.Compare(free(a), free(b)))
	})
	for _, s := range slots[:min(len(slots), mostStart)] {
		about := phrase.Form(s) + ", " + phrase.SlotLanes(s)
		if free(s) > 0 {
			about += ", holds " + s.Occupant.Value + ", which would have to move"
		}
		choices = append(
			choices,
			startChoice{Name: s.Name, About: about, Post: "set", Vals: map[string]any{"path": "/route/slot", "value": s.Name}},
		)
	}
	return choices
}

// stageChoices are the stages that go into the end of the route: those that end in
// a card slot first, then the widest and fastest, the cheaper first.
func stageChoices(r *rig.Rig, list []found) []startChoice {
	fits := slices.DeleteFunc(slices.Clone(list), func(f found) bool {
		stage, ok := f.part.(*rig.Stage)
		return !ok || !link.Continues(r, stage)
	})
	return partChoices(fits, "stage", func(a, b any) int {
		x, y := a.(*rig.Stage), b.(*rig.Stage)
		ends := func(s *rig.Stage) int { return phrase.OfBool(!rig.Is(s.Socket.Form, rig.CardSlot)) }
		gives := func(s *rig.Stage) int { return s.Lanes.Value << s.Gen.Value }
		return cmp.Or(
			cmp.Compare(ends(x), ends(y)), cmp.Compare(gives(y), gives(x)),
			cmp.Compare(x.Price.Amount.Value, y.Price.Amount.Value),
		)
	})
}

// feedChoices are the changes that feed what has no feed, those that clear most
// first.
func feedChoices(report *assess.Report) (choices []startChoice) {
	clears := map[string]int{}
	var order []finding.Change
	for i := range report.Findings {
		f := &report.Findings[i]
		for _, c := range f.Clear {
			if f.Rule != power.RuleUnfed {
				continue
			}
			if clears[string(c.Patch)]++; clears[string(c.Patch)] == 1 {
				order = append(order, c)
			}
		}
	}
	slices.SortStableFunc(order, func(a, b finding.Change) int {
		return cmp.Compare(clears[string(b.Patch)], clears[string(a.Patch)])
	})
	for _, c := range order[:min(len(order), mostStart)] {
		about := ""
		if n := clears[string(c.Patch)]; n > 1 {
			about = fmt.Sprintf("feeds %d of what has no feed", n)
		}
		choices = append(
			choices,
			startChoice{Name: c.Change, About: about, Post: "patch", Vals: map[string]any{"patch": string(c.Patch), "says": c.Change}},
		)
	}
	return choices
}

// socketSeen is a socket that somebody looking at a host may see.
type socketSeen struct {
	Key, Label, Help string
	slot             rig.Slot
}

// socketsSeen are the sockets a card can be joined to, as they look. What cannot
// be seen of them is left unknown.
var socketsSeen = []socketSeen{
	{
		"m2-long", "M.2, long", "a flat slot with a screw 42 to 110 mm away: for drives",
		rig.Slot{Name: "M.2 slot", Form: rig.Of(rig.M2)},
	},
	{
		"m2-short", "M.2, short", "a flat slot with a screw 30 mm away, two thin wires beside it: for the wireless card",
		rig.Slot{Name: "wireless slot", Form: rig.Of(rig.M2), Length: rig.Of[units.Millimetre](30)},
	},
	{
		"mini", "mini PCIe", "an older slot, 30 mm wide, two clips: for the wireless card",
		rig.Slot{Name: "mini PCIe slot", Form: rig.Of(rig.MiniPCIe)},
	},
	{
		"card", "card slot", "an upright slot of 25 to 90 mm, beside openings in the back",
		rig.Slot{Name: "card slot", Form: rig.Of(rig.CardSlot)},
	},
	{
		"oculink", "OCuLink", "a small flat port with a latch, on the outside",
		rig.Slot{Name: "OCuLink port", Form: rig.Of(rig.OCuLink), Carries: rig.Of([]rig.Carried{rig.PCIe})},
	},
	{"tunnel", "USB-C, 40 Gb/s", "a USB-C port that is marked 20, 40 or 80", rig.Slot{Name: "USB-C port", Form: rig.Of(rig.Tunnel)}},
}

// describeHost makes a host of what somebody sees: its sort, its sockets, the
// brick it runs from. Nothing else is made up.
func describeHost(c fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	host := rig.Host{Name: phrase.Or(strings.TrimSpace(c.FormValue("name")), "my host")}
	if kind := c.FormValue("kind"); kind != "" {
		if !slices.Contains(rig.HostKind("").Words().All(), kind) {
			return "", "", &rig.FieldError{
				Path: "kind", Value: fmt.Sprintf("%q", kind), Accepts: "one of " + strings.Join(rig.HostKind("").Words().All(), ", "),
			}
		}
		host.Kind = rig.Of(rig.HostKind(kind))
	}
	for _, s := range socketsSeen {
		if c.FormValue("see-"+s.Key) != "" {
			host.Slots = append(host.Slots, s.slot)
		}
	}
	if len(host.Slots) == 0 {
		return "", "", &rig.FieldError{Path: "sockets", Accepts: "one at least, by pressing it: a card has to be joined somewhere"}
	}
	occupants(&host)
	r.Host = host
	if err := ownBrick(r, c.FormValue("brick")); err != nil {
		return "", "", err
	}
	return "describe the host", "/host", nil
}

// occupants: a wireless slot of a host as bought holds its wireless card.
func occupants(host *rig.Host) {
	for i := range host.Slots {
		if s := &host.Slots[i]; s.Name == "wireless slot" || s.Name == "mini PCIe slot" {
			name := "wireless card"
			if host.Networks != nil {
				name = "second wireless card"
			}
			host.Networks = append(host.Networks, rig.Network{Name: name, Kind: rig.Of(rig.Wireless)})
			s.Occupant = rig.Of(name)
		}
	}
}

// ownBrick is the host's own supply, by what its label says: volts and amps, or
// watts; nothing where nothing was typed.
func ownBrick(r *rig.Rig, typed string) error {
	typed = strings.TrimSpace(typed)
	if typed == "" {
		return nil
	}
	var rating units.Watt
	if err := rating.Parse(typed); err != nil {
		accepts := `what its label says ("19 V 6.3 A", "120 W")`
		var volts units.Volt
		if volts.Parse(typed) == nil {
			accepts = "the amps too, which stand beside the volts: " + volts.String() + " 6.3 A"
		}
		return &rig.FieldError{Path: "brick", Value: fmt.Sprintf("%q", typed), Accepts: accepts}
	}
	s := rig.Supply{Name: "the host's own supply", Kind: rig.Of(rig.Brick), Rating: rig.Of(rating)}
	var volts units.Volt
	if first, _, both := strings.Cut(strings.ToLower(typed), "v"); both && volts.Parse(first) == nil {
		s.Rails = []rig.Rail{{Name: "out", Voltage: rig.Of(volts), Current: rig.Of(rating.Over(volts))}}
	}
	s.Name = assess.FreeName(r, s.Name)
	s.Owned = rig.Of(true)
	r.Supplies = append(r.Supplies, s)
	r.Host.Supply = s.Name
	return nil
}
