<script setup lang="ts">
// A system taken in hand: the build-up as a section, layer on layer; under it the order of the work with its waits, and the
// ways it is worked in. What is touched is changed beside it; each change can be taken back.
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { askJob } from '../../data/folded'
import { newId } from '../../data/ids'
import { useUndoKeys } from '../../data/useUndoKeys'
import AppFrame from '../../parts/AppFrame.vue'
import ChangeList from '../../parts/ChangeList.vue'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import UndoKeys from '../../parts/UndoKeys.vue'
import { known, say, sayFault } from '../../words/words'
import LayerPanel from './LayerPanel.vue'
import StepPanel from './StepPanel.vue'
import { useEditor, type Act, type Layer, type System } from './useEditor'

type Link = Schemas['SystemLink']

const ROLES = ['primer', 'sealant', 'band', 'fleece', 'mesh', 'top_coat', 'grip_coat', 'protection', 'masking'] as const
const props = defineProps<{ job: string; system: string }>()
const book = useBook()
const router = useRouter()
const opened = shallowRef<Job | null>(null)
const base = shallowRef<System | null>(null)
void Promise.all([book.job(props.job, theTime()), askJob(props.job, 'system.library', {})]).then(
  ([job, { systems }]) => {
    opened.value = job
    base.value = systems.find((each) => each.id === props.system) ?? null
  },
)
const { draft, acts, made, system, act } = useEditor(() => `system.${props.job}.${props.system}`, base)
useUndoKeys(draft)
const error = ref('')
/** What is touched: "layer <id>", "step <id>", "way <school>" or "lay in". */
const touched = ref('')
const touch = (what: string) => {
  error.value = ''
  touched.value = touched.value === what ? '' : what
}
const of = (kind: string) => (touched.value.startsWith(`${kind} `) ? touched.value.slice(kind.length + 1) : '')
const layer = computed(() => system.value?.layers.find((each) => each.id === of('layer')))
const steps = computed(() =>
  (made.value?.stages ?? []).flatMap((stage) => stage.steps ?? []).filter((each) => !each.mends),
)
const step = computed(() => steps.value.find((each) => each.id === of('step')))
const offered = computed(() => made.value?.offered ?? {})

const roleOf = (of: Layer) => system.value?.products.find((each) => each.key === of.product)?.role ?? ''
const nameOf = (of: Layer) => say(`product.${roleOf(of)}`)
const placesOf = (of: Layer) => [...new Set(of.where.map((each) => say(`editor.on.${each.on}`)))].join(', ')
function amountOf(of: Layer): string {
  const target = of.coats[0]?.target
  const figure = target?.figure
  if (figure?.says) return figure.says
  const name = figure?.of?.split('.')[1] ?? ''
  return name && known(`sheet.${name}`) ? say(`sheet.${name}`) : ''
}
/** What a step waits for, in words. */
function waitOf(link: Link): string {
  const after = steps.value.find((each) => each.id === link.step)?.title
  if (!after) return ''
  const figure = (f: Link['least']) => {
    const name = f?.of?.split('.')[1]
    return f?.says || (name ? say(known(`sheet.${name}_20`) ? `sheet.${name}_20` : `sheet.${name}`) : '')
  }
  return [link.least, link.latest]
    .map(figure)
    .filter(Boolean)
    .map((what) => say('editor.wait', { after, what }))
    .join(' · ')
}
const colour = (of: Layer) =>
  ['membrane', 'sheet'].includes(roleOf(of)) ? 'film' : roleOf(of) === 'primer' ? 'primer' : 'other'

async function change(one: Act): Promise<void> {
  error.value = ''
  await act(one)
}
const layIn = (role: (typeof ROLES)[number]) => change({ does: 'lay_in', role })

