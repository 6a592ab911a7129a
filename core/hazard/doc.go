// Package hazard screens a mixture for the hazards a label has to tell of.
//
// It adds up what the substances of a mixture are classed as, by the rules of
// Regulation (EC) 1272/2008 (CLP), Annex I, which are those of the globally
// harmonised system of the United Nations with the choices Europe made. Each finding
// names the rule, the sum and the limit it met, and what would bring it under.
//
// It is a screen and not a classification: what was measured on the mixture itself
// goes before any sum, and an authority or a licensed assessor decides.
//
// # What is there
//
// In a wet good acids and alkalis meet before anybody touches it. A substance is
// counted as far as it is still in the form it is classed in, at the pH of the
// bottle: a weak acid by the protons it still has, a weak base by those it has not
// taken up, a strong one by what is left over. A powder is counted as poured.
package hazard

// Notice stands over every screen.
const Notice = "A screen, not a classification. Your local authority or a licensed assessor decides."
