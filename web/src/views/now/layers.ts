import type { Schemas } from '../../core/core'
import type { AreaLine } from './useJob'

/** What lies on an area today, for its little net. */
export function layersOf(area: AreaLine): Omit<Schemas['DrawNetInputs'], 'view'> {
  return { area: area.geometry!, layers: ['coat'], ...(area.coat ? { coat: area.coat } : {}) }
}
