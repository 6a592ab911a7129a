import { computed } from 'vue'

import { station } from '../../registry'
import { useVessels } from './vessels'

export default station({
  name: 'rack',
  title: 'Rack',
  does: 'what stands, dries, steeps, is fed and drawn',
  glyph:
    'M3 21h18M5 21V9c0-1.5 1-2.5 2.5-3h9c1.5.5 2.5 1.5 2.5 3v12M8 6V3.5h8V6M5 14c3-1.6 5 1.6 7 0s4-1.6 7 0M19 17h2v-3',
  order: 35,
  address: '/:id?',
  page: () => import('./RackPage.vue'),
  acts: [{ text: 'A new vat', kind: 'that is fed and drawn', to: '/rack/new' }],
  find: () => {
    const { data } = useVessels()
    return computed(() =>
      (data.value ?? []).map((v) => ({ text: v.name, kind: 'on the rack', to: `/rack/${v.id}` })),
    )
  },
  shows: { rack: ['rack'] },
})
