package formula

import "fmt"

// Kind is what sort of good a formula makes.
type Kind string

// KindInfo is what follows from the kind of a good.
type KindInfo struct {
	Kind Kind
	Name string
	// Wetted kinds are pressed or moulded with a little liquid.
	Wetted bool
	// Slow kinds steep or ferment, and what they steep is strained out.
	Slow bool
	// Used on laundry, dishes, surfaces, the toilet or skin.
	UsedOn string
	Nature Nature
}

// Nature is what becomes of a good by the way it is made or used, for the rules of
// keeping and caution; most have none.
type Nature uint8

// It ferments, is infused in something sour, is water that soap nuts were in, is
// sprayed, or opens drains.
const (
	Ferments Nature = 1 << iota
	Infused
	OfSoapNuts
	Sprayed
	OpensDrains
)

// Is reports whether a kind has a nature.
func (k *KindInfo) Is(n Nature) bool { return k.Nature&n != 0 }

// Kinds lists every kind of good, in the order a maker meets them.
var Kinds = []KindInfo{
	{Kind: "laundry-powder", Name: "Laundry powder", UsedOn: "laundry"},
	{Kind: "laundry-liquid", Name: "Laundry liquid", UsedOn: "laundry"},
	{Kind: "scent-booster", Name: "Scent booster", UsedOn: "laundry"},
	{Kind: "dish-powder", Name: "Dish powder", UsedOn: "dishes"},
	{Kind: "dish-tab", Name: "Dish tab", Wetted: true, UsedOn: "dishes"},
	{Kind: "dish-gel", Name: "Dish gel", UsedOn: "dishes"},
	{Kind: "rinse-aid", Name: "Rinse aid", UsedOn: "dishes"},
	{Kind: "toilet-bomb", Name: "Toilet bomb", Wetted: true, UsedOn: "toilet"},
	{Kind: "hand-soap", Name: "Hand soap", UsedOn: "skin"},
	{Kind: "spray", Name: "Spray", UsedOn: "surfaces", Nature: Sprayed},
	{Kind: "scouring-paste", Name: "Scouring paste", UsedOn: "surfaces"},
	{Kind: "infused-vinegar", Name: "Infused vinegar", Slow: true, UsedOn: "surfaces", Nature: Infused},
	{Kind: "soap-nut-extract", Name: "Soap-nut extract", Slow: true, UsedOn: "laundry", Nature: OfSoapNuts},
	{Kind: "ferment", Name: "Ferment", Slow: true, UsedOn: "surfaces", Nature: Ferments},
	{Kind: "drain-cleaner", Name: "Drain cleaner", UsedOn: "drain", Nature: OpensDrains},
	{Kind: "fabric-softener", Name: "Fabric softener", UsedOn: "laundry"},
	{Kind: "stain-remover", Name: "Stain remover", UsedOn: "laundry"},
	{Kind: "other", Name: "Other good", UsedOn: "surfaces"},
}

// Info returns what is known of a kind; an unknown one is an "other good".
func (k Kind) Info() KindInfo {
	for _, info := range Kinds {
		if info.Kind == k {
			return info
		}
	}
	return Kinds[len(Kinds)-1]
}

// ParseKind reads a kind as formula files write it; empty means other.
func ParseKind(s string) (Kind, error) {
	if s == "" {
		return "other", nil
	}
	for _, info := range Kinds {
		if string(info.Kind) == s {
			return info.Kind, nil
		}
	}
	return "", fmt.Errorf("kind %q is not known: expected one of laundry-powder, dish-tab, toilet-bomb and so on, or other", s)
}
