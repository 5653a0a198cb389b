package survey

import (
	"fmt"
	"slices"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/gate"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/phrase"
)

// View is the host as found: where to look in turn, the board with its slots, what
// was listed beside what was found, and the condition.
type View struct {
	Walk      []lookAt
	Board     *boardDrawing
	Tall      *boardDrawing // the same for a telephone
	Listed    []listedRow
	Condition []conditionRow
	Tried     []triedRow // other hosts with the same parts
	Told      bool       // there is a host
	Known     []knownRow // what was seen on it before
	Claim     bool       // something came otherwise than it was listed
}

// lookAt is one place to look at, in the order in which an opened host shows them.
type lookAt struct {
	Label, Help, Sel string
	State            string // what is open there
	Here             bool
}

type listedRow struct {
	What, Listed, Found, Source string
	Level, Says, Sel            string
}

type conditionRow struct {
	Name, State, Sel string
	Bad              bool
}

func surveyOf(r *rig.Rig, report *assess.Report, sel string) *View {
	s := &View{Board: drawBoard(r, boardWide, sel), Tall: drawBoard(r, boardTall, sel), Listed: listedRows(r, report)}
	for i := range r.Host.Checks {
		check := &r.Host.Checks[i]
		s.Condition = append(
			s.Condition,
			conditionRow{
				check.Name, phrase.Of(check.State), fmt.Sprintf("/host/condition/%d", i), check.State.Known && check.State.Value != "fine",
			},
		)
	}
	s.Walk, s.Tried, s.Told = walkOf(r, sel), triedRows(r), len(r.Host.Slots) > 0
	s.Known = knownRows(r)
	s.Claim = len(claimsOf(r, report)) > 0
	return s
}

// knownRow is what somebody saw of a part on this host.
type knownRow struct {
	Of, Says, Sel string
	Bad           bool
}

func knownRows(r *rig.Rig) (rows []knownRow) {
	for i := range r.Known {
		k := &r.Known[i]
		says := "worked"
		switch {
		case !k.Works.Known:
			says = "how it came out is not told"
		case !k.Works.Value:
			says = "failed"
		}
		if k.Host != "" {
			says += " on " + k.Host
		}
		rows = append(rows, knownRow{phrase.Or(k.Of, "a card joined this way"), says, fmt.Sprintf("/known/%d", i), rig.Is(k.Works, false)})
	}
	return rows
}

// walkOf lists where to look, with the facts that are open there.
func walkOf(r *rig.Rig, sel string) []lookAt {
	slots := func(sides ...rig.Side) (state, first string) {
		open := 0
		for i := range r.Host.Slots {
			if !slices.Contains(sides, sideOf(&r.Host.Slots[i])) {
				continue
			}
			open += openOf(&r.Host.Slots[i])
			if first == "" {
				first = rig.SlotPath(i)
			}
		}
		if first == "" {
			return "no slot yet", ""
		}
		return stateOf(open), first
	}
	outside, port := slots("outside", "edge")
	top, onTop := slots("top")
	under, below := slots("underside")
	firmware := &r.Host.Firmware
	list := []lookAt{
		{
			"Outside", "Power off and unplugged. Which ports are there, what is printed beside them, what does the brick say?",
			phrase.Or(port, "/host"), outside, false,
		},
		{
			"Board, top", "Battery off, cover off. Which slots, where is the notch, what sits in them, where are stand-offs?",
			phrase.Or(onTop, "/host"), top, false,
		},
		{"Board, underside", "Turn it over: a second slot, a bay, a memory cover?", phrase.Or(below, "/host"), under, false},
		{
			"Firmware screens", "What starts, which disk mode, which graphics are on, large addresses?", "/host/firmware",
			stateOf(untold(firmware.LargeWindow.Known, firmware.DiskMode.Known, firmware.Starts.Known)), false,
		},
		{
			"System", "What the system says of the processor, the memory and the links.", "/host",
			stateOf(untold(r.Host.Proc.Name != "", r.Host.Memory.Known, r.Host.System.Known)), false,
		},
	}
	for i := range list {
		list[i].Here = list[i].Sel == sel
	}
	return list
}

func stateOf(open int) string {
	if open == 0 {
		return "seen"
	}
	return fmt.Sprintf("%d to find", open)
}

// openOf counts what nobody told of a slot, of that on which a plan may hang.
func openOf(s *rig.Slot) int {
	return untold(
		s.Form.Known, s.Lanes.Known, s.Gen.Known, s.Carries.Known, s.Behind.Known, s.Occupant.Known,
		s.Key.Known || !rig.Is(s.Form, rig.M2),
	)
}

func untold(known ...bool) (n int) {
	for _, k := range known {
		n += phrase.OfBool(!k)
	}
	return n
}

// listedRows sets what a seller listed beside what was found.
func listedRows(r *rig.Rig, report *assess.Report) (rows []listedRow) {
	verdicts := map[string]*finding.Finding{}
	for i := range report.Findings {
		if f := &report.Findings[i]; f.Rule == gate.RuleListing {
			verdicts[f.Where] = f
		}
	}
	add := func(known bool, row listedRow, where string) {
		if !known {
			return
		}
		if f := verdicts[where]; f != nil {
			row.Level, row.Says = f.Level.String(), f.Says
		}
		rows = append(rows, row)
	}
	for i := range r.Host.Slots {
		s, at := &r.Host.Slots[i], rig.SlotPath(i)
		add(
			s.SaidLanes.Known,
			listedRow{
				What: s.Name + ", lanes", Listed: "x" + phrase.Of(s.SaidLanes), Found: "x" + phrase.Of(s.Lanes),
				Source: sourceWords(s.Lanes.Source), Sel: at,
			},
			at+"/lanes",
		)
		add(
			s.SaidGen.Known,
			listedRow{
				What: s.Name + ", generation", Listed: "Gen " + phrase.Of(s.SaidGen), Found: "Gen " + phrase.Of(s.Gen),
				Source: sourceWords(s.Gen.Source), Sel: at,
			},
			at+"/generation",
		)
	}
	l := &r.Host.Listed
	add(
		l.Memory.Known,
		listedRow{
			What: "main memory", Listed: phrase.Of(l.Memory), Found: phrase.Of(r.Host.Memory), Source: sourceWords(r.Host.Memory.Source),
			Sel: "/host",
		},
		"/host/memory_gib",
	)
	add(
		l.Processor.Known,
		listedRow{What: "processor", Listed: l.Processor.Value, Found: phrase.Or(r.Host.Proc.Name, phrase.Unknown), Sel: "/host"},
		"/host/processor",
	)
	return rows
}

func sourceWords(s rig.Source) string { return rig.Spoken(s) }

// usualChecks are what is worth a look on a used machine.
var usualChecks = []string{
	"battery flat, not swollen", "mains lead and brick whole", "cover screws and clips", "fans turn freely",
	"drive caddy and screws", "no water marks, no smell", "ports hold a plug", "firmware without a password",
}

// addChecks puts the usual list of what to look at on a used machine into the host.
func addChecks(_ fiber.Ctx, r *rig.Rig, _ *reference.Tables) (string, string, error) {
	for _, name := range usualChecks {
		there := false
		for i := range r.Host.Checks {
			there = there || r.Host.Checks[i].Name == name
		}
		if !there {
			r.Host.Checks = append(r.Host.Checks, rig.Check{Name: name})
		}
	}
	return "list what to look at on a used machine", "/host", nil
}
