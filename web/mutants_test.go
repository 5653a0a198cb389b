package web_test

import (
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/internal/mutants"
	"kolvan/internal/oneseed"
	"kolvan/store"
	"kolvan/web"
)

// pagesOfARig are what can be asked for of one.
var pagesOfARig = append(
	web.Stations(), "route?sel=/route/stages/0", "power?sel=/leads/0", "assembly?sel=/build/fault",
	"power/verdict", "parts", "cards", "ask", "practice", "why", "need", "meter", "reading", "export", "log.json", "runs.csv", "runs.json",
	"ledger.csv",
	"everything.zip", "sheet.md", "sheet.html", "sheet.zip",
	"harness/0.svg", "harness/0.csv", "route?ways=all",
)

// TestEveryPageStandsEveryLegalFile: however odd a rig is, each of its pages, the bench and
// a comparison are made.
func TestEveryPageStandsEveryLegalFile(t *testing.T) {
	t.Parallel()
	maker, err := mutants.OfDemo(oneseed.Seed() + 1)
	require.NoError(t, err)
	app, s := bench(t)
	c := newClient(t, app)
	for n := range oneseed.Hard(12, 400) {
		r := maker.Next()
		doc, err := rig.Encode(r)
		require.NoError(t, err)
		id, err := s.Create(t.Context(), store.RigKind, r.Name, doc, "mutant")
		require.NoError(t, err)
		paths := []string{fmt.Sprintf("/compare?rig=1&rig=%d", id), "/?sort=changed"}
		for _, page := range pagesOfARig {
			paths = append(paths, fmt.Sprintf("/rigs/%d/%s", id, page))
		}
		for _, path := range paths {
			status, _ := c.get(path)
			if !assert.Less(t, status, http.StatusInternalServerError, "%s of mutant %d", path, n) {
				require.NoError(t, os.WriteFile(filepath.Join(os.TempDir(), fmt.Sprint("mutant-page-", n, ".json")), doc, 0o600))
				return
			}
		}
		require.NoError(t, s.SetDeleted(t.Context(), id, true))
	}
	t.Logf("%d mutants", oneseed.Hard(12, 400))
}
