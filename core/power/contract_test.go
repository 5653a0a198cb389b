package power

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"kolvan/core/rig"
	"kolvan/core/units"
)

// The standard's steps: 9 V above 15 W, 15 V above 27 W, 20 V above 45 W, 12 V by choice.
func TestOffers(t *testing.T) {
	for _, c := range []struct {
		rating units.Watt
		asks   units.Volt
		want   units.Certainty
	}{
		{5, 5, units.Always}, {15, 9, units.Sometimes}, {16, 9, units.Always}, {27, 15, units.Sometimes}, {28, 15, units.Always},
		{45, 20, units.Sometimes}, {46, 20, units.Always}, {240, 12, units.Sometimes},
	} {
		s := rig.Supply{Rating: rig.Of(c.rating)}
		assert.Equal(t, c.want, offers(&s, c.asks), "%v of %v", c.asks, c.rating)
	}
	one := rig.Supply{Rails: []rig.Rail{{Voltage: rig.Of[units.Volt](20)}}}
	assert.Equal(t, units.Always, offers(&one, 20))
	assert.Equal(t, units.Sometimes, offers(&one, 12), "the one rail that was read may be one of several")
}
