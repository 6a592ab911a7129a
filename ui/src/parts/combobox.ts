// What the component library's select leaves out for who listens to the page: whether it
// is open, and no names of lists and choices that are not there (WAI-ARIA 1.2, combobox).

function mend(box: Element) {
  const open = box.closest('.ant-select')?.classList.contains('ant-select-open') ?? false
  set(box, 'aria-expanded', String(open))
  const list = box.getAttribute('aria-owns') ?? box.getAttribute('data-list')
  if (list) {
    box.setAttribute('data-list', list)
    const there = document.getElementById(list) ? list : null
    set(box, 'aria-owns', there)
    set(box, 'aria-controls', there)
  }
  const chosen = box.getAttribute('aria-activedescendant')
  if (chosen && !document.getElementById(chosen)) box.removeAttribute('aria-activedescendant')
}

function set(box: Element, name: string, value: string | null) {
  if (box.getAttribute(name) === value) return
  if (value === null) box.removeAttribute(name)
  else box.setAttribute(name, value)
}

/** Mends every select of the page, now and whenever one changes. */
export function mendComboboxes(page: HTMLElement) {
  const all = () => page.querySelectorAll('.ant-select input[role=combobox]').forEach(mend)
  let waits = false
  const soon = () => {
    if (waits) return
    waits = true
    requestAnimationFrame(() => {
      waits = false
      all()
    })
  }
  new MutationObserver(soon).observe(page, {
    attributeFilter: ['class', 'aria-owns', 'aria-activedescendant'],
    childList: true,
    subtree: true,
  })
  all()
}
