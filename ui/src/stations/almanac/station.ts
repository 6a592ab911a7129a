import { station } from '../../registry'

export default station({
  name: 'almanac',
  title: 'Almanac',
  does: 'what is ordered, what to make when',
  glyph: 'M4 5h16v16H4zM4 10h16M8 3v4M16 3v4M7.500 14h6M10.500 17.500h6',
  order: 47,
  address: '/:view?',
  page: () => import('./AlmanacPage.vue'),
  acts: [
    { text: 'Note an order', kind: 'and see when to make it', to: '/almanac' },
    { text: 'What is to be done today', kind: 'on one page', to: '/almanac/today' },
  ],
  shows: {
    almanac: ['almanac'],
    ledger: ['almanac'],
    shelf: ['almanac'],
    pantry: ['almanac'],
    formulas: ['almanac'],
    bench: ['almanac'],
    rack: ['almanac'],
  },
})
