import { describe, expect, it } from 'vitest'

import { stretches, type SaidWord } from './said'

const words: SaidWord[] = [
  { text: '2 cups', from: 0, to: 6, became: 'amount', line: 0 },
  { text: 'borax', from: 7, to: 12, became: 'material', line: 0 },
]

describe('what is marked of a text', () => {
  it('is all of it, in its order', () => {
    const parts = stretches('2 cups borax', { text: '2 cups borax', words })
    expect(parts.map((p) => p.text).join('')).toBe('2 cups borax')
    expect(parts.map((p) => p.became)).toEqual(['amount', undefined, 'material'])
  })

  it('stays on what is the same while one types on', () => {
    const parts = stretches('2 cups borax and', { text: '2 cups borax', words })
    expect(parts.at(-1)).toEqual({ text: ' and' })
    expect(parts).toHaveLength(4)
  })

  it('goes from what was changed', () => {
    const parts = stretches('2 cups salt', { text: '2 cups borax', words })
    expect(parts).toEqual([{ text: '2 cups', became: 'amount', hatch: undefined }, { text: ' salt' }])
  })

  it('counts letters and not their halves', () => {
    const parts = stretches('🧼 2 cups', {
      text: '🧼 2 cups',
      words: [{ text: '2 cups', from: 2, to: 8, became: 'amount' }],
    })
    expect(parts.map((p) => p.text)).toEqual(['🧼 ', '2 cups'])
  })
})
