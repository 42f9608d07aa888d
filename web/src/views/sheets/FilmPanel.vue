<script setup lang="ts">
// What a sheet's figures reduce to: the section through one coat, the masses, and which statement
// counts where they differ.
import { ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import { fieldName, optionName, quantity, say } from '../../words/words'
import OneOf from '../../parts/OneOf.vue'

defineProps<{ film: Schemas['SheetFilm']; pick?: Schemas['AskQuestion'] | undefined }>()
const emit = defineEmits<{ pick: [from: string] }>()
const explained = shallowRef<Schemas['FigureFigure'] | null>(null)
const names = ['wet', 'dry', 'per_m2', 'per_pack'] as const
const percent = ref((value: number) => Math.round(value))
</script>

<template>
  <section class="film">
    <h2 class="sub">{{ say('sheet.film') }}</h2>
    <div v-if="film.implied?.length" class="drawing">
      <PlainDrawing :label="say('sheet.film')" :input="{ kind: 'film', film }" />
    </div>
    <p v-else class="said">{{ say('film.nothing') }}</p>
    <p v-for="name in film.missing" :key="name" class="small">
      {{ say('sheet.film.missing', { name: fieldName(name) }) }}
    </p>
    <div v-if="film.contradicts" class="said" role="status">
      {{ say('sheet.contradicts', { percent: percent(film.disagreement_percent), used: optionName(film.used) }) }}
    </div>
    <div v-if="film.pair?.contradicts" class="said" role="status">
      {{
        say('sheet.pair_contradicts', {
          ratio: film.pair.ratio,
          packs: film.pair.packs,
          percent: percent(film.pair.disagreement_percent),
        })
      }}
    </div>
    <p v-if="film.kg_per_m2_if_wet && film.kg_per_m2_if_dry" class="said">
      {{ say('sheet.both_ways', { wet: film.kg_per_m2_if_wet, dry: film.kg_per_m2_if_dry }) }}
    </p>
    <OneOf
      v-if="pick"
      v-slot="{ option }"
      titled
      look="row"
      :options="film.implied.map((each) => each.from)"
      :picked="film.used"
      :label="fieldName('film_from')"
      @pick="(from) => emit('pick', from)"
    >
      <span class="grow">{{ optionName(option) }}</span>
      <strong>{{ quantity(film.implied.find((each) => each.from === option)?.high_mm ?? 0, 'mm') }}</strong>
    </OneOf>
    <ul>
      <template v-for="name in names" :key="name">
        <li v-if="film[name]">
          <button class="row" @click="explained = film[name]!">
            <span class="grow">{{ say(`sheet.film.${name}`) }}</span>
            <strong>{{ quantity(film[name]!.value, film[name]!.unit) }}</strong>
          </button>
        </li>
      </template>
    </ul>
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />
  </section>
</template>

<style scoped>
.film {
  display: grid;
  gap: 10px;
}
.drawing {
  height: 230px;
}
</style>
