import { describe, expect, it } from 'vitest'

import { offered, saidAs, stretches, type SaidWord } from './said'

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

describe('a question that a name answers', () => {
  const heard = {
    text: '20 g lavender, 1 cup salt',
    words: [
      { text: '20 g', from: 0, to: 4, became: 'amount', line: 0 },
      { text: 'lavender,', from: 5, to: 14, became: 'material', line: 0 },
      { text: '1 cup', from: 15, to: 20, became: 'amount', line: 1 },
      { text: 'salt', from: 21, to: 25, became: 'material', line: 1 },
    ] satisfies SaidWord[],
  }

  it('is answered by saying the name', () => {
    expect(saidAs(heard, 0, 'Dried lavender')).toBe('20 g dried lavender, 1 cup salt')
    expect(saidAs(heard, 1, 'SCI')).toBe('20 g lavender, 1 cup SCI')
  })

  it('changes nothing where the name is not in the text', () => {
    expect(saidAs(heard, 2, 'Water')).toBe(heard.text)
    expect(saidAs(heard, 0, 'Water', 1)).toBe(heard.text)
  })

  it('is one of a line that only a choice answers', () => {
    expect(offered({ line: 0, nearest: ['Borax'], answers: ['choose'] })).toEqual(['Borax'])
    expect(offered({ nearest: ['Borax'], answers: ['choose'] })).toEqual([])
    expect(offered({ line: 0, nearest: ['Borax'], answers: ['choose', 'another-name'] })).toEqual([])
  })
})
