package sheet

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
)

// MostRows is how many rows of a table are read at the most.
const MostRows = 20_000

// Limits of what a workbook unpacks to, in bytes, and of its columns: more is none of ours.
const (
	mostUnpacked = 120 << 20
	mostColumns  = 100
)

// Grid is a table as it was written: its head, and its rows as texts. What is a number or a
// day in a workbook is the number it is kept as.
type Grid struct {
	Sheet string
	Head  []string
	Rows  [][]string
	// First is the line of the file that the first row stands on.
	First int
	// Days1904 says that days are counted from 1904 on.
	Days1904 bool
}

// Unreadable says why a file is no table that can be read.
type Unreadable struct{ Code, Detail string }

func (u *Unreadable) Error() string { return u.Detail }

func unreadable(code, detail string, args ...any) error {
	return &Unreadable{code, fmt.Sprintf(detail, args...)}
}

// Read reads the first table of a workbook (XLSX) or a CSV file.
//
// The error is an [*Unreadable]: a password, a file that unpacks to too much, merged cells,
// too many rows, no head.
func Read(data []byte) (*Grid, error) {
	var g *Grid
	var err error
	switch {
	case len(bytes.TrimSpace(data)) == 0:
		return nil, unreadable("empty", "There is nothing in the file.")
	case bytes.HasPrefix(data, []byte("\xd0\xcf\x11\xe0")):
		return nil, unreadable("locked", "The file has a password, or is of an older kind than XLSX: save it as XLSX without one, or as CSV.")
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		g, err = readWorkbook(data)
	default:
		g, err = readCSV(data)
	}
	if err != nil {
		return nil, err
	}
	return g, g.trim()
}

func readWorkbook(data []byte) (*Grid, error) {
	packed, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, unreadable("broken", "The file cannot be opened: it is damaged, or was cut off.")
	}
	unpacked := uint64(0)
	for _, f := range packed.File {
		if unpacked += f.UncompressedSize64; unpacked > mostUnpacked {
			return nil, unreadable("bomb", "The file unpacks to more than any table of ours.")
		}
	}
	f, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{UnzipSizeLimit: mostUnpacked, UnzipXMLSizeLimit: mostUnpacked, RawCellValue: true})
	if err != nil {
		return nil, unreadable("broken", "The file cannot be opened as a workbook.")
	}
	defer f.Close()
	names := f.GetSheetList()
	if len(names) == 0 {
		return nil, unreadable("empty", "There is no sheet in the workbook.")
	}
	g := &Grid{Sheet: names[0], First: 1}
	if props, err := f.GetWorkbookProps(); err == nil && props.Date1904 != nil {
		g.Days1904 = *props.Date1904
	}
	rows, err := f.Rows(g.Sheet)
	if err != nil {
		return nil, unreadable("broken", "The sheet %s cannot be read.", g.Sheet)
	}
	defer rows.Close()
	for rows.Next() {
		cells, err := rows.Columns(excelize.Options{RawCellValue: true})
		if err != nil {
			return nil, unreadable("broken", "Line %d of the sheet cannot be read.", len(g.Rows)+1)
		}
		if g.Rows = append(g.Rows, cells); len(g.Rows) > MostRows+1 {
			return nil, tooMany()
		}
	}
	merged, err := f.GetMergeCells(g.Sheet)
	if err == nil && len(merged) > 0 {
		return nil, unreadable("merged", "The cells %s are merged: part them, so that each row stands by itself.", merged[0][0])
	}
	return g, noValue(f, g)
}

func tooMany() error {
	return unreadable("too-many", "There are more than %d rows: part the file.", MostRows)
}

// noValue refuses a formula that nobody has reckoned: what the workbook holds then is no
// value. One that was is taken as what it came to.
func noValue(f *excelize.File, g *Grid) error {
	for r, cells := range g.Rows[:min(len(g.Rows), MostRows)] {
		for c, value := range cells {
			if value != "" || r == 0 {
				continue
			}
			at, err := excelize.CoordinatesToCellName(c+1, r+1)
			if err != nil {
				return nil
			}
			if formula, err := f.GetCellFormula(g.Sheet, at); err == nil && formula != "" {
				return unreadable("formula", "Cell %s holds a formula that nobody has worked out: open the file in a spreadsheet, save it, and bring it again.", at)
			}
		}
	}
	return nil
}

