import { station } from '../../registry'

export default station({
  name: 'settings',
  title: 'Settings',
  does: 'workshop, people, scale',
  glyph: 'M4 20l8.5-8.5M11 9.5a4.6 4.6 0 0 1 6.3-5.2L14.6 7l2.4 2.4 2.7-2.7a4.6 4.6 0 0 1-5.2 6.3',
  order: 90,
  foot: true,
  address: '/:view?',
  acts: [
    {
      text: 'Bring in a sheet',
      kind: 'formulas, materials, lots, jars, orders, sales, people',
      to: '/settings/sheets',
    },
  ],
  page: () => import('./SettingsPage.vue'),
  shows: { workshop: ['workshop'], people: ['people'] },
})
