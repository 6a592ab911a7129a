import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'

import { singleKeysOn, useSingleKeys } from './useKeys'

describe('single keys', () => {
  const act = vi.fn()
  const part = defineComponent({
    setup() {
      useSingleKeys([], { ' ': act })
      return () =>
        h('div', [
          h('h1', { tabindex: -1 }, 'Bench'),
          h('button', 'one'),
          h('a', { href: '#' }, 'two'),
          h('details', [h('summary', 'three')]),
          h('div', { role: 'tab', tabindex: 0 }, 'four'),
          h('svg', { role: 'slider', tabindex: 0 }),
          h('select'),
          h('input'),
        ])
    },
  })
  let page: ReturnType<typeof mount>
  beforeEach(() => {
    page = mount(part, { attachTo: document.body })
  })
  afterEach(() => {
    page.unmount()
    act.mockClear()
    singleKeysOn.value = true
  })
  const press = (selector: string) =>
    page.find(selector).element.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }))

  it('act where no control has the focus', () => {
    press('h1')
    expect(act).toHaveBeenCalledOnce()
  })

  it('never act while a control has the focus', () => {
    for (const control of ['button', 'a', 'summary', '[role=tab]', '[role=slider]', 'select', 'input'])
      press(control)
    expect(act).not.toHaveBeenCalled()
  })

  it('can be switched off', () => {
    singleKeysOn.value = false
    press('h1')
    expect(act).not.toHaveBeenCalled()
  })
})
