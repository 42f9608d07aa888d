<script setup lang="ts">
// Any number opens to rule, inputs, rounding and source; every input can be followed on.
import { computed, ref } from 'vue'
import type { Schemas } from '../core/core'
import { fieldName, known, quantity, say } from '../words/words'
import SideSheet from './SideSheet.vue'

type Figure = Schemas['FigureFigure']

const props = defineProps<{ figure: Figure }>()
const emit = defineEmits<{ close: [] }>()

/** The way from the number first opened to the one in view. */
const trail = ref<Figure[]>([])
const shown = computed(() => trail.value.at(-1) ?? props.figure)

function nameOf(figure: Figure): string {
  if (figure.name.startsWith('survey.')) return fieldName(figure.name.slice('survey.'.length))
  return known(figure.name) ? say(figure.name, figure.args) : figure.name
}
</script>

<template>
  <SideSheet :title="say('explain.title')" @close="emit('close')">
    <button v-if="trail.length" class="outline narrow" @click="trail = trail.slice(0, -1)">
      {{ say('explain.back', { name: nameOf(trail.at(-2) ?? figure) }) }}
    </button>
    <div>
      <h2 class="sub">{{ nameOf(shown) }}</h2>
      <p class="value">{{ quantity(shown.value, shown.unit) }}</p>
    </div>
    <dl v-if="shown.rule">
      <dt class="small">{{ say('explain.rule') }}</dt>
      <dd>
        {{ say(`rule.${shown.rule}`) }} <span class="small mono">{{ shown.rule }}</span>
      </dd>
    </dl>
    <dl v-if="shown.rounding">
      <dt class="small">{{ say('explain.rounded') }}</dt>
      <dd>{{ say(`rounding.${shown.rounding}`) }}</dd>
    </dl>
    <dl v-if="shown.source">
      <dt class="small">{{ say('explain.source') }}</dt>
      <dd>{{ say(`source.${shown.source.kind}`) }}</dd>
      <dd v-if="shown.source.says">{{ say('explain.says', { says: shown.source.says }) }}</dd>
      <dd class="small mono ref">{{ shown.source.ref }}</dd>
    </dl>
    <div v-if="shown.inputs?.length">
      <p class="small">{{ say('explain.from') }}</p>
      <ul>
        <li v-for="(input, i) in shown.inputs" :key="i">
          <button class="row" @click="trail = [...trail, input]">
            <span class="grow">{{ nameOf(input) }}</span>
            <strong>{{ quantity(input.value, input.unit) }}</strong>
          </button>
        </li>
      </ul>
    </div>
  </SideSheet>
</template>

<style scoped>
.value {
  font-size: 50px;
  font-weight: 720;
  letter-spacing: -0.03em;
  line-height: 1.1;
}
.ref {
  overflow-wrap: anywhere;
}
.row strong {
  white-space: nowrap;
}
</style>
