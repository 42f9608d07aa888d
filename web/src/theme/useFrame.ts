import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'

/**
 * Which of the four frames a screen gets, from its width and height in px of the page (so a desk that is brought
 * twice as near is a tablet). Style sheets go by the classes on the root, nothing else asks for a width:
 *
 * - `phone` and `upright` are `narrow`: the spine lies across the top, what is done lies under the drawing.
 * - `lying` and `desk` are `wide`: the spine stands at the left, what is done stands beside the drawing.
 * - `tight` besides: a lying frame so narrow that the head says less, and a title keeps its line.
 * - `slim` besides: a phone so narrow that the ledge has room for one thing beside another only where it is small.
 * - `low` besides: too little height for two parts one above the other; they are scrolled as one.
 */
export type Frame = 'phone' | 'upright' | 'lying' | 'desk'

const UPRIGHT_FROM = 700
const LYING_FROM = 1000
const LYING_FLAT_FROM = 860 // where it is not as high
const DESK_FROM = 1200
const LOW_BELOW = 620
const SLIM_BELOW = 340

const size = ref({ width: innerWidth, height: innerHeight })
useEventListener(window, 'resize', () => (size.value = { width: innerWidth, height: innerHeight }))

/** How much larger letters and all that goes with them are than they were drawn. */
export const LETTERS = [1, 1.125, 1.25] as const
export const letters = useLocalStorage<number>('letters', 1)

export const frame = computed<Frame>(() => {
  const width = size.value.width / letters.value
  const height = size.value.height / letters.value
  if (width >= DESK_FROM) return 'desk'
  if (width >= LYING_FROM || (width >= LYING_FLAT_FROM && width > height)) return 'lying'
  return width >= UPRIGHT_FROM ? 'upright' : 'phone'
})

watchEffect(() => {
  const has = (name: string, is: boolean) => document.documentElement.classList.toggle(name, is)
  for (const each of ['phone', 'upright', 'lying', 'desk'] as const) has(each, frame.value === each)
  const wide = frame.value === 'desk' || frame.value === 'lying'
  has('wide', wide)
  has('narrow', !wide)
  has('tight', frame.value === 'lying' && size.value.width / letters.value < LYING_FROM)
  has('slim', size.value.width / letters.value < SLIM_BELOW)
  has('low', size.value.height / letters.value < LOW_BELOW)
  document.documentElement.style.setProperty('zoom', String(letters.value))
  document.documentElement.style.setProperty('--letters', String(letters.value)) // what is large enough stays as it is
})
