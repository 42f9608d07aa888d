<script setup lang="ts">
// Weigh systems against each other; see what the one picked takes, product by product; accept.
// Every figure opens, and every product lights up where it goes.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import { useLatest } from '../../data/useLatest'
import { version } from '../../data/sync'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import MitreButton from '../../parts/MitreButton.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import ReasonSheet from '../../parts/ReasonSheet.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { place, quantity, say, sayFault } from '../../words/words'
import SiteOptions from '../area/SiteOptions.vue'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'
import BuildUps from './BuildUps.vue'
import ClashRows from './ClashRows.vue'
import OptionRows from './OptionRows.vue'
import SystemRows from './SystemRows.vue'
import WallsRow from './WallsRow.vue'
import WithRows from './WithRows.vue'
import OneOf from '../../parts/OneOf.vue'
import WaysList from '../../parts/WaysList.vue'

type Figure = Schemas['FigureFigure']
type Swap = Schemas['SystemSwap']
type Choice = {
  sheet: string
  system: string
  walls: string
  out: string
  choices: Record<string, string>
  texture: string
  swaps: Swap[]
  typed: Record<string, string>
}
type Ground = { texture: string; typed: Record<string, string> }

defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn } = useArea()
const router = useRouter()

const draft = useDraft(
  () => `plan.${area}`,
  () => ({
    sheet: look.value.system?.sheet ?? look.value.begun?.system ?? '',
    system: look.value.system?.id.split('+')[0] ?? '',
    texture: look.value.system?.texture ?? look.value.begun?.texture ?? 'fine',
  }),
)
/** A pack that was read for this area is what is planned by. */
const route = useRoute()
watch(
  () => [draft.ready.value, route.query.picked] as const,
  async ([ready, picked]) => {
    if (!ready || typeof picked !== 'string') return
    await draft.replace({ ...draft.typed.value, sheet: picked, walls: '', out: '' })
    await router.replace({ path: route.path })
  },
  { immediate: true },
)
const withs = ref<InstanceType<typeof WithRows>>()
const error = ref('')
const missing = ref(false)
const explained = shallowRef<Figure | null>(null)
const editing = ref(!look.value.planned)
const net = ref(false)
const lit = ref('')
watch(
  () => look.value.plan_id,
  () => (editing.value = !look.value.planned),
)

const swaps = computed<Swap[]>(() => JSON.parse(draft.typed.value.swaps ?? '[]') as Swap[])
const wanted = computed(() =>
  Object.fromEntries(Object.entries(draft.typed.value).filter(([id]) => id.startsWith('choice.'))),
)

/** Choices of what the system leaves open. */
const options = computed(() => JSON.parse(draft.typed.value.options ?? '{}') as Record<string, string>)

/** What the plan is made of, and what the systems are held against: each asks the core for itself. */
const choice = computed(() => {
  const { sheet = '', system = '', walls = '', out = '', texture = 'fine', swaps = '[]' } = draft.typed.value
  return JSON.stringify({
    sheet,
    system,
    walls,
    out,
    choices: options.value,
    texture,
    swaps: JSON.parse(swaps) as Swap[],
    typed: wanted.value,
  })
})
const ground = computed(() => JSON.stringify({ texture: draft.typed.value.texture ?? 'fine', typed: wanted.value }))

const trial = useLatest(
  () => [choice.value, version.value, look.value.survey_id],
  async () => {
    try {
      return { out: await askJob(job, 'plan.try', { area, ...(JSON.parse(choice.value) as Choice) }), refusal: '' }
    } catch (refused) {
      const out = await askJob(job, 'plan.try', { area, sheet: '', texture: '' })
      return { out, refusal: sayRefusal(refused, '. ') }
    }
  },
)
const tried = computed(() => trial.value?.out ?? null)
watch(trial, (made) => {
  error.value = made?.refusal ?? ''
  missing.value = error.value !== ''
})
const ranked = useLatest(
  () => [ground.value, version.value, look.value.survey_id],
  async () =>
    look.value.geometry ? askJob(job, 'choice.rank', { area, ...(JSON.parse(ground.value) as Ground) }) : null,
)

/** The plan that was accepted: long, and asked when it is another one. */
const kept = useLatest(
  () => `${look.value.plan_id} ${look.value.survey_id} ${look.value.planned}`,
  async () => (await askJob(job, 'plan.kept', { area })).plan,
)

