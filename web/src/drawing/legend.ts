// What the drawings of this screen show, for the legend: each mark once, as it is drawn here.
import { computed, onBeforeUnmount, shallowReactive, watch, type Ref } from 'vue'
import type { Schemas } from '../core/core'
import { known } from '../words/words'

type Item = Schemas['DrawItem']

export interface Mark {
  style: string
  kind: 'area' | 'line' | 'disc'
  /** of the style sheet, and the variables its patterns go by */
  of: 'net' | 'flat'
  looks: Record<string, string>
}

const shown = shallowReactive(new Map<symbol, Mark[]>())

/** Marks that have words in the legend, in the order of the catalogue. */
export const marks = computed<Mark[]>(() => {
  const byStyle = new Map<string, Mark>()
  for (const list of shown.values()) for (const mark of list) byStyle.set(`${mark.of}.${mark.style}`, mark)
  return [...byStyle.values()].filter((mark) => known(wordsOf(mark)))
})

export const wordsOf = (mark: Mark): string => `legend.${mark.of}.${mark.style}`

function kindOf(item: Item): Mark['kind'] {
  if (item.kind === 'disc') return 'disc'
  return item.kind === 'path' && item.closed ? 'area' : 'line'
}

/** Says what a drawing shows while it stands on the screen. */
export function useLegend(
  drawing: Ref<Schemas['DrawDrawing'] | null>,
  of: Mark['of'],
  looks: () => Record<string, string>,
): void {
  const me = Symbol(of)
  watch(
    drawing,
    (now) => {
      const styles = new Map<string, Mark>()
      for (const item of now?.items ?? [])
        if (item.kind !== 'text' && item.kind !== 'dots')
          styles.set(item.style, { style: item.style, kind: kindOf(item), of, looks: looks() })
      shown.set(me, [...styles.values()])
    },
    { immediate: true },
  )
  onBeforeUnmount(() => shown.delete(me))
}
