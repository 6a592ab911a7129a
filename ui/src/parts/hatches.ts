/** How each function is hatched in the crock and on the shelf, so that colour is never the only sign. */
export interface Hatch {
  id: string
  size: number
  ground: string
  ink: string
  weight: number
  path: string
}

const wash = (name: string, share: number) =>
  `color-mix(in srgb, var(--${name}) ${share}%, var(--slip-raised))`

// each three times as bright as its ground, or as dark, in both themes: its test measures it
export const hatches: Hatch[] = [
  { id: 'alkali', size: 9, ground: wash('clay', 45), ink: wash('ink', 65), weight: 1, path: 'M0 9 9 0' },
  { id: 'acid', size: 9, ground: wash('ochre', 34), ink: wash('ink', 67), weight: 1, path: 'M0 0 9 9' },
  {
    id: 'soap',
    size: 14,
    ground: wash('celadon', 40),
    ink: wash('ink', 72),
    weight: 1.1,
    path: 'M0 5q3.5-5 7 0t7 0M0 12q3.5-5 7 0t7 0',
  },
  {
    id: 'salt',
    size: 9,
    ground: wash('slip-sunk', 80),
    ink: wash('ink', 57),
    weight: 1.6,
    path: 'M2 2h.1M6.5 6.5h.1',
  },
  {
    id: 'bleach',
    size: 11,
    ground: wash('cobalt', 16),
    ink: wash('ink', 61),
    weight: 1,
    path: 'M5.5 2v7M2 5.5h7',
  },
  { id: 'liquid', size: 10, ground: wash('cobalt', 30), ink: wash('cobalt', 86), weight: 1, path: 'M0 5h10' },
  { id: 'filler', size: 8, ground: wash('slip-sunk', 50), ink: wash('ink', 55), weight: 1, path: 'M4 1v6' },
  {
    id: 'scent',
    size: 12,
    ground: wash('oxblood', 22),
    ink: wash('oxblood', 83),
    weight: 1.2,
    path: 'M6 3c3 3 0 6 0 6s-3-3 0-6',
  },
]

const byFunction: Record<string, string> = {
  builder: 'alkali',
  alkali: 'alkali',
  buffer: 'alkali',
  acid: 'acid',
  chelant: 'acid',
  soap: 'soap',
  surfactant: 'soap',
  salt: 'salt',
  bleach: 'bleach',
  solvent: 'liquid',
  humectant: 'liquid',
  scent: 'scent',
  botanical: 'scent',
  preservative: 'scent',
  sugar: 'salt',
}

export function hatchOf(fn: string): string {
  return byFunction[fn] ?? 'filler'
}
