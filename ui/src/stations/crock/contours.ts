import { ticks } from 'd3-array'
import { contours } from 'd3-contour'

/** A line of one value over a map, as an SVG path, and where its value can be written. */
export interface Contour {
  value: number
  path: string
  label: { x: number; y: number } | null
}

interface Grid {
  /** A row for each step of y, from the least; null where there is nothing. */
  rows: (number | null)[][]
  /** The side of the square the map is drawn in. */
  size: number
}

/** About how many lines a map bears. */
const lineCount = 6

/** Round numbers between the ends of a map, to draw lines at. */
export function roundLevels(low: number, high: number): number[] {
  return high > low ? ticks(low, high, lineCount).filter((t) => t > low && t < high) : []
}

/**
 * The parts of a map at or above each level, smooth, one path each. Where there
 * is nothing the map is open.
 */
export function above(grid: Grid, levels: number[]): Contour[] {
  return trace(grid, levels, 1)
}

/** The parts of a map at or below a level. */
export function below(grid: Grid, level: number): Contour[] {
  return trace(grid, [-level], -1).map((c) => ({ ...c, value: level }))
}

function trace({ rows, size }: Grid, levels: number[], sign: 1 | -1): Contour[] {
  const m = rows.length
  const n = rows[0]?.length ?? 0
  if (n < 2 || m < 2) return []
  const flat = rows.flatMap((row) => row.map((v) => (v === null ? -Infinity : sign * v)))
  // a value stands in the middle of its cell; the outermost ones are the edge
  const x = (u: number) => clamp(((u - 0.5) / (n - 1)) * size, size)
  const y = (v: number) => clamp(size - ((v - 0.5) / (m - 1)) * size, size)
  const taken: Point[] = []
  return contours()
    .size([n, m])
    .thresholds(levels)(flat)
    .map((c) => {
      const rings = c.coordinates.flat().map((ring) =>
        even(
          ring.map(([u, v]): Point => [x(u ?? 0), y(v ?? 0)]),
          size,
        ),
      )
      return {
        value: c.value,
        path: rings
          .map((r) => `M${r.map(([a, b]) => `${a.toFixed(1)} ${b.toFixed(1)}`).join('L')}Z`)
          .join(''),
        label: labelPlace(rings, size, taken),
      }
    })
}

const clamp = (n: number, most: number) => Math.min(most, Math.max(0, n))

type Point = readonly [x: number, y: number]

/** How often a line is evened out. */
const evenings = 8

/**
 * A line without the steps that the grid puts into it where values change within
 * one cell: each point goes towards the middle of its neighbours, by less than a
 * cell in all. What lies on the edge of the map stays there.
 */
function even(ring: Point[], size: number): Point[] {
  const edge = ([a, b]: Point) => a <= 0 || a >= size || b <= 0 || b >= size
  const n = ring.length - 1 // its last point is its first
  let line = ring.slice(0, n)
  for (let i = 0; i < evenings; i++) {
    const was = line
    line = was.map((p, k) => {
      const a = was[(k + n - 1) % n]
      const b = was[(k + 1) % n]
      return edge(p) || !a || !b ? p : [(a[0] + 2 * p[0] + b[0]) / 4, (a[1] + 2 * p[1] + b[1]) / 4]
    })
  }
  return line[0] ? [...line, line[0]] : line
}

/** How far apart the values of two lines are written at least. */
const apart = 26

/**
 * The point of the longest line that is well inside the map and clear of the
 * values already written, as near its middle as may be; null where lines run
 * too close together for one more.
 */
function labelPlace(rings: Point[][], size: number, taken: Point[]) {
  const margin = size * 0.09
  const free = (p: Point) => taken.every((t) => Math.hypot(p[0] - t[0], p[1] - t[1]) >= apart)
  const inside = rings
    .map((r) => r.filter(([a, b]) => a > margin && a < size - margin && b > margin && b < size - margin))
    .sort((a, b) => b.length - a.length)[0]
  if (!inside?.length) return null
  const middle = inside.length / 2
  const point = inside
    .map((p, i) => ({ p, off: Math.abs(i - middle) }))
    .sort((a, b) => a.off - b.off)
    .find(({ p }) => free(p))?.p
  if (!point) return null
  taken.push(point)
  return { x: point[0], y: point[1] }
}
