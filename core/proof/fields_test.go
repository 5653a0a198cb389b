package proof

import (
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	_ "kolvan/internal/oneseed"
)

// TestFieldsAreThoseOfCSV: whatever a line holds, quick or not, as the standard library parts it.
func TestFieldsAreThoseOfCSV(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		line := rapid.StringMatching(`([a1",;. ]|""|","){1,24}`).Draw(rt, "line")
		by := csv.NewReader(strings.NewReader(line))
		by.LazyQuotes, by.FieldsPerRecord = true, -1
		want, err := by.Read()
		if err != nil || strings.Contains(strings.Join(want, ""), "\n") {
			return
		}
		var got []string
		for _, field := range (&rows{sign: ','}).fields([]byte(line), nil) {
			got = append(got, string(field))
		}
		assert.Equal(rt, want, got, line)
	})
	assert.Len(t, (&rows{sign: ',', need: 2}).fields([]byte(`"1,5",2,3`), nil), 2)
	assert.Equal(t, [][]byte{[]byte(`1"`), []byte("2")}, (&rows{sign: ';'}).fields([]byte(`"1""";2`), nil))
}
