<script setup lang="ts">
// A system taken in hand: the build-up as a section, layer on layer; under it the order of the work with its waits, and the
// ways it is worked in. What is touched is changed beside it; each change can be taken back.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useBook, type Job, type Sheet } from '../../data/book'
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
import { frame } from '../../theme/useFrame'
import { say, sayFault } from '../../words/words'
import LayerPanel from './LayerPanel.vue'
import OrderRows from './OrderRows.vue'
import ProofPanel from './ProofPanel.vue'
import SectionRows from './SectionRows.vue'
import StepPanel from './StepPanel.vue'
import TrialPanel from './TrialPanel.vue'
import { BLANK, useEditor, type Act, type Layer, type System } from './useEditor'

const ROLES = [
  'primer',
  'band',
  'sealant',
  'bond_breaker',
  'fillet_mortar',
  'collar',
  'flange',
  'corner',
  'fleece',
  'mesh',
  'top_coat',
  'grip_coat',
  'protection',
  'masking',
] as const
const props = defineProps<{ job: string; system: string }>()
const book = useBook()
const router = useRouter()
const route = useRoute()
const opened = shallowRef<Job | null>(null)
const base = shallowRef<System | null>(null)
const library = shallowRef<System[]>([])
const sheets = shallowRef<Sheet[]>([])
/** What makes it tight, where it is begun from nothing. */
const from = computed(() => (typeof route.query.sheet === 'string' ? route.query.sheet : ''))
void Promise.all([book.job(props.job, theTime()), askJob(props.job, 'sheet.library', {})]).then(([job, all]) => {
  opened.value = job
  sheets.value = all.sheets
})
watch(
  () => [props.system, from.value] as const,
  async ([id, sheet]) => {
    library.value = (await askJob(props.job, 'system.library', {})).systems
    if (id !== BLANK) base.value = library.value.find((each) => each.id === id) ?? null
    else if (sheet) base.value = (await askJob(props.job, 'system.blank', { sheet })).system
  },
  { immediate: true },
)
const films = computed(() => sheets.value.filter((each) => (each.role ?? 'membrane') === 'membrane'))
const areas = computed(() => (opened.value?.areas ?? []).filter((each) => each.surveyed && !each.away))
/** Names that other systems have: earlier revisions of this one keep theirs. */
const taken = computed(() =>
  library.value.filter((each) => base.value?.id === BLANK || each.name !== base.value?.name).map((each) => each.name),
)
const { draft, acts, made, system, act } = useEditor(
  () => `system.${props.job}.${props.system}${from.value && `.${from.value}`}`,
  props.job,
  base,
  taken,
)
useUndoKeys(draft)
const error = ref('')
/** What is touched: "layer <id>", "step <id>", "way <school>", "lay in" or "try". */
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
const nameOf = (layer: Layer) =>
  say(`product.${system.value?.products.find((each) => each.key === layer.product)?.role ?? 'membrane'}`)

async function change(one: Act): Promise<void> {
  error.value = ''
  await act(one)
}
/** Under which layer something is laid in; '': on top of all. */
const under = ref('')
function openLayIn(before: string): void {
  under.value = before
  touched.value = 'lay in'
}
/** What was laid in is touched next. */
let known: string[] | null = null
watch(system, (now) => {
  const fresh = known && now?.layers.find((each) => !known!.includes(each.id))
  if (fresh) touched.value = `layer ${fresh.id}`
  known = null
})
/** A product of that role: one's own before a sample. */
async function layIn(role: (typeof ROLES)[number]): Promise<void> {
  const fit = sheets.value.filter((each) => each.role === role)
  const product = fit.find((each) => !each.sample) ?? fit[0]
  known = system.value?.layers.map((each) => each.id) ?? []
  touched.value = ''
  await change({ does: 'lay_in', role, product: product?.product || product?.id || '', before: under.value })
}
const name = ref('')
watch(
  () => system.value?.name,
  (now) => (name.value = now ?? ''),
)
const rename = () => (name.value.trim() === system.value?.name ? undefined : change({ does: 'name', text: name.value }))

