package chem_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/chem"
)

// water makes a solution of compounds, in mol per kg of water.
func mix(t testing.TB, mol map[string]float64) *chem.Solution {
	t.Helper()
	s := &chem.Solution{}
	for name, n := range mol {
		c, ok := chem.FindCompound(name)
		require.True(t, ok, name)
		s.Add(c, n)
	}
	return s
}

func solve(t testing.TB, s *chem.Solution, c chem.Conditions) chem.Equilibrium {
	t.Helper()
	e, err := chem.Solve(s, c)
	require.NoError(t, err)
	return e
}

// Standard buffers at 25 °C: IUPAC Recommendations 2002 (Buck et al., Pure
// Appl. Chem. 74, 2169), the values of NIST: within 0.02, saturated tartrate
// within 0.03.
func TestStandardBuffers(t *testing.T) {
	for name, c := range map[string]struct {
		mol    map[string]float64
		ph     float64
		within float64
	}{
		"borax 0.01":                    {map[string]float64{"borax": 0.01}, 9.180, 0.02},
		"bicarbonate + carbonate 0.025": {map[string]float64{"NaHCO3": 0.025, "Na2CO3": 0.025}, 10.012, 0.02},
		"dihydrogen citrate 0.05":       {map[string]float64{"potassium-dihydrogen-citrate": 0.05}, 3.776, 0.02},
		"phosphates 0.025":              {map[string]float64{"KH2PO4": 0.025, "Na2HPO4": 0.025}, 6.865, 0.02},
		"phosphates 0.008695 + 0.03043": {map[string]float64{"KH2PO4": 0.008695, "Na2HPO4": 0.03043}, 7.413, 0.02},
		"phthalate 0.05":                {map[string]float64{"khp": 0.05}, 4.005, 0.02},
		"tartrate, saturated, 0.0341":   {map[string]float64{"cream-of-tartar": 0.0341}, 3.557, 0.03},
	} {
		e := solve(t, mix(t, c.mol), chem.Closed)
		assert.InDelta(t, c.ph, e.PH, c.within, name)
		assert.False(t, e.Beyond)
	}
}

// The same buffers at other temperatures: IUPAC Recommendations 2002, values
// of NIST, from memory.
func TestStandardBuffersAtOtherTemperatures(t *testing.T) {
	for _, c := range []struct {
		mol     map[string]float64
		celsius float64
		ph      float64
	}{
		{map[string]float64{"borax": 0.01}, 15, 9.276}, {map[string]float64{"borax": 0.01}, 40, 9.068}, {map[string]float64{"borax": 0.01}, 60, 8.962},
		{map[string]float64{"NaHCO3": 0.025, "Na2CO3": 0.025}, 15, 10.118}, {map[string]float64{"NaHCO3": 0.025, "Na2CO3": 0.025}, 40, 9.889},
		{map[string]float64{"KH2PO4": 0.025, "Na2HPO4": 0.025}, 15, 6.900}, {map[string]float64{"KH2PO4": 0.025, "Na2HPO4": 0.025}, 40, 6.838},
		{map[string]float64{"khp": 0.05}, 40, 4.035},
	} {
		e := solve(t, mix(t, c.mol), chem.Conditions{Celsius: c.celsius})
		assert.InDelta(t, c.ph, e.PH, 0.04, "%v at %g °C", c.mol, c.celsius)
		assert.Empty(t, e.HeldAt25)
	}
	soap := solve(t, mix(t, map[string]float64{"soap": 0.001}), chem.Conditions{Celsius: 40})
	assert.Equal(t, []chem.Acid{chem.Soap}, soap.HeldAt25, "what stays at 25 °C is said")
	_, err := chem.Solve(&chem.Solution{}, chem.Conditions{Celsius: 80})
	assert.ErrorIs(t, err, chem.ErrConditions)
}

// pH of common solutions at 0.1 mol/l and 25 °C as handbooks print them (CRC
// Handbook, The Merck Index; from memory). Those of the carbonates are printed
// as if activity did not matter, which it does by 0.2.
func TestPHOfCommonSolutions(t *testing.T) {
	for name, printed := range map[string]struct{ ph, within float64 }{
		"Na2CO3": {11.6, 0.25}, "NaHCO3": {8.3, 0.2}, "acetic-acid": {2.9, 0.1}, "citric-acid": {2.1, 0.1}, "NaOH": {12.9, 0.1},
		"HCl": {1.1, 0.05}, "boric-acid": {5.2, 0.2}, "ammonia": {11.1, 0.1},
	} {
		e := solve(t, mix(t, map[string]float64{name: 0.1}), chem.Closed)
		assert.InDelta(t, printed.ph, e.PH, printed.within, name)
	}
	assert.InDelta(t, 6.998, solve(t, &chem.Solution{}, chem.Closed).PH, 0.001, "pure water")
	rain := mix(t, map[string]float64{"CO2": 1})
	assert.InDelta(t, 5.61, solve(t, rain, chem.Open).PH, 0.02, "water in the air: 5.6, common practice")
}

