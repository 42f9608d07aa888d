<script setup lang="ts">
// The waits before a step, each a small tide: rising until it opens, full while it is open, dry once it has shut; the two
// times and what they count from in words beside it.
import type { Schemas } from '../../core/core'
import { say } from '../../words/words'
import type { Step } from './useEditor'

type Tide = Schemas['SystemTide']
const props = defineProps<{ tides: readonly Tide[]; steps: readonly Step[] }>()

/** What is drawn beyond its last time, as a share of it. */
const BEYOND = 0.25
const ends = (of: Tide) => (of.latest_h ?? of.least_h ?? 1) * (of.latest_h === null ? 1.7 : 1 + BEYOND)
const parts = (of: Tide) => ({
  early: of.least_h ?? 0,
  open: (of.latest_h ?? ends(of)) - (of.least_h ?? 0),
  late: of.latest_h === null ? 0 : ends(of) - of.latest_h,
})
function words(of: Tide): string {
  const after = props.steps.find((each) => each.id === of.after)?.title ?? ''
  const opens = of.least_h === null ? 'unknown' : of.opens_from
  return [
    say(`editor.tide.opens.${opens}`, { after, hours: of.least_h }),
    of.latest_h === null ? say('editor.tide.never') : say(`editor.tide.shuts.${of.shuts_from}`, { hours: of.latest_h }),
  ].join(' · ')
}
</script>

<template>
  <p v-for="each in tides" :key="each.after" class="tide small">
    <span class="bar" aria-hidden="true">
      <i
        v-for="(share, part) in parts(each)"
        :key="part"
        :class="[part, { unknown: each.least_h === null }]"
        :style="{ flexGrow: share }"
      />
    </span>
    {{ words(each) }}
  </p>
</template>

<style scoped>
.tide {
  padding: 4px 10px 4px 14px;
}
.bar {
  display: flex;
  align-items: flex-end;
  height: 20px;
  border-bottom: 2px solid var(--ink);
}
i {
  flex-basis: 0;
  height: 100%;
}
.early {
  background: radial-gradient(circle at 3px 3px, var(--stone7) 1px, transparent 1.4px) 0 0 / 6px 6px;
  clip-path: polygon(0 100%, 100% 0, 100% 100%);
}
.open {
  background: var(--water4);
}
.open.unknown {
  background: none;
  border: 2px dashed var(--edge);
  border-bottom: none;
}
.late {
  height: 5px;
  background: repeating-linear-gradient(45deg, var(--plum7) 0 2px, transparent 2px 5px);
}
</style>
