import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '../../api/client'
import { chemistry, range } from './fixture'
import HardnessBar from './HardnessBar.vue'
import PhStrip from './PhStrip.vue'
import ReadingMap from './ReadingMap.vue'
import Strata from './Strata.vue'

const ofPH = (closed: number, vented: number) =>
  chemistry({
    ph: { closed, vented },
    ph_range: { closed: range(closed, closed - 0.2, closed + 0.2), vented: range(vented) },
    gas_shifts_ph: closed !== vented,
  })

describe('PhStrip', () => {
  it('draws one mark when nothing leaves as gas', () => {
    const strip = mount(PhStrip, { props: { chemistry: ofPH(9.1, 9.1) } })
    expect(strip.findAll('circle')).toHaveLength(1)
  })

  it('draws both marks of a bomb, the later one to the right', () => {
    const strip = mount(PhStrip, { props: { chemistry: ofPH(6.6, 9.8) } })
    const [closed, vented] = strip.findAll('circle').map((c) => Number(c.attributes('cx')))
    expect(vented).toBeGreaterThan(closed ?? Infinity)
    expect(strip.find('svg').attributes('aria-label')).toContain('pH 6.6 with the gas in it, 9.8 after')
  })

  it('shows the range of a scooped mixture as wide as it is', () => {
    const strip = mount(PhStrip, { props: { chemistry: ofPH(7, 7) } })
    const bar = strip.findAll('rect').at(-1)
    expect(Number(bar?.attributes('width'))).toBeCloseTo((0.4 / 14) * 320, 5)
  })

  it('keeps marks on the strip whatever the number', () => {
    const strip = mount(PhStrip, { props: { chemistry: ofPH(-2, 17) } })
    for (const c of strip.findAll('circle')) {
      expect(Number(c.attributes('cx'))).toBeGreaterThanOrEqual(8)
      expect(Number(c.attributes('cx'))).toBeLessThanOrEqual(328)
    }
  })
})

describe('HardnessBar', () => {
  const hardness = {
    total: 2.68,
    met_by_precipitation: 2.0,
    met_by_chelation: 0,
    taken_by_soap: 0.14,
    left: 0.54,
  } as Schemas['Chemistry']['hardness']

  it('names the parts that are there, and no other', () => {
    const bar = mount(HardnessBar, { props: { hardness } })
    expect(bar.text()).toContain('falls out as chalk 75 %')
    expect(bar.text()).toContain('takes soap 5 %')
    expect(bar.text()).toContain('left 20 %')
    expect(bar.text()).not.toContain('held dissolved')
  })

  it('fills the bar, each part beginning where the last ends', () => {
    const bar = mount(HardnessBar, { props: { hardness } })
    const parts = bar.findAll('.bar > rect')
    let at = 0
    for (const p of parts) {
      expect(Number(p.attributes('x'))).toBeCloseTo(at, 5)
      at += Number(p.attributes('width'))
    }
    expect(at).toBeCloseTo(336, 3)
  })
})

