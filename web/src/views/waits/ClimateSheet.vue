<script setup lang="ts">
// What thermometer and hygrometer show in the area: every wait is reckoned with it. A gauge that
// remembers tells also what was between, and whose air it is other areas may share.
import { computed, ref } from 'vue'
import { askedBack, readAir } from '../../data/numbers'
import { sayRefusal } from '../../data/refusal'
import { useDraft } from '../../data/useDraft'
import CheckRow from '../../parts/CheckRow.vue'
import NumberFields from '../../parts/NumberFields.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { useArea } from '../area/useArea'

const emit = defineEmits<{ close: [] }>()
const { area, look, record } = useArea()
const draft = useDraft(
  () => `climate.${area}`,
  () => ({}),
)
const error = ref('')
const named = (ids: readonly string[]) => ids.map((id) => ({ id, label: say(`climate.${id}`) }))
const fields = named(['air', 'base', 'rh'])
const since = named(['coldest', 'warmest', 'dampest', 'driest'])
const asked = ref('')
const unit = (id: string) => (['rh', 'dampest', 'driest'].includes(id) ? 'percent' : 'C')
const shut = computed(() => draft.typed.value.shut === 'yes')
const place = ref(look.value.place)

const number = (field: string, typed = '') => readAir(field, unit(field) === 'C' ? 'temperature' : 'humidity', typed)
const type = (id: string, text: string) => {
  asked.value = ''
  void draft.type(id, text)
}

async function keep(): Promise<void> {
  error.value = asked.value = ''
  try {
    const typed = draft.typed.value
    const body: Record<string, number | boolean> = {
      air_C: await number('air', typed.air),
      substrate_C: await number('base', typed.base),
      rh_percent: await number('rh', typed.rh),
    }
    for (const { id } of since) if (typed[id]?.trim()) body[`${id}_${unit(id)}`] = await number(id, typed[id])
    if (shut.value) body.shut = true
    if (place.value.trim() && place.value.trim() !== look.value.place)
      if (!(await record('air.place', { place: place.value.trim() }, { key: 'climate.place.kept' }))) return
    const key = (body.rh_percent as number) > 100 ? 'climate.kept.full' : 'climate.kept'
    if (!(await record('climate', body, { key, args: { base: body.substrate_C, rh: body.rh_percent } }))) return
    await draft.drop()
    emit('close')
  } catch (refused) {
    error.value = sayRefusal(refused)
    asked.value = askedBack(refused)
  }
}
</script>

<template>
  <SideSheet :title="say('climate.title')" @close="emit('close')">
    <p>{{ say('climate.line') }}</p>
    <NumberFields :fields="fields" :typed="draft.typed.value" :asked="asked" @type="type" @enter="keep" />
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <h2 class="sub">{{ say('climate.since') }}</h2>
    <NumberFields :fields="since" :typed="draft.typed.value" :asked="asked" @type="type" @enter="keep" />
    <CheckRow :label="say('climate.shut')" :checked="shut" @toggle="draft.type('shut', shut ? '' : 'yes')" />
    <v-text-field
      v-model="place"
      :label="say('climate.place')"
      maxlength="80"
      autocomplete="off"
      :placeholder="say('climate.place.own')"
    />
    <p class="small">{{ say('climate.place.line') }}</p>
    <template #action>
      <button class="outline" @click="emit('close')">{{ say('cancel') }}</button>
      <button class="outline" @click="keep">{{ say('climate.keep') }}</button>
    </template>
  </SideSheet>
</template>
