package sheet

import (
	"slices"
	"text/template"

	"kolvan/web/phrase"
	"kolvan/web/room"
)

// SheetTemplate is the sheet as markdown.
var SheetTemplate = template.Must(template.New("sheet").Funcs(template.FuncMap{
	"cell": phrase.Cell, "table": TableOf, "inc": func(i int) int { return i + 1 },
}).Parse(`{{define "table"}}|{{range .Columns}} {{.}} |{{end}}
|{{range .Columns}}---|{{end}}
{{range .Rows}}|{{range .}} {{cell .}} |{{end}}
{{end}}{{end}}# {{cell .Name}}

{{cell .Host}} with {{cell .Card}}. Verdict: {{.Verdict}}.
{{range .Works}}
- {{cell .}}{{end}}

## Lanes
{{range .Lanes}}
{{cell .}}
{{end}}
{{template "table" (table "Lanes" .Stages)}}
{{if or .Supplies .Leads}}## Power

{{template "table" (table "Supplies" .Supplies)}}
{{template "table" (table "Leads" .Leads)}}{{end}}
{{if .Orders}}
## Switching on

{{template "table" (table "Orders of switching" .Orders)}}{{end}}
{{if .Fit}}## Fit
{{range .Fit}}
- {{index . 0}}: {{cell (index . 1)}}{{end}}
{{end}}{{if .Found}}
## Plan, and found

{{template "table" (table "Plan, and found" .Found)}}{{end}}
{{if not .NoOpen}}
## Open
{{range .Open}}
- **{{.Level}}** {{.Title}} ({{.Rule}}): {{cell .Says}}{{if .Acknowledged}} Acknowledged: {{cell .Acknowledged}}{{end}}{{else}}
Nothing.{{end}}
{{end}}
## Settings
{{range .Settings}}
- {{cell .}}{{else}}
None beyond the usual.{{end}}

{{if .Steps}}
## Steps
{{range .Standing}}
- **{{cell .}}**{{end}}
{{range $i, $s := .Steps}}
{{inc $i}}. {{if .Done}}[done] {{end}}{{cell .Do}}{{if .With}} *With {{cell .With}}.*{{end}}{{range .Mind}} **{{cell .}}**{{end}}{{end}}

## The way back
{{range $i, $s := .Back}}
{{inc $i}}. {{cell $s}}{{end}}
{{end}}{{if .Tries}}
## Tries

{{template "table" (table "Tries" .Tries)}}{{end}}{{if .Runs}}
## Measured

{{template "table" (table "Measured" .Runs)}}{{end}}{{if .Gains}}
{{template "table" (table "Compared" .Gains)}}{{end}}
{{with .Costs}}
## Costs

{{template "table" (table "Costs" .Lines)}}{{range .Totals}}
- {{index . 0}}: {{cell (index . 1)}}{{end}}{{range .Worth}}
- {{cell .}}{{end}}
{{end}}{{if .Shopping}}
## Still to be had
{{range .Shopping}}
- [ ] {{cell .}}{{end}}
{{end}}{{if .Sums}}
## Sums
{{range .Sums}}
- {{cell .}}{{end}}
{{end}}{{if .Diary}}
## Diary
{{range .Diary}}
- {{index . 0}}: {{cell (index . 1)}}{{end}}
{{end}}
## Cautions
{{range .Cautions}}
- {{.}}{{end}}
`))

// AskedParts are the parts that a page's boxes ask for; as usual where they ask for none.
func AskedParts(asked bool, parts []string) (with, without []string, query string) {
	if !asked {
		return nil, nil, ""
	}
	query = "?chosen=1"
	on := map[string]bool{}
	for _, name := range parts {
		on[name] = true
	}
	for _, p := range sheetParts {
		if !on[p.key] {
			without = append(without, p.key)
			continue
		}
		with, query = append(with, p.key), query+"&part="+p.key
	}
	return with, without, query
}

// choose leaves out of the sheet what the page's boxes do.
func (s *View) choose(d *room.Desk) error {
	with, without, query := AskedParts(d.Query("chosen") != "", d.Every("part"))
	if query == "" { // two pages; what is looked up at the bench stands on them where it is asked for
		without = []string{"plugs", "back"}
	}
	out, err := LeftOut(with, without)
	if err != nil {
		return err
	}
	s.Without(out)
	for _, p := range sheetParts {
		s.Chosen = append(s.Chosen, sheetPart{p.key, p.label, !slices.Contains(out, p.key)})
	}
	s.Query = query
	return s.Shop(d.Context, d.Rig, d.Ref, out)
}

// LanesTemplate is the drawing of the lanes as a file of its own.
var LanesTemplate = template.Must(
	template.New(
		"lanes",
	).Parse(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 716 150" width="716" height="150"><title>{{html .Label}}</title><rect width="716" height="150" fill="#fff"/>` +
			`<path d="{{.Dim}}" fill="none" stroke="#bbb" stroke-width="2"/><path d="{{.Open}}" fill="none" stroke="#555" stroke-width="2" stroke-dasharray="3 4"/><path d="{{.Lit}}" fill="none" stroke="#000" stroke-width="3"/>` +
			`{{range .Posts}}<rect x="{{.X}}" y="4" width="6" height="88"/>{{range .Lines}}<text x="{{.X}}" y="{{.Y}}" font-family="sans-serif" font-size="13">{{html .Text}}</text>{{end}}{{end}}</svg>
`,
	),
)
