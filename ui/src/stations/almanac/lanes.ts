/** A bar on a band of time. */
export interface Bar {
  from: number
  to: number
}

/** Puts bars that overlap beside each other: of each the lane it goes in, and how many there are. */
export function lanes<T extends Bar>(bars: T[]): { bars: (T & { lane: number })[]; count: number } {
  const ends: number[] = []
  const placed = [...bars]
    .sort((a, b) => a.from - b.from || a.to - b.to)
    .map((bar) => {
      let lane = ends.findIndex((end) => end <= bar.from)
      if (lane < 0) lane = ends.length
      ends[lane] = bar.to
      return { ...bar, lane }
    })
  return { bars: placed, count: Math.max(1, ends.length) }
}
