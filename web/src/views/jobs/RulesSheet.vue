<script setup lang="ts">
// Local rules: which profile the job's plans are made with, and one's own, copied from it.
import { computed, ref, shallowRef } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { newId } from '../../data/ids'
import { useDraft } from '../../data/useDraft'
import { useAsking } from '../../data/useAsking'
import MitreButton from '../../parts/MitreButton.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { fieldName, quantity, say, sayFault, unitName } from '../../words/words'

type Profile = Schemas['RulesProfile']

const props = defineProps<{ job: Job }>()
const emit = defineEmits<{ close: [] }>()
const book = useBook()

const shipped = shallowRef<Profile[]>([])
void call('rules.shipped', {}).then((out) => (shipped.value = out.profiles))
/** Own profiles first, then those that ship; the last kept is in use. */
const choices = computed(() => {
  const own = [...props.job.profiles].reverse()
  return [...own, ...shipped.value.filter((p) => !own.some((o) => o.id === p.id))]
})
const inUse = computed(() => props.job.rules.id)
const editing = shallowRef<Profile | null>(null)
const draft = useDraft(
  () => `rules.${props.job.id}.${editing.value?.id ?? ''}`,
  () => ({}),
)
const id = ref(newId())
const asks = useAsking(draft, () =>
  call('rules.ask', { base: editing.value ?? props.job.rules, id: id.value, typed: { ...draft.typed.value } }),
)
const faults = computed(() => asks.questions.value.filter((q) => q.state === 'wrong').map((q) => sayFault(q.fault!)))

async function use(profile: Profile): Promise<void> {
  const by = await book.who(props.job)
  if (!by) return
  await book.record({
    kind: 'rules.added',
    jobId: props.job.id,
    by,
    body: { profile },
    say: { key: 'rules.kept' },
  })
  emit('close')
}

async function keep(): Promise<void> {
  const own = asks.asked.value?.profile
  if (!own) return
  await use(own)
  await draft.drop()
}
</script>

<template>
  <SideSheet :title="say('rules.title')" @close="emit('close')">
    <p>{{ say('rules.defer') }}</p>
    <template v-if="!editing">
      <section v-for="profile in choices" :key="profile.id" class="profile">
        <h2 class="sub">{{ profile.name }}</h2>
        <p class="small">{{ profile.note }}</p>
        <div class="both">
          <strong v-if="profile.id === inUse">{{ say('rules.use') }}</strong>
          <button v-else class="outline narrow" @click="use(profile)">
            {{ say('rules.pick') }}<span class="visually-hidden"> {{ profile.name }}</span>
          </button>
          <button class="outline narrow" @click="editing = profile">
            {{ say('rules.edit') }}<span class="visually-hidden"> {{ profile.name }}</span>
          </button>
        </div>
      </section>
    </template>
    <template v-else>
      <div v-for="q in asks.questions.value" :key="q.id">
        <v-text-field
          :label="`${fieldName(q.id)} ${q.unit ? unitName(q.unit) : ''}`"
          :model-value="draft.typed.value[q.id] ?? ''"
          :placeholder="q.assumed ? quantity(q.value, q.unit ?? '') : ''"
          autocomplete="off"
          @update:model-value="draft.type(q.id, $event)"
        />
        <p v-if="q.args?.says" class="small">{{ say('rules.says', q.args) }}</p>
      </div>
      <p v-for="fault in faults" :key="fault" class="said" role="alert">{{ fault }}</p>
    </template>
    <template v-if="editing" #action>
      <button class="outline" @click="editing = null">{{ say('cancel') }}</button>
      <MitreButton :label="say('rules.keep')" :disabled="!asks.asked.value?.profile" @click="keep" />
    </template>
  </SideSheet>
</template>

<style scoped>
.profile {
  display: grid;
  gap: 8px;
  padding-bottom: 14px;
  border-bottom: 1.5px solid var(--line);
}
.both {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
</style>
