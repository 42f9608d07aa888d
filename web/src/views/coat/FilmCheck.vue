<script setup lang="ts">
// A coat that no comb accepts: by what was laid, by its dry film, or by a look, surface by surface.
import { computed, onMounted, ref } from 'vue'
import { call } from '../../core/core'
import { keptText } from '../../data/keptText'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import BigPad from '../../parts/BigPad.vue'
import CheckRow from '../../parts/CheckRow.vue'
import MitreButton from '../../parts/MitreButton.vue'
import { toggled } from '../../data/toggled'
import { say } from '../../words/words'
import { useArea, type Coat, type Spot, type Step } from '../area/useArea'
import SurfaceFilm from './SurfaceFilm.vue'

defineOptions({ inheritAttrs: false })
const props = defineProps<{ coat: Coat; step: Step; spot: Spot | null }>()
const emit = defineEmits<{ error: [text: string]; spot: [spot: Spot | null]; topUp: [surface: string] }>()
const { area, record } = useArea()
const draft = useDraft(
  () => `dry.${area}.${props.step.id}`,
  () => ({}),
)
const ready = ref(false)
onMounted(() => (ready.value = true))
const looks = computed(() => props.coat.by === 'look' || props.coat.by === 'wetted_through')
const laid = computed(() => props.coat.surfaces.filter((each) => each.laid))
const chosen = ref<string[]>([])
const note = keptText(`look.${props.step.id}`)

async function look(fine: boolean): Promise<void> {
  const body = {
    step: props.step.id,
    surfaces: chosen.value,
    fine,
    ...(note.value.trim() ? { note: note.value.trim() } : {}),
  }
  try {
    if (!(await record('film.looked', body, { key: 'film.look.kept' }))) return
    chosen.value = []
    note.value = ''
  } catch (error) {
    emit('error', sayRefusal(error))
  }
}
async function read(): Promise<void> {
  if (!props.spot) return emit('error', say('film.dry.pick'))
  const entered = { ...draft.typed.value }
  try {
    const { value } = await call('units.number', {
      field: 'dry',
      kind: 'number',
      typed: entered.mm ?? '',
      least: 0.001,
      most: 50,
    })
    const body = { step: props.step.id, ...props.spot, dry_mm: value }
    if (!(await record('dry.read', body, { key: 'film.dry.kept' }))) return
    await draft.recorded(entered)
    emit('spot', null)
  } catch (error) {
    emit('error', sayRefusal(error))
  }
}
</script>

<template>
  <section class="check">
    <p class="small">{{ say(`film.by.line.${coat.by}`) }}</p>
    <template v-if="coat.by === 'dry_film'">
      <BigPad
        id="mm"
        :model-value="draft.typed.value.mm ?? ''"
        :label="say('film.dry.mm')"
        unit="mm"
        @update:model-value="(text) => draft.type('mm', text)"
        @enter="read"
      >
        {{ spot ? say('drawing.surface', { surface: spot.surface }) : say('film.dry.pick') }}
      </BigPad>
    </template>
    <template v-else-if="looks">
      <ul>
        <li v-for="each in laid" :key="each.surface">
          <CheckRow
            :label="say('drawing.surface', { surface: each.surface })"
            :checked="chosen.includes(each.surface)"
            @toggle="chosen = toggled(chosen, each.surface)"
          />
        </li>
      </ul>
      <v-text-field
        v-if="chosen.length"
        v-model="note"
        :label="say('film.look.note')"
        maxlength="500"
        autocomplete="off"
      />
      <button v-if="chosen.length" class="outline" :disabled="!note.trim()" @click="look(false)">
        {{ say('film.look.not') }}
      </button>
    </template>
    <SurfaceFilm :coat="coat" may-lay @top-up="(surface) => emit('topUp', surface)" />
    <Teleport v-if="ready" defer to="#step-mitre">
      <MitreButton v-if="coat.by === 'dry_film'" :label="say('film.dry.kept')" :disabled="!spot" @click="read" />
      <MitreButton
        v-else-if="looks && laid.length"
        :label="say(`film.look.fine.${coat.by}`)"
        :disabled="!chosen.length"
        @click="look(true)"
      />
    </Teleport>
  </section>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
</style>
