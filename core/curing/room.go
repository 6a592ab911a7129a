package curing

import "fmt"

// Air is the air that something stands in.
type Air struct {
	Celsius  float64
	Humidity float64 // relative, in per cent
}

// Hinders says that something will not dry in the air, where that is damper than what
// it drinks water above, in per cent; empty where it may.
func (a Air) Hinders(drinksAbove float64) string {
	if drinksAbove <= 0 || a.Humidity <= 0 || a.Humidity < drinksAbove {
		return ""
	}
	return fmt.Sprintf("Too damp to dry: the air is at %.0f %%, and above %.0f %% it drinks water. Move it where it is drier, or warm the room.", a.Humidity, drinksAbove)
}
