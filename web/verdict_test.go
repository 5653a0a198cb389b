package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestBetterIsMarkedWhereItIsSurely: never where ranges overlap; two of the same may both be.
func TestBetterIsMarkedWhereItIsSurely(t *testing.T) {
	marks := func(end int, cells ...comparedCell) (list []bool) {
		row := comparedRow{Cells: cells}
		row.mark(end)
		for _, c := range row.Cells {
			list = append(list, c.Better)
		}
		return list
	}
	one := func(v float64) comparedCell { return comparedCell{counts: v, told: true} }
	between := func(low, high float64) comparedCell {
		return comparedCell{counts: low, upTo: high, ranges: true, told: true}
	}
	assert.Equal(t, []bool{true, false}, marks(1, one(3), one(2)))
	assert.Equal(t, []bool{false, true}, marks(-1, one(3), one(2)))
	assert.Equal(t, []bool{true, true, false}, marks(1, one(3), one(3), one(2)))
	assert.Equal(t, []bool{false, false}, marks(1, one(3), one(3)))
	assert.Equal(t, []bool{false, false}, marks(-1, between(90, 110), between(109, 130)))
	assert.Equal(t, []bool{true, false}, marks(-1, between(90, 108), between(109, 130)))
	assert.Equal(t, []bool{false, false}, marks(1, one(3), comparedCell{}), "not told")
	assert.Equal(t, []bool{false, false}, marks(0, one(3), one(2)))
}
