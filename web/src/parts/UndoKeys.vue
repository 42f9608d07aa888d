<script setup lang="ts">
// Taken back, and done again: the keys of a form that remembers what it was.
import type { useDraft } from '../data/useDraft'
import { say } from '../words/words'

defineProps<{ draft: ReturnType<typeof useDraft> }>()
</script>

<template>
  <button class="outline narrow" :disabled="!draft.past.value.length" @click="draft.undo()">
    {{ say('survey.undo') }}
  </button>
  <button class="outline narrow" :disabled="!draft.future.value.length" @click="draft.redo()">
    {{ say('survey.redo') }}
  </button>
</template>
