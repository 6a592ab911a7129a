package safety

import (
	"fmt"
	"slices"
	"strings"

	"keencrock/core/material"
)

// Need is what somebody must be kept from.
type Need string

// What a party can be kept from: by who lives there, where it drains, what it is used on.
const (
	Infants   Need = "infants"
	Pets      Need = "pets" // cats, dogs, birds
	Asthma    Need = "asthma"
	Pregnancy Need = "pregnancy"
	Septic    Need = "septic-tank"
	Silk      Need = "silk-and-wool"
	Aluminium Need = "aluminium"
	Stone     Need = "stone"
)

// allergenPrefix begins the need of one who must not meet an allergen, by its declared name.
const allergenPrefix = "allergen:"

// Allergen is the need of one who must not meet an allergen.
func Allergen(name string) Need { return Need(allergenPrefix + name) }

// against is what stands against a need: tags of a material, its hazard statements,
// cautions that were found of the good, and why.
type against struct {
	Need
	name       string
	tags       material.Tags
	statements []string
	cautions   []string
	why        string
}

// needs are common practice; what is classed is after Regulation (EC) 1272/2008.
var needs = []against{
	{Infants, "infants", material.ScentOil | material.Borate | material.Poison, []string{"H314", "H318", "H334", "H360"}, []string{"burns-skin"}, "can harm infants"},
	{Pets, "cats and dogs", material.ScentOil | material.Poison | material.Chlorine, []string{"H314"}, []string{"burns-skin"}, "can harm cats and other pets"},
	{Asthma, "asthma", material.ScentOil | material.Chlorine | material.Ammonia | material.Enzyme | material.DustyAcid | material.FineDust, []string{"H334", "H335"}, nil, "can bring on an attack of asthma"},
	{Pregnancy, "a pregnancy", material.Borate, []string{"H340", "H350", "H360", "H361", "H362"}, nil, "is classed as a danger to unborn children, or may be"},
	{Septic, "a septic tank", material.Chlorine, nil, nil, "kills what a septic tank lives by"},
	{Silk, "silk and wool", 0, nil, []string{"alkali-on-wool", "burns-skin"}, "damages silk and wool"},
	{Aluminium, "aluminium", 0, nil, []string{"alkali-and-aluminium", "acid-and-aluminium"}, "eats aluminium"},
	{Stone, "natural stone", 0, nil, []string{"acid-and-stone"}, "etches marble and limestone"},
}

// Needs lists what a party can be kept from, but allergens, with how each is called.
func Needs() (all []Need, names map[Need]string) {
	names = map[Need]string{}
	for _, n := range needs {
		all = append(all, n.Need)
		names[n.Need] = n.name
	}
	return all, names
}

// ParseNeed reads what somebody is to be kept from: one of [Needs], or “allergen:” and a
// name.
func ParseNeed(s string) (Need, error) {
	if name, is := strings.CutPrefix(s, allergenPrefix); is && strings.TrimSpace(name) != "" {
		return Allergen(strings.ToLower(strings.TrimSpace(name))), nil
	}
	var known []string
	for _, n := range needs {
		if string(n.Need) == s {
			return n.Need, nil
		}
		known = append(known, string(n.Need))
	}
	return "", fmt.Errorf("nobody is kept from %q: expected one of %s, or %s and a name", s, strings.Join(known, ", "), allergenPrefix)
}

// Held is a good as it is held against somebody's needs.
type Held struct {
	Ingredients []Ingredient
	Statements  []string // what the good is classed as, such as H318
	Unknown     []string // names of what nothing is known of
	Cautions    []Caution
}

// Against says what of a good stands against somebody's needs, a sentence each. What
// nothing is known of stands against every need that is about health: it is not known to
// be harmless.
func (g *Held) Against(wanted []Need) (found []string) {
	say := func(format string, args ...any) {
		if s := fmt.Sprintf(format, args...); !slices.Contains(found, s) {
			found = append(found, s)
		}
	}
	for _, need := range wanted {
		if name, is := strings.CutPrefix(string(need), allergenPrefix); is {
			againstAllergen(name, g.Ingredients, say)
			continue
		}
		if i := slices.IndexFunc(needs, func(n against) bool { return n.Need == need }); i >= 0 {
			needs[i].hold(g, say)
		}
	}
	return found
}

// hold says what of a good stands against one need.
func (n *against) hold(g *Held, say func(string, ...any)) {
	tagged := false
	for _, one := range g.Ingredients {
		if one.Share > 0 && one.Material.Tags&n.tags != 0 {
			tagged = true
			say("%s %s.", one.Material.Name, n.why)
		}
	}
	if i := slices.IndexFunc(g.Statements, func(s string) bool { return isOneOf(s, n.statements) }); i >= 0 && !tagged {
		say("It is classed %s, which %s.", g.Statements[i], n.why)
	}
	if len(n.statements) > 0 {
		for _, name := range g.Unknown {
			say("Nothing is known of the dangers of %s, so nobody can say it is fit for %s.", name, n.name)
		}
	}
	for _, c := range g.Cautions {
		if slices.Contains(n.cautions, c.Code) {
			say("%s", c.Text)
		}
	}
}

func againstAllergen(name string, in []Ingredient, say func(string, ...any)) {
	for _, one := range in {
		for of := range one.Material.Allergens {
			if strings.EqualFold(of, name) && one.Share > 0 {
				say("%s holds %s.", one.Material.Name, strings.ToLower(of))
			}
		}
		if strings.EqualFold(one.Material.Name, name) && one.Share > 0 {
			say("%s is in it.", one.Material.Name)
		}
	}
}

// isOneOf reports whether a hazard statement is one of some, whatever it adds: H360FD is H360.
func isOneOf(statement string, some []string) bool {
	return slices.ContainsFunc(some, func(s string) bool { return strings.HasPrefix(statement, s) })
}
