import { onScopeDispose } from 'vue'
import { useRouter } from 'vue-router'

/** The sheets that are open, the one on top last. */
const open: symbol[] = []

/** Where the page stands in the history; the browser has gone there before the router asks its guards. */
const position = () => (history.state as { position?: number } | null)?.position ?? 0

/** Back closes what lies on top of a view before it leaves the view. */
export function useBackCloses(close: () => void): void {
  const self = Symbol('sheet')
  const at = position()
  open.push(self)
  const unguard = useRouter().beforeEach(() => {
    const closes = position() < at && open.at(-1) === self
    if (closes) close()
    return !closes
  })
  onScopeDispose(() => {
    unguard()
    open.splice(open.indexOf(self), 1)
  })
}
