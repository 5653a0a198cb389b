package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// call runs the command; succeeds is call where it has to end well.
func call(t *testing.T, args ...string) (code int, out, said string) {
	out, said, code = kolvan(t, built(t), "", args...)
	return code, out, said
}

func succeeds(t *testing.T, args ...string) (out, said string) {
	code, out, said := call(t, args...)
	require.Zero(t, code, said)
	return out, said
}

// A part goes out without its price, comes into another bench, is not put in twice, and takes in
// what another learned.
func TestPartsTravel(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	out, _ := succeeds(t, "parts", "export", "Skua 16G")
	assert.Contains(t, out, `"format": "kolvan-part/1"`)
	assert.NotContains(t, out, `"price"`)
	require.NoError(t, os.WriteFile(at("skua.json"), []byte(out), 0o600))
	data := "--data=" + at("k.db")
	succeeds(t, "parts", "import", at("skua.json"), data)
	out, _ = succeeds(t, "parts", "list", "--own", data)
	assert.Equal(t, "mine\tcard\tSkua 16G\n", out)
	out, _ = succeeds(t, "parts", "show", "skua 16g", data)
	assert.Contains(t, out, "memory: 16 GiB\n")
	code, _, said := call(t, "parts", "import", at("skua.json"), data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "parts merge")
	code, _, said = call(t, "parts", "show", "nobody's", data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "neither in the bins, nor on the shelf, nor in the list")
	require.NoError(t, os.WriteFile(at("theirs.json"),
		[]byte(`{"format": "kolvan-part/1", "kind": "card", "part": {"name": "x", "noise_db": 33}}`), 0o600))
	out, said = succeeds(t, "parts", "merge", at("skua.json"), at("theirs.json"))
	assert.Contains(t, out, `"noise_db": 33`)
	assert.Contains(t, said, "/noise_db: nothing here")
	require.NoError(t, os.WriteFile(at("page.txt"), []byte("graphics card\nTGP 115 W"), 0o600))
	out, _ = succeeds(t, "parts", "read", at("page.txt"))
	assert.Contains(t, out, "[x] /power_w: 115")
}

// The commands that open figures, bounds and plans, by their exit codes.
func TestWhyNeedAndPlan(t *testing.T) {
	stacker := filepath.Join("..", "..", "demo", "rigs", "dome_shed_stacker.json")
	out, _ := succeeds(t, "why", stacker, "power.sustained_w")
	assert.Contains(t, out, "= 160 + 9.9 × (1 ÷ 0.88 − 1)")
	code, _, said := call(t, "why", stacker, "power.nothing")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "power.sustained_w")
	code, out, _ = call(t, "need", stacker)
	assert.Equal(t, exitStops, code)
	assert.Contains(t, out, "[ ] board power 52 W or less")
	code, out, _ = call(t, "need", "--csv", stacker)
	assert.Equal(t, exitStops, code)
	assert.Contains(t, out, "part,kind,fact,condition,because,at\n")
	code, _, _ = call(t, "plan", stacker, "--budget=1")
	assert.Equal(t, exitStops, code, "nothing is to be had for one krone")
	code, _, said = call(t, "plan", stacker, "--budget=-1")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "0 or more")
	out, _ = succeeds(t, "probe", "--script")
	assert.Contains(t, out, "kolvan probe --root")
	code, _, said = call(t, "probe", "--root", t.TempDir())
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "/proc/cpuinfo is not there")
}

// Several parts travel signed: an unknown key is shown and taken only on asking, from then on it
// is known; a changed archive is refused, and one's own key is for its owner alone.
func TestPartsTravelSigned(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	mine, theirs, zip := "--data="+at("mine.db"), "--data="+at("theirs.db"), at("parts.zip")
	code, _, said := call(t, "parts", "export", "Skua 16G", "Tern 8G")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "--output")
	succeeds(t, "parts", "export", "Skua 16G", "Tern 8G", "-o", zip)
	out, _ := succeeds(t, "parts", "verify", zip, theirs)
	assert.Contains(t, out, "2 parts, whole, not signed\n  card\tSkua 16G\n")
	succeeds(t, "parts", "sign", zip, "--as", "the dome's bench", mine)
	info, err := os.Stat(at("mine.db.key"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	out, _ = succeeds(t, "parts", "verify", zip, mine)
	assert.Contains(t, out, "signed with your own key, as the dome's bench")
	out, _ = succeeds(t, "parts", "verify", zip, theirs)
	assert.Contains(t, out, "signed as the dome's bench, with a key that is not known here: ")
	code, _, said = call(t, "parts", "import", zip, theirs)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "--trust")
	out, _ = succeeds(t, "parts", "list", "--own", theirs)
	assert.Empty(t, out)
	succeeds(t, "parts", "import", zip, "--trust", theirs)
	out, _ = succeeds(t, "parts", "list", "--own", theirs)
	assert.Equal(t, "mine\tcard\tSkua 16G\nmine\tcard\tTern 8G\n", out)
	succeeds(t, "parts", "sign", zip, "--as", "somebody else", mine)
	out, _ = succeeds(t, "parts", "verify", zip, theirs)
	assert.Contains(t, out, "signed by somebody else, whose key is known as that of the dome's bench")
	raw, err := os.ReadFile(zip)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(zip, raw[:len(raw)-30], 0o600))
	code, _, said = call(t, "parts", "verify", zip, theirs)
	assert.Equal(t, exitStops, code)
	assert.Contains(t, said, "a zip, is accepted")
	require.NoError(t, os.WriteFile(zip, raw, 0o600))
	require.NoError(t, os.WriteFile(at("mine.db.key"), []byte("no key"), 0o600))
	code, _, said = call(t, "parts", "sign", zip, "--as", "x", mine)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "is no key")
}

