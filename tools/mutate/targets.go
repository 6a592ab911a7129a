package main

import (
	"os"
	"path/filepath"
)

// target is what is changed, and the tests that have to notice.
type target struct {
	name  string
	files []string // patterns
	// keys are those of a JSON file whose values decide; none changes the code of Go files.
	keys  []string
	tests []string
	run   string // which of the tests; empty for all
}

// targets are the tables and the code that decide about danger, keeping and dose.
var targets = []target{
	{name: "materials", files: []string{"core/material/library/*.json"}, keys: []string{"statements", "limits", "ate", "m", "acid", "base"},
		tests: []string{"./core/hazard", "./core/material", "./core/assess"}, run: "Witness|Ionisation|Limits|Judged|WhatIsThere|Sums|Toxicity|WaterLife"},
	{name: "cautions", files: []string{"core/safety/rules.json"}, keys: []string{"severity", "condition", "above", "below"}, tests: []string{"./core/safety", "./core/assess"}, run: "Witness|Everyday|Judged|Amounts|Rule|Verdicts"},
	{name: "machines", files: []string{"core/dosing/machines.json"}, keys: []string{"waterL", "usedOn"}, tests: []string{"./core/dosing"}},
	{name: "doses", files: []string{"core/formula/usual_use.json"}, keys: []string{"soft", "hard"}, tests: []string{"./core/dosing"}},
	{name: "keeping", files: []string{"core/keeping/class.go", "core/keeping/preservatives.go", "core/keeping/keeping.go"}, tests: []string{"./core/keeping", "./core/assess"}, run: "Class|Preserv|Keeps|Keeping|BestBefore|Life|Trace|Judged|Measurement|Cooking|Limits"},
	{name: "hazard", files: []string{"core/hazard/rules.go", "core/hazard/acute.go", "core/hazard/physical.go", "core/hazard/screen.go"}, tests: []string{"./core/hazard", "./core/assess"}},
	{name: "safety", files: []string{"core/safety/limits.go", "core/safety/conditions.go"}, tests: []string{"./core/safety", "./core/assess", "./core/solution"}},
	{name: "dosing", files: []string{"core/dosing/dose.go", "core/dosing/wanted.go", "core/dosing/measure.go", "core/dosing/machine.go"}, tests: []string{"./core/dosing"}},
	{name: "label", files: []string{"core/label/of.go", "core/label/content.go", "core/label/ingredients.go", "core/label/layout.go", "core/label/form.go", "core/label/fill.go"}, tests: []string{"./core/label"}},
	{name: "assess", files: []string{"core/assess/assess.go", "core/assess/hazard.go", "core/assess/compare.go"}, tests: []string{"./core/assess"}},
	{name: "solution", files: []string{"core/solution/standing.go", "core/solution/reserve.go", "core/solution/use.go", "core/solution/saponify.go", "core/solution/verdict.go"}, tests: []string{"./core/solution", "./core/assess"}},
}

func (t *target) mutants() (all []mutant, err error) {
	for _, pattern := range t.files {
		files, err := filepath.Glob(pattern)
		if err != nil {
			return nil, err
		}
		for _, file := range files {
			if base := filepath.Base(file); base == "witnesses.json" || base == "sources.json" {
				continue
			}
			text, err := os.ReadFile(file)
			if err != nil {
				return nil, err
			}
			var found []mutant
			if filepath.Ext(file) == ".json" {
				found = rows(text, t.keys)
			} else if found, err = code(file, text); err != nil {
				return nil, err
			}
			for i := range found {
				found[i].target, found[i].file = t, file
			}
			all = append(all, found...)
		}
	}
	return all, nil
}
