import { computed } from 'vue'

import { station } from '../../registry'

/** Words that are said of what went wrong: then the find box offers to ask why. */
const trouble =
  /\b(film|cloudy|spots?|greas\w*|foams?|smells?|grey|stiff|scum|stains?|itch\w*|fizz\w*|crumbl\w*|swell\w*|sticks?|parted|curd\w*|runny|mou?ld\w*|lumps?|caked|clog\w*|streaks?|limescale|crystals|burns?|fumes)\b/i

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
    { text: 'Look at the samples', kind: 'jars that are kept while they age', to: '/trials/samples' },
    {
      text: 'Say what you measured',
      kind: 'own figures: a cup, drops, a scoop, drying',
      to: '/trials/figures',
    },
  ],
  find: (words) =>
    computed(() =>
      trouble.test(words.value)
        ? [
            {
              text: `Why: ${words.value.trim()}`,
              kind: 'what may be the cause',
              to: `/trials/why?said=${encodeURIComponent(words.value.trim())}`,
            },
          ]
        : [],
    ),
  shows: {
    trials: ['trials', 'samples', 'found-causes'],
    formulas: ['trials'],
    shelf: ['own-figures'],
    batches: ['own-figures'],
  },
})
