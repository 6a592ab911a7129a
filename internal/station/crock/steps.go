package crock

import (
	"context"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/method"
	"keencrock/internal/exchange"
	"keencrock/internal/tenant"
)

// StepKinds lists what a step can be, and what is looked at on the way.
func (s *Service) StepKinds() *api.StepKinds {
	out := &api.StepKinds{Kinds: make([]api.StepKind, len(formula.StepKinds)), Checks: make([]api.StepCheck, len(method.Checks))}
	for i, k := range formula.StepKinds {
		out.Kinds[i] = api.StepKind{Kind: string(k.Kind), Name: k.Name, Stage: exchange.Stage(k.Stage), Sets: append([]string{}, k.Sets...), Takes: k.Takes}
	}
	for i, c := range method.Checks {
		out.Checks[i] = exchange.Check(c.ID)
	}
	return out
}

// ProposeSteps says how a formula is made: as its prose says, where that says
// anything that is done, and as each school usually does.
func (s *Service) ProposeSteps(ctx context.Context, file *api.FormulaFile) ([]api.WayOfMaking, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	set, err := s.Settings(s.Store.Read(ctx))
	if err != nil {
		return nil, err
	}
	f, _ := exchange.ToFormula(set.InMeasures(file))
	r := formula.Resolve(f, set.Materials, set.Tools())
	ways := []api.WayOfMaking{}
	if steps := method.Read(f.Method, r); len(steps) > 0 {
		ways = append(ways, api.WayOfMaking{School: "as it is written here", Written: true, Steps: exchange.StepFiles(steps)})
	}
	for _, u := range method.UsualOf(f.Kind) {
		ways = append(ways, api.WayOfMaking{School: u.School, Steps: exchange.StepFiles(u.For(r))})
	}
	return ways, nil
}
