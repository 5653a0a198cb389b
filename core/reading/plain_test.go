package reading

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestALinkInPlainWords, as windows and people tell it: what stands behind an @ runs.
func TestALinkInPlainWords(t *testing.T) {
	for text, want := range map[string][3]any{
		"4.0 @ x4":                      {Link{4, 4}, Link{}, Unknown},
		"x4":                            {Link{4, 0}, Link{}, Unknown},
		"8.0 GT/s":                      {Link{0, 3}, Link{}, Unknown},
		"Link speed 8.0 GT/s x4":        {Link{4, 3}, Link{}, Unknown},
		"PCIe x16 4.0 @ x4 3.0":         {Link{4, 3}, Link{16, 4}, Unknown},
		"PCIe 16x 3.0":                  {Link{16, 3}, Link{}, Unknown},
		"Bus: x8 4.0 @ x1 1.1":          {Link{1, 1}, Link{8, 4}, Unknown},
		"Speed 2.5GT/s, Width x4, idle": {Link{4, 1}, Link{}, Idle},
		"Gen3 ×4 under load":            {Link{4, 3}, Link{}, Loaded},
		"width: 4\nGen 2 at rest":       {Link{4, 2}, Link{}, Idle},
		"4 lanes of PCIe 5":             {Link{4, 5}, Link{}, Unknown},
		"x16 4.0 @ x4":                  {Link{4, 0}, Link{16, 4}, Unknown},
		"first x4 Gen 1\nthen x4 Gen 3": {Link{4, 3}, Link{}, Unknown},
	} {
		r, err := Read(strings.NewReader(text), "-")
		require.NoError(t, err, text)
		d := r.Devices[0]
		assert.Equal(t, want, [3]any{d.Now, d.Capable, r.Load}, text)
		assert.Equal(t, d.Now, r.Now(), text)
	}
	for _, text := range []string{"driver 31.4 of 2026", "nothing here", "version 4", "2 x 8 GB", "USB 3.0, 4x"} {
		_, err := Read(strings.NewReader(text), "-")
		assert.ErrorIs(t, err, ErrNone, text)
	}
}
