// A drawing that fills its host: made again when what it shows or its size changes.
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch, type Ref } from 'vue'
import { Refusal, type Schemas } from '../core/core'

export function useDrawing(
  host: Ref<HTMLElement | undefined>,
  shows: () => string,
  make: (view: Schemas['DrawView']) => Promise<Schemas['DrawDrawing']>,
) {
  const size = ref<Schemas['DrawView']>({ width: 0, height: 0 })
  const drawing = shallowRef<Schemas['DrawDrawing'] | null>(null)
  const observer = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect
    size.value = { width: Math.round(width), height: Math.round(height) }
  })
  onMounted(() => observer.observe(host.value!))
  onBeforeUnmount(() => observer.disconnect())

  // The last good drawing stays while a new one is made; a late answer is passed over.
  let asked = 0
  watch(
    [shows, size],
    async () => {
      if (size.value.width < 2 || size.value.height < 2) return
      const mine = ++asked
      try {
        const made = await make(size.value)
        // What is drawn alike stays as it is painted.
        if (mine === asked && JSON.stringify(made) !== JSON.stringify(drawing.value)) drawing.value = made
      } catch (error) {
        if (!(error instanceof Refusal)) throw error
      }
    },
    { immediate: true },
  )

  const box = computed(() => {
    const b = drawing.value?.box
    return b ? `${b.x} ${b.y} ${b.width} ${b.height}` : '0 0 1 1'
  })
  return { drawing, box }
}
