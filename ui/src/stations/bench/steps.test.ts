import { mount, RouterLinkStub } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'

import type { Of, Step } from '../../api/batch'
import type { Schemas } from '../../api/client'
import { session } from '../../api/session'
import DryingCurve from '../../parts/DryingCurve.vue'
import StandCard from '../../parts/StandCard.vue'
import CheckWork from './CheckWork.vue'
import SlowBudget from './SlowBudget.vue'
import StepList from './StepList.vue'
import StepWork from './StepWork.vue'

vi.mock('../../api/queries', () => ({ useMaterials: () => ({ data: ref([]) }) }))

beforeEach(() => {
  session.value = { person: { role: 'maker' }, workshop: {} } as Schemas['Session']
})

const step = (over: Partial<Step>): Step => ({
  step: 1,
  kind: 'mix',
  name: 'Mix',
  stage: 'bench',
  status: 'here',
  lines: [],
  ...over,
})
const line = (over: Partial<Schemas['BatchLine']>) =>
  ({
    line: 0,
    name: 'Soda',
    weighed_g: 0,
    target_g: 100,
    status: 'waiting',
    lots: [],
    ...over,
  }) as Schemas['BatchLine']
const batch = (over: Partial<Schemas['Batch']> = {}) =>
  ({
    state: 'in-work',
    lines: [],
    events: [],
    steps: [],
    timers: [],
    weighed_g: 0,
    planned_g: 0,
    ...over,
  }) as unknown as Schemas['Batch']

/** What can be done to a batch, written down in place of being done. */
function fake(b: Schemas['Batch'], problem: Schemas['Problem'] | null = null) {
  const mutation = () => ({ mutate: vi.fn(), isPending: ref(false), data: ref(), reset: vi.fn() })
  const of = {
    id: 'b',
    batch: ref(b),
    problem: ref(problem),
    act: mutation(),
    add: mutation(),
    tryOut: mutation(),
    keepBack: mutation(),
  }
  return { of: of as unknown as Of, act: of.act.mutate, keep: of.keepBack.mutate }
}
const global = { stubs: { RouterLink: RouterLinkStub } }
const press = (w: ReturnType<typeof mount>, text: string) =>
  w
    .findAll('button')
    .find((b) => b.text().startsWith(text))
    ?.trigger('click')

/** What was asked for, the nth time. */
const sent = (act: ReturnType<typeof vi.fn>, n: number) => act.mock.calls[n]?.[0] as Record<string, unknown>
const submit = (w: ReturnType<typeof mount>, n: number) => w.findAll('form')[n]?.trigger('submit')

describe('StepWork', () => {
  it('says what to do, with what and how long, and sets timers for both ends', async () => {
    const s = step({
      text: 'Break the lumps.',
      for: '5–10 min',
      waits: [
        { says: '5 min', seconds: 300 },
        { says: '10 min', seconds: 600 },
      ],
      lines: [0],
      celsius: 40,
    })
    const { of, act } = fake(batch({ lines: [line({ weighed_g: 246 })], steps: [s, s] }))
    const w = mount(StepWork, { props: { of, step: s }, global })
    expect(w.text()).toContain('Break the lumps.')
    expect(w.text()).toContain('246 g')
    expect(w.text()).toContain('40 °C')
    await press(w, 'Timer, 5 min')
    await press(w, 'Timer, 10 min')
    expect(act.mock.calls.map((c) => [c[0].kind, c[0].seconds])).toEqual([
      ['timer-set', 300],
      ['timer-set', 600],
    ])
    await press(w, 'Done')
    await press(w, 'Pass over')
    expect(act.mock.calls.slice(2).map((c) => c[0].kind)).toEqual(['step-done', 'step-passed'])
  })

  it('shows the timer that runs in place of setting another', () => {
    const s = step({ for: '5 min', waits: [{ says: '5 min', seconds: 300 }] })
    const ends = new Date(Date.now() + 125_000).toISOString()
    const { of } = fake(batch({ timers: [{ event: 3, step: 1, name: 'Mix', set: ends, ends }] }))
    const w = mount(StepWork, { props: { of, step: s }, global })
    expect(w.find('[role=timer]').text()).toMatch(/2:0\d/)
    expect(w.text()).not.toContain('Timer, 5 min')
  })

  it('counts pieces, and keeps what goes round again', async () => {
    const press24 = step({ kind: 'press', name: 'Press', pieces: 24 })
    const one = fake(batch())
    const w = mount(StepWork, { props: { of: one.of, step: press24 }, global })
    expect((w.find('[name=pieces]').element as HTMLInputElement).value).toBe('24')
    await w.find('[name=pieces]').setValue('23')
    await submit(w, 0)
    expect(sent(one.act, 0)).toMatchObject({ kind: 'pieces-counted', count: 23 })

    const sieve = step({ kind: 'strain', name: 'Strain', keep: 'freezer' })
    const two = fake(batch({ lines: [line({ line: 0, name: 'Soap nuts', weighed_g: 150 })] }))
    const v = mount(StepWork, { props: { of: two.of, step: sieve }, global })
    await v.find('[name=kept-grams]').setValue('210')
    await submit(v, 1)
    expect(sent(two.keep, 0)).toMatchObject({ line: 0, grams: 210, where: 'freezer' })
  })

  it('tells that someone was faster', () => {
    const { of } = fake(batch(), {
      type: '',
      title: '',
      status: 409,
      code: 'step-done',
      detail: 'Step 2 was done already.',
    })
    const w = mount(StepWork, { props: { of, step: step({}) }, global })
    expect(w.find('[role=alert]').text()).toBe('Step 2 was done already.')
    expect(w.find('[role=alert]').classes()).toContain('watch')
  })
})

