package usage_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/label"
	"keencrock/core/material"
	"keencrock/core/usage"
)

func TestSixtyCardsShip(t *testing.T) {
	cards := usage.Shipped()
	assert.GreaterOrEqual(t, len(cards), 60)
	of := map[usage.Nature]int{}
	for _, c := range cards {
		of[c.Nature]++
		assert.NotEmpty(t, c.Surfaces, c.ID)
		assert.NotEmpty(t, c.Strength, c.ID)
		assert.Empty(t, label.Claims(c.Task+" "+c.How+" "+c.Seen), "%s promises too much", c.ID)
	}
	for _, n := range usage.Natures {
		assert.GreaterOrEqual(t, of[n], 3, n)
	}
}

// Common practice: alkali never on aluminium, wool or silk; acid never on marble.
func TestCardsKeepOffWhatTheirNatureHarms(t *testing.T) {
	for _, c := range usage.Shipped() {
		for _, s := range c.Surfaces {
			switch c.Nature {
			case usage.Soda, usage.Percarbonate, usage.Borax:
				assert.NotContains(t, []string{"aluminium", "wool", "silk"}, s, c.ID)
			case usage.Acid, usage.Ferment:
				assert.NotContains(t, []string{"marble", "limestone", "aluminium"}, s, c.ID)
			}
		}
	}
}

func TestTheRightCardIsFound(t *testing.T) {
	first := func(asked string) string {
		found := usage.Find(usage.Shipped(), asked)
		require.NotEmpty(t, found, asked)
		return found[0].ID
	}
	assert.Equal(t, "burnt-pan", first("burnt pan"))
	assert.Equal(t, "burnt-pan", first("scorched saucepan"))
	assert.Equal(t, "kettle", first("limescale in my kettle"))
	assert.Equal(t, "red-wine", first("red wine on white linen"))
	assert.Equal(t, "delicates", first("a woollen jumper"))

	found := usage.Find(usage.Shipped(), "burnt pan aluminium")
	for _, m := range found {
		if m.ID == "burnt-pan" {
			assert.Equal(t, []string{"aluminium"}, m.Warned)
			return
		}
	}
	t.Fatal("the card is told, with its warning")
}

func TestNaturesFollowFromWhatIsInIt(t *testing.T) {
	part := func(id string, share float64) usage.Part {
		m, err := material.Shipped().Find(id)
		require.NoError(t, err)
		return usage.Part{Material: m, Share: share}
	}
	assert.Equal(t, []usage.Nature{usage.Soda, usage.Soap}, usage.NaturesOf("other", []usage.Part{part("washing-soda", 0.6), part("grated-soap", 0.3), part("table-salt", 0.1)}))
	assert.Equal(t, []usage.Nature{usage.Acid}, usage.NaturesOf("other", []usage.Part{part("white-vinegar", 0.9), part("water", 0.1)}))
	assert.Empty(t, usage.NaturesOf("other", []usage.Part{part("citric-acid", 0.2), part("sodium-bicarbonate", 0.8)}), "they spend each other")
	assert.Empty(t, usage.NaturesOf("other", []usage.Part{part("water", 1)}))
	assert.Equal(t, []usage.Nature{usage.SoapNut}, usage.NaturesOf("soap-nut-extract", []usage.Part{part("water", 1)}), "the nuts are strained out")
}

func TestCardsThatSayTooLittle(t *testing.T) {
	good := usage.Card{Task: "Boat", How: "Wipe."}
	require.NoError(t, good.Check())
	for _, c := range []usage.Card{{How: "x"}, {Task: "x"}, {Task: "x", How: "x", LeaveMinutes: -1}, {Task: "x", How: "x", LeaveMinutes: 1e6}, {Task: "x", How: "x", EveryDays: -1}} {
		require.Error(t, c.Check())
	}
	assert.Equal(t, "Taps, 1 part to 2. Wrap in a wet cloth. Leave 15 minutes. Rinse.", (&usage.Card{Task: "Taps", Strength: "1 part to 2", How: "Wrap in a wet cloth.", LeaveMinutes: 15, Rinse: true}).Words())
	assert.Equal(t, "overnight", (&usage.Card{LeaveMinutes: 600}).LeaveWords())
	assert.Equal(t, "2 hours", (&usage.Card{LeaveMinutes: 120}).LeaveWords())
}
