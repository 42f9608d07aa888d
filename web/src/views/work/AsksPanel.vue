<script setup lang="ts">
// The questions of a step: yes, no, not here, a figure, a choice. A no is kept too, and holds the step.
import { computed } from 'vue'
import CheckRow from '../../parts/CheckRow.vue'
import OneOf from '../../parts/OneOf.vue'
import PhotoRow from '../survey/PhotoRow.vue'
import { optionName, place, say, unitName } from '../../words/words'
import type { Step } from '../area/useArea'

type Question = NonNullable<Step['asks']>[number]

const props = defineProps<{ step: Step; given: Record<string, string>; done: boolean; at: string }>()
const emit = defineEmits<{ give: [id: string, says: string] }>()
const questions = computed<Question[]>(() => props.step.asks ?? [])
const why = (q: Question) => props.step.open.find((each) => each.id === q.id)?.why
const other = (q: Question) => (q.na ? ['no', 'not_here'] : ['no'])
const photosOf = (q: Question) => (props.given[q.id] ? [{ id: props.given[q.id]!, sha256: '' }] : [])
const give = (q: Question, says: string) => emit('give', q.id, props.given[q.id] === says ? '' : says)
</script>

<template>
  <ul>
    <li v-for="q in questions" :key="q.id" class="ask">
      <v-text-field
        v-if="q.kind === 'number'"
        :label="`${q.line}${q.unit ? `, ${unitName(q.unit)}` : ''}`"
        :model-value="given[q.id] ?? ''"
        inputmode="decimal"
        autocomplete="off"
        :disabled="done"
        maxlength="40"
        @update:model-value="emit('give', q.id, $event)"
      />
      <OneOf
        v-else-if="q.kind === 'choice'"
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="q.choices ?? []"
        :picked="given[q.id]"
        :label="q.line"
        @pick="(option: string) => give(q, option)"
      >
        {{ optionName(option) }}
      </OneOf>
      <div v-else-if="q.kind === 'photo'" class="photo">
        <p>{{ q.line }}</p>
        <p class="small">{{ at ? say('asks.photo.at', { place: place(at) }) : say('asks.photo.where') }}</p>
        <PhotoRow :photos="photosOf(q)" @took="(photo) => emit('give', q.id, photo.id)" />
      </div>
      <div v-else class="beside-key">
        <CheckRow :label="q.line" :checked="given[q.id] === 'yes'" :disabled="done" @toggle="give(q, 'yes')" />
        <OneOf
          v-if="!done || given[q.id] !== 'yes'"
          v-slot="{ option }"
          class="wrapped"
          look="outline narrow"
          :options="other(q)"
          :picked="given[q.id]"
          :label="q.line"
          @pick="(option: string) => give(q, option)"
        >
          {{ say(`asks.says.${option}`) }}
        </OneOf>
      </div>
      <p v-if="why(q) && why(q) !== 'asks.open'" class="said">{{ say(why(q)!) }}</p>
    </li>
  </ul>
</template>

<style scoped>
.photo {
  display: grid;
  gap: 8px;
}
.ask {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
</style>
