package parts_test

import (
	"archive/zip"
	"bytes"
	"crypto/ed25519"
	"encoding/base64"
	"os"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/parts"
)

func filesOf(t *testing.T, docs ...string) (files []parts.File) {
	for _, doc := range docs {
		file, err := parts.ReadFile([]byte(`{"format":"kolvan-part/1","kind":"card","part":` + doc + `}`))
		require.NoError(t, err)
		files = append(files, *file)
	}
	return files
}

func key(seed byte) ed25519.PrivateKey {
	return ed25519.NewKeyFromSeed(bytes.Repeat([]byte{seed}, ed25519.SeedSize))
}

func written(t *testing.T, a *parts.Archive) []byte {
	var raw bytes.Buffer
	require.NoError(t, a.Write(&raw))
	return raw.Bytes()
}

// entries are what stands in an archive, to be tampered with and packed again.
func entries(t *testing.T, raw []byte) (names []string, texts map[string]string) {
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	require.NoError(t, err)
	texts = map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		var text bytes.Buffer
		_, err = text.ReadFrom(r)
		require.NoError(t, err)
		names, texts[f.Name] = append(names, f.Name), text.String()
	}
	return names, texts
}

func packed(t *testing.T, names []string, texts map[string]string) []byte {
	var raw bytes.Buffer
	z := zip.NewWriter(&raw)
	for _, name := range names {
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write([]byte(texts[name]))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return raw.Bytes()
}

// TestArchivesTravelWhole: what goes in comes out, the same bytes each time, with who signed it.
func TestArchivesTravelWhole(t *testing.T) {
	files := filesOf(t, `{"name":"Tern 8G","lanes":8}`, `{"name":"Skua 16G"}`)
	a, err := parts.ArchiveOf(files)
	require.NoError(t, err)
	plain := written(t, a)
	assert.Equal(t, plain, written(t, a))
	back, err := parts.ReadArchive(plain)
	require.NoError(t, err)
	assert.Nil(t, back.Signed)
	require.Len(t, back.Files, 2)
	assert.JSONEq(t, string(files[0].Part), string(back.Files[0].Part))

	require.NoError(t, back.Sign(key(1), " the dome's bench "))
	signed, err := parts.ReadArchive(written(t, back))
	require.NoError(t, err)
	assert.Equal(t, "the dome's bench", signed.Signed.By)
	require.NoError(t, signed.Sign(key(2), "another"))
	again, err := parts.ReadArchive(written(t, signed))
	require.NoError(t, err)
	assert.NotEqual(t, back.Signed.Key, again.Signed.Key, "signed anew")
	assert.Error(t, a.Sign(key(1), " "))
	assert.Error(t, a.Sign(key(1), strings.Repeat("n", 101)))
	_, err = parts.ArchiveOf(nil)
	assert.Error(t, err)
}

// TestTamperedArchivesAreRefused, each with what is wrong with it.
func TestTamperedArchivesAreRefused(t *testing.T) {
	a, err := parts.ArchiveOf(filesOf(t, `{"name":"Tern 8G","lanes":8}`))
	require.NoError(t, err)
	require.NoError(t, a.Sign(key(1), "sender"))
	names, texts := entries(t, written(t, a))
	part := names[0]
	forged := func(field, with string) func(map[string]string) {
		return func(x map[string]string) { x["signature.json"] = strings.Replace(x["signature.json"], field, with, 1) }
	}
	others := base64.StdEncoding.EncodeToString(key(2).Public().(ed25519.PublicKey))
	for says, tamper := range map[string]func(map[string]string){
		"not what its checksum says": func(x map[string]string) { x[part] = strings.Replace(x[part], "8G", "9G", 1) },
		"no line of a checksum":      func(x map[string]string) { x["checksums.txt"] += x["checksums.txt"] },
		"names 2 files":              func(x map[string]string) { x["checksums.txt"] += strings.Repeat("0", 64) + "  parts/x.json\n" },
		"signature does not match":   forged(a.Signed.Key, others),
		"base64":                     forged(a.Signed.Key, "?"),
		"a name of 1 to":             forged(`"by": "sender"`, `"by": ""`),
		"kolvan-signature/1":         forged("kolvan-signature/1", "kolvan-signature/2"),
		"unknown":                    forged(`"by"`, `"from": 1, "by"`),
	} {
		changed := map[string]string{}
		for name, text := range texts {
			changed[name] = text
		}
		tamper(changed)
		_, err := parts.ReadArchive(packed(t, names, changed))
		assert.ErrorContains(t, err, says)
	}
	for name, says := range map[string]string{
		"../../etc/passwd": "stands in it", "parts/../x.json": "stands in it", "parts/A.json": "stands in it", part: "stands in it",
		"/parts/x.json": "stands in it",
	} {
		texts[name] = texts[part]
		_, err := parts.ReadArchive(packed(t, append(names, name), texts))
		assert.ErrorContains(t, err, says, name)
	}
	_, err = parts.ReadArchive(packed(t, []string{"checksums.txt"}, texts))
	assert.ErrorContains(t, err, "no part")
	_, err = parts.ReadArchive(packed(t, []string{part}, map[string]string{part: strings.Repeat(" ", 3<<20)}))
	assert.ErrorContains(t, err, "larger than")
	_, err = parts.ReadArchive([]byte("PK\x03\x04"))
	assert.ErrorContains(t, err, "a zip, is accepted")
	assert.True(t, parts.IsArchive(written(t, a)))
	assert.False(t, parts.IsArchive([]byte("{}")))
}

// TestShelf: files and archives of a folder, by their names; what cannot be read is told, and
// keeps nothing else away. One's own is held against it, and stays as it is.
func TestShelf(t *testing.T) {
	a, err := parts.ArchiveOf(filesOf(t, `{"name":"Tern 8G","length_mm":190}`, `{"name":"Skua 16G"}`))
	require.NoError(t, err)
	require.NoError(t, a.Sign(key(1), "sender"))
	folder := fstest.MapFS{
		"b.zip":       {Data: written(t, a)},
		"a.json":      {Data: []byte(`{"format":"kolvan-part/1","kind":"lead","part":{"name":"a lead"}}`)},
		"broken.json": {Data: []byte(`{`)}, "notes.txt": {Data: []byte("left alone")}, "more/c.json": {Data: []byte(`{`)},
		"large.json": {Data: bytes.Repeat([]byte(" "), 3<<20)},
	}
	list, faults := parts.Shelf(folder)
	require.Len(t, list, 2)
	assert.Equal(t, "a lead", list[0].Parts[0].Name)
	assert.Nil(t, list[0].Signed)
	assert.Equal(t, "sender", list[1].Signed.By)
	require.Len(t, faults, 2)
	assert.ErrorContains(t, faults[0], "broken.json")
	assert.ErrorContains(t, faults[1], "larger than")
	_, faults = parts.Shelf(os.DirFS("/nowhere at all"))
	require.Len(t, faults, 1)

	own := parts.Part{Kind: parts.Card, Name: "tern 8g", Doc: []byte(`{"name":"tern 8g","length_mm":182}`)}
	differs, err := parts.Differs(own, list[1].Parts)
	require.NoError(t, err)
	require.Len(t, differs, 1)
	assert.Equal(t, "190 mm", differs[0].Theirs)
	differs, err = parts.Differs(parts.Part{Kind: parts.Lead, Name: "Tern 8G", Doc: []byte(`{"name":"Tern 8G"}`)}, list[1].Parts)
	require.NoError(t, err)
	assert.Empty(t, differs, "of another kind")
}