describe('CheckWork', () => {
  const handful = step({
    kind: 'check',
    name: 'Check',
    check: {
      id: 'handful',
      question: 'Does it hold?',
      good: 'It breaks clean.',
      answers: [
        { id: 'holds', text: 'Holds', good: true, advice: '' },
        {
          id: 'crumbles',
          text: 'Crumbles',
          good: false,
          advice: 'Half a teaspoon more.',
          remedy: { material: 'water', name: 'Water', amount: '1/2 tsp' },
        },
      ],
    },
  })

  it('answers, and offers what is done about it', async () => {
    const { of, act } = fake(batch())
    const w = mount(CheckWork, { props: { of, step: handful }, global })
    expect(w.text()).toContain('It breaks clean.')
    await press(w, 'Crumbles')
    expect(sent(act, 0)).toEqual({ kind: 'checked', step: 1, answer: 'crumbles' })
    expect(w.find('[role=status]').text()).toBe('Half a teaspoon more.')
    expect((w.find('[name=add-amount]').element as HTMLInputElement).value).toBe('1/2 tsp')
    await press(w, 'Holds')
    expect(sent(act, 1).answer).toBe('holds')
  })

  it('asks a question of one’s own', async () => {
    const { of, act } = fake(batch())
    const w = mount(CheckWork, {
      props: { of, step: step({ kind: 'check', text: 'Does it smell right?' }) },
      global,
    })
    expect(w.find('h1').text()).toBe('Does it smell right?')
    await press(w, 'Not yet')
    expect(sent(act, 0).answer).toBe('not')
  })
})

describe('SlowBudget', () => {
  const add = step({
    kind: 'add',
    name: 'Add slowly',
    by: 'drop',
    budgets: [
      {
        line: 0,
        name: 'Vinegar',
        used_g: 10,
        target_g: 25,
        share_of_dry: 0.02,
        each: 'drop',
        each_g: 0.05,
        gas_spent: 0.01,
      },
    ],
  })
  it('counts drops against the budget, with the gas they cost', async () => {
    const { of, act } = fake(batch({ steps: [step({}), add], step: 1 }))
    const w = mount(SlowBudget, { props: { of, line: 0, busy: false }, global })
    expect(w.text()).toContain('10.0 g of 25.0 g in')
    expect(w.text()).toContain('2 % of the dry mass')
    expect(w.text()).toContain('1 % of the fizz spent')
    expect(w.find('[role=meter]').attributes('aria-valuenow')).toBe('40')
    await press(w, '+ 20 drops')
    expect(w.emitted('dose')).toEqual([[1]])
    await press(w, 'It is enough')
    expect(sent(act, 0)).toEqual({ kind: 'step-done', step: 1 })
  })

  it('is not there for a line that is weighed out', () => {
    const { of } = fake(batch({ steps: [step({ kind: 'weigh' })], step: 0 }))
    expect(
      mount(SlowBudget, { props: { of, line: 0, busy: false }, global })
        .find('section')
        .exists(),
    ).toBe(false)
  })
})

