/** Drawn for Keen Crock on a 24-unit square, one stroke weight. */
export const glyphs = {
  find: 'M10.5 4a6.5 6.5 0 1 0 0 13 6.5 6.5 0 0 0 0-13zM15.3 15.3 21 21',
  moon: 'M12 3c-1 3-4 4-4 8a4 4 0 0 0 8 0c0-1.4-.6-2-1.2-3-.8 1-1.6 1.2-2 1 .6-2 .4-4-.8-6zM5 20h14',
} as const

export type GlyphName = keyof typeof glyphs
