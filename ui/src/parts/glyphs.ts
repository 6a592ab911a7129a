/** Drawn for Keen Crock on a 24-unit square, one stroke weight. */
export const glyphs = {
  shelf:
    'M2 21h20M2 11h20M5 11V6h4v5M7 6V4M13 11V5.5c0-1 5-1 5 0V11M5 21v-6h5v6M14 21v-4.5c0-1.4 5-1.4 5 0V21',
  crock: 'M6 4h12M7 4l.6 3C4.5 10 4.6 17 8 21h8c3.4-4 3.5-11 .4-14L17 4M5.8 14c3.5-2.4 8 2.4 12.5 0',
  pan: 'M12 3v6M4 9h16l-2.6 5H6.6zM9 14v4M15 14v4M6 21h12M9 18h6M10 5.5h4',
  jars: 'M2 21h20M4 21v-9.5h5V21M4.7 11.5V9.2h3.6v2.3M13 21V8h7v13M14 8V5h5v3M13 14h7M4 16h5',
  wrench: 'M4 20l8.5-8.5M11 9.5a4.6 4.6 0 0 1 6.3-5.2L14.6 7l2.4 2.4 2.7-2.7a4.6 4.6 0 0 1-5.2 6.3',
  find: 'M10.5 4a6.5 6.5 0 1 0 0 13 6.5 6.5 0 0 0 0-13zM15.3 15.3 21 21',
  moon: 'M12 3c-1 3-4 4-4 8a4 4 0 0 0 8 0c0-1.4-.6-2-1.2-3-.8 1-1.6 1.2-2 1 .6-2 .4-4-.8-6zM5 20h14',
} as const

export type GlyphName = keyof typeof glyphs