// A sheet saved as a page has the rig in it, filtered as the sheet is, and import reads it back
// and says what was left out.
func TestARigTravelsInItsSheet(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	built := filepath.Join("..", "..", "demo", "rigs", "stacker_built.json")
	sheet, data := at("sheet.html"), "--data="+at("k.db")
	save := func(flags ...string) {
		out, _ := succeeds(t, append([]string{"sheet", built, "--as=html"}, flags...)...)
		require.NoError(t, os.WriteFile(sheet, []byte(out), 0o600))
	}
	save()
	out, _ := succeeds(t, "import", sheet, data)
	assert.Equal(t, sheet+": imported, without costs, diary, names\n", out)
	doc, _ := succeeds(t, "export", "Dome-shed stacker, built", data)
	assert.NotContains(t, doc, `"price"`)
	assert.Contains(t, doc, `"runs"`)
	save("--with=costs,diary,names", "--without=runs")
	out, _ = succeeds(t, "import", sheet, data)
	assert.Equal(t, sheet+": imported, without runs\n", out)
	save("--without=rig")
	code, _, said := call(t, "import", sheet, data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, said, "carries no rig")
}

// TestProbeWatches a card in a copied tree: a small drawing, a table, and a reading that kolvan
// read takes.
func TestProbeWatches(t *testing.T) {
	root := t.TempDir()
	put := func(name, text string) {
		at := filepath.Join(root, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o700))
		require.NoError(t, os.WriteFile(at, []byte(text+"\n"), 0o600))
	}
	const card = "sys/bus/pci/devices/0000:03:00.0/"
	for name, text := range map[string]string{
		"proc/cpuinfo": "model name : x", card + "class": "0x030000", card + "current_link_width": "4", card +
			"current_link_speed": "8.0 GT/s PCIe",
		card + "aer_dev_correctable": "TOTAL_ERR_COR 2",
	} {
		put(name, text)
	}
	log := filepath.Join(root, "log.csv")
	out, _ := succeeds(t, "probe", "--root", root, "--watch", "300ms", "--every", "100ms", "--log", log)
	assert.Contains(t, out, "# 0000:03:00.0: ")
	assert.Contains(t, out, "4 to 4 lanes")
	assert.Contains(t, out, "only you know")
	table, err := os.ReadFile(log)
	require.NoError(t, err)
	assert.Contains(t, string(table), "time_s,width,")
	reading := filepath.Join(root, "reading.txt")
	require.NoError(t, os.WriteFile(reading, []byte(out), 0o600))
	out, _ = succeeds(t, "read", reading)
	assert.Contains(t, out, "x4")
	out, _ = succeeds(t, "probe", "--root", root, "--watch", "100ms", "--every", "100ms", "--json")
	assert.Contains(t, out, `"format": "kolvan-watch/1"`)
	for _, wrong := range []string{"10ms", "25h"} {
		code, _, said := call(t, "probe", "--root", root, "--watch", wrong)
		assert.Equal(t, exitWrong, code)
		assert.Contains(t, said, "accepted: from 50ms on")
	}
}

// TestTheShelf is searched after one's own and before the list; an archive with a key that is
// not known here is left out and told.
func TestTheShelf(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	require.NoError(t, os.Mkdir(at("shelf"), 0o700))
	put := func(name, doc string) {
		require.NoError(t, os.WriteFile(at(name), []byte(`{"format":"kolvan-part/1","kind":"card","part":`+doc+`}`), 0o600))
	}
	put("shelf/skua.json", `{"name":"Skua 16G","length_mm":290}`)
	put("own.json", `{"name":"Skua 16G","length_mm":{"value":282,"source":"measured"}}`)
	data, shelf := "--data="+at("k.db"), "--shelf="+at("shelf")
	succeeds(t, "parts", "import", at("own.json"), data)
	out, _ := succeeds(t, "parts", "list", "--kind=card", data, shelf)
	lines := strings.Split(out, "\n")
	assert.Equal(t, "mine\tcard\tSkua 16G\tthe shelf has /length_mm 290 mm", lines[0])
	assert.Equal(t, "shelf\tcard\tSkua 16G", lines[1])
	assert.True(t, strings.HasPrefix(lines[2], "list\tcard\t"))
	out, _ = succeeds(t, "parts", "show", "Skua 16G", data, shelf)
	assert.Contains(t, out, "length: 282 mm", "one's own first, as it was")
	other := "--data=" + at("other.db")
	succeeds(t, "parts", "import", at("own.json"), other)
	succeeds(t, "parts", "export", "Tern 8G", "-o", at("shelf/tern.zip"))
	succeeds(t, "parts", "sign", at("shelf/tern.zip"), "--as", "another", other)
	out, said := succeeds(t, "parts", "list", "--kind=card", data, shelf)
	assert.NotContains(t, out, "shelf\tcard\tTern 8G")
	assert.Contains(t, said, "--trust takes the key")
	succeeds(t, "parts", "verify", at("shelf/tern.zip"), "--trust", data)
	out, _ = succeeds(t, "parts", "list", "--kind=card", data, shelf)
	assert.Contains(t, out, "shelf\tcard\tTern 8G")
}
