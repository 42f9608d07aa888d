// The search for a plan of one product: begun when there is none yet, stopped by hand or by itself.
import { onBeforeUnmount, ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import { searchCut, stopSearch, type Cut } from '../../core/searches'
import { sayRefusal } from '../../data/refusal'

export function useCutting() {
  const found = shallowRef<Cut | null>(null)
  const searching = ref(false)
  const refused = ref('')
  let turn = 0

  async function search(bands: Schemas['CuttingBands'], from: Cut | null = null): Promise<void> {
    stop()
    const mine = ++turn
    if (!from) found.value = null
    refused.value = ''
    searching.value = true
    try {
      await searchCut(
        bands,
        from,
        (cut) => {
          if (mine === turn) found.value = cut
        },
        () => mine !== turn,
      )
    } catch (error) {
      if (mine === turn) refused.value = sayRefusal(error, '. ')
    }
    if (mine === turn) searching.value = false
  }

  /** Ends the search; the best plan so far stays. */
  function stop(): void {
    turn++
    if (searching.value) stopSearch()
    searching.value = false
  }

  onBeforeUnmount(stopSearch)
  return { found, searching, refused, search, stop }
}
