package solution

import (
	"keencrock/core/chem"
	"keencrock/core/quantity"
)

// Hardness says what meets the calcium and magnesium of the water, and of the
// good where it brings some, in mmol to a litre. The four sum to Total.
//
// It is where the mixture ends if soda and chelants go in before the soap, an
// order the maker can give it. Chalk is counted only as far as the good brings
// carbonate: the bicarbonate of the water itself makes chalk too slowly to
// save the soap.
type Hardness struct {
	Total         float64
	Precipitation float64 // fallen out as chalk
	Chelation     float64 // held by citrate and EDTA
	Soap          float64 // taken by soap, as scum
	Left          float64

	SoapGPerL     float64 // soap in a litre
	SoapLostGPerL float64 // of it lost to scum: two soaps for each calcium

	// MetRange and SoapLostRange are Met and SoapLost over the ends of what is
	// scooped, to a few hundredths: not every corner is looked at.
	MetRange, SoapLostRange quantity.Range
}

// Met is the share of the hardness that is met before the soap; 1 when there
// is none.
func (h Hardness) Met() float64 {
	if h.Total == 0 {
		return 1
	}
	return (h.Precipitation + h.Chelation) / h.Total
}

// SoapLost is the share of the soap lost to scum.
func (h Hardness) SoapLost() float64 {
	if h.SoapGPerL == 0 {
		return 0
	}
	return h.SoapLostGPerL / h.SoapGPerL
}

func (b *runner) hardness(s, product *chem.Solution) (Hardness, error) {
	const mmol = 1000
	h := Hardness{Total: mmol * (s.Calcium + s.Magnesium)}
	soap := s.Acids[chem.Soap]
	h.SoapGPerL = soap * chem.SoapMolarMass
	if h.Total == 0 {
		return h, nil
	}
	brought := product.Acids[chem.Carbonic]
	e, err := chem.Solve(s, chem.Conditions{Celsius: b.use.Celsius, NearPH: b.near, Supersaturated: brought == 0 && b.keepsChalk, Within: forRanges, NoRange: true})
	if err != nil {
		return h, err
	}
	h.Precipitation, h.Chelation = mmol*min(e.Calcite, brought), mmol*e.Metals.Chelated
	open := max(0, h.Total-h.Precipitation-h.Chelation)
	h.Soap = min(open, mmol*soap/2)
	h.SoapLostGPerL = 2 * h.Soap / mmol * chem.SoapMolarMass
	h.Left = max(0, open-h.Soap)
	return h, nil
}
