import type { Schemas } from '../../api/client'

/** What a mark on a jar says, and how grave it is. */
export const markWords: Record<Schemas['ShelfMark'], { text: string; tone: 'good' | 'watch' | 'stop' }> = {
  out: { text: 'none usable', tone: 'stop' },
  past: { text: 'a lot is past', tone: 'stop' },
  low: { text: 'low', tone: 'watch' },
  soon: { text: 'use soon', tone: 'watch' },
  clumped: { text: 'clumped', tone: 'watch' },
  'set-aside': { text: 'set aside', tone: 'watch' },
  opened: { text: 'opened', tone: 'good' },
}
