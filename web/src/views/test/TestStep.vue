<script setup lang="ts">
// Fill, then read water and pan together and look outside; the verdict stands above.
import { computed, ref } from 'vue'
import { call, type Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { askedBack, readAir } from '../../data/numbers'
import { sayRefusal } from '../../data/refusal'
import { toggled } from '../../data/toggled'
import { keptText } from '../../data/keptText'
import { useDraft } from '../../data/useDraft'
import CheckRow from '../../parts/CheckRow.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import SideSheet from '../../parts/SideSheet.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { moment, say } from '../../words/words'
import { lastTime } from '../../words/zone'
import BlockLine from '../area/BlockLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'
import ExplainTest from './ExplainTest.vue'
import OutsideLook from './OutsideLook.vue'
import TestChart from './TestChart.vue'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, now, minute, record, go, show } = useArea()

const test = computed(() => look.value.test)
const run = computed(() => test.value?.runs.at(-1))
const readings = computed(() => [...(run.value?.levels ?? [])].reverse())
/** So deep that the water's own temperature moves its level. */
const deep = computed(() => (test.value?.chosen.depth_mm ?? 0) > 300)
const hasPan = computed(() => test.value?.chosen.pan !== 'none')
const done = computed(() => props.step.state === 'done')
const leaks = computed(() => test.value?.finding === 'leaks')
const error = ref('')
const listed = ref(false)

const checks = computed(() => (props.step.asks ?? []).map((each) => each.line))
const ticked = ref<string[]>([])
function toggle(line: string): void {
  ticked.value = toggled(ticked.value, line)
}

const draft = useDraft(
  () => `level.${area}`,
  () => ({}),
)
const fields = computed(() => [
  { id: 'water_mm', label: say('test.read.water') },
  ...(hasPan.value ? [{ id: 'pan_mm', label: say('test.read.pan') }] : []),
  ...(deep.value ? [{ id: 'water_C', label: say('test.read.temp') }] : []),
])

async function fill(why: string): Promise<void> {
  const body = { step: props.step.id, why, ...(ticked.value.length ? { confirmed: ticked.value } : {}) }
  if (await record('test.filled', body, { key: `test.filled.${why}` })) asking.value = false
}
const asking = ref(false)

/** A clock time typed: today's, or yesterday's where it lies ahead of now. */
function readAt(typed: string): string {
  const found = /^(\d{1,2})[:.](\d{2})$/.exec(typed.trim())
  if (!found) return typed.trim()
  return lastTime(Number(found[1]), Number(found[2]), now.value).toISOString()
}

async function number(id: string, typed = ''): Promise<number> {
  return (await call('units.number', { field: id, kind: 'number', typed, least: -20000, most: 20000 })).value
}

const asked = ref('')
async function keep(): Promise<void> {
  error.value = asked.value = ''
  const typed = { ...draft.typed.value }
  const { pan_mm = '', outside = '', where = '', read_at = '' } = typed
  try {
    const reading = {
      step: props.step.id,
      water_mm: await number('water_mm', typed.water_mm),
      pan_mm: hasPan.value && pan_mm.trim() ? await number('pan_mm', pan_mm) : null,
      outside,
      where: where.trim(),
      ...(outside === 'damp' && typed.damp ? { damp: typed.damp } : {}),
      ...(deep.value && typed.water_C?.trim()
        ? { water_C: await readAir('water_C', 'temperature', typed.water_C) }
        : {}),
      read_at: read_at.trim() ? readAt(read_at) : '',
    }
    await askJob(job, 'test.check', { area, reading, now: now.value.toISOString() })
    const { read_at: at, where: place, ...rest } = reading
    const body = {
      ...rest,
      ...(at ? { read_at: at } : {}),
      ...(place ? { where: place } : {}),
    }
    if (await record('test.read', body, { key: 'test.read.kept', args: { water: reading.water_mm } })) {
      await draft.recorded(typed)
    }
  } catch (refused) {
    asked.value = askedBack(refused)
    error.value = sayRefusal(refused, '. ')
  }
}

const looking = ref(false)
async function keepLook(): Promise<void> {
  const { outside = '', where = '', damp = '' } = draft.typed.value
  const body = {
    step: props.step.id,
    outside,
    ...(where.trim() ? { where: where.trim() } : {}),
    ...(outside === 'damp' && damp && run.value ? { damp } : {}),
  }
  if (!(await record('test.looked', body, { key: 'test.looked' }))) return
  await draft.recorded(Object.fromEntries(['outside', 'where', 'damp'].map((id) => [id, draft.typed.value[id] ?? ''])))
  looking.value = false
}

const raining = ref(false)
async function keepRain(): Promise<void> {
  error.value = ''
  try {
    const rain_mm = await number('rain', draft.typed.value.rain)
    if (!(await record('test.rained', { step: props.step.id, rain_mm }, { key: 'test.rained.kept' }))) return
    await draft.recorded({ rain: draft.typed.value.rain ?? '' })
    raining.value = false
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  }
}

const repairing = ref(false)
const did = keptText(`did.${props.step.id}`)
async function keepRepair(): Promise<void> {
  if (await record('test.repaired', { step: props.step.id, did: did.value.trim() }, { key: 'test.repaired.kept' })) {
    did.value = ''
    repairing.value = false
  }
}

/** What a person may explain: the last look that was not dry, else a run that was called off. */
const explaining = ref('')
const toExplain = computed(() => {
  const seen = test.value?.looks.findLast((each) => !each.before && each.outside !== 'dry' && !each.explained)
  return seen?.entry ?? (test.value && test.value.runs.length > 1 ? test.value.runs.at(-2)?.entry : '') ?? ''
})