// Half neutralised, an acid stands at its pKa, but for activity.
func TestHalfNeutralisedIsThePKa(t *testing.T) {
	for _, c := range []struct {
		acid string
		base string
		pKa  float64
	}{{"acetic-acid", "sodium-acetate", 4.756}, {"boric-acid", "borax", 9.237}, {"NH4Cl", "ammonia", 9.245}, {"KH2PO4", "Na2HPO4", 7.198}} {
		const n = 0.01
		mol := map[string]float64{c.acid: n, c.base: n}
		if c.base == "borax" { // which is two of each already
			mol = map[string]float64{c.base: n / 2}
		}
		e := solve(t, mix(t, mol), chem.Closed)
		root := math.Sqrt(e.IonicStrength)
		g := 0.509 * (root/(1+root) - 0.3*e.IonicStrength)
		shift := map[string]float64{"acetic-acid": -g, "boric-acid": -g, "NH4Cl": g, "KH2PO4": -3 * g}[c.acid]
		assert.InDelta(t, c.pKa+shift, e.PH, 0.02, c.acid)
	}
}

// Titrated with acid, soda shows its two ends, at one and at two equivalents:
// there a drop moves the pH the most (Gran; common practice of the laboratory).
func TestTitratedSodaShowsItsTwoEnds(t *testing.T) {
	const soda = 0.01
	var ends []float64
	at := func(eq float64) float64 {
		return solve(t, mix(t, map[string]float64{"Na2CO3": soda, "HCl": eq * soda}), chem.Closed).PH
	}
	steep := func(eq float64) float64 { return at(eq-0.005) - at(eq+0.005) }
	for eq := 0.1; eq < 2.4; eq += 0.01 {
		if steep(eq) > steep(eq-0.01) && steep(eq) >= steep(eq+0.01) {
			ends = append(ends, eq)
		}
	}
	require.Len(t, ends, 2)
	assert.InDelta(t, 1, ends[0], 0.02)
	assert.InDelta(t, 2, ends[1], 0.02)
	assert.InDelta(t, 8.3, at(1), 0.1)
	assert.InDelta(t, 4.2, at(2), 0.2)
}

// A titration adds as much acid as solving for it says: 0.01 mol/kg of soda
// takes one equivalent to about 8.3 and two to about 4.4 (common practice of
// the laboratory: the ends of phenolphthalein and methyl orange).
func TestTitrationReadsWhatSolvingSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := solution(draw(t))
		for _, to := range []float64{8.3, 4.5} {
			acid, err := chem.Titrate(s, 25, to)
			require.NoError(t, err)
			start, err := chem.Solve(s, chem.Conditions{Celsius: 25, Supersaturated: true})
			require.NoError(t, err)
			if start.PH <= to {
				require.InDelta(t, 0, acid, 1e-6)
				continue
			}
			titrated := *s
			titrated.Ions.Chloride += acid
			end, err := chem.Solve(&titrated, chem.Conditions{Celsius: 25, Supersaturated: true})
			require.NoError(t, err)
			require.InDelta(t, to, end.PH, 0.01)
		}
	})
	soda := mix(t, map[string]float64{"Na2CO3": 0.01})
	one, err := chem.Titrate(soda, 25, 8.3)
	require.NoError(t, err)
	assert.InDelta(t, 0.01, one, 0.0003)
	two, err := chem.Titrate(soda, 25, 4.5)
	require.NoError(t, err)
	assert.InDelta(t, 0.02, two, 0.0003)
}

// Saturated with calcite in air, water holds about 0.5 mmol/kg of calcium at a
// pH of 8.30, for carbon dioxide at 10^−3.5 atm (Stumm & Morgan, Aquatic
// Chemistry; from memory), which is 8.22 for the air of today.
func TestCalciteInAir(t *testing.T) {
	s := mix(t, map[string]float64{"CaCO3": 0.1, "CO2": 0.1})
	e := solve(t, s, chem.Open)
	assert.InDelta(t, 8.22, e.PH, 0.04)
	assert.InDelta(t, 0.0005, 0.1-e.Calcite, 0.00006)
}

