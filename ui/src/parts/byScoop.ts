import { ref, watch } from 'vue'

const kept = 'keencrock.by-scoop'

/** Whether goods are measured with cups and spoons here, and not weighed; each browser keeps its own answer. */
export const byScoop = ref(localStorage.getItem(kept) === 'on')
watch(byScoop, (on) => localStorage.setItem(kept, on ? 'on' : 'off'))
