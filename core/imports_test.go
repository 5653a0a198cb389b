package core_test

import (
	"os/exec"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func list(t *testing.T, args ...string) []string {
	out, err := exec.Command("go", append([]string{"list"}, args...)...).Output()
	require.NoError(t, err)
	return strings.Fields(string(out))
}

// TestRandomTestsHaveOneSeed: a test that passes by chance tells nothing of a change.
func TestRandomTestsHaveOneSeed(t *testing.T) {
	var without []string
	tests := "{{$p := .ImportPath}}{{range .TestImports}}{{$p}}:{{.}} {{end}}{{range .XTestImports}}{{$p}}:{{.}} {{end}}"
	imports := list(t, "-f", tests, "kolvan/...")
	for _, i := range imports {
		if p, random := strings.CutSuffix(i, ":pgregory.net/rapid"); random && !slices.Contains(imports, p+":kolvan/internal/oneseed") {
			without = append(without, p)
		}
	}
	assert.NotEmpty(t, imports)
	assert.Empty(t, without)
}

// TestCoreStandsAlone: the job itself knows no interface, no storage, no
// instrument and no demo data.
func TestCoreStandsAlone(t *testing.T) {
	packages := slices.DeleteFunc(list(t, "./..."), func(p string) bool { return p == "kolvan/core/coretest" }) // for tests only
	deps := list(t, append([]string{"-deps"}, packages...)...)
	assert.Contains(t, deps, "kolvan/core/assess")
	for _, dep := range deps {
		for _, kept := range []string{
			"kolvan/web", "kolvan/store", "kolvan/instruments", "kolvan/demo", "kolvan/cmd", "net/http", "database/sql",
			"html/template", "github.com/gofiber",
		} {
			assert.False(t, dep == kept || strings.HasPrefix(dep, kept+"/"), "core depends on %s", dep)
		}
	}
}
