package label

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"sync"
)

// Form is a shape of label and what stands on it, in order.
type Form struct {
	ID, Name          string
	WidthMM, HeightMM float64
	Round             bool // a lid: text keeps inside the circle
	Blocks            []string
}

// Sheet is a page with places for labels on it. A zero pitch is worked out from margin
// and gap, for as many as fit.
type Sheet struct {
	ID, Name                  string
	Single                    bool // the page is the label
	PageWidthMM, PageHeightMM float64
	Columns, Rows             int
	WidthMM, HeightMM         float64 // of a place; zero takes the label's own
	LeftMM, TopMM             float64
	PitchXMM, PitchYMM        float64
	MarginMM, GapMM           float64
}

//go:embed forms.json
var formsFile []byte

//go:embed sheets.json
var sheetsFile []byte

// Forms and Sheets are the shipped ones. The slices are shared and must not be changed.
var (
	Forms  = sync.OnceValue(func() []Form { return mustRead[Form](formsFile) })
	Sheets = sync.OnceValue(func() []Sheet { return mustRead[Sheet](sheetsFile) })
)

func mustRead[T any](file []byte) (rows []T) {
	if err := json.Unmarshal(file, &rows); err != nil {
		panic(fmt.Sprintf("label: %v", err))
	}
	return rows
}

// FindForm returns a form by its id.
func FindForm(id string) (Form, error) {
	var known []string
	for _, f := range Forms() {
		if f.ID == id {
			return f, nil
		}
		known = append(known, f.ID)
	}
	return Form{}, fmt.Errorf("there is no label %q: there are %s", id, strings.Join(known, ", "))
}

// FindSheet returns a sheet by its id.
func FindSheet(id string) (Sheet, error) {
	var known []string
	for _, s := range Sheets() {
		if s.ID == id {
			return s, nil
		}
		known = append(known, s.ID)
	}
	return Sheet{}, fmt.Errorf("there is no sheet %q: there are %s", id, strings.Join(known, ", "))
}

// Sizes a label may have, in mm.
const (
	LeastMM = 15.0
	MostMM  = 400.0
)

var sizeForm = regexp.MustCompile(`^\s*([\d.,]+)\s*(?:mm)?\s*[x×*]\s*([\d.,]+)\s*(?:mm)?\s*$`)

// ParseSize reads a size such as 60x90 or 60 × 90 mm, width first.
func ParseSize(s string) (widthMM, heightMM float64, err error) {
	m := sizeForm.FindStringSubmatch(s)
	if m == nil {
		return 0, 0, fmt.Errorf("“%s” is no size: expected width and height in mm, such as 60x90", s)
	}
	read := func(s string) float64 {
		v, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
		if err != nil {
			return math.NaN()
		}
		return v
	}
	widthMM, heightMM = read(m[1]), read(m[2])
	for _, v := range []float64{widthMM, heightMM} {
		if !(v >= LeastMM && v <= MostMM) {
			return 0, 0, fmt.Errorf("a label is %g to %g mm wide and high, not %s", LeastMM, MostMM, s)
		}
	}
	return widthMM, heightMM, nil
}

// Place is where a label stands on its page, in mm.
type Place struct {
	Page int
	X, Y float64
}

// MostLabels is how many labels are printed at once.
const MostLabels = 500

// IsPlain reports whether a sheet is plain paper, which is cut after it is printed.
func (s Sheet) IsPlain() bool { return !s.Single && s.Columns == 0 }

// Places are where so many labels of a form go, from a place on: 0 for the first of a
// fresh sheet, so that a half-used one is used up. The error says what does not fit.
func (s Sheet) Places(f Form, n, start int) (places []Place, pageWidth, pageHeight float64, err error) {
	if n < 1 || n > MostLabels {
		return nil, 0, 0, fmt.Errorf("print 1 to %d labels at once, not %d", MostLabels, n)
	}
	if s.Single {
		for i := range n {
			places = append(places, Place{Page: i})
		}
		return places, f.WidthMM, f.HeightMM, nil
	}
	g := s
	if g.Columns == 0 {
		g.LeftMM, g.TopMM = s.MarginMM, s.MarginMM
		g.PitchXMM, g.PitchYMM = f.WidthMM+s.GapMM, f.HeightMM+s.GapMM
		g.Columns = int((s.PageWidthMM - 2*s.MarginMM + s.GapMM) / g.PitchXMM)
		g.Rows = int((s.PageHeightMM - 2*s.MarginMM + s.GapMM) / g.PitchYMM)
	} else if f.WidthMM > g.WidthMM+0.05 || f.HeightMM > g.HeightMM+0.05 {
		return nil, 0, 0, fmt.Errorf("a label of %g × %g mm does not go on a place of %g × %g mm", f.WidthMM, f.HeightMM, g.WidthMM, g.HeightMM)
	}
	each := g.Columns * g.Rows
	if each == 0 {
		return nil, 0, 0, fmt.Errorf("no label of %g × %g mm goes on a page of %g × %g mm", f.WidthMM, f.HeightMM, s.PageWidthMM, s.PageHeightMM)
	}
	if start < 0 || start >= each {
		return nil, 0, 0, fmt.Errorf("a sheet has %d places: begin at one of them", each)
	}
	for i := range n {
		at := start + i
		on := at % each
		places = append(places, Place{Page: at / each,
			X: g.LeftMM + float64(on%g.Columns)*g.PitchXMM + max(0, g.WidthMM-f.WidthMM)/2,
			Y: g.TopMM + float64(on/g.Columns)*g.PitchYMM + max(0, g.HeightMM-f.HeightMM)/2})
	}
	return places, s.PageWidthMM, s.PageHeightMM, nil
}
