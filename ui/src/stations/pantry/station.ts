import { computed } from 'vue'

import { usePantry } from '../../api/queries'
import { station } from '../../registry'

export default station({
  name: 'pantry',
  title: 'Pantry',
  does: 'what is finished, and back to each bag',
  glyph: 'M2 21h20M4 21v-9.5h5V21M4.7 11.5V9.2h3.6v2.3M13 21V8h7v13M14 8V5h5v3M13 14h7M4 16h5',
  order: 40,
  address: '/:batch?/:view?',
  acts: [{ text: 'Use cards', kind: 'which of mine for this', to: '/pantry/cards' }],
  page: () => import('./PantryPage.vue'),
  find: () => {
    const { goods } = usePantry()
    return computed(() =>
      (goods.value ?? []).map((g) => ({
        text: `${g.name} ${g.code}`,
        kind: 'in the pantry',
        to: `/pantry/${g.batch}`,
      })),
    )
  },
  shows: { pantry: ['pantry'], cards: ['cards'] },
})
