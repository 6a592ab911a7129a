import { station } from '../../registry'

export default station({
  name: 'trials',
  title: 'Trials',
  does: 'what was better, and why it went wrong',
  glyph: 'M5 4v16M19 4v16M5 8h14M5 14l14 3',
  order: 70,
  foot: true,
  address: '/:view?/:id?',
  page: () => import('./TrialsPage.vue'),
  acts: [
    { text: 'Begin a trial', kind: 'of two goods', to: '/trials/new' },
    { text: 'Why did it go wrong?', kind: 'film, lumps, smell, foam …', to: '/trials/why' },
  ],
  shows: { trials: ['trials'], formulas: ['trials'] },
})