describe('ReadingMap', () => {
  const map: Schemas['ReadingMap'] = {
    reading: 'curdled',
    values: [
      [0, 0.05, 0.3],
      [0, 0.2, 0.9],
    ],
    here: { name: 'Mine', x_g: 100, y_g: 50 },
    safe_high: 0.1,
    schools: [
      { name: 'Near', x_g: 20, y_g: 20 },
      { name: 'Far', x_g: 900, y_g: 20 },
    ],
  }
  const open = (frozen = false) =>
    mount(ReadingMap, {
      props: { map, xMost: 200, yMost: 100, xName: 'Soda', yName: 'Acid', frozen },
      attachTo: document.body,
    })

  it('hatches what is to be minded, and only that', () => {
    const unsafe = open().findAll('.edge')
    expect(unsafe).toHaveLength(1)
    expect(unsafe[0]?.attributes('fill')).toBe('url(#to-mind)')
    // over 0.1 begins between the first two columns and reaches the far edge
    const xs = [...(unsafe[0]?.attributes('d') ?? '').matchAll(/[ML](\d+\.\d) /g)].map((m) => Number(m[1]))
    expect(Math.min(...xs)).toBeGreaterThan(0)
    expect(Math.max(...xs)).toBe(300)
  })

  it('leaves bare what cannot be worked out', () => {
    const values = [
      [null, 8.5],
      [8.1, 11.9],
    ]
    const m = mount(ReadingMap, {
      props: {
        map: { ...map, reading: 'closed-ph', values, safe_low: 2, safe_high: 11.5 },
        xMost: 200,
        yMost: 100,
        xName: 'Soda',
        yName: 'Acid',
        frozen: false,
      },
    })
    expect(m.html()).not.toContain('NaN')
    expect(m.find('figcaption').text()).toContain('from 8.1, pale, to 11.9') // and not from 0
    expect(m.find('figcaption').text()).toContain('below 2 or above 11.5')
  })

  it('places the schools that lie on it, and names the others', () => {
    const m = open()
    expect(m.findAll('.school').map((s) => s.text())).toEqual(['Near'])
    expect(m.find('figcaption').text()).toContain('beyond the map: Far')
  })

  it('moves by arrow keys, no further than the map goes', async () => {
    const m = open()
    await m.find('svg').trigger('keydown', { key: 'ArrowRight' })
    expect(m.emitted('moved')?.[0]).toEqual([104, 50])
    await m.find('svg').trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    expect(m.emitted('moved')?.[1]).toEqual([100, 60])
    const edge = mount(ReadingMap, {
      props: {
        map: { ...map, here: { name: '', x_g: 200, y_g: 0 } },
        xMost: 200,
        yMost: 100,
        xName: '',
        yName: '',
        frozen: false,
      },
    })
    await edge.find('svg').trigger('keydown', { key: 'ArrowRight' })
    await edge.find('svg').trigger('keydown', { key: 'ArrowDown' })
    expect(edge.emitted('moved')).toEqual([
      [200, 0],
      [200, 0],
    ])
  })

  it('stays where it is for who only looks', async () => {
    const m = open(true)
    await m.find('svg').trigger('keydown', { key: 'ArrowRight' })
    expect(m.emitted('moved')).toBeUndefined()
  })

  it('says shares in per cent', () => {
    expect(open().find('figcaption').text()).toContain('90 %')
    expect(open().findAll('.line').length).toBeGreaterThan(1) // drawn at round numbers between
  })
})

describe('Strata', () => {
  const assessment = {
    total_mass_g: range(400),
    lines: [
      { name: 'Washing soda', function: 'builder', share: 0.75, mass_g: range(300) },
      { name: 'Soap flakes', function: 'soap', share: 0.25, mass_g: range(100) },
      { name: 'Nothing', function: 'scent', share: 0, mass_g: range(0) },
    ],
    state: 'dry',
  } as unknown as Schemas['Assessment']

  it('gives each line a layer as thick as its share', () => {
    const crock = mount(Strata, { props: { assessment, frozen: false } })
    const heights = crock.findAll('.layer').map((l) => Number(l.attributes('height')) - 0.5)
    expect(heights).toHaveLength(2)
    expect((heights[0] ?? 0) / (heights[1] ?? 1)).toBeCloseTo(3, 5)
  })

  it('shifts a hundredth of the whole at an arrow key, and says between which lines', async () => {
    const crock = mount(Strata, { props: { assessment, frozen: false } })
    await crock.find('[tabindex="0"]').trigger('keydown', { key: 'ArrowUp' })
    expect(crock.emitted('shift')?.[0]).toEqual([1, 0, 4])
    await crock.find('[tabindex="0"]').trigger('keydown', { key: 'ArrowDown', shiftKey: true })
    expect(crock.emitted('shift')?.[1]).toEqual([1, 0, -20])
  })

  it('cannot be moved by who only looks', () => {
    const crock = mount(Strata, { props: { assessment, frozen: true } })
    expect(crock.findAll('[tabindex="0"]')).toHaveLength(0)
  })
})
