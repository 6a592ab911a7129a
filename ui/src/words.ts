import dayjs from 'dayjs'
import relativeTime from 'dayjs/plugin/relativeTime'

import type { Schemas } from './api/types'

dayjs.extend(relativeTime)

// How numbers and dates are written. Nothing here is worked out, only said.

const fixed = (n: number, places: number) =>
  n.toLocaleString('en-GB', { minimumFractionDigits: places, maximumFractionDigits: places })

/** A mass to the precision that is real: 4.6 g, 227 g, 8.40 kg. */
export function grams(g: number): string {
  const size = Math.abs(g)
  if (size === 0) return '0 g'
  if (size >= 10_000) return `${fixed(g / 1000, 1)} kg`
  if (size >= 1000) return `${fixed(g / 1000, 2)} kg`
  if (size >= 100) return `${fixed(g, 0)} g`
  if (size >= 10) return `${fixed(g, 1)} g`
  return `${fixed(g, 2)} g`
}

/** A mass as a scale of so fine a step shows it: 2114 g, 4.6 g, −1 g. */
export function onScale(g: number, stepG: number): string {
  const places = Math.max(0, Math.ceil(-Math.log10(stepG) - 1e-9))
  const shown = fixed(Math.abs(g), places).replaceAll(',', '')
  return `${g < 0 && Number(shown) !== 0 ? '−' : ''}${shown} g`
}

/** A range as a person says it, or nothing when it is one number. */
export function spread(r: Schemas['Range']): string {
  if (r.high - r.low <= 1e-3 * r.value) return ''
  const places = r.high >= 100 ? 0 : 1
  const [low, high] = [fixed(r.low, places), fixed(r.high, places)]
  return low === high ? '' : `${low}–${high} g`
}

/** A volume: 250 ml, 1.9 l. */
export function millilitres(ml: number): string {
  return ml >= 1000 ? `${fixed(ml / 1000, 1)} l` : `${fixed(ml, 0)} ml`
}

/** A share of the whole: 34 %, 0.4 %. */
export function percent(share: number): string {
  const p = share * 100
  return `${fixed(p, p !== 0 && p < 1 ? 1 : 0)} %`
}

/** The ends of a share, where they read differently: 71 % to 80 %. */
export function between(share: Schemas['Range']): string {
  const [low, high] = [percent(share.low), percent(share.high)]
  return low === high ? low : `${low} to ${high}`
}

/** A number to three figures: 0.042, 2.68, 105. */
export function figures(n: number): string {
  if (n === 0 || Math.abs(n) < 5e-4) return '0'
  return Number(n.toPrecision(3)).toLocaleString('en-GB', { maximumFractionDigits: 4 })
}

/** The ends of a range, where it has any: ", 2.75 to 3.37". */
export function within(r: Schemas['Range']): string {
  return r.high - r.low <= 1e-3 * Math.abs(r.value) ? '' : `, ${figures(r.low)} to ${figures(r.high)}`
}

/** A factor: 0.25 times, 10.8 times. */
export function times(factor: number): string {
  return `${Number(factor.toPrecision(3)).toLocaleString('en-GB')} times`
}

/** Money; tenths of cents show where they are known and matter. */
export function money(amount: string | undefined, currency: string): string {
  if (amount === undefined || amount === '') return '–'
  const n = Number(amount)
  const places = n !== 0 && Math.abs(n) < 0.1 && /\.\d{3}/.test(amount) ? 3 : 2
  return n.toLocaleString('en-GB', {
    style: 'currency',
    currency,
    minimumFractionDigits: places,
    maximumFractionDigits: places,
  })
}

/** Money of which something has no known price: no less than that. */
export function moneyAtLeast(amount: string | undefined, currency: string, unpriced?: string[]): string {
  const said = money(amount, currency)
  if (amount === '') return said // it is not shown to who only looks
  if (!unpriced?.length) return said
  return Number(amount ?? 0) === 0 ? 'no price' : `at least ${said}`
}

/** A day as people say it. */
export function day(date: string | undefined): string {
  return date ? dayjs(date).format('D MMM YYYY') : ''
}

/** How far off a moment is: in 3 hours, 2 days ago. A day without its hour is told in days:
 * today, yesterday, in 3 months. */
export function fromNow(date: string | undefined): string {
  if (!date) return ''
  if (date.length > 'YYYY-MM-DD'.length) return dayjs(date).fromNow()
  const today = dayjs().startOf('day')
  const days = dayjs(date).diff(today, 'day')
  if (Math.abs(days) > 1) return dayjs(date).from(today)
  return ['yesterday', 'today', 'tomorrow'][days + 1] ?? ''
}

/** A life in days as people say it: 9 days, 6 weeks, 8 months, 2 years. */
export function life(days: number): string {
  if (days < 28) return days === 1 ? '1 day' : `${days} days`
  if (days < 90) return `${Math.round(days / 7)} weeks`
  if (days < 700) return `${Math.round(days / 30.4)} months`
  const years = days / 365
  return `${fixed(years, years % 1 < 0.06 || years % 1 > 0.94 ? 0 : 1)} years`
}

export function count(n: number): string {
  return fixed(n, 0)
}

/** So many of something: 1 line, 3 lines. */
export const counted = (n: number, one: string) =>
  `${count(n)} ${n === 1 ? one : `${one}${one.endsWith('ch') ? 'es' : 's'}`}`

/** A moment as people say it: today 14:00, Thu 14:00, 3 Dec. */
export function moment(at: string | undefined): string {
  if (!at) return ''
  const t = dayjs(at)
  const days = t.startOf('day').diff(dayjs().startOf('day'), 'day')
  if (days === 0) return `today ${t.format('HH:mm')}`
  if (days === 1) return `tomorrow ${t.format('HH:mm')}`
  if (days === -1) return `yesterday ${t.format('HH:mm')}`
  if (Math.abs(days) < 7) return t.format('ddd HH:mm')
  return t.format('D MMM')
}

/** The day and about when: Thursday about 14 h. */
export function about(at: string | undefined): string {
  if (!at) return ''
  const t = dayjs(at)
  const days = t.startOf('day').diff(dayjs().startOf('day'), 'day')
  const name =
    days === 0 ? 'today' : days === 1 ? 'tomorrow' : Math.abs(days) < 7 ? t.format('dddd') : t.format('D MMM')
  return `${name} about ${t.format('H')} h`
}

/** A number as it is typed, with a point or a comma; nothing for what is none. */
export function typedNumber(text: string): number | undefined {
  const n = text.trim() === '' ? NaN : Number(text.replace(',', '.'))
  return Number.isFinite(n) ? n : undefined
}

/** A sentence for any error. */
export function sentence(e: unknown): string {
  return e instanceof Error ? e.message : String(e)
}
