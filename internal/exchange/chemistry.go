package exchange

import (
	"math"

	"keencrock/api"
	"keencrock/core/material"
	"keencrock/core/safety"
	"keencrock/core/solution"
)

// Chemistry puts what a formula does in its water into the words of the
// contract; pot is the good as it stands in its bottle, nil where it does not.
func Chemistry(b, pot *solution.Result) api.Chemistry {
	ml := b.Gas.MLPerKg()
	c := api.Chemistry{
		BeyondModel: b.Beyond, IonicStrength: b.IonicStrength, BufferMmolPerPh: b.BufferMMol,
		FreeAlkalinityGPerLNa2o: b.FreeAlkalinity.Value, FreeAlkalinityRange: Range(b.FreeAlkalinity),
		Co2MlPerKg: ml.Value, Co2Range: Range(ml), Co2MgPerKg: b.Gas.MGPerKg().Value,
		GasLimitedBy: api.ChemistryGasLimitedBy(b.Gas.LimitedBy), SodaSpentShare: b.Gas.SodaSpent, SpentInBowlShare: b.Gas.SpentInBowl,
		HasSoap: b.HasSoap, SoapCurdledShare: b.Protonated.Value, SoapCurdledRange: Range(b.Protonated),
		SoapCurdledByWater: b.ProtonatedByWater, SoapCurdledByGood: b.ProtonatedByGood(),
		Undissolved: undissolvedOf(b.Undissolved), Unknown: []api.UnknownMakeUp{}, HeldAt25: []string{},
	}
	c.Use.GramsPerLitre, c.Use.Basis = b.Use.GramsPerLitre, api.ChemistryUseBasis(b.Use.Basis)
	c.Use.HardnessMmolPerL, c.Use.Celsius = float64(b.Use.Hardness), b.Use.Celsius
	c.Ph.Closed, c.Ph.Vented = b.ClosedPH.Value, b.VentedPH.Value
	c.PhRange.Closed, c.PhRange.Vented = Range(b.ClosedPH), Range(b.VentedPH)
	c.TitrationMmolPerL.To83, c.TitrationMmolPerL.To45 = b.Titration83, b.Titration45
	h := b.Hardness
	c.Hardness.Total, c.Hardness.MetByPrecipitation, c.Hardness.MetByChelation = h.Total, h.Precipitation, h.Chelation
	c.Hardness.TakenBySoap, c.Hardness.Left = h.Soap, h.Left
	c.Hardness.SoapGPerL, c.Hardness.SoapLostGPerL, c.Hardness.SoapLostShare = h.SoapGPerL, h.SoapLostGPerL, h.SoapLost()
	c.Hardness.MetRange, c.Hardness.SoapLostRange = Range(h.MetRange), Range(h.SoapLostRange)
	if m := b.Gas.LeftMaterial; m != nil {
		c.GasLeft = api.LeftOver{Material: m.ID, Name: m.Name, GPerKg: b.Gas.LeftGPerKg}
	}
	for _, u := range b.Unknown {
		c.Unknown = append(c.Unknown, api.UnknownMakeUp{Material: u.Material.ID, Name: u.Material.Name, Needs: u.Needs})
	}
	for _, a := range b.HeldAt25 {
		c.HeldAt25 = append(c.HeldAt25, a.String())
	}
	c.GasShiftsPh = b.GasShiftsPH()
	judge(&c, b.Verdicts(pot))
	if pot != nil {
		c.InBottle = api.InBottle{Ph: pot.ClosedPH.Value, SoapCurdledShare: pot.ProtonatedByGood()}
	}
	if k := b.Caking; k != nil {
		c.CakingAboveRh = k.AboveRH
		c.Caking = caking(k)
	}
	return c
}

// judge adds how the readings stand, and what that goes by.
func judge(c *api.Chemistry, v solution.Verdicts) {
	c.Verdicts.Ph, c.Verdicts.Soap = api.Verdict(v.PH), api.Verdict(v.Soap)
	c.Verdicts.Hardness, c.Verdicts.Caking = api.Verdict(v.Hardness), api.Verdict(v.Caking)
	c.Limits.BurnsBelowPh, c.Limits.BurnsAbovePh = safety.AcidBurnsPH, safety.AlkaliBurnsPH
	c.Limits.CurdledWarn, c.Limits.CurdledStop = safety.ProtonatedWarn, safety.ProtonatedStop
}

// MapOf puts a reading over two amounts into the words of the contract, without
// its points. Where nothing could be worked out there is no number.
func MapOf(reading solution.Reading, values [][]float64) *api.ReadingMap {
	m := &api.ReadingMap{Reading: api.ReadingName(reading), Values: make([][]*float64, len(values)), Schools: []api.MapPoint{}}
	for j, row := range values {
		m.Values[j] = make([]*float64, len(row))
		for i := range row {
			m.Values[j][i] = finite(row[i])
		}
	}
	low, high := reading.Safe()
	m.SafeLow, m.SafeHigh = finite(low), finite(high)
	return m
}

// finite is nil for what is no number.
func finite(v float64) *float64 {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return nil
	}
	return &v
}

func caking(k *solution.Caking) api.Caking {
	name := func(m *material.Material) (string, string) { return m.ID, m.Name }
	var c api.Caking
	c.Culprit, c.CulpritName = name(k.Culprit)
	for _, w := range k.Without {
		var without api.CakingWithout
		without.Material, without.Name = name(w.Material)
		without.AboveRh = w.AboveRH
		c.Without = append(c.Without, without)
	}
	return c
}
