package web

import (
	"bytes"
	"fmt"

	"github.com/gofiber/fiber/v3"

	"kolvan/core/rig"
	"kolvan/web/phrase"
	proofroom "kolvan/web/proof"
)

// everything answers with one archive of a rig: its file, its log, its sheet, its figures,
// and the pictures of its steps.
func (a *App) everything(c fiber.Ctx) error {
	l, err := a.load(c)
	if err != nil {
		return err
	}
	doc, err := rig.Encode(l.rig)
	if err != nil {
		return err
	}
	log, err := proofroom.LogText(l.rig)
	if err != nil {
		return err
	}
	var markdown, page bytes.Buffer
	if err := WriteSheet(&markdown, l.rig, a.ref, "markdown", nil, nil); err != nil {
		return err
	}
	if err := WriteSheet(&page, l.rig, a.ref, "html", nil, nil); err != nil {
		return err
	}
	files := []proofroom.Archived{{Name: "rig.json", Text: doc}, {Name: "log.json", Text: log}, {Name: "sheet.md", Text: markdown.Bytes()},
		{Name: "sheet.html", Text: page.Bytes()}}
	pictures, err := a.pictureFiles(c, l.ID)
	if err != nil {
		return err
	}
	text, err := proofroom.ArchiveOf(append(files, pictures...))
	if err != nil {
		return err
	}
	c.Attachment(phrase.FileName(l.rig.Name) + ".zip")
	c.Set(fiber.HeaderContentType, "application/zip")
	return c.Send(text)
}

// pictureFiles are the pictures of a rig's steps, as files.
func (a *App) pictureFiles(c fiber.Ctx, rig int64) (files []proofroom.Archived, err error) {
	pictures, err := a.store.PicturesOfRig(c.Context(), rig)
	if err != nil {
		return nil, err
	}
	for _, p := range pictures {
		name := fmt.Sprintf("pictures/%s-%d", phrase.FileName(p.Step), p.ID)
		made, err := a.store.Picture(c.Context(), rig, p.ID)
		switch {
		case isBroken(err):
			files = append(files, proofroom.Archived{Name: name + ".txt", Text: []byte("This picture is damaged: it is not what was kept.\n")})
		case err != nil:
			return nil, err
		default:
			files = append(files, proofroom.Archived{Name: name + ".jpg", Text: made})
		}
	}
	return files, nil
}
