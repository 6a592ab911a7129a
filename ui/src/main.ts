import '@fontsource/zilla-slab/latin-500.css'
import '@fontsource/zilla-slab/latin-600.css'
import '@fontsource/atkinson-hyperlegible-next/latin-400.css'
import '@fontsource/atkinson-hyperlegible-next/latin-600.css'
import 'ant-design-vue/dist/reset.css'
import './styles/tokens.css'
import './styles/base.css'

import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createApp } from 'vue'

import App from './App.vue'
import { ProblemError } from './api/client'
import { mendComboboxes } from './parts/combobox'
import { router } from './router'

const queryClient = new QueryClient({
  defaultOptions: {
    // whether the server answers is what counts, not whether there is a network beyond it
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 5_000,
      // twice, and soon: what cannot be read is told within two seconds
      retryDelay: (failures) => 250 * (failures + 1),
      retry: (failures, error) =>
        failures < 2 &&
        error instanceof ProblemError &&
        (error.problem.status === 0 || error.problem.status >= 500),
    },
  },
})

createApp(App).use(VueQueryPlugin, { queryClient }).use(router).mount('#app')
mendComboboxes(document.body)
