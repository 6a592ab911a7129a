import { station } from '../../registry'

export default station({
  name: 'handbook',
  title: 'Handbook',
  does: 'measures, cautions and why, where each number is from',
  glyph: 'M4 5c3-1 6-1 8 1 2-2 5-2 8-1v14c-3-1-6-1-8 1-2-2-5-2-8-1zM12 6v14',
  order: 80,
  foot: true,
  address: '/:page?',
  page: () => import('./HandbookPage.vue'),
  acts: [
    { text: 'A card of measures', kind: 'cups, spoons, drops in ml', to: '/handbook/measures' },
    { text: 'Where a number is from', kind: 'in the handbook', to: '/handbook' },
  ],
  shows: { workshop: ['handbook'] },
})
