// Package label says what stands on a label, in which order and how large, and lays
// it out.
//
// A label is made of a Content, which knows nothing of paper, in one or two languages
// of package wording. Lay puts it onto a Form: plain geometry in millimetres, from the
// top left, that any printer of text, lines and polygons can draw. What does not fit is
// told and never printed small or cut: see Misfit.
//
// The package also holds what law asks of the figures on it: net quantity and its
// letters, what packs may fall short of, the bands of ingredients, and words that
// promise too much.
package label
