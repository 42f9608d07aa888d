<script setup lang="ts">
// Why a step is open or shut: each thing it stands on, with its entry, its age and its limit. What
// is a figure opens further.
import { ref } from 'vue'
import type { Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import { askJob } from '../../data/folded'
import { version } from '../../data/sync'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import SideSheet from '../../parts/SideSheet.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { quantity, say, span } from '../../words/words'
import { useArea } from './useArea'

const props = defineProps<{ step: string }>()
const emit = defineEmits<{ close: [] }>()
const { job, area, now, nameOf } = useArea()
type Because = Schemas['LogbookBecause']

const figure = ref<Schemas['FigureFigure'] | null>(null)
const opened = ref(-1)
const permission = useLatest(
  () => [props.step, version.value],
  () => askJob(job, 'logbook.why', { area, step: props.step, now: now.value.toISOString() }),
)

const glyphs = { yes: 'open', no: 'too late', not_known: 'not known' }
const ago = ({ at, by }: Because) => {
  const args = { at, age: span(now.value.getTime() - Date.parse(at)), who: nameOf(by) }
  return say(args.who ? 'because.ago.by' : 'because.ago', args)
}
const limit = ({ key, args }: Because) => {
  if (key !== 'because.start') return ''
  const [least, most] = [args.limit, args.most].map((v) =>
    typeof v === 'number' ? quantity(v, String(args.unit)) : '',
  )
  if (least && most) return say('start.range', { least, most })
  return least ? say('start.at_least', { least }) : most ? say('start.at_most', { most }) : ''
}
</script>

<template>
  <SideSheet :title="permission?.title ?? ''" @close="emit('close')">
    <template v-if="permission">
      <h2 class="sub">{{ say(`because.${permission.says}`) }}</h2>
      <p v-if="!permission.because.length">{{ say('because.nothing') }}</p>
      <ul>
        <li v-for="(each, i) in permission.because" :key="i">
          <button class="row each" :aria-expanded="opened === i" @click="opened = opened === i ? -1 : i">
            <StateGlyph :state="glyphs[each.says as keyof typeof glyphs]" />
            <span class="grow">
              <span class="visually-hidden">{{ say(`because.says.${each.says}`) }}: </span>
              <strong>{{ say(each.key, each.args) }}</strong>
              <span v-if="limit(each)" class="small line">{{ limit(each) }}</span>
              <span v-if="each.at" class="small line">{{ ago(each) }}</span>
              <span v-if="each.remedy" class="small line">{{ say(each.remedy, each.args) }}</span>
            </span>
          </button>
          <div v-if="opened === i" class="from">
            <button v-for="from in each.figures" :key="from.name" class="row" @click="figure = from">
              <span class="grow">{{ say(from.name, from.args) }}</span>
              <strong>{{ quantity(from.value, from.unit) }}</strong>
            </button>
            <p class="small">
              {{ say(each.entry ? 'because.entry' : 'because.no_entry') }}
              <span class="mono entry">{{ each.entry }}</span>
            </p>
          </div>
        </li>
      </ul>
    </template>
    <LoadingLine v-else />
    <ExplainSlip v-if="figure" :figure="figure" @close="figure = null" />
  </SideSheet>
</template>

<style scoped>
.each {
  gap: 12px;
  align-items: start;
  padding-block: 10px;
}
.line {
  display: block;
}
.from {
  padding: 6px 0 12px 42px;
  border-bottom: 1.5px solid var(--line);
}
.entry {
  overflow-wrap: anywhere;
}
</style>
