package docs

import (
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/assess"
	"kolvan/core/reference"
	"kolvan/core/rig"
)

func read(t *testing.T, name string) string {
	text, err := os.ReadFile(name)
	require.NoError(t, err)
	return string(text)
}

// TestExampleOfTheFileFormat joins the pieces of the page into one file: it is
// right, and what the page says of it holds.
func TestExampleOfTheFileFormat(t *testing.T) {
	page := read(t, "file-format.md")
	page = page[strings.Index(page, "## By example"):strings.Index(page, "## The report")]
	var file strings.Builder
	for _, piece := range regexp.MustCompile("(?s)```json\n(.*?)```").FindAllStringSubmatch(page, -1) {
		file.WriteString(piece[1])
	}
	r, err := rig.Decode([]byte(file.String()))
	require.NoError(t, err)
	ref, err := reference.Load()
	require.NoError(t, err)
	report := assess.Rig(r, ref)
	assert.Equal(t, 4, *report.Figures.Width)
	assert.Equal(t, 3, *report.Figures.Gen)

	// Every field of the format that the example leaves out is in the schema all
	// the same; the sections are all shown.
	for _, section := range []string{
		"sizing", "brief", "host", "route", "card", "supplies", "leads", "chamber", "alterations", "acknowledged",
	} {
		assert.Contains(t, file.String(), `"`+section+`"`)
	}
}

func TestFactsOfTheFileFormat(t *testing.T) {
	page := read(t, "file-format.md")
	block := regexp.MustCompile("(?s)```json\n(.*?)```").FindStringSubmatch(page)[1]
	for line := range strings.SplitSeq(strings.TrimSpace(block), "\n") {
		_, err := rig.Decode([]byte(`{"format":"kolvan-rig/1","name":"fact","card":{` + line + `}}`))
		assert.NoError(t, err, line)
	}
}

// TestWordsOfTheFormatAreExplained: every word of the closed lists that the page
// names is one the format takes.
func TestWordsOfTheFormatAreExplained(t *testing.T) {
	page := read(t, "file-format.md")
	for _, words := range [][]string{
		rig.SizingPolicy("").Words().All(), rig.Stance("").Words().All(), rig.Home("").Words().All(), rig.Form("").Words().All(),
		rig.TurnOn("").Words().All(), rig.Source("").Words().All(),
	} {
		for _, word := range words {
			assert.Contains(t, page, "`"+word+"`")
		}
	}
}

func TestLinksLeadSomewhere(t *testing.T) {
	for page, base := range map[string]string{"../README.md": "../", "guide.md": "", "file-format.md": "", "decisions.md": ""} {
		for _, link := range regexp.MustCompile(`\]\(([^)#]+)\)`).FindAllStringSubmatch(read(t, page), -1) {
			_, err := os.Stat(base + link[1])
			assert.NoError(t, err, "%s: %s", page, link[1])
		}
	}
}