describe('StandCard', () => {
  const at = (h: number) => new Date(Date.now() + h * 3_600_000).toISOString()
  const drying = (over: Partial<Schemas['Drying']>): Schemas['Drying'] => ({
    verdict: 'drying',
    says: '',
    weighings: [
      { at: at(-20), grams: 900 },
      { at: at(-10), grams: 885 },
    ],
    curve: [
      { at: at(-20), grams: 900 },
      { at: at(0), grams: 878 },
      { at: at(20), grams: 872 },
    ],
    end_g: { value: 870, low: 866, high: 873 },
    ready: at(14),
    ready_early: at(9),
    ready_late: at(20),
    ...over,
  })

  it('says when it is dry, weighs in, and tells what is wrong', async () => {
    const s = step({
      kind: 'dry',
      name: 'Dry',
      stage: 'rack',
      by_weight: true,
      weighed_in: true,
      drying: drying({}),
    })
    const { of, act } = fake(
      batch({ due: [{ kind: 'stir', what: 'stir', at: at(-2), late: true, step: 1 }] }),
    )
    const w = mount(StandCard, { props: { of, step: s, may: true }, global })
    expect(w.find('.until').text()).toContain('Within half a per cent of its end')
    expect(w.find('.late').text()).toContain('stir')
    await w.find('[name=weigh-in]').setValue('876,5')
    await w.find('form').trigger('submit')
    expect(sent(act, 0)).toMatchObject({ kind: 'weighed-in', grams: 876.5 })
    await press(w, 'some broke')
    await w.find('[name=broken]').setValue('2')
    await w.find('[name=broken-why]').setValue('the tray cracked')
    await submit(w, 1)
    expect(sent(act, 1)).toMatchObject({ kind: 'pieces-broke', count: 2, text: 'the tray cracked' })
    const stuck = step({
      ...s,
      drying: drying({ verdict: 'stuck', says: 'It has stopped above its end.', curve: [] }),
    })
    expect(mount(StandCard, { props: { of, step: stuck, may: true }, global }).text()).toContain(
      'It has stopped above its end.',
    )
  })

  it('draws what was weighed, the curve and the band of its end', () => {
    const w = mount(DryingCurve, { props: { drying: drying({}) } })
    expect(w.findAll('.point')).toHaveLength(2)
    expect(w.find('.curve').attributes('d')).toMatch(/^M.*L.*L/)
    expect(w.find('.band').exists()).toBe(true)
    expect(w.text()).toContain('dry')
    const few = mount(DryingCurve, { props: { drying: drying({ curve: [], ready: undefined }) } })
    expect(few.find('.curve').exists()).toBe(false)
    expect(few.find('.band').exists()).toBe(false)
  })
})

describe('StepList', () => {
  it('puts each line under the step that takes it', () => {
    const b = batch({
      name: 'Heron',
      code: 'HER-A',
      lines: [
        line({ line: 0, name: 'Soda' }),
        line({ line: 1, name: 'Vinegar' }),
        line({ line: 2, name: 'Water', added: true }),
      ],
      steps: [
        step({ step: 0, kind: 'weigh', name: 'Weigh out', stage: 'scale' }),
        step({ step: 1, kind: 'add', name: 'Add slowly', status: 'waiting', lines: [1] }),
      ],
    })
    const w = mount(StepList, { props: { batch: b }, global: { stubs: { AbandonBatch: true } } })
    const groups = w.findAll('ol.inner').map((g) => g.text())
    expect(groups[0]).toContain('Soda')
    expect(groups[0]).not.toContain('Vinegar')
    expect(groups[1]).toContain('Vinegar')
    expect(groups[2]).toContain('Water')
    expect(w.find('[aria-current=step]').text()).toContain('Weigh out')
  })
})
