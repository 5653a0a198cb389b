package core_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCoreStandsAlone: the job itself knows no interface, no storage, no
// instrument and no demo data.
func TestCoreStandsAlone(t *testing.T) {
	out, err := exec.Command("go", "list", "-deps", "./...").Output()
	require.NoError(t, err)
	deps := strings.Fields(string(out))
	assert.Contains(t, deps, "kolvan/core/assess")
	for _, dep := range deps {
		for _, kept := range []string{"kolvan/web", "kolvan/store", "kolvan/instruments", "kolvan/demo", "kolvan/cmd", "net/http", "database/sql", "html/template", "github.com/gofiber"} {
			assert.False(t, dep == kept || strings.HasPrefix(dep, kept+"/"), "core depends on %s", dep)
		}
	}
}
