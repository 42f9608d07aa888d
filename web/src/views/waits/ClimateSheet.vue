<script setup lang="ts">
// What thermometer and hygrometer show in the area: every wait is reckoned with it.
import { ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import NumberFields from '../../parts/NumberFields.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea } from '../area/useArea'

const emit = defineEmits<{ close: [] }>()
const { area, record } = useArea()
const draft = useDraft(
  () => `climate.${area}`,
  () => ({}),
)
const error = ref('')
const ranges = { air: [-30, 70], base: [-30, 70], rh: [0, 102] } as const
const fields = (['air', 'base', 'rh'] as const).map((id) => ({ id, label: say(`climate.${id}`) }))

async function keep(): Promise<void> {
  error.value = ''
  try {
    const read: Record<string, number> = {}
    for (const { id } of fields) {
      const [least, most] = ranges[id]
      const typed = draft.typed.value[id] ?? ''
      read[id] = (await call('units.number', { field: id, kind: 'number', typed, least, most })).value
    }
    const body = { air_C: read.air!, substrate_C: read.base!, rh_percent: read.rh! }
    if (!(await record('climate', body, { key: 'climate.kept', args: { base: read.base } }))) return
    await draft.drop()
    emit('close')
  } catch (refused) {
    error.value = sayRefusal(refused)
  }
}
</script>

<template>
  <SideSheet :title="say('climate.title')" @close="emit('close')">
    <p>{{ say('climate.line') }}</p>
    <NumberFields :fields="fields" :typed="draft.typed.value" @type="draft.type" @enter="keep" />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('climate.keep') }}</button>
    </template>
  </SideSheet>
</template>
