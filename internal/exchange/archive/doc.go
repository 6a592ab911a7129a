// Package archive is one file with all that a database holds, or all of one workshop,
// in open formats: a ZIP of a table each as CSV (RFC 4180, UTF-8, the names of the
// columns in the first row; an empty field is null, a quoted empty one an empty text)
// and manifest.json, which says what made it, how many rows each table has and the
// SHA-256 of each file.
//
// An archive is written whole or not at all, and read only when all of it is as its
// manifest says.
package archive

import "time"

// Format and Version are what a manifest says it is.
const (
	Format  = "keencrock/archive"
	Version = 1
)

// Kind is what an archive holds all of.
type Kind string

// Kinds of archives.
const (
	Server   Kind = "server"
	Workshop Kind = "workshop"
)

// Manifest says what an archive is.
type Manifest struct {
	Format   string    `json:"format"`
	Version  int       `json:"version"`
	Kind     Kind      `json:"kind"`
	MadeAt   time.Time `json:"made_at"`
	MadeBy   string    `json:"made_by"` // version of Keen Crock
	Schema   int64     `json:"schema"`  // version of the tables
	Workshop string    `json:"workshop,omitempty"`
	Tables   []Table   `json:"tables"`
}

// Table is a file of an archive.
type Table struct {
	Name   string `json:"name"`
	Rows   int64  `json:"rows"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

const (
	manifestName = "manifest.json"
	readmeName   = "README.txt"
)

const readme = `An archive of Keen Crock.

tables/ has one CSV file for each table (RFC 4180, UTF-8, names of the columns in
the first row; an empty field is null, a quoted empty one an empty text), and
manifest.json says how many rows each has and its SHA-256. Any program that reads
CSV can read it. Keen Crock takes it in with “keencrock restore” where it is of a
whole server, and with “keencrock import” where it is of one workshop.

Who has this file has all that is in it: keep it as you would keep your books.
`

func fileOf(table string) string { return "tables/" + table + ".csv" }
