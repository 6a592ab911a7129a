package vessel

import (
	"fmt"
	"math"
	"time"
)

// usualCelsius is the warmth that the usual times of a ferment are for, and perTen
// how many times as fast it works ten degrees warmer. Common practice (Q10 = 2).
const (
	usualCelsius = 20
	perTen       = 2
)

// Pace is how many times as fast as usual a ferment works at a temperature.
func Pace(celsius float64) float64 { return math.Pow(perTen, (celsius-usualCelsius)/10) }

// PaceAdvice says what the warmth does to a ferment; empty where that is little.
func PaceAdvice(celsius float64) string {
	switch pace := Pace(celsius); {
	case pace < 0.8:
		return fmt.Sprintf("At %.0f °C it works %.1f times as long as at %d °C.", celsius, 1/pace, usualCelsius)
	case pace > 1.25:
		return fmt.Sprintf("At %.0f °C it works %.1f times as fast as at %d °C, and gives gas so much faster: look to its lid.", celsius, pace, usualCelsius)
	}
	return ""
}

// sugarHalfLife is how long half of the sugar lasts at the usual warmth. From memory.
const sugarHalfLife = 14 * 24 * time.Hour

// GasPerDayL is the gas, in litres at 25 °C, that the sugar that was fed gives in the
// day from a time, where the room was at one temperature all along.
func GasPerDayL(events []Event, now time.Time, celsius float64) float64 {
	rate := math.Ln2 / sugarHalfLife.Hours() * Pace(celsius)
	gas := 0.0
	for _, e := range events {
		if age := now.Sub(e.At).Hours(); e.SugarG > 0 && age >= 0 {
			gas += e.SugarG * (math.Exp(-rate*age) - math.Exp(-rate*(age+24)))
		}
	}
	return gas * CO2PerSugar * litresPerGram
}
