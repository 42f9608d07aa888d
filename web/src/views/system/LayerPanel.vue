<script setup lang="ts">
// One layer of a build-up: its coats, how much of it, by what it is accepted, and where it lies among the others.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import type { Sheet } from '../../data/book'
import { sayRefusal } from '../../data/refusal'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import type { Act, Layer, System } from './useEditor'

const PLACES = ['field', 'joints', 'fittings', 'corners', 'edges', 'spots'] as const
const FACES = ['', 'flat', 'upright'] as const
const DECIDED = ['', 'plan', 'site'] as const

const props = defineProps<{ system: System; layer: Layer; sheets: readonly Sheet[] }>()
const emit = defineEmits<{ act: [act: Act]; layIn: [before: string]; error: [text: string] }>()

const KINDS = ['wft_mm', 'kg_m2', 'L_m2', 'dft_mm', 'covered'] as const
const BY = ['comb', 'consumption', 'dry_film', 'wetted_through', 'look'] as const
const at = computed(() => props.system.layers.findIndex((each) => each.id === props.layer.id))
/** What goes by the piece or along an edge has no coats to measure. */
const measured = computed(() => !['pieces', 'strip'].includes(props.layer.coats[0]?.target?.kind ?? ''))
const product = computed(() => props.system.products.find((each) => each.key === props.layer.product))
/** What may be laid as it: one printing of each product. */
const fit = computed(() => {
  const all = props.sheets.filter((each) => (each.role ?? 'membrane') === product.value?.role)
  return [...new Map(all.map((each) => [each.product || each.id, each])).entries()]
})
const place = computed(() => props.layer.where[0]?.on as (typeof PLACES)[number])
const faces = computed(() => (props.layer.where[0]?.faces?.[0] ?? '') as (typeof FACES)[number])
const decided = computed(() => (chosenBy.value?.decided ?? '') as (typeof DECIDED)[number])
/** What it may be laid instead of: what lies where it does; the film is always laid. */
const roleOf = (of?: Layer) => props.system.products.find((each) => each.key === of?.product)?.role ?? 'membrane'
const others = computed(() =>
  props.system.layers.filter(
    (each) => each.id !== props.layer.id && roleOf(each) !== 'membrane' && each.where[0]?.on === place.value,
  ),
)
const chosenBy = computed(() => props.system.options?.find((each) => props.layer.in?.startsWith(`${each.id}.`)))
const instead = computed(() =>
  others.value.find((each) => chosenBy.value && each.in?.startsWith(`${chosenBy.value.id}.`)),
)
const lie = (on: string, face: string) =>
  emit('act', { does: 'place', layer: props.layer.id, on, faces: face ? [face] : [] })
const nameOf = (of?: Layer) => say(`product.${roleOf(of)}`)
const choose = (when: string, other: string) =>
  emit('act', { does: 'optional', layer: props.layer.id, decided: when, ...(other ? { other } : {}) })
const kind = ref<(typeof KINDS)[number]>('wft_mm')
const typed = ref<Record<string, string>>({})

async function target(): Promise<void> {
  try {
    const says = typed.value.value ?? ''
    const { value } =
      kind.value === 'covered'
        ? { value: 0 }
        : await call('units.number', { field: 'value', kind: 'number', typed: says, least: 0.001, most: 100 })
    const reason = typed.value.reason ?? ''
    emit('act', { does: 'target', layer: props.layer.id, kind: kind.value, value, says, reason })
    typed.value = {}
  } catch (refused) {
    emit('error', sayRefusal(refused))
  }
}
/** Layers stand from the base up: over the next one is before the one after it. */
const move = (by: 1 | -1) => {
  const before = props.system.layers[by > 0 ? at.value + 2 : at.value - 1]?.id ?? ''
  emit('act', { does: 'move', layer: props.layer.id, before })
}
</script>

<template>
  <section class="panel">
    <OneOf
      v-if="fit.length"
      v-slot="{ option }"
      titled
      look="row"
      :options="fit.map(([id]) => id)"
      :picked="product?.product"
      :label="say('editor.product')"
      @pick="(id: string) => emit('act', { does: 'product', layer: layer.id, product: id })"
    >
      <span class="grow">{{ fit.find(([id]) => id === option)?.[1].name }}</span>
      <span v-if="fit.find(([id]) => id === option)?.[1].sample" class="sample">{{ say('sample.short') }}</span>
    </OneOf>
    <OneOf
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="PLACES"
      :picked="place"
      :label="say('editor.place')"
      @pick="(on: string) => lie(on, '')"
    >
      {{ say(`editor.on.${option}`) }}
    </OneOf>
    <OneOf
      v-if="place === 'field'"
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="FACES"
      :picked="faces"
      :label="say('editor.faces')"
      @pick="(face: string) => lie('field', face)"
    >
      {{ say(`editor.faces.${option || 'all'}`) }}
    </OneOf>
    <template v-if="measured">
      <OneOf
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="[1, 2, 3, 4]"
        :picked="layer.coats.length"
        :label="say('editor.coats')"
        @pick="(coats: number) => emit('act', { does: 'coats', layer: layer.id, coats })"
      >
        {{ option }}
      </OneOf>
      <OneOf
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="BY"
        :picked="layer.accept?.by as (typeof BY)[number]"
        :label="say('school.thickness')"
        @pick="(by: string) => emit('act', { does: 'accept', layer: layer.id, by })"
      >
        {{ say(`school.thickness.${option}`) }}
      </OneOf>
      <OneOf
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="KINDS"
        :picked="kind"
        :label="say('editor.target')"
        @pick="(each: (typeof KINDS)[number]) => (kind = each)"
      >
        {{ say(`editor.target.${option}`) }}
      </OneOf>
      <template v-if="kind !== 'covered'">
        <v-text-field
          v-model="typed.value"
          :label="say('editor.value')"
          inputmode="decimal"
          maxlength="20"
          autocomplete="off"
        />
        <v-text-field v-model="typed.reason" :label="say('editor.reason')" maxlength="200" autocomplete="off" />
      </template>
      <button class="outline" @click="target">{{ say('editor.set') }}</button>
    </template>
    <OneOf
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="DECIDED"
      :picked="decided"
      :label="say('editor.optional')"
      @pick="(when: string) => choose(when, '')"
    >
      {{ say(`editor.optional.${option || 'always'}`) }}
    </OneOf>
    <OneOf
      v-if="decided && others.length"
      v-slot="{ option }"
      class="wrapped"
      titled
      look="outline narrow"
      :options="others.map((each) => each.id)"
      :picked="instead?.id"
      :label="say('editor.optional.or')"
      @pick="(other: string) => choose(decided, other)"
    >
      {{ nameOf(others.find((each) => each.id === option)) }}
    </OneOf>
    <div class="wrapped">
      <button class="outline narrow" :disabled="at === system.layers.length - 1" @click="move(1)">
        {{ say('editor.up') }}
      </button>
      <button class="outline narrow" :disabled="at === 0" @click="move(-1)">{{ say('editor.down') }}</button>
      <button class="outline narrow" @click="emit('layIn', system.layers[at + 1]?.id ?? '')">
        {{ say('editor.lay_over') }}
      </button>
      <button class="outline narrow" @click="emit('layIn', layer.id)">{{ say('editor.lay_under') }}</button>
      <button class="outline narrow" @click="emit('act', { does: 'drop', layer: layer.id })">
        {{ say('editor.drop') }}
      </button>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
}
</style>
