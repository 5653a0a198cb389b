package web

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"text/template"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
)

// markdownCell keeps a text from breaking a table.
func markdownCell(s string) string {
	return strings.NewReplacer("|", `\|`, "\n", " ", "*", `\*`, "_", `\_`, "<", `\<`, "#", `\#`, "[", `\[`).Replace(s)
}

var sheetTemplate = template.Must(template.New("sheet").Funcs(template.FuncMap{
	"cell": markdownCell, "table": tableOf, "inc": func(i int) int { return i + 1 },
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

// askedParts are the parts that a page's boxes ask for; as usual where they ask for none.
func askedParts(asked bool, parts []string) (with, without []string, query string) {
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
func (s *sheet) choose(d *Desk) error {
	with, without, query := askedParts(d.Query("chosen") != "", d.Every("part"))
	if query == "" { // two pages; what is looked up at the bench stands on them where it is asked for
		without = []string{"plugs", "back"}
	}
	out, err := leftOut(with, without)
	if err != nil {
		return err
	}
	s.without(out)
	for _, p := range sheetParts {
		s.Chosen = append(s.Chosen, sheetPart{p.key, p.label, !slices.Contains(out, p.key)})
	}
	s.Query = query
	return s.shop(d.Context, d.Rig, d.Ref, out)
}

// sheetFile answers with the sheet as a file: md, html, or zip with its pictures.
func (a *App) sheetFile(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	with, without, _ := askedParts(c.Query("chosen") != "", every(c, "part"))
	var b bytes.Buffer
	ending := c.Params("ending")
	as := map[string]string{"md": "markdown", "html": "html", "zip": "markdown"}[ending]
	if as == "" {
		return fiber.NewError(fiber.StatusNotFound, "There is no such file of a sheet; there are sheet.md, sheet.html and sheet.zip.")
	}
	if err := WriteSheet(&b, l.rig, a.ref, as, with, without); err != nil {
		return err
	}
	text := b.Bytes()
	if ending == "zip" {
		if text, err = a.sheetArchive(c, l, text); err != nil {
			return err
		}
	}
	c.Attachment(fileName(l.rig.Name) + "." + ending)
	c.Set(
		fiber.HeaderContentType,
		map[string]string{"md": "text/markdown; charset=utf-8", "html": "text/html; charset=utf-8", "zip": "application/zip"}[ending],
	)
	return c.Send(text)
}

// sheetArchive packs the sheet with the picture of its lanes and those of its steps, each
// named where it belongs.
func (a *App) sheetArchive(c fiber.Ctx, l *loaded, text []byte) ([]byte, error) {
	report := assess.Rig(l.rig, a.ref)
	var files []archived
	if drawn := drawPaper(&report); drawn != nil {
		var lanes bytes.Buffer
		if err := lanesTemplate.Execute(&lanes, drawn); err != nil {
			return nil, fmt.Errorf("drawing the lanes: %w", err)
		}
		text = bytes.Replace(text, []byte("## Lanes\n"), []byte("## Lanes\n\n![What the link really gets](pictures/lanes.svg)\n"), 1)
		files = append(files, archived{"pictures/lanes.svg", lanes.Bytes()})
	}
	pictures, err := a.pictureFiles(c, l.ID)
	if err != nil {
		return nil, err
	}
	if len(pictures) > 0 {
		text = append(text, "\n## Pictures\n"...)
	}
	for _, p := range pictures {
		if !strings.HasSuffix(p.name, ".jpg") {
			text = fmt.Appendf(text, "\n%s\n", p.text)
			continue
		}
		text = fmt.Appendf(text, "\n![%s](%s)\n", strings.TrimSuffix(strings.TrimPrefix(p.name, "pictures/"), ".jpg"), p.name)
	}
	return archiveOf(append([]archived{{"sheet.md", text}}, append(files, pictures...)...))
}

var lanesTemplate = template.Must(
	template.New(
		"lanes",
	).Parse(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 716 150" width="716" height="150"><title>{{html .Label}}</title><rect width="716" height="150" fill="#fff"/>` +
			`<path d="{{.Dim}}" fill="none" stroke="#bbb" stroke-width="2"/><path d="{{.Open}}" fill="none" stroke="#555" stroke-width="2" stroke-dasharray="3 4"/><path d="{{.Lit}}" fill="none" stroke="#000" stroke-width="3"/>` +
			`{{range .Posts}}<rect x="{{.X}}" y="4" width="6" height="88"/>{{range .Lines}}<text x="{{.X}}" y="{{.Y}}" font-family="sans-serif" font-size="13">{{html .Text}}</text>{{end}}{{end}}</svg>
`,
	),
)
