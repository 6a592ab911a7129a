import { station } from '../../registry'

export default station({
  name: 'bench',
  title: 'Bench',
  does: 'weigh out and make, step by step',
  glyph: 'M12 3v6M4 9h16l-2.6 5H6.6zM9 14v4M15 14v4M6 21h12M9 18h6M10 5.5h4',
  order: 30,
  address: '/:id?',
  page: () => import('./BenchPage.vue'),
  shows: { batches: ['batches', 'batch'] },
})
