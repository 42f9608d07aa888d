// What part of a drawing is seen: nearer and farther by buttons, keys and a pinch; moved by
// buttons, keys and a drag. Each drag can be done by taps as well.
import { ref } from 'vue'
import type { Schemas } from '../core/core'

type Box = Schemas['DrawBox']
type Point = [number, number]

const STEP = 1.6
const MOST = 12
/** A touch that moves farther than this, px, drags and is no tap. */
const DRAG = 8

export function useZoom() {
  const zoom = ref(1)
  const centre = ref<Point | null>(null)

  const middle = (box: Box): Point => [box.x + box.width / 2, box.y + box.height / 2]

  function to(factor: number, at: Point): void {
    zoom.value = Math.min(MOST, Math.max(1, factor))
    centre.value = zoom.value === 1 ? null : at
  }
  const near = (box: Box) => to(zoom.value * STEP, middle(box))
  const far = (box: Box) => to(zoom.value / STEP, middle(box))
  const whole = () => to(1, [0, 0])

  /** Moves what is seen by a third of the view. */
  function shift(box: Box, x: number, y: number): void {
    if (zoom.value === 1) return
    const [cx, cy] = middle(box)
    centre.value = [cx + (x * box.width) / 3, cy + (y * box.height) / 3]
  }

  /** Brings what the keyboard walks to into view. */
  function follow(box: Box, outline: number[][]): void {
    if (zoom.value === 1) return
    const x = outline.reduce((sum, p) => sum + p[0]!, 0) / outline.length
    const y = outline.reduce((sum, p) => sum + p[1]!, 0) / outline.length
    const inside = x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height
    if (!inside) centre.value = [x, y]
  }

  /** Fingers on the drawing: one drags, two pinch. */
  const fingers = new Map<number, Point>()
  let from: { box: Box; zoom: number; scale: number; at: Point; spread: number } | null = null
  let moved = false

  function gather(): { at: Point; spread: number } {
    const [a, b] = [...fingers.values()] as [Point, Point | undefined]
    if (!b) return { at: a, spread: 0 }
    return { at: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], spread: Math.hypot(a[0] - b[0], a[1] - b[1]) }
  }
  const pointers = {
    down(event: PointerEvent, box: Box, mmPerPx: number): void {
      fingers.set(event.pointerId, [event.clientX, event.clientY])
      moved = fingers.size > 1
      from = { box, zoom: zoom.value, scale: mmPerPx, ...gather() }
    },
    move(event: PointerEvent): void {
      if (!from || !fingers.has(event.pointerId)) return
      fingers.set(event.pointerId, [event.clientX, event.clientY])
      const { at, spread } = gather()
      const away: Point = [at[0] - from.at[0], at[1] - from.at[1]]
      if (!moved && Math.hypot(...away) < DRAG) return
      if (fingers.size === 1 && zoom.value === 1) return
      moved = true
      const [cx, cy] = middle(from.box)
      const factor = spread && from.spread ? spread / from.spread : 1
      to(from.zoom * factor, [cx - away[0] * from.scale, cy - away[1] * from.scale])
    },
    up(event: PointerEvent): void {
      fingers.delete(event.pointerId)
      if (fingers.size === 0) from = null
    },
    /** Whether the touch that ended was a drag: asked once by the click that follows it. */
    dragged(): boolean {
      const was = moved
      moved = false
      return was
    },
  }
  return { zoom, centre, near, far, whole, shift, follow, pointers }
}
