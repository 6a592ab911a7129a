package tenant

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"sync"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/learned"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/store"
)

// Library is the library as a workshop has it: the shipped one with its own
// materials, its figures and the goods it made. It is shared and never changed.
type Library struct {
	Materials       *material.Library
	Figures         map[string]store.MaterialSetting // what was measured or decided, by material
	CustomMaterials map[string]api.OwnMaterial       // the workshop's own materials, by id
	Sizes           *quantity.Sizes                  // its own sizes of vague measures and vessels; nil without any
	Learned         map[learned.Key]LearnedFigure    // figures of which something was measured or said
}

// libraries remembers what was worked out for workshops until their stamps
// change. It holds nothing that is not there anew whenever it is asked for.
type libraries struct {
	mu      sync.Mutex
	byStamp map[libraryKey]*Library
}

type libraryKey struct{ workshop, stamp uuid.UUID }

// maxLibraries bounds the memory of worked-out libraries.
const maxLibraries = 64

func (l *libraries) of(tx *store.Tx, w *store.Workshop) (*Library, error) {
	key := libraryKey{w.ID, w.LibraryStamp}
	l.mu.Lock()
	found := l.byStamp[key]
	l.mu.Unlock()
	if found != nil {
		return found, nil
	}
	made, err := readLibrary(tx)
	if err != nil {
		return nil, err
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.byStamp == nil || len(l.byStamp) >= maxLibraries {
		l.byStamp = map[libraryKey]*Library{}
	}
	l.byStamp[key] = made
	return made, nil
}

func readLibrary(tx *store.Tx) (*Library, error) {
	rows, err := tx.MaterialSettings()
	if err != nil {
		return nil, err
	}
	out := &Library{Figures: map[string]store.MaterialSetting{}}
	for _, row := range rows {
		out.Figures[row.Material] = row
	}
	if out.CustomMaterials, err = CustomMaterials(tx); err != nil {
		return nil, err
	}
	if out.Sizes, err = customSizes(tx); err != nil {
		return nil, err
	}
	if out.Materials, err = LibraryOf(out.CustomMaterials); err != nil {
		return nil, err
	}
	if err := out.learn(tx); err != nil {
		return nil, err
	}
	out.Materials, err = withGoods(out.Materials, tx)
	return out, err
}

func customSizes(tx *store.Tx) (*quantity.Sizes, error) {
	rows, err := tx.CustomSizes()
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	sizes := &quantity.Sizes{}
	for _, row := range rows {
		if unit, ok := quantity.ParseUnit(row.Unit); ok {
			sizes[unit] = quantity.Exactly(row.Size)
		}
	}
	return sizes, nil
}

// OwnMaterial makes a material of what was said.
func OwnMaterial(id string, in *api.OwnMaterial) (*material.Material, error) {
	o := material.Own{ID: id, Name: in.Name, Label: in.Label, Also: in.Also, Like: in.Like, Form: in.Form, Function: in.Function,
		Strength: in.Strength, PieceG: in.PieceG, SealedDays: in.KeepsSealedDays, OpenDays: in.KeepsOpenDays, Note: in.Note,
		Statements: in.Hazards, NoHazards: in.NoHazards}
	if in.Density > 0 {
		o.Density = quantity.Exactly(in.Density)
	}
	return o.Material(material.Shipped())
}

// CustomMaterials are what the workshop said of its own materials, by id.
func CustomMaterials(tx *store.Tx) (map[string]api.OwnMaterial, error) {
	rows, err := tx.CustomMaterials()
	if err != nil {
		return nil, err
	}
	made := make(map[string]api.OwnMaterial, len(rows))
	for _, row := range rows {
		var in api.OwnMaterial
		if err := json.Unmarshal(row.Said, &in); err != nil {
			return nil, fmt.Errorf("own material %s: %w", row.ID, err)
		}
		in.Version = row.Version
		made[row.ID] = in
	}
	return made, nil
}

// LibraryOf is the shipped library with a workshop's own materials.
func LibraryOf(made map[string]api.OwnMaterial) (*material.Library, error) {
	lib := material.Shipped()
	for _, id := range slices.Sorted(maps.Keys(made)) {
		in := made[id]
		m, err := OwnMaterial(id, &in)
		if err != nil {
			m, err = orphan(id, &in)
		}
		if err != nil {
			return nil, fmt.Errorf("own material %s: %w", id, err)
		}
		if lib, err = admit(lib, m); err != nil {
			return nil, err
		}
	}
	return lib, nil
}

// orphan stands in for a material that can no longer be made as it was said,
// since what it is like is not shipped any more, so that the workshop still
// opens.
func orphan(id string, in *api.OwnMaterial) (*material.Material, error) {
	return OwnMaterial(id, &api.OwnMaterial{Name: in.Name, Label: in.Label, Also: in.Also, Form: "powder", Function: "filler",
		Note: "What it was like is not in the library any more: say it anew."})
}

// admit adds a material to a library, as far as it can be one, so that the workshop
// still opens. A name that means another by now, since the shipped library has grown, is
// given up; one whose figures do not hold stands there as one of which nothing is known.
func admit(lib *material.Library, m *material.Material) (*material.Library, error) {
	known := true
	for {
		with, err := lib.With(*m)
		var taken *material.TakenError
		switch {
		case err == nil:
			return with, nil
		case errors.As(err, &taken) && slices.Contains(m.Also, taken.Name):
			m.Also = slices.DeleteFunc(slices.Clone(m.Also), func(name string) bool { return name == taken.Name })
		case errors.As(err, &taken) && taken.Name == m.Name:
			m.Name += ", our own"
		case known:
			known = false
			stranger := material.Unknown(m.ID)
			stranger.Name, stranger.Label = m.Name, cmp.Or(m.Label, m.Name)
			m = stranger
		default:
			return nil, err
		}
	}
}
