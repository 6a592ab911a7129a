package quantity

import (
	"fmt"
	"math"
	"strconv"
)

// FormatGrams prints a mass the way a scale of that step shows it.
func FormatGrams(g, stepG float64) string {
	places := 0
	if stepG < 1 {
		places = int(math.Ceil(-math.Log10(stepG)))
	}
	if g >= 10_000 {
		return fmt.Sprintf("%.2f kg", g/1000)
	}
	return fmt.Sprintf("%.*f g", places, g)
}

// FormatFigures prints a number rounded to so many significant figures, never as a power of ten: 10300, 0.000012.
func FormatFigures(v float64, figures int) string {
	rounded, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', figures, 64), 64)
	if err != nil { // beyond all numbers
		rounded = v
	}
	return strconv.FormatFloat(rounded, 'f', -1, 64)
}
