// Ctrl+Z and Ctrl+Y walk back and forth in what was typed; so does Alt+Z while there is some.
import { onBeforeUnmount, onMounted, type Ref } from 'vue'
import type { useDraft } from './useDraft'

export function useUndoKeys(draft: ReturnType<typeof useDraft>, on?: Ref<boolean>): void {
  function key(event: KeyboardEvent): void {
    if (on?.value === false || event.metaKey) return
    const back = (event.ctrlKey && event.code === 'KeyZ' && !event.shiftKey) || (event.altKey && event.code === 'KeyZ')
    const forth = event.ctrlKey && (event.code === 'KeyY' || (event.code === 'KeyZ' && event.shiftKey))
    if (back && draft.past.value.length) void draft.undo()
    else if (forth && draft.future.value.length) void draft.redo()
    else return
    event.preventDefault()
    event.stopImmediatePropagation()
  }
  onMounted(() => window.addEventListener('keydown', key, true))
  onBeforeUnmount(() => window.removeEventListener('keydown', key, true))
}
