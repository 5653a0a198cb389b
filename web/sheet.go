package web

import (
	"bytes"
	"fmt"
	"strings"
	"text/template"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/core/finding"
	"kolvan/core/link"
	"kolvan/core/power"
	"kolvan/core/rig"
	"kolvan/core/units"
)

// sheet is the page for the workshop wall.
type sheet struct {
	Name     string
	Verdict  string
	Host     string
	Card     string
	Lanes    []string // the lane-limit statement, a sentence each
	Stages   [][]string
	Supplies [][]string
	Leads    [][]string
	Plugs    []joint // of the leads' load ends, as one sees them
	Fit      [][2]string
	Open     []finding.Finding
	Works    []string
	Settings []string
	Cautions []string
	Picture  *paperLanes
}

func makeSheet(r *rig.Rig, report *assess.Report, inches bool) *sheet {
	s := &sheet{Name: r.Name, Host: orText(r.Host.Name, "host not named"), Card: orText(r.Card.Name, "no card chosen"), Lanes: laneStatement(report)}
	s.Verdict, _ = verdictWords(report)
	for _, e := range report.Link.Elements {
		s.Stages = append(s.Stages, append([]string{e.Name}, laneWords(e)...))
	}
	s.power(r, report)
	for _, f := range fitFigures(r, report, inches) {
		s.Fit = append(s.Fit, [2]string{f.Label, f.Value})
	}
	for _, f := range report.Findings {
		if f.Level > finding.Note {
			s.Open = append(s.Open, f)
		}
	}
	for _, w := range r.Brief.Works {
		s.Works = append(s.Works, strings.TrimSuffix(w.Name+", "+w.Often, ", "))
	}
	s.Settings, s.Cautions, s.Picture = settings(r, report), cautions(r), drawPaper(report)
	return s
}

// laneStatement says in plain words what is wired, what limits, what the link
// will be, and that an idle reading proves nothing about speed.
func laneStatement(report *assess.Report) []string {
	p := report.Link
	if len(p.Elements) == 0 {
		return []string{"No slot is chosen yet, so nothing can be said of the lanes."}
	}
	slot, card := p.Elements[0], p.Elements[len(p.Elements)-1]
	wired := fmt.Sprintf("The host wires %s of generation %s to %s", countWords(slot.Lanes), words(slot.Gen), slot.Name)
	if slot.Tunnel {
		wired = "The host tunnels PCIe through " + slot.Name + ", among other traffic"
	}
	list := []string{fmt.Sprintf("%s; the card, %s, could use %s of generation %s.", wired, card.Name, countWords(card.Lanes), words(card.Gen))}
	switch pinch, known := p.Pinch(); {
	case p.None:
		return append(list, "The slot carries no PCIe: there will be no link.")
	case !p.Known():
		return append(list, "Not every part's lanes and generation are known, so neither is the link.")
	case known && pinch.Where == "/card":
		list = append(list, "The card itself is what limits the link.")
	case known && pinch.Tunnel:
		list = append(list, fmt.Sprintf("What limits the link is the tunnel of %s.", pinch.Name))
	case known:
		list = append(list, fmt.Sprintf("What limits the link is %s: %s of generation %d.", pinch.Name, plural(link.Legal(pinch.Lanes.Value), "lane"), pinch.Gen.Value))
	}
	list = append(list, fmt.Sprintf("The link will be %s wide at generation %d: %v each way after packets, %s GB/s before.",
		plural(p.Width, "lane"), p.Gen, p.Net, units.Trim(float64(p.Raw), 2)))
	if m, known := p.Planned(); known {
		list = append(list, fmt.Sprintf("By its loss the link is %s at that speed: %s of margin, %s to be stable.", p.Word(m), m.Words(), m.ChanceWords()))
	}
	if p.Fill > 0 {
		list = append(list, fmt.Sprintf("Filling the card's memory takes %v at best.", p.Fill))
	}
	return append(list, "Read width and speed under load. At idle a card rests at a lower speed: an idle reading proves the width, not the speed.")
}

func countWords(lanes rig.Fact[int]) string {
	if !lanes.Known {
		return "an unknown number of lanes"
	}
	return plural(lanes.Value, "lane")
}

func (s *sheet) power(r *rig.Rig, report *assess.Report) {
	for i := range r.Supplies {
		load := &report.Power.Supplies[i]
		share := unknown
		if v, known := load.Share(); known {
			share = power.Percent(v)
		}
		s.Supplies = append(s.Supplies, []string{r.Supplies[i].Name, wattWords(load.Load), words(r.Supplies[i].Rating), share, turnOnWords(&r.Supplies[i], r)})
	}
	for i := range r.Leads {
		load := &report.Power.Leads[i]
		s.Leads = append(s.Leads, []string{r.Leads[i].Name, wireEnds(r.Leads[i].From), wireEnds(r.Leads[i].To), wattWords(load.Load), ampWords(load), words(r.Leads[i].Gauge)})
		s.plugs(r, report, i)
	}
}

// mostPlugs are drawn: a sheet is read at the bench.
const mostPlugs = 12

