// Rows that are dragged to another place by their handle, by mouse or finger; keys beside them do the same.
import { ref } from 'vue'

/** Before which of a list, in its order, something goes that is dropped on another of it: over what lies above, under what lies below. */
export function placeOn(list: readonly { id: string }[], held: string, over: string): string {
  const from = list.findIndex((each) => each.id === held)
  const to = list.findIndex((each) => each.id === over)
  return from < to ? (list[to + 1]?.id ?? '') : over
}

export function useDragOrder(dropped: (held: string, over: string) => void) {
  const held = ref('')
  const over = ref('')
  function take(event: PointerEvent, id: string): void {
    event.preventDefault()
    held.value = id
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  }
  function drag(event: PointerEvent): void {
    if (!held.value) return
    const row = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-place]')
    over.value = row?.dataset.place ?? ''
  }
  function drop(): void {
    const [from, to] = [held.value, over.value]
    held.value = over.value = ''
    if (from && to && from !== to) dropped(from, to)
  }
  return { held, over, take, drag, drop }
}
