package web

import (
	"bytes"
	"fmt"
	"strings"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/assess"
	"kolvan/web/draw"
	"kolvan/web/phrase"
	"kolvan/web/proof"
	"kolvan/web/sheet"
)

// sheetFile answers with the sheet as a file: md, html, or zip with its pictures.
func (a *App) sheetFile(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	with, without, _ := sheet.AskedParts(c.Query("chosen") != "", every(c, "part"))
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
	c.Attachment(phrase.FileName(l.rig.Name) + "." + ending)
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
	var files []proof.Archived
	if drawn := draw.Paper(&report); drawn != nil {
		var lanes bytes.Buffer
		if err := sheet.LanesTemplate.Execute(&lanes, drawn); err != nil {
			return nil, fmt.Errorf("drawing the lanes: %w", err)
		}
		text = bytes.Replace(text, []byte("## Lanes\n"), []byte("## Lanes\n\n![What the link really gets](pictures/lanes.svg)\n"), 1)
		files = append(files, proof.Archived{Name: "pictures/lanes.svg", Text: lanes.Bytes()})
	}
	pictures, err := a.pictureFiles(c, l.ID)
	if err != nil {
		return nil, err
	}
	if len(pictures) > 0 {
		text = append(text, "\n## Pictures\n"...)
	}
	for _, p := range pictures {
		if !strings.HasSuffix(p.Name, ".jpg") {
			text = fmt.Appendf(text, "\n%s\n", p.Text)
			continue
		}
		text = fmt.Appendf(text, "\n![%s](%s)\n", strings.TrimSuffix(strings.TrimPrefix(p.Name, "pictures/"), ".jpg"), p.Name)
	}
	return proof.ArchiveOf(append([]proof.Archived{{Name: "sheet.md", Text: text}}, append(files, pictures...)...))
}