const picked = computed(() => draft.typed.value.sheet ?? '')
/** The system that is picked: one that was begun by its sheet alone is the first that the sheet makes tight. */
const system = computed(
  () => draft.typed.value.system || ranked.value?.options.find((o) => o.sheet === picked.value)?.system || '',
)
const pickedKey = computed(() => `${system.value} ${picked.value}`)
const shown = computed(() => (editing.value ? tried.value?.plan : kept.value))
const groups = computed(() => {
  const byGroup = Map.groupBy(shown.value?.lines ?? [], (line) => line.group)
  return ['mass', 'buy', 'base', 'piece', 'junction', 'area'].flatMap((name) => {
    const lines = byGroup.get(name)
    return lines ? [{ name, lines }] : []
  })
})
const items = computed(() => shown.value?.items ?? [])
/** Where a figure comes from in the area: the places that its inputs name. */
function placesOf(figure: Figure): string[] {
  const own = ['surface', 'junction', 'corner', 'fitting', 'place'].map((name) => figure.args?.[name])
  return [...own.filter((id) => typeof id === 'string'), ...(figure.inputs ?? []).flatMap(placesOf)]
}
const litPlaces = computed(() =>
  explained.value ? placesOf(explained.value) : (items.value.find((item) => item.id === lit.value)?.places ?? []),
)
function explain(figure: Figure | null): void {
  explained.value = figure
  if (figure) net.value = true
}
const compared = computed(() => {
  const options = ranked.value?.options ?? []
  const first = options.filter((o) => `${o.system} ${o.sheet}` === pickedKey.value)
  return [...first, ...options.filter((o) => !first.includes(o))].slice(0, 3)
})
/** A time that a step waits by and no sheet states. */
function askedLine(each: Schemas['SystemAsked']): string {
  const steps = tried.value?.order.stages.flatMap((stage) => stage.steps ?? []) ?? []
  return say(each.open ? 'plan.asked.open' : 'plan.asked.line', {
    step: steps.find((step) => step.id === each.step)?.title,
    figure: say(`sheet.${each.figure}_20`),
  })
}
const figureOf = (name: string) => tried.value?.plan?.lines.find((line) => line.figure.name === name)?.figure
const buying = computed(() => {
  const kits = figureOf('plan.buy.kits')?.value
  const cost = tried.value?.cost_cents
  const rolls = figureOf('plan.buy.band')?.args?.rolls
  if (cost !== null && cost !== undefined && cost > 0) return say('plan.accept.cost', { cost })
  return kits ? say('plan.accept.line', { kits, rolls }) : ''
})

function pick(option: Schemas['ChoiceOption']): void {
  const { sheet, system } = option
  void draft.replace({ ...draft.typed.value, sheet, system, walls: '', out: '', swaps: '[]' })
}
function show(id: string): void {
  lit.value = lit.value === id ? '' : id
  net.value = lit.value !== ''
}
/** The sheet to be filled in: the system itself, or the companion that is refused. */
const toFill = computed(() => {
  const field = tried.value?.refusal?.field ?? ''
  const role = field.startsWith('companions.') ? field.slice('companions.'.length) : ''
  const line = tried.value?.with.find((each) => role && each.role === role)
  return line?.sheet || line?.product || picked.value
})
function readPack(sheet: string): void {
  void router.push({ path: `/job/${job}/sheet/${sheet}/${area}`, query: { system: system.value } })
}
const outside = computed(() => tried.value?.refusal?.key === 'plan.outside_without_reason')
const stopped = computed(() => tried.value?.refusal?.key === 'plan.against_stop')
/** Nothing speaks against it, but something was not answered. */
const unanswered = computed(() => stopped.value && !!tried.value?.stops.every((stop) => stop.says === 'not_known'))
const asking = ref(false)
const against = ref(false)