// EDTA takes calcium one for one; citrate holds it more weakly.
func TestChelantsHoldCalcium(t *testing.T) {
	edta := solve(t, mix(t, map[string]float64{"edta": 0.001, "CaCl2": 0.002, "borax": 0.01}), chem.Closed)
	assert.InDelta(t, 0.001, edta.Metals.Chelated, 1e-6)
	assert.InDelta(t, 0.001, edta.Metals.FreeCalcium, 1e-6)
	citrate := solve(t, mix(t, map[string]float64{"trisodium-citrate": 0.004, "CaCl2": 0.002}), chem.Closed)
	assert.Greater(t, citrate.Metals.Chelated, 0.0015)
	assert.Less(t, citrate.Metals.Chelated, 0.002)
}

func TestABombsTwoMarksAreMoreThanAUnitApart(t *testing.T) {
	bomb := mix(t, map[string]float64{"NaHCO3": 0.05, "citric-acid": 0.01})
	closed, vented := solve(t, bomb, chem.Closed), solve(t, bomb, chem.Open)
	half := solve(t, bomb, chem.Conditions{Celsius: 25, Vented: 0.5})
	assert.Greater(t, vented.PH-closed.PH, 1.0)
	assert.Greater(t, half.PH, closed.PH)
	assert.Less(t, half.PH, vented.PH)
	assert.Positive(t, vented.Gone)
	assert.Zero(t, closed.Gone)
	soda := mix(t, map[string]float64{"Na2CO3": 0.05})
	assert.InDelta(t, solve(t, soda, chem.Closed).PH, solve(t, soda, chem.Open).PH, 1e-9, "nothing is taken up from the air")
}

func TestBeyondTheModelItIsARange(t *testing.T) {
	e := solve(t, mix(t, map[string]float64{"Na2CO3": 2}), chem.Closed)
	assert.True(t, e.Beyond)
	assert.Greater(t, e.High-e.Low, 0.3)
	assert.LessOrEqual(t, e.Low, e.PH)
	assert.GreaterOrEqual(t, e.High, e.PH)
}

func TestWhatCannotBeIsRefused(t *testing.T) {
	for _, mol := range []float64{math.NaN(), math.Inf(1), -1} {
		s := &chem.Solution{}
		s.Ions.Sodium = mol
		_, err := chem.Solve(s, chem.Closed)
		assert.ErrorIs(t, err, chem.ErrAmounts)
	}
}

// draw draws a mixture, from rain to thick.
func draw(t *rapid.T) map[string]float64 {
	names := []string{"Na2CO3", "NaHCO3", "borax", "citric-acid", "trisodium-citrate", "acetic-acid", "ammonia", "Na2SiO3", "H2O2", "sulfonic-acid", "edta", "soap", "KH2PO4", "NaOH", "HCl", "MgSO4", "CaCl2"}
	mol := map[string]float64{}
	for range rapid.IntRange(1, 6).Draw(t, "compounds") {
		mol[rapid.SampledFrom(names).Draw(t, "name")] = math.Pow(10, rapid.Float64Range(-6, -0.7).Draw(t, "log mol"))
	}
	return mol
}

func solution(mol map[string]float64) *chem.Solution {
	s := &chem.Solution{}
	for name, n := range mol {
		c, _ := chem.FindCompound(name)
		s.Add(c, n)
	}
	return s
}

// Any mixture has an answer, closed and open; matter is neither made nor lost;
// acid lowers the pH; a little more of anything changes it a little.
func TestPropertiesOfRandomMixtures(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		mol := draw(t)
		s := solution(mol)
		conditions := chem.Conditions{Celsius: rapid.Float64Range(15, 60).Draw(t, "celsius"), Vented: rapid.SampledFrom([]float64{0, 0.4, 1}).Draw(t, "vented")}
		e, err := chem.Solve(s, conditions)
		require.NoError(t, err, "%v", mol)
		require.Greater(t, e.PH, -1.0)
		require.Less(t, e.PH, 15.0)

		require.InEpsilon(t, s.Acids[chem.Carbonic]+1, e.Carbon+e.Gone+e.Calcite+1, 1e-9, "carbon %v", mol)
		require.LessOrEqual(t, e.Metals.FreeCalcium, s.Calcium*(1+1e-9))
		require.LessOrEqual(t, e.Metals.Chelated, (s.Calcium+s.Magnesium)*(1+1e-9))
		require.GreaterOrEqual(t, e.Gone, -1e-15)
		require.GreaterOrEqual(t, e.Protonated, 0.0)
		require.LessOrEqual(t, e.Protonated, 1.0)

		more := *s
		more.Ions.Chloride += 1e-4 // hydrochloric acid
		acid, err := chem.Solve(&more, chem.Conditions{Celsius: conditions.Celsius})
		require.NoError(t, err)
		closed, err := chem.Solve(s, chem.Conditions{Celsius: conditions.Celsius})
		require.NoError(t, err)
		require.Less(t, acid.PH, closed.PH+1e-9, "%v", mol)
	})
}

