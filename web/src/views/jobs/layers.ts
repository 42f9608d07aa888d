import type { Job } from '../../data/book'
import type { Net } from '../../drawing/net'

/** What lies on an area today, for its little net. */
export function layersOf(job: string, area: Job['areas'][number]): Net {
  return { job, area: area.id, layers: ['coat'], coat: area.coated }
}
