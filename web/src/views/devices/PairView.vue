<script setup lang="ts">
// A device is paired by a one-time code; the code of a link stands behind its #.
import { computed, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useBook } from '../../data/book'
import { faultsOf, Unreached } from '../../data/outbox'
import { askSession, pair, session } from '../../data/session'
import { soon } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import { say, sayFault } from '../../words/words'

const book = useBook()
const router = useRouter()
const code = ref(useRoute().hash.slice(1))
const name = ref('')
const error = ref('')
const busy = ref(false)
onMounted(() => askSession().catch(() => (error.value = say('pair.unreached'))))

const open = computed(() => !session.value || (session.value.shut && !session.value.paired))
const line = computed(() => {
  const { shut, paired, why, name, role } = session.value ?? {}
  if (shut === false) return say('pair.none')
  if (paired) return say('pair.done', { name, role: say(`device.role.${role}`) })
  return why ? say(`pair.why.${why}`) : ''
})

async function go(): Promise<void> {
  if (busy.value) return
  busy.value = true
  error.value = ''
  try {
    const answer = await pair(code.value, name.value)
    if (!answer.ok) {
      error.value = (await faultsOf(answer)).map(sayFault).join('. ')
      return
    }
    soon()
    await router.replace('/')
  } catch (failed) {
    if (!(failed instanceof Unreached)) throw failed
    error.value = say('pair.unreached')
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine /></template>
    <template #title
      ><h1>{{ say('pair.title') }}</h1></template
    >
    <form id="pair" class="page scroll" @submit.prevent="go">
      <p role="status">{{ line }}</p>
      <p v-if="book.waiting">{{ say('pair.kept', { n: book.waiting }) }}</p>
      <template v-if="open">
        <p>{{ say('pair.line') }}</p>
        <v-text-field
          v-model="code"
          :label="say('pair.code')"
          maxlength="20"
          autocomplete="off"
          autocapitalize="characters"
          class="mono code"
        />
        <v-text-field v-model="name" :label="say('pair.name')" maxlength="80" autocomplete="off" />
        <p class="small">{{ say('pair.name.line') }}</p>
      </template>
      <p v-if="error" class="said" role="alert">{{ error }}</p>
    </form>
    <template #ledge>
      <TheLedge>
        <template #mitre><MitreButton v-if="open" form="pair" :label="say('pair.act')" :disabled="busy" /></template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.page {
  height: 100%;
  max-width: 640px;
  padding: 12px 24px;
  display: grid;
  align-content: start;
  gap: 14px;
}
.code :deep(input) {
  font-size: 30px;
  letter-spacing: 0.08em;
}
</style>
