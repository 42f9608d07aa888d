<script setup lang="ts">
// Pick a system and the feel of the base; see what it takes; accept. Every figure opens.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { call, type Schemas } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { textsOf } from '../../data/book'
import { useDraft } from '../../data/useDraft'
import { version } from '../../data/sync'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { quantity, say } from '../../words/words'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'

type Figure = Schemas['FigureFigure']

defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const emit = defineEmits<{ go: [stage: string]; step: [id: string] }>()
const { look, job, area, record } = useArea()
const router = useRouter()

const draft = useDraft(
  () => `plan.${area}`,
  () => ({
    sheet: look.value.system?.sheet ?? look.value.begun?.system ?? '',
    texture: look.value.system?.texture ?? look.value.begun?.texture ?? 'fine',
  }),
)
const tried = shallowRef<Schemas['OpsPlanTryOut'] | null>(null)
const error = ref('')
const explained = shallowRef<Figure | null>(null)
const editing = ref(!look.value.plan)
watch(
  () => look.value.plan_id,
  () => (editing.value = !look.value.plan),
)

watch(
  [draft.typed, version],
  async () => {
    error.value = ''
    const texts = await textsOf(job)
    const choice = { sheet: draft.typed.value.sheet ?? '', texture: draft.typed.value.texture ?? 'fine' }
    try {
      tried.value = await call('plan.try', { area, ...choice }, texts)
    } catch (refused) {
      error.value = sayRefusal(refused, '. ')
      tried.value = await call('plan.try', { area, sheet: '', texture: '' }, texts)
    }
  },
  { immediate: true },
)

const shown = computed(() => (editing.value ? tried.value?.plan : look.value.plan))
const groups = computed(() => {
  const byGroup = Map.groupBy(shown.value?.lines ?? [], (line) => line.group)
  return ['buy', 'mass', 'piece', 'junction', 'area'].flatMap((name) => {
    const lines = byGroup.get(name)
    return lines ? [{ name, lines }] : []
  })
})
const figureOf = (name: string) => tried.value?.plan?.lines.find((line) => line.figure.name === name)?.figure
const buying = computed(() =>
  say('plan.accept.line', { kits: figureOf('plan.buy.kits')?.value, rolls: figureOf('plan.buy.band')?.args?.rolls }),
)

function fillIn(): void {
  void router.push(`/job/${job}/sheet/${tried.value?.plan ? draft.typed.value.sheet : ''}/${area}`)
}

async function accept(): Promise<void> {
  const body = tried.value?.body
  if (!body) return
  if (await record('plan', body, { key: 'plan.kept' })) {
    await draft.drop()
    editing.value = false
    emit('go', look.value.next.stage)
  }
}
</script>

<template>
  <StepFrame
    :step="step"
    :stage="stage"
    :line="say('plan.line')"
    :error="error"
    @go="(s) => emit('go', s)"
    @step="(s) => emit('step', s)"
  >
    <template #drawing>
      <NetDrawing
        v-if="look.geometry"
        :name="look.name"
        :input="{ area: look.geometry, layers: ['bands'] }"
        :taps="[]"
      />
      <p v-else class="said none">{{ say('plan.no_survey') }}</p>
    </template>

    <template v-if="editing && tried">
      <section>
        <h2 class="sub">{{ say('plan.system') }}</h2>
        <div role="radiogroup" :aria-label="say('plan.system')">
          <button
            v-for="sheet in tried.sheets"
            :key="sheet.id"
            class="row"
            role="radio"
            :aria-checked="draft.typed.value.sheet === sheet.id"
            :class="{ chosen: draft.typed.value.sheet === sheet.id }"
            @click="draft.type('sheet', sheet.id)"
          >
            <span class="grow">
              <strong>{{ sheet.name }}</strong>
              <span class="small"> {{ sheet.revision }}</span>
              <span v-if="sheet.sample" class="sample">{{ say('sample') }}</span>
            </span>
          </button>
        </div>
      </section>
      <section>
        <h2 class="sub">{{ say('plan.texture') }}</h2>
        <div class="textures" role="radiogroup" :aria-label="say('plan.texture')">
          <button
            v-for="(id, i) in tried.texture_ids"
            :key="id"
            class="outline narrow"
            role="radio"
            :aria-checked="draft.typed.value.texture === id"
            :class="{ picked: draft.typed.value.texture === id }"
            @click="draft.type('texture', id)"
          >
            {{ say(`texture.${id}`) }}<span class="depth">{{ tried.textures[i]?.value }} mm</span>
          </button>
        </div>
      </section>
      <p v-if="!shown && look.geometry && !error" class="said">{{ say('plan.pick') }}</p>
      <div v-if="tried.refusal" class="said refusal" role="status">
        <p>{{ say('plan.refused') }}</p>
        <button class="outline narrow" @click="fillIn">{{ say('plan.fill') }}</button>
      </div>
    </template>

    <section v-for="group in groups" :key="group.name">
      <h2 class="sub">{{ say(`plan.group.${group.name}`) }}</h2>
      <ul>
        <li v-for="(each, i) in group.lines" :key="i">
          <button class="row figure" :title="say('plan.open')" @click="explained = each.figure">
            <span class="grow">{{ say(each.figure.name, each.figure.args) }}</span>
            <strong>{{ quantity(each.figure.value, each.figure.unit) }}</strong>
          </button>
        </li>
      </ul>
    </section>
    <p v-if="tried" class="small">{{ say('plan.rules', { name: tried.rules, note: tried.rules_note }) }}</p>
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />

    <template #outline>
      <button v-if="!editing" class="outline" @click="editing = true">{{ say('correct') }}</button>
      <button v-else-if="look.plan" class="outline" @click="editing = false">{{ say('cancel') }}</button>
    </template>
    <template #mitre>
      <MitreButton v-if="editing && tried?.may_accept" :label="say('plan.accept')" :line="buying" @click="accept" />
      <MitreButton
        v-else-if="editing && tried?.refusal"
        :label="say('plan.fill')"
        :line="say('plan.fill.line')"
        @click="fillIn"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.textures {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 8px;
}
.textures .outline {
  padding: 4px;
  display: grid;
  line-height: 1.1;
}
.depth {
  font-size: 15px;
  font-weight: 500;
}
.picked {
  background: var(--ink);
  color: var(--sheet);
}
.figure {
  min-height: 56px;
}
.figure strong {
  font-size: 20px;
  white-space: nowrap;
}
.refusal {
  display: grid;
  gap: 10px;
}
.none {
  margin: 40px;
}
</style>