// plugs draws the ends of a lead that go into a part.
func (s *sheet) plugs(r *rig.Rig, report *assess.Report, lead int) {
	load := &report.Power.Leads[lead]
	for j := range load.To {
		end := r.Leads[lead].To[j]
		if end.Part == "" || len(s.Plugs) >= mostPlugs {
			continue
		}
		if one := jointOf(r, report, &load.To[j], end); one.Drawn != nil {
			one.Title = upperFirst(r.Leads[lead].Name) + ", " + strings.TrimSpace(end.Part+" "+end.At)
			s.Plugs = append(s.Plugs, one)
		}
	}
}

func turnOnWords(s *rig.Supply, r *rig.Rig) string {
	switch {
	case rig.Is(s.Kind, rig.Brick) || rig.Is(s.Kind, rig.USBC):
		return "its mains plug"
	case !s.TurnOn.Known && r.Host.Supply == s.Name:
		return "the host's board"
	case rig.Is(s.TurnOn, rig.TurnOnDock):
		return "the dock"
	default:
		return words(s.TurnOn)
	}
}

func wireEnds(ends []rig.LeadEnd) string {
	list := make([]string, len(ends))
	for i, e := range ends {
		list[i] = strings.TrimSpace(e.Part + " " + e.At)
	}
	return strings.Join(list, " + ")
}

// settings are what has to be set on the host for this rig to work.
func settings(r *rig.Rig, report *assess.Report) (list []string) {
	if r.Route.ForcedGen.Known {
		list = append(list, fmt.Sprintf("Hold the slot to Gen %d in the firmware.", r.Route.ForcedGen.Value))
	}
	if rig.Is(r.Host.Graphics, "discrete") {
		list = append(list, "Switch the host's own card off in the firmware.")
	}
	if r.Card.Window.Value > 0 {
		list = append(list, "Switch large address decoding on in the firmware.")
	}
	if p := report.Link; len(p.Elements) > 0 && p.Elements[0].Tunnel {
		list = append(list, "Gadgets chained behind the box share its rate: leave them off while it works.")
	}
	dead := rig.Is(r.Host.Panel, rig.PanelDead)
	if r.Brief.Screen.Kind.Known && r.Brief.Screen.Kind.Value != rig.OwnPanel {
		list = append(list, "Sound may move with the picture to the card's output: choose it again in the system.")
		if rig.Is(r.Host.Kind, "notebook") {
			list = append(list, "Keep the host awake with its lid closed.")
		}
	}
	if dead {
		list = append(list, "Switch the dead panel off as a screen, and its touch layer too, so that it presses nothing by itself.")
	}
	return list
}

// cautions are the usual ones for what the rig has.
func cautions(r *rig.Rig) []string {
	list := []string{"Mains and battery off, and a minute's wait, before a cover comes off or a plug is moved. Local electrical rules and licensed hands come first.",
		"A supply is never opened: what is inside stays charged after the plug is out.",
		"Connect and disconnect the link only with both sides off."}
	for i := range r.Supplies {
		if how, known := r.Supplies[i].TurnOn.Get(); known && (how == rig.TurnOnSwitch || how == "jumper" || how == "wire") {
			return append(list, "Turning "+r.Supplies[i].Name+" on joins turn-on (green) and ground (black) at its main plug, and no other two pins: prefer a made jumper plug or a switch-on board that follows the host. Never bridge any other pair.")
		}
	}
	return list
}

// markdownCell keeps a text from breaking a table.
func markdownCell(s string) string {
	return strings.NewReplacer("|", `\|`, "\n", " ", "*", `\*`, "_", `\_`, "<", `\<`, "#", `\#`, "[", `\[`).Replace(s)
}

var sheetTemplate = template.Must(template.New("sheet").Funcs(template.FuncMap{"cell": markdownCell}).Parse(`# {{cell .Name}}

{{cell .Host}} with {{cell .Card}}. Verdict: {{.Verdict}}.
{{range .Works}}
- {{cell .}}{{end}}

## Lanes
{{range .Lanes}}
{{cell .}}
{{end}}
| element | lanes | generation |
|---|---|---|
{{range .Stages}}|{{range .}} {{cell .}} |{{end}}
{{end}}
## Power

| supply | sustained | rating | share | turned on by |
|---|---|---|---|---|
{{range .Supplies}}|{{range .}} {{cell .}} |{{end}}
{{end}}
| lead | from | to | load | amps | AWG |
|---|---|---|---|---|---|
{{range .Leads}}|{{range .}} {{cell .}} |{{end}}
{{end}}
## Fit
{{range .Fit}}
- {{index . 0}}: {{cell (index . 1)}}{{end}}

## Open
{{range .Open}}
- **{{.Level}}** {{.Title}} ({{.Rule}}): {{cell .Says}}{{if .Acknowledged}} Acknowledged: {{cell .Acknowledged}}{{end}}{{else}}
Nothing.{{end}}

## Settings
{{range .Settings}}
- {{cell .}}{{else}}
None beyond the usual.{{end}}

## Cautions
{{range .Cautions}}
- {{.}}{{end}}
`))

func (a *App) sheetMarkdown(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	report := assess.Rig(l.rig, a.ref)
	var b bytes.Buffer
	if err := sheetTemplate.Execute(&b, makeSheet(l.rig, &report, inches(c))); err != nil {
		return fmt.Errorf("writing the sheet: %w", err)
	}
	c.Attachment(fileName(l.rig.Name) + ".md")
	c.Set(fiber.HeaderContentType, "text/markdown; charset=utf-8")
	return c.Send(b.Bytes())
}
