package making

import (
	"fmt"
	"math"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// WeighStatus is how far a line has been weighed out.
type WeighStatus string

// A line waits, is started, is done, has too much, or is left out.
const (
	Waiting WeighStatus = "waiting"
	Started WeighStatus = "started"
	Done    WeighStatus = "done"
	Over    WeighStatus = "over"
	LeftOut WeighStatus = "left-out" // optional, and not wanted this time
)

// IsOpen reports whether something is still to be weighed of a line.
func (s WeighStatus) IsOpen() bool { return s == Waiting || s == Started }

// weighShare is how far off a weighing may be, as a share of its target.
// Common practice; a scale can show no better than its step.
const weighShare = 0.02

// Tolerance is how many grams a line may miss its target by, on a scale that
// shows steps of stepG.
func Tolerance(targetG, stepG float64) float64 {
	return max(stepG, targetG*weighShare) * (1 + 1e-9)
}

// statusOf says how a line stands on a scale of steps of stepG.
func statusOf(targetG, weighedG, stepG float64) WeighStatus {
	switch tolerance := Tolerance(targetG, stepG); {
	case weighedG <= 0:
		return Waiting
	case targetG <= 0:
		return Done
	case targetG-weighedG > tolerance:
		return Started
	case weighedG-targetG > tolerance:
		return Over
	}
	return Done
}

// Judge says how a line stands and, where something is to be done, what.
func Judge(name string, targetG, weighedG, stepG float64) (status WeighStatus, advice string) {
	name = material.InSentence(name)
	status = statusOf(targetG, weighedG, stepG)
	switch {
	case status == Waiting && targetG <= 0:
		advice = fmt.Sprintf("No figure is said of %s: add as much as it takes, and weigh what went in.", name)
	case status == Started:
		advice = fmt.Sprintf("%s more %s.", quantity.FormatGrams(targetG-weighedG, stepG), name)
	case status == Over:
		advice = fmt.Sprintf("%s too much %s. Take it out with a dry spoon, or keep it and note it: the batch then has %.0f %% more of it.",
			quantity.FormatGrams(weighedG-targetG, stepG), name, math.Round(100*(weighedG/targetG-1)))
	}
	return status, advice
}
