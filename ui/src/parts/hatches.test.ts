import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

import { hatches } from './hatches'

// Contrast after WCAG 2.2 (relative luminance; 1.4.11 asks 3 : 1 of what a drawing is understood
// by), of what color-mix makes in sRGB of the colours of tokens.css.
type Colour = [number, number, number]

const css = readFileSync('src/styles/tokens.css', 'utf8')
const [light = '', dark = ''] = css.split(':root[data-theme')
const colours = (text: string) =>
  new Map([...text.matchAll(/--([\w-]+): (#[0-9a-f]{6})/g)].map((m) => [m[1] as string, rgb(m[2] as string)]))
const rgb = (hex: string) => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as Colour

function mixed(said: string, of: Map<string, Colour>): Colour {
  const m = /var\(--([\w-]+)\) (\d+)%, var\(--([\w-]+)\)/.exec(said)
  const [a, b] = [of.get(m?.[1] ?? ''), of.get(m?.[3] ?? '')]
  if (!m || !a || !b) throw new Error(`no mix: ${said}`)
  const share = Number(m[2]) / 100
  return a.map((x, i) => x * share + (b[i] ?? 0) * (1 - share)) as Colour
}

function luminance(c: Colour) {
  const [r = 0, g = 0, b = 0] = c
    .map((x) => x / 255)
    .map((x) => (x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

function contrast(a: Colour, b: Colour) {
  const [dim = 0, bright = 0] = [luminance(a), luminance(b)].sort((x, y) => x - y)
  return (bright + 0.05) / (dim + 0.05)
}

describe('hatchings', () => {
  for (const [theme, text] of Object.entries({ slip: light, kiln: light + dark }))
    it(`are seen on their ground, in ${theme}`, () => {
      const of = colours(text)
      for (const h of hatches)
        expect(contrast(mixed(h.ink, of), mixed(h.ground, of)), h.id).toBeGreaterThanOrEqual(3)
    })
  it('are each drawn another way', () => {
    expect(new Set(hatches.map((h) => h.path)).size).toBe(hatches.length)
  })
})
