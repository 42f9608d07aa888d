// A drawing that fills its host: made again when what it shows or its size changes.
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch, type Ref } from 'vue'
import { Refusal, type Schemas } from '../core/core'

export function useDrawing(
  host: Ref<HTMLElement | undefined>,
  shows: () => string,
  make: (view: Schemas['DrawView']) => Promise<Schemas['DrawDrawing']>,
  small = false, // what is worked on goes before it
) {
  const size = ref<Schemas['DrawView']>({ width: 0, height: 0 })
  const drawing = shallowRef<Schemas['DrawDrawing'] | null>(null)
  const observer = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect
    size.value = { width: Math.round(width), height: Math.round(height) }
  })
  onMounted(() => observer.observe(host.value!))
  onBeforeUnmount(() => observer.disconnect())

  // The last good drawing stays while a new one is made. What changes meanwhile is drawn once, after it.
  let text = ''
  let busy = false
  let again = false
  async function draw(): Promise<void> {
    if (size.value.width < 2 || size.value.height < 2) return
    again = busy
    if (busy) return
    busy = true
    try {
      if (small && drawing.value) await new Promise((resolve) => requestIdleCallback(resolve, { timeout: 1000 }))
      const made = await make(size.value)
      const now = JSON.stringify(made)
      if (now !== text) drawing.value = made // what is drawn alike stays as it is painted
      text = now
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
    } finally {
      busy = false
      if (again) void draw()
    }
  }
  watch([shows, size], draw, { immediate: true })

  const box = computed(() => {
    const b = drawing.value?.box
    return b ? `${b.x} ${b.y} ${b.width} ${b.height}` : '0 0 1 1'
  })
  return { drawing, box }
}
