<script setup lang="ts">
// Every system of the library against this area: the best first, stopped ones last with the reason.
// What the area asks for beside its survey is said above them.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import FormFields from '../../parts/FormFields.vue'
import { fieldName, money, optionName, quantity, say, sayFault } from '../../words/words'
import OneOf from '../../parts/OneOf.vue'

const props = defineProps<{
  options: readonly Schemas['ChoiceOption'][]
  questions: readonly Schemas['AskQuestion'][]
  typed: Record<string, string>
  picked: string
}>()
const emit = defineEmits<{ pick: [option: Schemas['ChoiceOption']]; type: [id: string, text: string] }>()
/** A system with the printing that makes it tight. */
const keyOf = (o: Schemas['ChoiceOption']) => `${o.system} ${o.sheet}`
/** Whether the questions stand open: the page opens them too, where something is not answered. */
const asking = defineModel<boolean>('asking', { default: false })
const all = ref(false)
const FEW = 4
const listed = computed(() => {
  if (all.value) return props.options
  // The best few, the one picked, and whatever was filled in for this job.
  return props.options.filter((o, i) => i < FEW || o.own || !o.sample || keyOf(o) === props.picked)
})

/** What the area asks for that is not simply "no". */
const summary = computed(() => {
  const plain = ['no', 'none']
  const usual = (q: Schemas['AskQuestion']) => props.typed[q.id] || q.args?.usual
  return props.questions
    .filter((q) => !plain.includes(String(usual(q))))
    .map((q) => `${fieldName(q.id)}: ${valueOf(q)}`)
    .join(' · ')
})

/** Answers that are only offered: no system suits by them until somebody takes them. */
const offered = computed(() =>
  props.questions.filter((q) => q.kind === 'choice' && !props.typed[q.id] && q.args?.usual !== undefined),
)
function takeOffered(): void {
  for (const q of offered.value) emit('type', q.id, String(q.args!.usual))
}

function facts(option: Schemas['ChoiceOption']): string {
  const parts = []
  if (option.hours) parts.push(quantity(option.hours.value, 'h'))
  if (option.cost_cents !== null) parts.push(money(option.cost_cents))
  parts.push(say('choice.layers.n', { n: option.layers }))
  return parts.join(' · ')
}
const valueOf = (q: Schemas['AskQuestion']) => {
  if (q.fault) return q.typed // as it was typed: it is no number yet
  const usual = typeof q.args?.usual === 'string' ? q.args.usual : ''
  return q.kind === 'choice' ? optionName(q.typed || usual, q.id) : quantity(q.value, q.unit ?? '')
}
</script>

<template>
  <section>
    <h2 class="sub">{{ say('choice.title') }}</h2>
    <button class="row" :aria-expanded="asking" @click="asking = !asking">
      <span class="grow">{{ summary }}</span>
      <strong>{{ asking ? say('close') : say('choice.change') }}</strong>
    </button>
    <button v-if="offered.length" class="outline narrow" @click="takeOffered">{{ say('choice.take_offered') }}</button>
    <FormFields v-if="asking" :questions="questions" :typed="typed" @type="(id, text) => emit('type', id, text)" />
    <OneOf
      v-slot="{ option: key }"
      look="row"
      :options="listed.map(keyOf)"
      :picked="picked"
      :label="say('plan.system')"
      @pick="
        (id) =>
          emit(
            'pick',
            options.find((each) => keyOf(each) === id)!,
          )
      "
    >
      <span v-for="option in options.filter((each) => keyOf(each) === key)" :key="keyOf(option)" class="grow">
        <strong :class="{ struck: option.stops.some((stop) => stop.says === 'no') }">{{ option.of }}</strong>
        <span v-if="option.name !== option.of" class="small printing">{{ option.name }}</span>
        <span class="small revision">{{ option.revision }}</span>
        <span v-if="option.sample" class="sample">{{ say('sample') }}</span>
        <span v-if="option.stops[0]" class="stop">{{ say(`stop.${option.stops[0].key}`, option.stops[0].args) }}</span>
        <span v-else-if="option.missing" class="stop">{{ sayFault(option.missing) }}</span>
        <span v-else class="small facts">{{ facts(option) }}</span>
      </span>
    </OneOf>
    <button v-if="all || listed.length < options.length" class="outline narrow" @click="all = !all">
      {{ all ? say('choice.fewer') : say('choice.all', { n: options.length }) }}
    </button>
    <p class="small">{{ say('choice.advice') }}</p>
  </section>
</template>

<style scoped>
.printing {
  display: block;
}
.revision {
  margin-inline-start: 8px;
}
section {
  display: grid;
  gap: 8px;
}
.struck {
  text-decoration: line-through;
  text-decoration-thickness: 2px;
}
.stop,
.facts {
  display: block;
}
.stop {
  color: var(--plum7);
}
.outline {
  justify-self: start;
}
</style>