function planAgain(): void {
  const plan = props.stage.steps.find((each) => each.does === 'plan_test')
  if (plan) show(plan.id)
}

const line = computed(() => {
  if (!run.value) return say('test.line.fill', { litres: test.value?.fill.volume_L })
  return say('test.line', { at: run.value.at, n: run.value.levels.length })
})
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="line" :error="error">
    <template #drawing>
      <TestChart v-if="test && run" :test="test" :now="minute" />
      <NetDrawing v-else-if="look.geometry" :name="look.name" :input="{ job, area, layers: [] }" :taps="['surface']" />
    </template>

    <BlockLine :step="step" />
    <template v-if="test && !run">
      <h2>{{ step.title }}</h2>
      <p>
        {{
          say('test.fill.line', { litres: test.fill.volume_L, hours: test.fill.fill_h, depth: test.chosen.depth_mm })
        }}
      </p>
      <p>{{ say('test.fill.goes', { to: test.chosen.goes_to }) }}</p>
      <ul>
        <li v-for="each in checks" :key="each">
          <CheckRow :label="each" :checked="ticked.includes(each)" @toggle="toggle(each)" />
        </li>
      </ul>
    </template>
    <template v-else-if="test">
      <template v-if="!done && !leaks">
        <h2 class="sub">{{ say('test.read.title') }}</h2>
        <NumberFields :fields="fields" :typed="draft.typed.value" :asked="asked" @type="draft.type" @enter="keep" />
        <OutsideLook :typed="draft.typed.value" :before="false" @type="draft.type" />
        <v-text-field
          :label="say('test.read.at')"
          :model-value="draft.typed.value.read_at ?? ''"
          maxlength="30"
          autocomplete="off"
          :placeholder="moment(now)"
          @update:model-value="draft.type('read_at', $event)"
        />
      </template>
      <button class="outline narrow" :aria-expanded="listed" @click="listed = !listed">
        {{ say('test.readings', { n: readings.length }) }}
      </button>
      <ul v-if="listed">
        <li v-for="each in readings" :key="each.entry" class="row">
          <span class="grow">{{ moment(each.at) }} · {{ say(`test.outside.${each.outside}`) }} {{ each.where }}</span>
          <strong>{{
            say(each.pan_mm === null ? 'test.level.one' : 'test.level.both', { water: each.water_mm, pan: each.pan_mm })
          }}</strong>
        </li>
      </ul>
      <div class="acts">
        <button class="outline narrow" @click="looking = true">{{ say('test.look') }}</button>
        <button class="outline narrow" @click="raining = true">{{ say('test.rained') }}</button>
        <button v-if="toExplain" class="outline narrow" @click="explaining = toExplain">
          {{ say('test.explain') }}
        </button>
        <button v-if="leaks" class="outline narrow" @click="repairing = true">{{ say('test.repaired') }}</button>
      </div>
      <p class="small">{{ say('test.odd') }}</p>
      <p class="small">{{ say('test.doubt') }}</p>
    </template>
    <SideSheet v-if="looking" :title="say(run ? 'test.look' : 'test.before')" @close="looking = false">
      <p>{{ say('test.before.line') }}</p>
      <OutsideLook :typed="draft.typed.value" :before="!run" @type="draft.type" />
      <template #action>
        <button class="outline" @click="keepLook">{{ say('test.look.keep') }}</button>
      </template>
    </SideSheet>
    <SideSheet v-if="raining" :title="say('test.rained')" @close="raining = false">
      <NumberFields
        :fields="[{ id: 'rain', label: say('test.rained.mm') }]"
        :typed="draft.typed.value"
        @type="draft.type"
        @enter="keepRain"
      />
      <p v-if="error" class="said" role="alert">{{ error }}</p>
      <template #action>
        <button class="outline" @click="keepRain">{{ say('test.rained') }}</button>
      </template>
    </SideSheet>
    <ExplainTest v-if="explaining" :step="step.id" :of="explaining" @close="explaining = ''" />
    <SideSheet v-if="repairing" :title="say('test.repaired')" @close="repairing = false">
      <p>{{ say('test.repaired.line') }}</p>
      <v-text-field v-model="did" :label="say('field.did')" maxlength="500" autocomplete="off" />
      <template #action>
        <button class="outline" :disabled="!did.trim()" @click="keepRepair">{{ say('test.repaired') }}</button>
      </template>
    </SideSheet>
    <SideSheet v-if="asking" :title="say('test.again.title')" @close="asking = false">
      <p>{{ say('test.again.line') }}</p>
      <button v-for="why in ['filled', 'topped_up', 'rain', 'disturbed']" :key="why" class="outline" @click="fill(why)">
        {{ say(`test.again.${why}`) }}
      </button>
    </SideSheet>

    <template #outline>
      <button v-if="run && !done && !leaks" class="outline" @click="asking = true">{{ say('test.again') }}</button>
      <button v-if="test && !run" class="outline" @click="looking = true">{{ say('test.before') }}</button>
      <button v-if="leaks" class="outline" @click="asking = true">{{ say('test.again') }}</button>
      <button v-if="leaks" class="outline" @click="planAgain">{{ say('test.plan.again') }}</button>
    </template>
    <template #mitre>
      <MitreButton
        v-if="test && !run && !step.block"
        :label="say('test.fill')"
        :line="say('test.fill.act')"
        :disabled="ticked.length < checks.length"
        @click="fill('filled')"
      />
      <MitreButton
        v-else-if="run && !done && !leaks"
        :label="say('test.read')"
        :line="test?.next_at ? say('test.read.due', { at: test.next_at }) : ''"
        @click="keep"
      />
      <MitreButton v-else-if="done && look.next.stage" :label="say('test.to_sign')" @click="go(look.next.stage)" />
    </template>
  </StepFrame>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
