package quantity

import (
	"fmt"
	"math"
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
