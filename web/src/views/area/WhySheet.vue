<script setup lang="ts">
// Why a step is open or shut: each thing it stands on, with its entry, its age and its limit. What
// is a figure opens further.
import { ref, shallowRef, watch } from 'vue'
import { call, type Schemas } from '../../core/core'
import { textsOf } from '../../data/book'
import { version } from '../../data/sync'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import SideSheet from '../../parts/SideSheet.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import { quantity, say, span } from '../../words/words'
import { useArea } from './useArea'

const props = defineProps<{ step: string }>()
const emit = defineEmits<{ close: [] }>()
const { job, area, now } = useArea()
type Because = Schemas['LogbookBecause']

const permission = shallowRef<Schemas['LogbookPermission'] | null>(null)
const figure = ref<Schemas['FigureFigure'] | null>(null)
watch(
  [() => props.step, version],
  async () => {
    const asked = { area, step: props.step, now: now.value.toISOString() }
    permission.value = await call('logbook.why', asked, await textsOf(job))
  },
  { immediate: true },
)

const glyphs = { yes: 'open', no: 'too late', not_known: 'not known' }
const ago = (at: string) => say('because.ago', { at, age: span(now.value.getTime() - Date.parse(at)) })
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
        <li v-for="(each, i) in permission.because" :key="i" class="each">
          <StateGlyph :state="glyphs[each.says as keyof typeof glyphs]" />
          <div>
            <p>
              <span class="visually-hidden">{{ say(`because.says.${each.says}`) }}: </span>
              <strong>{{ say(each.key, each.args) }}</strong>
            </p>
            <p v-if="limit(each)" class="small">{{ limit(each) }}</p>
            <p v-if="each.at" class="small">{{ ago(each.at) }}</p>
            <p v-if="each.remedy" class="small">{{ say(each.remedy, each.args) }}</p>
            <p v-if="each.entry" class="small mono entry">{{ each.entry }}</p>
            <button
              v-for="from in each.figures"
              :key="from.name"
              class="row"
              :title="say('plan.open')"
              @click="figure = from"
            >
              <span class="grow">{{ say(from.name, from.args) }}</span>
              <strong>{{ quantity(from.value, from.unit) }}</strong>
            </button>
          </div>
        </li>
      </ul>
    </template>
    <p v-else>{{ say('loading') }}</p>
    <ExplainSlip v-if="figure" :figure="figure" @close="figure = null" />
  </SideSheet>
</template>

<style scoped>
.each {
  display: grid;
  grid-template-columns: 30px minmax(0, 1fr);
  gap: 12px;
  padding: 10px 0;
  border-bottom: 1.5px solid var(--line);
}
.entry {
  overflow-wrap: anywhere;
}
</style>
