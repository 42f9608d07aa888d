import type { Asked } from '../core/core'

/** The net of an area as it is to be seen; what lies on it the core knows. */
export type Net = Omit<Asked<'draw.net'>, 'view'> & { job: string }
