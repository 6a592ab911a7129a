import dayjs from 'dayjs'

import type { Schemas } from '../../api/client'

export type Thing = Schemas['Standing']

/** What presses next of something that stands; undefined for nothing. */
export const nextOf = (t: Thing) => t.due.find((d) => d.kind !== 'weigh-in')

export interface Board {
  name: string
  things: Thing[]
}

/** Puts what stands on boards by what is due next: now, today, this week, later. */
export function boards(things: Thing[], now: number): Board[] {
  const endOfDay = dayjs(now).endOf('day').valueOf()
  const week = dayjs(now).add(7, 'day').endOf('day').valueOf()
  const out: Board[] = [
    { name: 'now', things: [] },
    { name: 'today', things: [] },
    { name: 'this week', things: [] },
    { name: 'later', things: [] },
  ]
  for (const t of things) {
    const due = nextOf(t)
    const at = due ? new Date(due.at).getTime() : Infinity
    const i = at <= now ? 0 : at <= endOfDay ? 1 : at <= week ? 2 : 3
    out[i]?.things.push(t)
  }
  return out.filter((b) => b.things.length > 0)
}
