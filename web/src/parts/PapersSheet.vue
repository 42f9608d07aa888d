<script setup lang="ts">
// How a job's papers and costs are written: currency, and language where more than one is shipped.
import { ref } from 'vue'
import { useBook, type Crew } from '../data/book'
import { sayRefusal } from '../data/refusal'
import { offered } from '../words/language'
import { say } from '../words/words'
import MitreButton from './MitreButton.vue'
import SideSheet from './SideSheet.vue'

const props = defineProps<{ crew: Crew; papers: { currency: string; language: string } }>()
const emit = defineEmits<{ close: [] }>()
const book = useBook()
const currency = ref(props.papers.currency)
const language = ref(props.papers.language || 'en')
const error = ref('')

async function keep(): Promise<void> {
  error.value = ''
  const by = await book.who(props.crew)
  if (!by) return
  const body = {
    currency: currency.value.trim().toUpperCase(),
    language: language.value === 'en' ? '' : language.value,
  }
  try {
    await book.record({
      kind: 'job.papers',
      jobId: props.crew.id,
      by,
      body,
      say: { key: 'papers.kept', args: { currency: body.currency || say('papers.no_currency') } },
    })
    emit('close')
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  }
}
</script>

<template>
  <SideSheet :title="say('papers.title')" @close="emit('close')">
    <form id="papers-sheet" @submit.prevent="keep">
      <label class="field" :class="{ wrong: error }">
        <span>{{ say('papers.currency') }}</span>
        <span class="small">{{ say('papers.currency.line') }}</span>
        <input v-model="currency" maxlength="3" autocomplete="off" autocapitalize="characters" autofocus />
      </label>
      <label v-if="Object.keys(offered).length > 1" class="field">
        <span>{{ say('papers.language') }}</span>
        <select v-model="language">
          <option v-for="(name, each) in offered" :key="each" :value="each" :lang="each">{{ name }}</option>
        </select>
      </label>
      <p v-if="error" class="said" role="alert">{{ error }}</p>
    </form>
    <template #action>
      <span />
      <MitreButton form="papers-sheet" :label="say('papers.keep')" />
    </template>
  </SideSheet>
</template>