async function keep(): Promise<void> {
  if (!opened.value || !made.value || made.value.fault) return
  const by = await book.who(opened.value)
  if (!by) return
  const kept: System = { ...made.value.system, id: newId() }
  await book.record({ kind: 'system.added', jobId: props.job, by, body: { system: kept }, say: { key: 'editor.kept' } })
  await draft.drop()
  await router.replace(`/job/${props.job}/sheets`)
}
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>{{ system?.name ?? say('editor.blank') }}</h1></template
    >
    <template #line>{{ say('editor.line') }}</template>
    <TwoSides width="460px" :phone="touched ? 'side-alone' : 'list-first'">
      <template v-if="system">
        <div class="both">
          <UndoKeys :draft="draft" />
          <button class="outline narrow" :aria-pressed="touched === 'try'" @click="touch('try')">
            {{ say('editor.try') }}
          </button>
        </div>
        <p v-if="made?.fault" class="said" role="alert">{{ sayFault(made.fault) }}</p>
        <v-text-field v-model="name" :label="say('editor.name')" maxlength="80" autocomplete="off" @change="rename" />
        <SectionRows
          :system="system"
          :chosen="of('layer')"
          @touch="(id) => touch(`layer ${id}`)"
          @lay-in="openLayIn"
          @move="(id, before) => change({ does: 'move', layer: id, before })"
        />
        <OrderRows
          v-if="made"
          :stages="made.stages"
          :steps="steps"
          :tides="made.tides"
          :chosen="of('step')"
          @touch="(id) => touch(`step ${id}`)"
          @move="(id, before) => change({ does: 'order', edit: { does: 'move', step: id, before } })"
        />
        <section v-if="made?.ways">
          <h2 class="sub">{{ say('school.title') }}</h2>
          <button
            v-for="(way, school) in made.ways"
            :key="school"
            class="row"
            :class="{ chosen: of('way') === school }"
            :aria-pressed="of('way') === school"
            @click="touch(`way ${school}`)"
          >
            <span class="grow">
              <span class="small">{{ say(`school.${school}`) }}</span>
              <strong class="way">{{ say(`school.${school}.${way}`) }}</strong>
            </span>
          </button>
        </section>
      </template>
      <section v-else-if="props.system === BLANK">
        <h2 class="sub">{{ say('editor.blank.what') }}</h2>
        <router-link
          v-for="each in films"
          :key="each.id"
          class="row"
          :to="`/job/${props.job}/system/${BLANK}?sheet=${encodeURIComponent(each.id)}`"
          replace
        >
          <strong class="grow">{{ each.name }}</strong>
          <span v-if="each.sample" class="sample">{{ say('sample.short') }}</span>
        </router-link>
      </section>
      <template #side>
        <button v-if="touched && frame !== 'desk' && frame !== 'lying'" class="outline narrow" @click="touched = ''">
          {{ say('editor.to_build_up') }}
        </button>
        <template v-if="system && layer">
          <h2>{{ nameOf(layer) }}</h2>
          <LayerPanel
            :key="layer.id"
            :system="system"
            :layer="layer"
            :sheets="sheets"
            @act="change"
            @lay-in="openLayIn"
            @error="(text) => (error = text)"
          />
        </template>
        <template v-else-if="step">
          <h2>{{ step.title }}</h2>
          <StepPanel
            :key="step.id"
            :step="step"
            :steps="steps"
            :people="opened?.people ?? []"
            @act="change"
            @error="(text) => (error = text)"
          />
        </template>
        <template v-else-if="of('way') && made?.ways">
          <h2>{{ say(`school.${of('way')}`) }}</h2>
          <ProofPanel v-if="of('way') === 'proof'" :picked="made.ways.proof ?? ''" @act="change" />
          <OneOf
            v-else
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
        <template v-else-if="system && base && touched === 'try'">
          <h2>{{ say('editor.try') }}</h2>
          <TrialPanel :job="props.job" :areas="areas" :system="system" :base="base" :library="library" />
        </template>
        <template v-else-if="system">
          <p class="said">{{ say('editor.touch') }}</p>
          <ChangeList v-if="made?.changes.length" :changes="made.changes" />
        </template>
        <p v-else class="said">{{ say('editor.blank.line') }}</p>
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
  flex-wrap: wrap;
  gap: 8px;
}
.both > :last-child {
  margin-inline-start: auto;
}
.small,
.way,
.why {
  display: block;
}
</style>
