<script setup lang="ts">
// How a job's papers and costs are written: currency, and language where more than one is shipped.
import { ref } from 'vue'
import { useBook, type Crew } from '../data/book'
import { sayRefusal } from '../data/refusal'
import { offered } from '../words/language'
import { say } from '../words/words'
import MitreButton from './MitreButton.vue'
import OneOf from './OneOf.vue'
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
      <p class="small">{{ say('papers.currency.line') }}</p>
      <v-text-field
        v-model="currency"
        :label="say('papers.currency')"
        :error="!!error"
        maxlength="3"
        autocomplete="off"
        autocapitalize="characters"
        autofocus
      />
      <OneOf
        v-if="Object.keys(offered).length > 1"
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="Object.keys(offered)"
        :picked="language"
        :label="say('papers.language')"
        @pick="(option: string) => (language = option)"
      >
        <span :lang="option">{{ offered[option] }}</span>
      </OneOf>
      <p v-if="error" class="said" role="alert">{{ error }}</p>
    </form>
    <template #action>
      <span />
      <MitreButton form="papers-sheet" :label="say('papers.keep')" />
    </template>
  </SideSheet>
</template>
