import { computed } from 'vue'

import { useLotsByCode, useShelf } from '../../api/queries'
import { station } from '../../registry'

export default station({
  name: 'shelf',
  title: 'Shelf',
  does: 'what is there, how old, at what price',
  glyph:
    'M2 21h20M2 11h20M5 11V6h4v5M7 6V4M13 11V5.5c0-1 5-1 5 0V11M5 21v-6h5v6M14 21v-4.5c0-1.4 5-1.4 5 0V21',
  order: 10,
  address: '/:material?',
  page: () => import('./ShelfPage.vue'),
  acts: [
    { text: 'Take in a delivery', kind: 'in one line', to: '/shelf?delivery' },
    { text: 'What to buy', kind: 'what is short, what is low', to: '/shelf/list' },
    { text: 'A material of your own', kind: 'what the library does not have', to: '/shelf/new' },
  ],
  find: (words) => {
    const { data } = useShelf()
    const { data: lots } = useLotsByCode(words)
    return computed(() => [
      ...(lots.value ?? []).map((l) => ({
        text: `${l.code} ${l.name}`,
        kind: l.remaining_g > 0 ? 'a lot on the shelf' : 'a lot, used up',
        to: `/shelf/${l.material}`,
      })),
      ...(data.value ?? []).map((j) => ({ text: j.name, kind: 'on the shelf', to: `/shelf/${j.material}` })),
    ])
  },
  shows: { shelf: ['shelf', 'lots', 'materials'] },
})
