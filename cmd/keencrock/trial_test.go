package main

import (
	"bytes"
	"encoding/json"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

type answered struct {
	Pairs       int
	Goods       []string
	Comparisons []struct {
		Good, Against string
		Difference    struct{ Value, Low, High, Confidence float64 }
		P             float64
		PHolm         float64 `json:"p_holm"`
		Verdict       string
		MorePairs     int `json:"more_pairs"`
		Says          string
	}
	FriedmanP *float64 `json:"friedman_p"`
}

// Seven pairs to one side: 1 time in 64; columns in another order, and a head.
func TestTrialPrintsItsAnswer(t *testing.T) {
	marks := "good,pair,mark\nTowpath,1,2\nPlain,1,3.5\nTowpath,2,3\nPlain,2,4\nTowpath,3,2\nPlain,3,4.5\nTowpath,4,4\nPlain,4,5.5\nTowpath,5,3\nPlain,5,3.5\nTowpath,6,2\nPlain,6,4.5\nTowpath,7,3\nPlain,7,4\n"
	out, err := run(trialCommand(), marks, "--better", "lower")
	require.NoError(t, err)
	var a answered
	require.NoError(t, json.Unmarshal(out, &a))
	require.Len(t, a.Comparisons, 1)
	c := a.Comparisons[0]
	assert.Equal(t, []string{"Towpath", "Plain"}, a.Goods)
	assert.Equal(t, "worse", c.Verdict)
	assert.InDelta(t, 1.0/64, c.P, 1e-12)
	assert.Equal(t, 1.5, c.Difference.Value)
	assert.Nil(t, a.FriedmanP)
	out, err = run(trialCommand(), marks, "--control", "Plain")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(out, &a))
	assert.Equal(t, "Towpath", a.Comparisons[0].Good)
	assert.Equal(t, "worse", a.Comparisons[0].Verdict)
}

func TestWhatIsNoTrialOrColourIsAProblem(t *testing.T) {
	var p *api.Problem
	for _, text := range []string{"", "1,A,2\n", "1,A\n", "1,A,much\n1,B,2\n", "1,A,1\n1,A,2\n", "1,A,NaN\n1,B,1\n"} {
		_, err := run(trialCommand(), text)
		require.ErrorAs(t, err, &p, text)
	}
	_, err := run(trialCommand(), "1,A,1\n1,B,2\n", "--better", "red")
	require.ErrorAs(t, err, &p)
	_, err = run(colours(), "", "--clean", "90,0,0", "--stained", "70,10", "--washed", "80,5,10")
	require.ErrorAs(t, err, &p)
	assert.Equal(t, "stained", p.Field)
	_, err = run(colours(), "", "--clean", "190,0,0", "--stained", "70,10,1", "--washed", "80,5,10")
	require.ErrorAs(t, err, &p)
	_, err = run(swatchCommand(), "no picture")
	require.ErrorAs(t, err, &p)
	assert.Equal(t, "no-picture", p.Code)
}

// colours takes what run gives every command.
func colours() *cobra.Command {
	c := colourCommand()
	c.Args = cobra.ArbitraryArgs
	return c
}

func TestColourPrintsWhatIsGone(t *testing.T) {
	out, err := run(colours(), "", "--clean", "90,0,0", "--stained", "70,10,20", "--washed", "80,5,10")
	require.NoError(t, err)
	var w struct {
		DE76, DE2000, Removed float64
	}
	require.NoError(t, json.Unmarshal(out, &w))
	assert.InDelta(t, 15, w.DE76, 1e-9)
	assert.InDelta(t, 0.5, w.Removed, 1e-9)
	out, err = run(colours(), "", "--clean", "90,0,0", "--stained", "90,0,0", "--washed", "80,5,10")
	require.NoError(t, err)
	assert.Contains(t, string(out), `"removed": null`)
}

// Two patches and a cloth with a stain, drawn as flat colours.
func TestSwatchPrintsWhatItFound(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 400, 300))
	fill := func(x0, y0, x1, y1 int, c color.RGBA) {
		for y := y0; y < y1; y++ {
			for x := x0; x < x1; x++ {
				img.Set(x, y, c)
			}
		}
	}
	fill(0, 0, 400, 300, color.RGBA{90, 70, 60, 255})
	fill(20, 40, 90, 110, color.RGBA{244, 244, 244, 255})
	fill(20, 160, 90, 230, color.RGBA{119, 119, 119, 255})
	fill(140, 30, 380, 270, color.RGBA{222, 216, 202, 255})
	fill(220, 100, 300, 190, color.RGBA{140, 90, 60, 255})
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	out, err := run(swatchCommand(), b.String())
	require.NoError(t, err)
	var s struct {
		White, Grey *struct{ L, A, B float64 }
		Areas       []struct{ L, A, B, Share float64 }
		Sure        bool
	}
	require.NoError(t, json.Unmarshal(out, &s))
	assert.True(t, s.Sure)
	assert.InDelta(t, 96.1, s.White.L, 0.5)
	assert.InDelta(t, 50.0, s.Grey.L, 0.5)
	require.Len(t, s.Areas, 3, "table, cloth and stain")
}
