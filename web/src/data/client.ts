import createClient from 'openapi-fetch'
import type { paths } from './api'

/** The HTTP door, with the types of its own description. */
export const client = createClient<paths>({ baseUrl: location.origin })
