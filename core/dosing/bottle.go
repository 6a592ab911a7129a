package dosing

// DissolvedDays is how long a powder is used once it is dissolved; common practice: it is
// mixed when it is needed.
const DissolvedDays = 1

// Keeping is what is known of how long a good keeps, in days.
type Keeping struct {
	Good    int  // as it stands in its jar, from the day it was made
	Thinned int  // thinned with water; 0 where thinning changes nothing
	Left    int  // until it is past its date; below zero for one that is
	Dated   bool // it has a date
	Liquid  bool
}

// BottleDays is how many days from today a bottle keeps that holds a share of a good, 0 to 1,
// and water: what a liquid keeps once it is thinned, and a powder once it is dissolved. Nothing
// that is thinned outlives what it is of.
func BottleDays(share float64, k Keeping) int {
	days := k.Good
	switch {
	case !k.Liquid:
		days = DissolvedDays
	case share < 1 && k.Thinned > 0:
		days = k.Thinned
	}
	if k.Dated {
		days = max(0, min(days, k.Left))
	}
	return days
}
