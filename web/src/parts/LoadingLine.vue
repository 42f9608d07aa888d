<script setup lang="ts">
// What is being fetched or read, and how much of it; nothing for what is there in a blink.
import { loading } from '../data/loading'
import { say } from '../words/words'
</script>

<template>
  <p role="status" class="loading">
    {{
      loading.what === 'core'
        ? say('loading.core')
        : loading.what === 'entries'
          ? say('loading.entries', { n: loading.n })
          : say('loading')
    }}
  </p>
</template>

<style scoped>
.loading {
  padding: 24px;
}
</style>