func readCSV(data []byte) (*Grid, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if bytes.ContainsRune(data[:min(len(data), 4000)], 0) {
		return nil, unreadable("broken", "The file is neither XLSX nor CSV.")
	}
	if !utf8.Valid(data) {
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(data)
		if err != nil {
			return nil, unreadable("broken", "The letters of the file cannot be read: save it as UTF-8.")
		}
		data = decoded
	}
	first, _, _ := bytes.Cut(data, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(data))
	if bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	} else if bytes.Count(first, []byte("\t")) > bytes.Count(first, []byte(",")) {
		r.Comma = '\t'
	}
	r.FieldsPerRecord, r.LazyQuotes = -1, true
	g := &Grid{First: 1}
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return g, nil
		}
		if err != nil {
			return nil, unreadable("broken", "Line %d of the file cannot be read.", len(g.Rows)+1)
		}
		for i := range row {
			row[i] = Unguard(row[i])
		}
		if g.Rows = append(g.Rows, row); len(g.Rows) > MostRows+1 {
			return nil, tooMany()
		}
	}
}

// trim takes the head off, and empty rows before and after.
func (g *Grid) trim() error {
	empty := func(row []string) bool {
		for _, c := range row {
			if strings.TrimSpace(c) != "" {
				return false
			}
		}
		return true
	}
	for len(g.Rows) > 0 && empty(g.Rows[0]) {
		g.Rows, g.First = g.Rows[1:], g.First+1
	}
	for len(g.Rows) > 0 && empty(g.Rows[len(g.Rows)-1]) {
		g.Rows = g.Rows[:len(g.Rows)-1]
	}
	if len(g.Rows) < 2 {
		return unreadable("empty", "There is no table with a head and at least one row in the file.")
	}
	g.Head, g.Rows, g.First = g.Rows[0], g.Rows[1:], g.First+1
	if len(g.Head) > mostColumns {
		return unreadable("too-wide", "The table has more than %d columns.", mostColumns)
	}
	for i := range g.Head {
		g.Head[i] = strings.TrimSpace(g.Head[i])
	}
	for i, row := range g.Rows {
		row = row[:min(len(row), len(g.Head))]
		for len(row) < len(g.Head) {
			row = append(row, "")
		}
		for c := range row {
			row[c] = strings.TrimSpace(row[c])
		}
		g.Rows[i] = row
	}
	return nil
}

// dayForms are how days are written that can be told apart.
var dayForms = []string{time.DateOnly, "2006/01/02", "2.1.2006", "02.01.2006", "2 Jan 2006", "2 January 2006", "January 2, 2006", "Jan 2, 2006", time.RFC3339}

// Serials of the days that are taken for such: 1970 to 2100.
const firstSerial, lastSerial = 25569, 73415

// Day reads a day: as it is written, or as the number a workbook keeps it as. What could be
// two days, such as 4/5/2026, is refused.
func Day(text string, from1904 bool) (time.Time, error) {
	text = strings.TrimSpace(text)
	if n, err := strconv.ParseFloat(text, 64); err == nil && n >= firstSerial && n <= lastSerial {
		return excelize.ExcelDateToTime(float64(int(n)), from1904)
	}
	for _, form := range dayForms {
		if t, err := time.Parse(form, text); err == nil {
			return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC), nil
		}
	}
	us, errUS := time.Parse("1/2/2006", text)
	eu, errEU := time.Parse("2/1/2006", text)
	switch {
	case errUS == nil && errEU == nil && !us.Equal(eu):
		return time.Time{}, fmt.Errorf("%q can be two days: write it as %s or %s", text, us.Format(time.DateOnly), eu.Format(time.DateOnly))
	case errUS == nil:
		return us, nil
	case errEU == nil:
		return eu, nil
	}
	return time.Time{}, fmt.Errorf("%q is no day: write it as 2026-05-31", text)
}

// Cell is how a place in a table is called: B7.
func Cell(column, line int) string {
	name, err := excelize.CoordinatesToCellName(column+1, line)
	if err != nil {
		return strconv.Itoa(line)
	}
	return name
}
