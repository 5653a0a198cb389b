package web_test

import (
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"kolvan/core/assess"
	"kolvan/core/coretest"
	"kolvan/core/rig"
	"kolvan/demo"
	"kolvan/web"
)

// notOurWords are words nobody in the trade uses, and how the file names its
// fields; a page, a report or a document never says them to a person.
var notOurWords = regexp.MustCompile(
	`(?i)\b(tension|reckon\w*|board-type|turn(s|ed)? on by|stance|picture sockets?|pictures a second|chamber|add a thing|policy|maker's own (plug|connector)|hangs loose|new homes?|share 0\.\d+|cover off\.|in lanes\b.?$)\b` +
		`|[^(]half-height bracket|\b(the|a|of|each) works?\b[^.]*needs|\b[a-z]+(_[a-z0-9]+)*_(mm|w|v|a|gib|gb|awg|hz|px|gbit_s|gb_s|3v3_from_12v)\b|(^|\s)\?(\s|$)`,
)

var (
	ruleNames = regexp.MustCompile(`\b(link|gate|boot|net|screen|work|power|fit|heat|brief|build|bringup|proof)\.[a-z0-9-]+\b`)
	fences    = regexp.MustCompile("(?s)```.*?```|`[^`]*`")
)

// lowly is a sentence that stands alone and has no capital; a name with figures keeps its own.
var lowly = regexp.MustCompile(`<(?:p|li)(?: [^>]*)?>([a-z]+,? [^<]*\.)</`)

// saidBy is what a person reads of a page: a line for what stands between two tags.
func saidBy(page string) string {
	var said strings.Builder
	unsaid := "" // the element whose inside nobody reads
	for z := html.NewTokenizer(strings.NewReader(page)); ; {
		kind := z.Next()
		name, more := z.TagName()
		switch {
		case kind == html.ErrorToken:
			return spaces.ReplaceAllString(said.String(), " ")
		case unsaid != "":
			if kind == html.EndTagToken && string(name) == unsaid {
				unsaid = ""
			}
		case kind == html.TextToken:
			said.Write(z.Text())
		case kind == html.StartTagToken && (slices.Contains([]string{"script", "style", "kbd"}, string(name)) || more && isSymbols(z, name)):
			unsaid = string(name)
		default:
			said.WriteByte('\n')
		}
	}
}

var spaces = regexp.MustCompile(`[ \t]+`)

// isSymbols reports the drawing that holds the symbols of others.
func isSymbols(z *html.Tokenizer, name []byte) bool {
	if string(name) != "svg" {
		return false
	}
	key, value, _ := z.TagAttr()
	return string(key) == "class" && string(value) == "symbols"
}

// checked are lines that were found in order: pages of one rig say most of them again.
var checked sync.Map

func checkWords(t *testing.T, where, text string) {
	for line := range strings.SplitSeq(ruleNames.ReplaceAllString(text, ""), "\n") {
		if _, seen := checked.LoadOrStore(line, true); seen {
			continue
		}
		if found := notOurWords.FindString(line); found != "" {
			assert.Fail(t, "not our words", "%s says %q in: %s", where, strings.TrimSpace(found), strings.TrimSpace(line))
		}
	}
}

func TestPagesSayWhatTheTradeSays(t *testing.T) {
	t.Parallel()
	app, s := bench(t)
	c := newClient(t, app)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	require.Len(t, rigs, demoRigs)
	for i := range demoRigs - plans {
		keepDemo(t, s, plans+i)
	}
	pages, seen := []string{"/", "/bins", "/nowhere"}, map[string]int{}
	for id, r := range rigs {
		at := fmt.Sprintf("/rigs/%d/", id+1)
		for _, station := range append(
			web.Stations(), "assembly?sel=/build/power-on", "assembly?sel=/build/fault", "ask", "practice", "meter", "parts",
		) {
			pages = append(pages, at+station)
		}
		for _, sel := range everyThing(r, seen) {
			stations := []string{"survey", "route", "power", "fit", "brief"}
			if late := regexp.MustCompile(`^/(runs|load_readings|diary|ledger)`).FindString(sel); late != "" {
				stations = []string{map[bool]string{true: "ledger", false: "proof"}[late == "/ledger"]}
			}
			for _, station := range stations {
				pages = append(pages, at+station+"?sel="+sel)
			}
		}
	}
	for _, page := range pages {
		status, body := c.get(page)
		assert.Less(t, status, http.StatusInternalServerError, page)
		checkWords(t, page, saidBy(body))
		assert.Empty(t, lowly.FindString(body), page)
	}
	_, sheet := c.get("/rigs/1/sheet.md")
	checkWords(t, "the sheet", sheet)
	c.post("/rigs", "name", "nothing in it yet")
	for _, station := range append(web.Stations(), "assembly?sel=/build/power-on", "assembly?sel=/build/fault") {
		_, body := c.get(fmt.Sprintf("/rigs/%d/%s", len(rigs)+1, station))
		checkWords(t, "an empty rig's "+station, saidBy(body))
	}
}

// everyThing is one pointer of each kind of thing in a rig that was not seen in two rigs before.
func everyThing(r *rig.Rig, seen map[string]int) (list []string) {
	here := map[string]bool{}
	rig.Walk(r, func(n rig.Node) {
		owner := filepath.Dir(n.Path())
		if kind := regexp.MustCompile(`\d+`).ReplaceAllString(owner, "0"); owner != "/" && !here[kind] {
			here[kind] = true
			if seen[kind]++; seen[kind] <= 2 {
				list = append(list, owner)
			}
		}
	})
	return list
}

// TestReportsSayWhatTheTradeSays: every fact of the demo rigs taken away in turn, so
// that what is asked for is read too.
func TestReportsSayWhatTheTradeSays(t *testing.T) {
	ref := coretest.Tables(t)
	rigs, err := demo.Rigs()
	require.NoError(t, err)
	for _, r := range rigs {
		var facts []string
		rig.Walk(r, func(n rig.Node) {
			if n.Spec.Fact && n.Known() {
				facts = append(facts, n.Path())
			}
		})
		for _, fact := range append(facts, "") {
			without := r
			if fact != "" {
				if without, err = rig.With(r, fact, ""); err != nil {
					continue
				}
			}
			report := assess.Rig(without, ref)
			for _, f := range report.Findings {
				checkWords(t, r.Name+" without "+fact+", "+f.Rule, f.Says+"\n"+f.Title)
			}
		}
	}
	for _, rule := range assess.Rules() {
		checkWords(t, "rule "+rule.Name, rule.Title+"\n"+rule.Fires)
	}
}

func TestDocumentsSayWhatTheTradeSays(t *testing.T) {
	docs, err := filepath.Glob("../docs/*.md")
	require.NoError(t, err)
	for _, name := range append(docs, "../README.md") {
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		checkWords(t, name, fences.ReplaceAllString(string(text), ""))
	}
}
