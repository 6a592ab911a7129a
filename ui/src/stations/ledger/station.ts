import { computed } from 'vue'

import { canMake } from '../../api/session'
import { station } from '../../registry'
import { useOutlets } from './queries'

export default station({
  name: 'ledger',
  title: 'Ledger',
  does: 'what it costs, what it brings, who has it',
  glyph:
    'M6 3h12l-.7 3C21 9.500 21 17 18.500 21h-13C3 17 3 9.500 6.700 6zM4 11.500h16M3.800 15h16.400M5 18h14',
  order: 45,
  address: '/:view?/:id?',
  page: () => import('./LedgerPage.vue'),
  acts: [
    { text: 'Sell or give jars', kind: 'said in a line', to: '/ledger/sales' },
    { text: 'A day at the stall', kind: 'out, sold, home', to: '/ledger/stall' },
  ],
  find: () => {
    const { data } = useOutlets(canMake)
    return computed(() =>
      (data.value ?? []).map((o) => ({ text: o.name, kind: 'takes jars', to: `/ledger/sales/${o.id}` })),
    )
  },
  shows: { ledger: ['ledger', 'pantry'], pantry: ['ledger'], shelf: ['ledger'] },
})
