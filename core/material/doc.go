// Package material is what is known of each material a maker uses: names in
// use in different regions, make-up, densities, how long it keeps, what it
// does in a mixture and what it must not meet.
//
// The shipped library is in library/, a file a family. Every figure there
// names its source, or says that it is from memory. A workshop overrides any
// figure and adds its own materials with [Library.With]; figures that are its
// own are marked so.
package material
