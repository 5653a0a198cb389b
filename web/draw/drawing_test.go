package draw

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	_ "kolvan/internal/oneseed"
	"kolvan/web/phrase"
	"kolvan/web/roomtest"
)

// TestLanesOnPaper: what is drawn as live is what the plan gives, on the sheet and in
// the stamp.
func TestLanesOnPaper(t *testing.T) {
	_, report, _ := roomtest.Demo(t, "Ticket-desk all-in-one")
	paper := Paper(report)
	require.Len(t, paper.Posts, len(report.Link.Elements))
	assert.Equal(t, "Effective lanes: x1 Gen 2", paper.Label)
	for _, lit := range []string{paper.Lit, Mini(report).Lit} {
		segments := 0
		for i := range lit {
			segments += phrase.OfBool(lit[i] == 'M')
		}
		assert.Equal(t, len(report.Link.Elements), segments, "one live strand to every post")
	}
	report.Link.Elements = nil
	assert.Nil(t, Paper(report))
}

func TestWrapKeepsWithinWidthAndLines(t *testing.T) {
	assert.Equal(t, []string{"M.2 to", "link", "socket"}, Wrap("M.2 to link socket", 7, 3))
	assert.Equal(t, []string{"M.2 to", "link …"}, Wrap("M.2 to link socket", 7, 2))
	assert.Equal(t, []string{"unbr…le"}, Wrap("unbreakable", 7, 2))
	assert.Equal(t, []string{""}, Wrap("", 7, 2))
}
