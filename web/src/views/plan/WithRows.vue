<script setup lang="ts">
// What goes with the membrane. Another product can be taken: one that is not tested with the system
// needs a reason and a name.
import { ref } from 'vue'
import type { Schemas } from '../../core/core'
import PersonChoice from '../../parts/PersonChoice.vue'
import SideSheet from '../../parts/SideSheet.vue'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import { useArea } from '../area/useArea'

type Line = Schemas['SiteWithLine']
type Swap = Schemas['SystemSwap']

const props = defineProps<{ lines: readonly Line[]; swaps: readonly Swap[] }>()
const emit = defineEmits<{ swap: [list: Swap[]]; read: [sheet: string] }>()
const { look } = useArea()
const changing = ref<Line | null>(null)
const picked = ref('')
const reason = ref('')
const person = ref('')

function change(line: Line): void {
  const own = props.swaps.find((s) => s.product === line.product)
  picked.value = line.sheet
  reason.value = own?.reason ?? ''
  person.value = own?.person ?? ''
  changing.value = line
}
/** Opens the first that is not tested with the system and that nobody answers for. */
function answer(): void {
  const open = props.lines.find((line) => line.outside && !props.swaps.some((s) => s.product === line.product))
  if (open) change(open)
}
defineExpose({ answer })
function keep(): void {
  const line = changing.value!
  const others = props.swaps.filter((s) => s.product !== line.product)
  emit('swap', [...others, { product: line.product, sheet: picked.value, reason: reason.value, person: person.value }])
  changing.value = null
}
function asNamed(): void {
  emit(
    'swap',
    props.swaps.filter((s) => s.product !== changing.value!.product),
  )
  changing.value = null
}
const nameOf = (id: string) => changing.value?.others.find((o) => o.id === id)?.name ?? say('with.none')
</script>

<template>
  <section>
    <h2 class="sub">{{ say('with.title') }}</h2>
    <ul>
      <li v-for="line in lines" :key="line.product">
        <button class="row" @click="change(line)">
          <span class="grow">
            <span class="small">{{ say(`product.${line.role}`) }}</span>
            <strong class="name">{{ line.sheet ? line.name : say('with.missing', { name: line.name }) }}</strong>
            <span v-if="line.outside" class="out">{{ say('with.outside') }}</span>
          </span>
          <strong>{{ say('with.change') }}</strong>
        </button>
      </li>
    </ul>
    <SideSheet v-if="changing" :title="say(`product.${changing.role}`)" @close="changing = null">
      <button v-if="!changing.sheet" class="outline" @click="emit('read', changing.product)">
        {{ say('with.read') }}
      </button>
      <p class="small">{{ say('with.line') }}</p>
      <OneOf
        look="row"
        :options="[...changing.others.map((o) => o.id), '']"
        :picked="picked"
        :label="say(`product.${changing.role}`)"
        @pick="(id) => (picked = id)"
      >
        <template #default="{ option }">
          <strong>{{ nameOf(option) }}</strong>
        </template>
      </OneOf>
      <v-text-field v-model="reason" :label="say('override.reason')" maxlength="200" />
      <PersonChoice v-model="person" :people="look.job.people" :label="say('override.person')" />
      <template #action>
        <button class="outline" @click="asNamed">{{ say('with.as_named') }}</button>
        <MitreButton :label="say('with.take')" @click="keep" />
      </template>
    </SideSheet>
  </section>
</template>

<style scoped>
.name {
  display: block;
}
.out {
  color: var(--plum7);
}
</style>
