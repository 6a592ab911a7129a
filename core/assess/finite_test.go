package assess_test

import (
	"fmt"
	"math"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"

	"keencrock/core/assess"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// notNumbers lists where in a value a float is no number or infinite.
func notNumbers(v any) (found []string) {
	seen := map[uintptr]bool{}
	var walk func(path string, v reflect.Value)
	walk = func(path string, v reflect.Value) {
		switch v.Kind() {
		case reflect.Float64:
			if f := v.Float(); math.IsNaN(f) || math.IsInf(f, 0) {
				found = append(found, fmt.Sprintf("%s is %g", path, f))
			}
		case reflect.Pointer:
			// what a formula is made of and the library are given, and the same everywhere
			if _, given := v.Interface().(*material.Material); given || v.IsNil() || seen[v.Pointer()] {
				return
			}
			seen[v.Pointer()] = true
			walk(path, v.Elem())
		case reflect.Interface:
			if !v.IsNil() && v.CanInterface() {
				walk(path, v.Elem())
			}
		case reflect.Struct:
			for i := range v.NumField() {
				if v.Type().Field(i).IsExported() {
					walk(path+"."+v.Type().Field(i).Name, v.Field(i))
				}
			}
		case reflect.Slice, reflect.Array:
			for i := range v.Len() {
				walk(fmt.Sprintf("%s[%d]", path, i), v.Index(i))
			}
		}
	}
	walk("", reflect.ValueOf(v))
	return found
}

// alone are the ways in which a single line is tried: what a maker has typed when
// one line is there and the rest is not.
var alone = []func(*formula.Formula){
	func(*formula.Formula) {},
	func(f *formula.Formula) { f.Use = quantity.MustParse("1/4 cup") },
	func(f *formula.Formula) { f.Use, f.Yield = quantity.MustParse("1 tab"), quantity.MustParse("24 tabs") },
	func(f *formula.Formula) { f.Use, f.LossShare = quantity.MustParse("1 tbsp"), formula.MaxLossShare },
	func(f *formula.Formula) { f.Use, f.LossShare = quantity.MustParse("1 tbsp"), 1 },
	func(f *formula.Formula) {
		f.Lines[0].Amount, f.Use = quantity.Amount{}, quantity.MustParse("10 g") // “0 ml” is no amount
	},
}

// No reading of any single material in a good of any kind, half typed, is no
// number: not in the assessment, its comparison nor its dose.
func TestNothingIsWorkedOutToNoNumber(t *testing.T) {
	lib := material.Shipped()
	for _, kind := range formula.Kinds {
		t.Run(string(kind.Kind), func(t *testing.T) {
			t.Parallel()
			for _, m := range lib.All() {
				for i, change := range alone {
					f := &formula.Formula{Name: "W", Kind: kind.Kind, Measures: quantity.US, Lines: []formula.Line{{Material: m.ID, Amount: quantity.MustParse("3 cups")}}}
					change(f)
					o := assess.Options{}
					if i == 1 { // with chemistry, which is slower
						o.Water = &assess.Water{Hardness: 2.68}
					}
					a := assess.Formula(f, lib, o)
					assert.Empty(t, notNumbers(a), "%s, %d", m.ID, i)
					assert.Empty(t, notNumbers(assess.Compare(a, a)), "%s, %d", m.ID, i)
					if i > 1 {
						continue
					}
					rows, err := dosing.Table(a.Resolved, []dosing.Where{{Machine: dosing.Machines()[0], Hardness: 2.68}}, dosing.Options{})
					if err == nil {
						assert.Empty(t, notNumbers(rows), "%s, %d", m.ID, i)
					}
				}
			}
		})
	}
}
