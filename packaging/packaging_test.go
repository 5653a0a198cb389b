// Package packaging_test holds what is released against the tools that will read it.
package packaging_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// analyze runs the tool that knows units, where there is one.
func analyze(t *testing.T, args ...string) string {
	if _, err := exec.LookPath("systemd-analyze"); err != nil {
		t.Skip("this machine has no systemd-analyze")
	}
	out, err := exec.Command("systemd-analyze", args...).CombinedOutput()
	require.NoError(t, err, string(out))
	return string(out)
}

// TestTheUnitIsRightAndHardened: nothing in it is unknown, and what it leaves open is rated OK.
func TestTheUnitIsRightAndHardened(t *testing.T) {
	text, err := os.ReadFile("kolvan.service")
	require.NoError(t, err)
	assert.Contains(t, string(text), "ExecStart=/usr/bin/kolvan serve ")
	here, err := exec.LookPath("true")
	require.NoError(t, err)
	unit := filepath.Join(t.TempDir(), "kolvan.service")
	runs := strings.NewReplacer("/usr/bin/kolvan", here, "Documentation=man:kolvan(1)\n", "").Replace(string(text))
	require.NoError(t, os.WriteFile(unit, []byte(runs), 0o600))
	assert.Empty(t, strings.TrimSpace(analyze(t, "verify", unit)))
	analyze(t, "security", "--offline=true", "--threshold=20", unit)
}
