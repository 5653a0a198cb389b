package web

import (
	"context"
	"fmt"
	css "html/template"
	"io"
	"io/fs"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
	"kolvan/web/room"
	"kolvan/web/sheet"
)

// WriteSheet writes the sheet of a rig, as markdown or as one html page without scripts: its
// money and its diary where they are asked for, all else but the parts that are left out.
func WriteSheet(to io.Writer, r *rig.Rig, ref *reference.Tables, as string, with, without []string) error {
	out, err := sheet.LeftOut(with, without)
	if err != nil {
		return err
	}
	report := assess.Rig(r, ref)
	s := sheet.Make(r, &report, ref, false)
	s.Without(out)
	if err := s.Shop(context.Background(), r, ref, out); err != nil {
		return err
	}
	if as == "markdown" {
		return sheet.SheetTemplate.Execute(to, s)
	}
	s.Alone = true
	views, err := engine()
	if err != nil {
		return err
	}
	style, err := fs.ReadFile(assets, "static/app.css")
	if err != nil {
		return fmt.Errorf("the style of the sheet: %w", err)
	}
	inside, err := sheet.Within(r, out)
	if err != nil {
		return err
	}
	return views.Render(to, "sheet_alone", map[string]any{
		"Title": r.Name, "Style": css.CSS(sheet.FontFaces.ReplaceAll(style, nil)), "Region": &region{Desk: &room.Desk{}, Name: r.Name, Room: s},
		"Within": inside,
	})
}
