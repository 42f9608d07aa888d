<script setup lang="ts">
// The verdict first, in the largest words; then the scale that decides, in view.
import { computed, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import { say } from '../../words/words'

const props = defineProps<{ test: Schemas['LogbookTestLook'] }>()
const explained = shallowRef<Schemas['FigureFigure'] | null>(null)
const word = computed(() => say(props.test.finding ? `test.finding.${props.test.finding}` : 'test.finding'))
const more = computed(() => {
  const t = props.test
  if (t.finding === 'leaks' || !t.judged) return ''
  if (t.still?.still_h && t.decides) return say('test.more', { hours: t.still.still_h, at: t.decides })
  if (t.so_far && t.ends) return say('test.until', { at: t.ends })
  return ''
})
</script>

<template>
  <header class="verdict" :class="test.finding.replaceAll(' ', '-')">
    <div class="say" role="status">
      <h2 class="word">
        {{ word }} <span v-if="test.so_far && test.finding === 'holds'" class="sofar">{{ say('test.sofar') }}</span>
      </h2>
      <p v-if="more" class="more">{{ more }}</p>
      <p class="why">{{ say(test.reason.key, test.reason.args) }}</p>
      <p v-for="(note, i) in test.notes" :key="i" class="small note">{{ say(note.key, note.args) }}</p>
      <p v-if="test.reason.remedy" class="small">{{ say(test.reason.remedy) }}</p>
    </div>
    <div v-if="test.judged" class="scale">
      <p class="small">{{ say('test.loss') }}, mm/h</p>
      <PlainDrawing
        :label="say('scale.label')"
        :input="{
          kind: 'scale',
          judged: test.judged,
          limit_mm_per_h: test.chosen.tolerance_mm_per_h,
          finding: test.finding,
        }"
      />
      <button class="small open" @click="explained = test.figures[0] ?? null">
        {{
          say('scale.says', {
            loss: test.judged.r_mm_per_h,
            lower: test.judged.lower_mm_per_h,
            upper: test.judged.upper_mm_per_h,
            limit: test.chosen.tolerance_mm_per_h,
          })
        }}
      </button>
    </div>
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />
  </header>
</template>

<style scoped>
.verdict {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 330px), 1fr)); /* beside each other where both have room */
  gap: 8px 24px;
  padding: 0 4px 8px;
  border-bottom: 2.4px solid var(--ink);
}
.word {
  font-size: 56px;
  font-weight: 750;
  letter-spacing: -0.03em;
  line-height: 1;
}
.leaks .word {
  color: var(--plum7);
}
.holds .word {
  color: var(--water9);
}
.sofar {
  font-size: 26px;
  letter-spacing: 0;
}
.more {
  font-size: 22px;
  font-weight: 700;
}
.scale {
  height: 164px;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.open {
  min-height: 56px;
  text-decoration: underline;
  text-underline-offset: 4px;
}
:root.phone .word {
  font-size: 40px;
}
</style>