async function keep(): Promise<void> {
  if (!opened.value || !base.value || !made.value || made.value.fault) return
  const by = await book.who(opened.value)
  if (!by) return
  const from = base.value
  const kept: System = {
    ...made.value.system,
    id: newId(),
    sample: false,
    revision: String(Number(/^\d+$/.exec(from.revision)?.[0] ?? 0) + 1),
    ...(from.sample ? { copied_from: from.id } : { replaces: from.id }),
  }
  await book.record({ kind: 'system.added', jobId: props.job, by, body: { system: kept }, say: { key: 'editor.kept' } })
  await draft.drop()
  await router.replace(`/job/${props.job}/sheets`)
}
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>{{ system?.name }}</h1></template
    >
    <template #line>{{ say('editor.line') }}</template>
    <TwoSides width="460px" phone="list-first">
      <div class="both">
        <UndoKeys :draft="draft" />
      </div>
      <p v-if="made?.fault" class="said" role="alert">{{ sayFault(made.fault) }}</p>
      <section v-if="system">
        <h2 class="sub">{{ say('editor.section') }}</h2>
        <button class="lay" :aria-pressed="touched === 'lay in'" @click="touch('lay in')">
          {{ say('editor.lay_in') }}
        </button>
        <ol class="section">
          <li v-for="each in system.layers.toReversed()" :key="each.id">
            <button
              class="row layer"
              :class="[colour(each), { chosen: of('layer') === each.id }]"
              :aria-pressed="of('layer') === each.id"
              @click="touch(`layer ${each.id}`)"
            >
              <span class="body" :style="{ '--coats': each.coats.length }" aria-hidden="true" />
              <span class="grow">
                <strong>{{ nameOf(each) }}</strong>
                <span class="small">{{ placesOf(each) }}</span>
              </span>
              <span class="small">{{
                [say('editor.coats.n', { n: each.coats.length }), amountOf(each)].filter(Boolean).join(' · ')
              }}</span>
            </button>
          </li>
        </ol>
        <p class="base small">{{ say('editor.base') }}</p>
      </section>
      <section v-if="made">
        <h2 class="sub">{{ say('system.order') }}</h2>
        <ol>
          <li v-for="stage in made.stages" :key="stage.id">
            <p class="small">{{ stage.title }}</p>
            <template v-for="each in stage.steps" :key="each.id">
              <p v-for="link in (each.after ?? []).filter(waitOf)" :key="link.step" class="small tide">
                {{ waitOf(link) }}
              </p>
              <button
                class="row"
                :class="{ chosen: of('step') === each.id, mends: each.mends }"
                :aria-pressed="of('step') === each.id"
                :disabled="!!each.mends"
                @click="touch(`step ${each.id}`)"
              >
                <span class="grow">{{ each.title }}</span>
                <span v-if="each.mends" class="small">{{ say('system.mends') }}</span>
                <span v-else-if="each.does === 'accept' || each.does === 'sign'" class="small">{{
                  say('hold.shut')
                }}</span>
              </button>
            </template>
          </li>
        </ol>
      </section>
      <section v-if="made?.ways">
        <h2 class="sub">{{ say('school.title') }}</h2>
        <button
          v-for="(way, school) in made.ways"
          :key="school"
          class="row"
          :class="{ chosen: of('way') === school }"
          :aria-pressed="of('way') === school"
          :disabled="!offered[school]"
          @click="touch(`way ${school}`)"
        >
          <span class="grow">
            <span class="small">{{ say(`school.${school}`) }}</span>
            <strong class="way">{{ say(`school.${school}.${way}`) }}</strong>
          </span>
        </button>
      </section>
      <template #side>
        <template v-if="system && layer">
          <h2>{{ nameOf(layer) }}</h2>
          <LayerPanel :key="layer.id" :system="system" :layer="layer" @act="change" @error="(text) => (error = text)" />
        </template>
        <template v-else-if="step">
          <h2>{{ step.title }}</h2>
          <StepPanel :key="step.id" :step="step" :steps="steps" :people="opened?.people ?? []" @act="change" />
        </template>
        <template v-else-if="of('way') && made?.ways">
          <h2>{{ say(`school.${of('way')}`) }}</h2>
          <OneOf
            look="row"
            :options="offered[of('way')] ?? []"
            :picked="made.ways[of('way')]"
            :label="say(`school.${of('way')}`)"
            @pick="(way: string) => change({ does: 'way', school: of('way'), way })"
          >
            <template #default="{ option }">
              <span>
                <strong>{{ say(`school.${of('way')}.${option}`) }}</strong>
                <span class="small why">{{ say(`school.${of('way')}.${option}.why`) }}</span>
              </span>
            </template>
          </OneOf>
          <p class="small">{{ say(`school.${of('way')}.mixed`) }}</p>
        </template>
        <template v-else-if="touched === 'lay in'">
          <h2>{{ say('editor.lay_in') }}</h2>
          <OneOf
            v-slot="{ option }"
            look="row"
            :options="ROLES"
            :picked="undefined"
            :label="say('editor.lay_in')"
            @pick="layIn"
          >
            <strong>{{ say(`product.${option}`) }}</strong>
          </OneOf>
        </template>
        <template v-else>
          <p class="said">{{ say('editor.touch') }}</p>
          <ChangeList v-if="made?.changes.length" :changes="made.changes" />
        </template>
      </template>
    </TwoSides>
    <template #ledge>
      <TheLedge :error="error">
        <template #facts>{{ say('editor.acts', { n: acts.length }) }}</template>
        <template #outline>
          <button class="outline" @click="router.back()">{{ say('cancel') }}</button>
        </template>
        <template #mitre>
          <MitreButton
            :label="say('editor.keep')"
            :line="say('editor.keep.line')"
            :disabled="!acts.length || !made || !!made.fault"
            @click="keep"
          />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.both {
  display: flex;
  justify-content: space-between;
}
.lay {
  width: 100%;
  min-height: 56px;
  border: 2.5px dashed var(--edge);
  text-align: center;
  font-weight: 700;
}
/* The layers lie on each other, each coat of them to be seen. */
.layer {
  align-items: stretch;
  min-height: calc(44px + 20px * var(--coats, 1));
  padding-block: 0;
}
.layer > :not(.body) {
  align-self: center;
}
.body {
  flex: none;
  width: 120px;
  border: 2px solid var(--ink);
  border-block-width: 0 2px;
  background-color: var(--stone3);
}
li:first-child .body {
  border-top-width: 2px;
}
.body,
.film .body,
.primer .body {
  background-image: repeating-linear-gradient(
    0deg,
    transparent 0 calc(100% / var(--coats) - 1.5px),
    var(--edge) calc(100% / var(--coats) - 1.5px) calc(100% / var(--coats))
  );
}
.film .body {
  background-color: var(--water3);
}
.primer .body {
  background-color: var(--water1);
}
.layer .small,
.way,
.why {
  display: block;
}
.base {
  padding: 8px 12px;
  background:
    radial-gradient(circle at 4px 4px, var(--edge) 1px, transparent 1.4px) 0 0 / 9px 9px,
    var(--sunk);
}
.tide {
  margin-inline-start: 14px;
  padding: 4px 10px;
  border-inline-start: 6px solid var(--water4);
}
.mends {
  color: var(--ink2);
}
</style>
