<script setup lang="ts">
// The way back, by the name of where it leads.
import { say } from '../words/words'

defineProps<{ to: string; name: string }>()
</script>

<template>
  <router-link :to="to" class="back" :aria-label="say('back.to', { name })">‹ {{ name }}</router-link>
</template>

<style scoped>
.back {
  color: inherit;
  padding-block: 19px;
  padding-right: 6px;
  white-space: nowrap;
  max-width: 30ch;
  overflow: hidden;
  text-overflow: ellipsis;
  display: inline-block;
  margin-block: -19px;
  vertical-align: bottom;
}
</style>
