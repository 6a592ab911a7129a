import type { Schemas } from '../../api/client'

// What the tests of the drawings and readings look at.

export const range = (value: number, low = value, high = value) => ({ value, low, high })

/** A laundry powder in hard water, but for what is said otherwise. */
export function chemistry(over: Partial<Schemas['Chemistry']> = {}): Schemas['Chemistry'] {
  return {
    use: { grams_per_litre: 0.653, basis: 'of-use', hardness_mmol_per_l: 2.68, celsius: 25 },
    ph: { closed: 9.1, vented: 9.1 },
    ph_range: { closed: range(9.1, 9.0, 9.2), vented: range(9.1) },
    beyond_model: false,
    ionic_strength: 0.01,
    buffer_mmol_per_ph: 3,
    free_alkalinity_g_per_l_na2o: 0.2,
    free_alkalinity_range: range(0.2, 0.19, 0.21),
    titration_mmol_per_l: { to_8_3: 2, to_4_5: 9 },
    co2_ml_per_kg: 0,
    co2_range: range(0),
    co2_mg_per_kg: 0,
    gas_limited_by: 'none',
    soda_spent_share: 0,
    spent_in_bowl_share: 0,
    has_soap: true,
    soap_curdled_share: 0.07,
    soap_curdled_range: range(0.07),
    soap_curdled_by_water: 0.05,
    soap_curdled_by_good: 0.02,
    hardness: {
      total: 2.68,
      met_by_precipitation: 2,
      met_by_chelation: 0,
      taken_by_soap: 0.14,
      left: 0.54,
      soap_g_per_l: 0.08,
      soap_lost_g_per_l: 0.08,
      soap_lost_share: 1,
      met_range: range(0.75, 0.71, 0.8),
      soap_lost_range: range(1),
    },
    undissolved: [],
    unknown: [],
    held_at_25: [],
    gas_shifts_ph: false,
    verdicts: { ph: 'plain', soap: 'good', hardness: 'watch', caking: 'plain' },
    limits: { burns_below_ph: 2, burns_above_ph: 11.5, curdled_warn: 0.1, curdled_stop: 0.5 },
    caking_above_rh: 84,
    caking: { culprit: 'washing-soda', culprit_name: 'Washing soda', without: [] },
    ...over,
  }
}
