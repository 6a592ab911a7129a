import type { GlyphName } from './parts/glyphs'

/** The stations in the order of the work. The number keys go to them. */
export const stations: { name: string; title: string; path: string; glyph: GlyphName; does: string }[] = [
  {
    name: 'shelf',
    title: 'Shelf',
    path: '/shelf',
    glyph: 'shelf',
    does: 'what is there, how old, at what price',
  },
  {
    name: 'crock',
    title: 'Crock',
    path: '/crock',
    glyph: 'crock',
    does: 'write a formula and see what it does',
  },
  { name: 'bench', title: 'Bench', path: '/bench', glyph: 'pan', does: 'weigh out, step by step' },
  {
    name: 'pantry',
    title: 'Pantry',
    path: '/pantry',
    glyph: 'jars',
    does: 'what is finished, and back to each bag',
  },
]
