package fit

import (
	"bytes"
	"fmt"
	"io"
	"slices"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/finding"
	"kolvan/core/fit"
	"kolvan/core/made"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/phrase"
	"kolvan/web/room"
)

// madeView is one part that a person could make.
type madeView struct {
	Name, Says string
	Permanent  bool
	View, Path string // its outline, small: the box it is seen in, and its loops
	Files      []madeFile
}

type madeFile struct{ Label, Href string }

// screwRow is the screws of a cover that is raised.
type screwRow struct{ Cover, Was, Now, Count string }

// longerScrews lists what screws the covers take on their stand-offs.
func longerScrews(r *rig.Rig) []screwRow {
	var rows []screwRow
	for _, l := range fit.ScrewsOf(r) {
		v := &r.Chamber.Covers[l.Cover]
		thread := phrase.Or(string(v.Screw.Thread.Value), "thread not told") + " × "
		row := screwRow{
			Cover: v.Name, Was: thread + l.Was.String(),
			Now: thread + l.Needed.String() + "; no such length is sold, cut a longer one",
		}
		if l.Stock > 0 {
			row.Now = thread + l.Stock.String()
		}
		if v.Screw.Count.Known {
			row.Count = strconv.Itoa(v.Screw.Count.Value)
		}
		rows = append(rows, row)
	}
	return rows
}

// madeParts lists what could be made for a rig.
func madeParts(id int64, r *rig.Rig, ref *reference.Tables) ([]madeView, error) {
	parts, err := made.For(r, ref)
	if err != nil {
		return nil, err
	}
	list := make([]madeView, len(parts))
	for i := range parts {
		p := &parts[i]
		list[i] = madeView{Name: finding.Begin(p.Name), Says: p.Says, Permanent: p.Permanent}
		list[i].View, list[i].Path = outlined(p.Outline)
		for _, form := range madeForms {
			if form.Write(p) != nil {
				list[i].Files = append(
					list[i].Files, madeFile{form.label, "/rigs/" + strconv.FormatInt(id, 10) + "/made/" + p.Key + "." + form.Ending},
				)
			}
		}
	}
	return list, nil
}

// outlined is an outline as a small picture, y upward; nothing for none.
func outlined(o *made.Outline) (view, path string) {
	if o == nil {
		return "", ""
	}
	low, high := o.Bounds()
	for _, loop := range append([][]made.Point{o.Edge}, o.Loops...) {
		for i, p := range loop {
			path += fmt.Sprintf("%c%.1f %.1f", "ML"[min(1, i)], float64(p.X), float64(-p.Y))
		}
		if loop != nil {
			path += "Z"
		}
	}
	return fmt.Sprintf("%.1f %.1f %.1f %.1f", float64(low.X)-1, float64(-high.Y)-1, float64(high.X-low.X)+2, float64(high.Y-low.Y)+2), path
}

// madeForms are the files a part can be had as; write is nil where it cannot.
var madeForms = []struct {
	label, Ending, Kind string
	Write               func(*made.Part) func(io.Writer) error
}{
	{"SVG, 1:1", "svg", "image/svg+xml", func(p *made.Part) func(io.Writer) error {
		if p.Outline == nil {
			return nil
		}
		return p.Outline.WriteSVG
	}},
	{"DXF", "dxf", "image/vnd.dxf", func(p *made.Part) func(io.Writer) error {
		if p.Outline == nil {
			return nil
		}
		return p.Outline.WriteDXF
	}},
	{"STL", "stl", "model/stl", func(p *made.Part) func(io.Writer) error {
		if p.Solid == nil {
			return nil
		}
		return p.Solid.WriteSTL
	}},
	{"3MF", "3mf", "model/3mf", func(p *made.Part) func(io.Writer) error {
		if p.Solid == nil {
			return nil
		}
		return p.Solid.Write3MF
	}},
}

// madePart sends the file of a part.
func madePart(c fiber.Ctx, d *room.Desk) error {
	parts, err := made.For(d.Rig, d.Ref)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(parts, func(p made.Part) bool { return p.Key == c.Params("part") })
	for _, form := range madeForms {
		if i < 0 || form.Ending != c.Params("ending") || form.Write(&parts[i]) == nil {
			continue
		}
		var file bytes.Buffer
		if err := form.Write(&parts[i])(&file); err != nil {
			return err
		}
		c.Attachment(phrase.FileName(d.Rig.Name+" "+parts[i].Name) + "." + form.Ending)
		c.Set(fiber.HeaderContentType, form.Kind)
		return c.Send(file.Bytes())
	}
	return fiber.NewError(fiber.StatusNotFound, "There is no such part to make for this rig.")
}
