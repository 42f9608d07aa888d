import type { Schemas } from '../../core/core'
import type { Job } from '../../data/book'

/** What lies on an area today, for its little net. */
export function layersOf(area: Job['areas'][number]): Omit<Schemas['DrawNetInputs'], 'view'> {
  return { area: area.geometry!, layers: ['coat'], ...(area.coat ? { coat: area.coat } : {}) }
}
