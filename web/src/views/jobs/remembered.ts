// The names of the jobs as they were shown last, so that a page that opens has something to touch at once.
import type { Job } from '../../data/book'

export interface JobName {
  id: string
  name: string
  demo: boolean
  areas: number
}

const KEY = 'dusha.jobs'

export function remember(jobs: Job[]): void {
  const names = jobs.map(({ id, name, demo, areas }): JobName => ({ id, name, demo, areas: areas.length }))
  try {
    localStorage.setItem(KEY, JSON.stringify(names))
  } catch {
    // where there is no room nothing is remembered
  }
}

export function remembered(): JobName[] {
  try {
    const names: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(names) ? (names as JobName[]) : []
  } catch {
    return []
  }
}
