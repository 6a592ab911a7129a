import { computed } from 'vue'

import { useFormulas } from '../../api/queries'
import { station } from '../../registry'

export default station({
  name: 'crock',
  title: 'Crock',
  does: 'write a formula and see what it does',
  glyph: 'M6 4h12M7 4l.6 3C4.5 10 4.6 17 8 21h8c3.4-4 3.5-11 .4-14L17 4M5.8 14c3.5-2.4 8 2.4 12.5 0',
  order: 20,
  address: '/:id?',
  page: () => import('./CrockPage.vue'),
  acts: [
    { text: 'New formula', kind: 'write one', to: '/crock/new' },
    { text: 'New from a school', kind: 'take a starter, make it', to: '/crock/start' },
  ],
  find: () => {
    const { data } = useFormulas()
    return computed(() =>
      (data.value ?? []).map((f) => ({ text: f.name, kind: f.kind_name, to: `/crock/${f.id}` })),
    )
  },
  shows: { formulas: ['formulas'], shelf: ['assess', 'plan'], workshop: ['assess', 'plan'] },
})
