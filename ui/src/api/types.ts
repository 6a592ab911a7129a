import type { components } from './schema'

/** What goes over the wire, by its names in the contract. */
export type Schemas = components['schemas']
export type Problem = Schemas['Problem']