/** Accepts the plan, where something stops it with a reason and a name. */
async function accept(given?: { reason: string; person: string }): Promise<void> {
  let body = tried.value?.body
  if (given) {
    const asked = { area, ...(JSON.parse(choice.value) as Choice), against: { stops: [], ...given } }
    body = (await askJob(job, 'plan.try', asked)).body
  }
  against.value = false
  if (!body) return
  if (await record('plan', body, { key: 'plan.kept' })) {
    await draft.drop()
    editing.value = false
    goOn()
  }
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('plan.line')" :error="error">
    <template #drawing>
      <div v-if="look.geometry" class="pictures">
        <OneOf
          v-slot="{ option }"
          class="switch"
          look="outline narrow"
          :options="[false, true]"
          :picked="net"
          :label="say('plan.picture')"
          @pick="(shown) => (net = shown)"
        >
          {{ say(option ? 'plan.net' : 'plan.build_up') }}
        </OneOf>
        <BuildUps v-if="!net" :options="compared" :picked="pickedKey" />
        <NetDrawing v-else :name="look.name" :input="{ job, area, layers: [], lit: litPlaces }" :taps="[]" />
      </div>
      <p v-else class="said none">{{ say('plan.no_survey') }}</p>
    </template>

    <template v-if="editing && tried">
      <SystemRows
        v-if="ranked"
        v-model:asking="asking"
        :options="ranked.options"
        :questions="ranked.questions"
        :typed="draft.typed.value"
        :picked="pickedKey"
        @pick="pick"
        @type="draft.type"
      />
      <section>
        <h2 class="sub">{{ say('plan.texture') }}</h2>
        <OneOf
          v-slot="{ option }"
          class="textures"
          look="outline narrow"
          :options="tried.texture_ids"
          :picked="draft.typed.value.texture"
          :label="say('plan.texture')"
          @pick="(id) => draft.type('texture', id)"
        >
          {{ say(`texture.${option}`)
          }}<span class="depth">{{ tried.textures[tried.texture_ids.indexOf(option)]?.value }} mm</span>
        </OneOf>
      </section>
      <WallsRow
        v-if="ranked && picked"
        :options="ranked.options"
        :floor="system"
        :walls="draft.typed.value.walls ?? ''"
        @take="(system) => draft.type('walls', system)"
      />
      <OptionRows
        :options="tried.options"
        :chosen="options"
        @choose="(id, choice) => draft.type('options', JSON.stringify({ ...options, [id]: choice }))"
      />
      <ClashRows :clashes="tried.clashes" :out="draft.typed.value.out ?? ''" @out="(way) => draft.type('out', way)" />
      <section v-if="tried.order.asked.length" role="status">
        <h2 class="sub">{{ say('plan.asked') }}</h2>
        <p v-for="each in tried.order.asked" :key="each.step + each.figure" class="said">{{ askedLine(each) }}</p>
      </section>
      <WaysList v-if="picked && tried.ways" :ways="tried.ways" />
      <div v-if="missing && picked" class="said refusal" role="status">
        <p>{{ say('plan.missing') }}</p>
        <router-link class="outline narrow" :to="`/job/${job}/sheets/${picked}`">{{
          say('plan.to_sheet')
        }}</router-link>
      </div>
      <p v-if="!picked && look.geometry && !error" class="said">{{ say('plan.pick') }}</p>
      <div v-if="tried.refusal" class="said refusal" role="status">
        <p v-if="unanswered" class="unknown">
          <StateGlyph state="not known" />
          <span>{{ say('plan.unanswered', { n: tried.stops.length }) }}</span>
        </p>
        <p v-else>{{ outside || stopped ? sayFault(tried.refusal) : say('plan.refused') }}</p>
        <button v-if="unanswered && !asking" class="outline narrow" @click="asking = true">
          {{ say('plan.answer') }}
        </button>
        <button v-if="!outside && !stopped" class="outline narrow" @click="readPack(toFill)">
          {{ say('plan.fill') }}
        </button>
      </div>
      <WithRows
        v-if="tried.with.length"
        ref="withs"
        :lines="tried.with"
        :swaps="swaps"
        @swap="(list) => draft.type('swaps', JSON.stringify(list))"
        @read="readPack"
      />
    </template>

    <SiteOptions v-if="!editing" />
    <section v-if="shown?.mixed?.length || shown?.outside" class="warns">
      <p v-for="mixed in shown.mixed" :key="mixed.school + mixed.with" class="said">
        <strong>{{ say(`school.${mixed.school}`) }}.</strong>
        {{
          say('school.meets', {
            of: mixed.of,
            one: say(`school.${mixed.school}.${mixed.one}`),
            with: mixed.with,
            other: say(`school.${mixed.school}.${mixed.other}`),
          })
        }}
        {{ say(`school.${mixed.school}.mixed`) }}
      </p>
      <p v-if="shown.outside" class="said">{{ say('plan.guarantee', { n: shown.outside }) }}</p>
    </section>
    <section v-if="shown?.checks?.length">
      <h2 class="sub">{{ say('plan.checks') }}</h2>
      <button v-for="check in shown.checks" :key="check.key + check.place" class="row" @click="explain(check.figure)">
        <span class="grow">{{ place(check.place) }}: {{ say(`check.${check.key}`, check.args) }}</span>
        <strong>{{ check.fine ? say('check.fine') : say('check.fails') }}</strong>
      </button>
    </section>
    <section v-if="items.length">
      <h2 class="sub">{{ say('plan.items') }}</h2>
      <ul>
        <li v-for="item in items" :key="item.id" class="item">
          <button
            class="row figure"
            :class="{ here: lit === item.id }"
            :aria-pressed="lit === item.id"
            @click="show(item.id)"
          >
            <span class="grow">
              <strong>{{ item.title || say(`product.${item.role}`) }}</strong>
              <span class="small">{{ say(`product.${item.role}`) }}</span>
              <span v-if="item.fault" class="small wrong">{{ sayFault(item.fault) }}</span>
            </span>
            <strong v-if="item.need">{{ quantity(item.need.value, item.unit) }}</strong>
          </button>
          <router-link v-if="item.fault && item.sheet" class="outline narrow" :to="`/job/${job}/sheets/${item.sheet}`">
            {{ say('plan.to_sheet') }}
          </router-link>
          <button v-if="item.need" class="outline narrow" @click="explain(item.need)">{{ say('plan.open') }}</button>
        </li>
      </ul>
    </section>
    <section v-for="group in groups" :key="group.name">
      <h2 class="sub">{{ say(`plan.group.${group.name}`) }}</h2>
      <ul>
        <li v-for="(each, i) in group.lines" :key="i">
          <button class="row figure" :title="say('plan.open')" @click="explain(each.figure)">
            <span class="grow">{{ say(each.figure.name, each.figure.args) }}</span>
            <strong>{{ quantity(each.figure.value, each.figure.unit) }}</strong>
          </button>
        </li>
      </ul>
    </section>
    <section v-if="!editing && look.system">
      <h2 class="sub">{{ say('paper.printings') }}</h2>
      <p v-for="paper in look.system.papers" :key="paper.role + paper.name" class="small">
        {{
          [say(`product.${paper.role}`), paper.name, paper.revision, paper.printed, paper.language]
            .filter(Boolean)
            .join(' · ')
        }}
      </p>
    </section>
    <p v-if="tried" class="small">{{ say('plan.rules', { name: tried.rules, note: tried.rules_note }) }}</p>
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />
    <ReasonSheet
      v-if="against && tried"
      :title="say('plan.against.title')"
      :sub="tried.refusal ? sayFault(tried.refusal) : ''"
      :line="say('plan.against.says')"
      :keep="say('plan.against.keep')"
      :people="look.job.people"
      @close="against = false"
      @keep="accept"
    >
      <p v-for="stop in tried.stops" :key="stop.key" class="said">{{ say(`stop.${stop.key}`, stop.args) }}</p>
    </ReasonSheet>

    <template #outline>
      <router-link v-if="!editing && look.planned" class="outline" :to="`/job/${job}/materials/${area}`">{{
        say('materials.title')
      }}</router-link>
      <button v-if="!editing" class="outline" @click="editing = true">{{ say('correct') }}</button>
      <button v-else-if="look.planned" class="outline" @click="editing = false">{{ say('cancel') }}</button>
    </template>
    <template #mitre>
      <MitreButton v-if="editing && tried?.may_accept" :label="say('plan.accept')" :line="buying" @click="accept()" />
      <MitreButton
        v-else-if="editing && stopped"
        :label="say('plan.against')"
        :line="say('plan.against.line')"
        @click="against = true"
      />
      <MitreButton
        v-else-if="editing && tried?.refusal && outside"
        :label="say('with.answer')"
        :line="say('with.outside')"
        @click="withs?.answer()"
      />
      <MitreButton
        v-else-if="editing && tried?.refusal"
        :label="say('plan.fill')"
        :line="say('plan.fill.line')"
        @click="readPack(toFill)"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.pictures {
  height: 100%;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
}
:root.phone .pictures {
  grid-template-rows: auto 48vh;
}
.switch {
  display: flex;
  gap: 8px;
  padding: 12px 24px 0;
}
.textures {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 8px;
}
.textures :deep(.outline) {
  padding: 4px;
  display: grid;
  line-height: 1.1;
}
.depth {
  font-size: 15px;
  font-weight: 500;
}
.figure {
  min-height: 56px;
}
.figure > strong {
  font-size: 20px;
  white-space: nowrap;
}
.item {
  display: flex;
  align-items: center;
  gap: 8px;
}
.item .row .grow {
  display: grid;
}
.here {
  background: var(--sunk);
}
.wrong {
  color: var(--plum7);
}
.warns {
  display: grid;
  gap: 10px;
}
.refusal {
  display: grid;
  gap: 10px;
}
.none {
  margin: 40px;
}
</style>
