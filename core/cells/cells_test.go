package cells_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"kolvan/core/cells"
	_ "kolvan/internal/oneseed"
)

// TestCells: nothing a spreadsheet runs begins a cell, and whatever was written is read.
func TestCells(t *testing.T) {
	for text, cell := range map[string]string{
		"Lantern 550": "Lantern 550", "=1+1": "'=1+1", "@SUM(A1)": "'@SUM(A1)", "+x": "'+x", "-x": "'-x", "\t=1": "'\t=1",
		"-12.5": "-12.5", "'=1": "''=1", "'tis": "'tis", "": "", "'": "'",
	} {
		assert.Equal(t, cell, cells.Safe(text))
	}
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOf(rapid.SampledFrom([]rune("'=+-@1a\t"))).Draw(t, "text")
		assert.Equal(t, text, cells.Text(cells.Safe(text)))
	})
}
