/** Round steps for an axis from nothing up to a value: 1, 2 or 5 times a power of ten. */
export function ticks(most: number, about = 4): number[] {
  if (!(most > 0)) return [0]
  const rough = most / about
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((n) => n * power).find((s) => s >= rough) ?? rough
  const out: number[] = []
  for (let i = 0; i * step < most * 1.0001; i++) out.push(i * step)
  if ((out.at(-1) ?? 0) < most) out.push(out.length * step)
  return out
}

/** Where a value lies between two ends, drawn between two places. */
export const between = (v: number, low: number, high: number, from: number, to: number) =>
  high === low ? (from + to) / 2 : from + ((v - low) / (high - low)) * (to - from)
