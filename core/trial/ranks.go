package trial

import (
	"fmt"
	"slices"
	"strings"
)

// Ranks are the marks of an order, best first: 1 for the best. What stands at the same place,
// such as B and C of “A”, “BC”, “D”, shares the mean of the places it takes (midranks, as in
// Conover, Practical Nonparametric Statistics, chapter 5). The codes are all that were judged;
// each has one place. The error is a *Fault with the row of the order.
func Ranks(order []string, codes []string) (map[string]float64, error) {
	out := map[string]float64{}
	place := 1
	for i, same := range order {
		if same == "" {
			return nil, &Fault{i, "A place is empty."}
		}
		rank := float64(place) + float64(len(same)-1)/2
		for _, c := range strings.Split(strings.ToUpper(same), "") {
			if !slices.Contains(codes, c) {
				return nil, &Fault{i, fmt.Sprintf("There is no %s in a pair.", c)}
			}
			if _, twice := out[c]; twice {
				return nil, &Fault{i, fmt.Sprintf("%s stands at two places.", c)}
			}
			out[c] = rank
		}
		place += len(same)
	}
	for _, c := range codes {
		if _, has := out[c]; !has {
			return nil, &Fault{-1, fmt.Sprintf("%s has no place: put all of a pair in order.", c)}
		}
	}
	return out, nil
}
