package quantity

import "strings"

// State is what a word says of the state or quality of a material: nothing
// that changes what it is.
type State struct {
	Celsius float64 // of what is poured, 0 when it is not said
	Of      string  // the only thing it says nothing new of, as “soft” of water; empty for anything
}

// states are words that may stand before or after a material's name. A word
// that is on no list here is part of the name: “black” soap is no soap one
// knows without asking.
var states = buildStates(map[State]string{
	{}: `fresh freshly dried dry organic natural pure plain regular ordinary normal standard basic simple unscented scentless unperfumed
		fragrance-free vegetable extra virgin extra-virgin refined unrefined straight neat undiluted ordinary regular fine finely coarse coarsely medium-grind ground grated grate shredded shaved chopped
		sliced crushed powdered granulated granular granule granules melted molten softened sifted sieved flaked loose clean new old leftover whole
		broken ripe peeled unpeeled raw unsalted unsweetened food food-grade grade cosmetic-grade technical-grade technical cosmetic household kitchen
		supermarket store-bought shop-bought bought homemade home-made own your my our favourite favorite preferred best good good-quality
		quality high-quality cheap cheapest any nice strong-smelling dissolved mixed drained strained filtered cooled chilled soaked rinsed
		undiluted neat heaped packed tap extra-fine superfine clear transparent local unwaxed washed squeezed pressed bottled canned
		deseeded pitted seedless crumbled heaping thinly roughly very lightly choice desired preferred selected chosen optional quick`,
	{Of: "water"}:  `distilled purified deionised deionized demineralised demineralized soft softened rain spring mineral bottled filtered drinking previously sterile`,
	{Celsius: 100}: "boiling",
	{Celsius: 95}:  "boiled freshly-boiled just-boiled near-boiling nearly-boiling almost-boiling",
	{Celsius: 55}:  "hot very-hot",
	{Celsius: 40}:  "warm lukewarm tepid hand-hot warmed",
	{Celsius: 20}:  "room-temperature room-temp",
	{Celsius: 12}:  "cold cool ice-cold chilled",
})

func buildStates(table map[State]string) map[string][]State {
	words := map[string][]State{}
	for s, list := range table {
		for _, w := range strings.Fields(list) {
			words[w] = append(words[w], s)
		}
	}
	return words
}

// StateOf finds what a word, in small letters, says of a material whose name is
// or ends in the given word; ok is false where it is part of the name.
func StateOf(word, name string) (s State, ok bool) {
	for _, s := range states[word] {
		if s.Of == "" || name == s.Of || strings.HasSuffix(name, " "+s.Of) {
			return s, true
		}
	}
	return State{}, false
}
