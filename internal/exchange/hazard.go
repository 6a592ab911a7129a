package exchange

import (
	"fmt"

	"keencrock/api"
	"keencrock/core/hazard"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/wording"
)

// Hazard puts a screen into the words of the contract.
func Hazard(h *hazard.Result) api.Hazard {
	english, err := wording.Find(wording.English)
	if err != nil {
		panic(err) // it is embedded, and a test reads it
	}
	out := api.Hazard{Notice: hazard.Notice, SignalWord: api.HazardSignalWord(h.Signal.String()), Pictograms: append([]string{}, h.Pictograms...),
		Statements: findings(h.Statements, english), Near: findings(h.Near, english), Possible: findings(h.Possible, english), Cleared: findings(h.Cleared, english),
		Precautions: make([]api.Statement, len(h.Precautions)), Unknown: []string{}, UnknownShare: h.UnknownShare, Notes: append([]string{}, h.Notes...),
		ChildProof: h.ChildProof, TactileWarning: h.TactileWarning}
	for i, code := range h.Precautions {
		out.Precautions[i] = api.Statement{Code: code, Text: english.Statement(code)}
	}
	for _, m := range h.Unknown {
		out.Unknown = append(out.Unknown, m.Name)
	}
	for i := range h.Statements {
		if h.Statements[i].Code == "EUH208" {
			out.Statements[i].Text = english.Statement("EUH208", h.Sensitisers...)
		}
	}
	return out
}

func findings(all []hazard.Finding, l *wording.Language) []api.HazardFinding {
	out := make([]api.HazardFinding, len(all))
	for i := range all {
		f := &all[i]
		out[i] = api.HazardFinding{Code: f.Code, Name: f.Name, Text: l.Statement(f.Code, names(f.From)...), Because: f.Because, Rule: f.Rule,
			Sum: f.Sum, Limit: f.Limit, Unit: f.Unit, Below: f.Below, From: make([]api.HazardPart, len(f.From))}
		for j, c := range f.From {
			out[i].From[j] = api.HazardPart{Id: c.ID, Name: c.Name, Material: c.Material.ID, Share: c.Share, Part: c.Part}
		}
		if f.Less != nil {
			out[i].Less = api.HazardLess{Material: f.Less.Material.ID, Name: f.Less.Material.Name, Share: f.Less.Share, UnderG: f.Less.UnderG, Says: lessOf(f)}
		}
	}
	return out
}

// lessOf says what takes a statement off, in grams of the formula, as it was tried on it.
func lessOf(f *hazard.Finding) string {
	name := material.InSentence(f.Less.Material.Name)
	if f.Less.UnderG == 0 {
		return fmt.Sprintf("Without the %s this goes", name)
	}
	return fmt.Sprintf("With at most %s g of %s in these %s g this goes", quantity.FormatFigures(f.Less.UnderG, 3), name, quantity.FormatFigures(f.Less.TotalG, 3))
}

func names(from []hazard.Contribution) []string {
	out := make([]string, len(from))
	for i := range from {
		out[i] = from[i].Name
	}
	return out
}
