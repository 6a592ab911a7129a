import { register, type Station } from './registry'

// Each folder of stations/ is found by its station.ts: nobody else knows which there are.
const found = import.meta.glob<{ default: Station }>('./stations/*/station.ts', { eager: true })

register(Object.values(found).map((m) => m.default))
