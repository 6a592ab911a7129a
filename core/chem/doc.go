// Package chem holds the chemistry of the job: formulas and molar masses, what
// compounds give in water, acid–base equilibrium, hardness and humidity.
//
// # The model
//
// A [Solution] holds totals in mol per kg of water: of each weak acid in all
// its forms, of calcium and magnesium, and of the ions that do nothing but
// carry charge. [Solve] finds the pH at which charges balance. Activities are
// by the equation of Davies,
//
//	log γ = −A z² ( √I / (1 + √I) − 0.3 I )
//
// with z the charge and I the ionic strength, iterated until both agree. The
// pH is of the activity of H⁺, as a meter reads it. The equation holds to
// about I = 0.5 mol/kg; beyond it the answer is a range ([Equilibrium.Low] to
// High) and says so.
//
// Constants are for infinite dilution at 25 °C. Where the enthalpy of a step
// is known it is carried to 15–60 °C; where it is not, the value of 25 °C
// stands, and [Equilibrium.HeldAt25] says for which acids.
//
// Calcium and magnesium are bound by citrate, EDTA and carbonate, and calcium
// falls out as calcite where it is oversaturated. Nothing here knows how fast:
// an answer is where a mixture ends.
package chem
