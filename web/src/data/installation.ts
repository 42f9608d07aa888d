import { newId } from './ids'

const KEPT = 'installation'

/** A random id of this installation, under which the server notes what it delivers. */
export function installation(): string {
  let id = localStorage.getItem(KEPT)
  if (!id) {
    id = newId()
    localStorage.setItem(KEPT, id)
  }
  return id
}
