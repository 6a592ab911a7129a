import type { Schemas } from '../api/client'

export type SaidWord = Schemas['SaidWord']
export type Became = SaidWord['became']

/** What was heard, of which text: its words, and the hatch of each material by line. */
export interface Heard {
  text: string
  words: SaidWord[]
  hatchOf?: (word: SaidWord) => string | undefined
}

/** What a word became, in a few words. */
export const becameWords: Record<Became, string> = {
  amount: 'how much',
  material: 'a material',
  choice: 'may take its place',
  remark: 'a remark',
  step: 'how it is made',
  use: 'how it is used',
  yield: 'what comes out',
  place: 'where',
  not: 'not in it',
  name: 'its name',
  struck: 'taken back',
  'small-talk': 'says nothing more',
  'left-out': 'left out',
  question: 'asked about',
  unread: 'not understood',
  price: 'what it cost',
  packs: 'packs',
  supplier: 'from whom',
  'lot-code': 'its code',
  date: 'a day',
}

export interface Stretch {
  text: string
  became?: Became
  hatch?: string
}

/**
 * The text as it stands now in stretches, marked by what was heard of it: of a text that
 * was typed on since, as far as both are the same.
 */
export function stretches(text: string, heard?: Heard): Stretch[] {
  if (!heard) return [{ text }]
  const letters = [...text]
  const before = [...heard.text]
  let same = 0
  while (same < letters.length && letters[same] === before[same]) same++
  const out: Stretch[] = []
  let at = 0
  for (const w of heard.words) {
    if (w.to > same) break
    if (w.from > at) out.push({ text: letters.slice(at, w.from).join('') })
    out.push({ text: letters.slice(w.from, w.to).join(''), became: w.became, hatch: heard.hatchOf?.(w) })
    at = w.to
  }
  if (at < letters.length) out.push({ text: letters.slice(at).join('') })
  return out
}

/** A question that one of a few names answers, of a line that was heard. */
export interface Offered {
  line?: number
  nearest?: string[]
  answers?: string[]
}

/** The names that answer a question about a line by themselves; none where more is asked. */
export const offered = (q: Offered): string[] =>
  q.line !== undefined && q.answers?.length === 1 && q.answers[0] === 'choose' ? (q.nearest ?? []) : []

/**
 * What was said, with the name of a line said as the answer: “20 g lavender” becomes
 * “20 g dried lavender”. The same text where no word of it is that name.
 */
export function saidAs(heard: Heard, line: number, answer: string, good = 0): string {
  const word = heard.words.find(
    (w) => w.became === 'material' && w.line === line && (w.good ?? 0) === good && w.to > w.from,
  )
  if (!word) return heard.text
  const letters = [...heard.text]
  const end = /[\s,;:.]*$/.exec(letters.slice(word.from, word.to).join(''))?.[0] ?? ''
  const name = /^\p{Lu}\p{Ll}/u.test(answer) ? answer.slice(0, 1).toLowerCase() + answer.slice(1) : answer
  return letters.slice(0, word.from).join('') + name + end + letters.slice(word.to).join('')
}
