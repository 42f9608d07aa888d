import { computed, ref, watchEffect } from 'vue'

/**
 * Which of the four frames a screen gets, from its width and height in px of the page (so a desk that is brought
 * twice as near is a tablet). Style sheets go by the classes on the root, nothing else asks for a width:
 *
 * - `phone` and `upright` are `narrow`: the spine lies across the top, what is done lies under the drawing.
 * - `lying` and `desk` are `wide`: the spine stands at the left, what is done stands beside the drawing.
 * - `low` besides: too little height for two parts one above the other; they are scrolled as one.
 */
export type Frame = 'phone' | 'upright' | 'lying' | 'desk'

const UPRIGHT_FROM = 600
const LYING_FROM = 1000
const DESK_FROM = 1200
const LOW_BELOW = 620

const size = ref({ width: innerWidth, height: innerHeight })
addEventListener('resize', () => (size.value = { width: innerWidth, height: innerHeight }))

export const frame = computed<Frame>(() => {
  const { width } = size.value
  if (width >= DESK_FROM) return 'desk'
  if (width >= LYING_FROM) return 'lying'
  return width >= UPRIGHT_FROM ? 'upright' : 'phone'
})

watchEffect(() => {
  const has = (name: string, is: boolean) => document.documentElement.classList.toggle(name, is)
  for (const each of ['phone', 'upright', 'lying', 'desk'] as const) has(each, frame.value === each)
  const wide = frame.value === 'desk' || frame.value === 'lying'
  has('wide', wide)
  has('narrow', !wide)
  has('low', size.value.height < LOW_BELOW)
})