// The solver is continuous in every input: walked in small steps, no step of
// the answer is much larger than the buffer strength allows.
func TestSolverIsContinuous(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		mol := draw(t)
		s := solution(mol)
		name := rapid.SampledFrom([]string{"citric-acid", "Na2CO3", "NaOH", "acetic-acid", "CaCl2", "borax"}).Draw(t, "walked")
		c, _ := chem.FindCompound(name)
		vented := rapid.SampledFrom([]float64{0, 1}).Draw(t, "vented")
		conditions := chem.Conditions{Celsius: 25, Vented: vented}
		before, err := chem.Solve(s, conditions)
		require.NoError(t, err)
		const step = 1e-6
		for range 20 {
			s.Add(c, step)
			after, err := chem.Solve(s, conditions)
			require.NoError(t, err)
			least := min(before.Buffer, after.Buffer)
			require.LessOrEqual(t, math.Abs(after.PH-before.PH), 0.002+10*step/least, "%v, walking %s", mol, name)
			before = after
		}
	})
}

// Where a chelant is just full, the pH hangs on the ionic strength so steeply that steps
// overshoot; it is found all the same.
func TestAChelantJustFull(t *testing.T) {
	for _, full := range []map[string]float64{
		{"Na2CO3": 0.1, "MgSO4": 0.1, "CaCl2": 0.1, "edta": math.Pow(10, -0.7)},
		{"MgSO4": 0.1, "CaCl2": 0.1, "edta": 0.2},
		{"CaCl2": 0.05, "edta": 0.05, "citric-acid": 1e-5},
	} {
		s := solution(full)
		c, _ := chem.FindCompound("citric-acid")
		for range 40 {
			_, err := chem.Solve(s, chem.Closed)
			require.NoError(t, err, "%v", full)
			s.Add(c, 1e-6)
		}
	}
}

// Beginning elsewhere ends at the same place.
func TestWhereItBeginsDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := solution(draw(t))
		a, err := chem.Solve(s, chem.Conditions{Celsius: 25})
		require.NoError(t, err)
		b, err := chem.Solve(s, chem.Conditions{Celsius: 25, NearPH: rapid.Float64Range(0.1, 14).Draw(t, "near")})
		require.NoError(t, err)
		require.InDelta(t, a.PH, b.PH, 1e-7)
	})
}

func TestCompoundsMakeSense(t *testing.T) {
	for _, name := range chem.CompoundNames() {
		c, ok := chem.FindCompound(name)
		require.True(t, ok)
		assert.Positive(t, c.MolarMass(), name)
	}
	hydrate, ok := chem.FindCompound("Na2CO3·10H2O")
	require.True(t, ok)
	assert.Equal(t, "sodium-carbonate", hydrate.ID)
	_, ok = chem.FindCompound("unobtainium")
	assert.False(t, ok)
}

func sixAcids(b testing.TB) *chem.Solution {
	return mix(b, map[string]float64{"Na2CO3": 0.02, "citric-acid": 0.005, "borax": 0.003, "acetic-acid": 0.01, "Na2HPO4": 0.002, "soap": 0.001})
}

func BenchmarkSolveSixAcids(b *testing.B) {
	s := sixAcids(b)
	b.ReportAllocs()
	for b.Loop() {
		if _, err := chem.Solve(s, chem.Closed); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkSolveInHardWater(b *testing.B) {
	s := sixAcids(b)
	s.Calcium, s.Magnesium = 0.002, 0.0006
	b.ReportAllocs()
	for b.Loop() {
		if _, err := chem.Solve(s, chem.Closed); err != nil {
			b.Fatal(err)
		}
	}
}

func TestSolvingAllocatesNothing(t *testing.T) {
	s := sixAcids(t)
	assert.Zero(t, testing.AllocsPerRun(50, func() { _, _ = chem.Solve(s, chem.Closed) }))
}
