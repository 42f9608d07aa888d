<script setup lang="ts">
// The way back, by the name of where it leads.
import { computed } from 'vue'
import { LONG, say } from '../words/words'

const props = defineProps<{ to: string; name: string }>()
const shown = computed(() => {
  const signs = [...props.name]
  return signs.length > LONG ? `${signs.slice(0, LONG).join('')}…` : props.name
})
</script>

<template>
  <router-link :to="to" class="back" :aria-label="say('back.to', { name })">‹ {{ shown }}</router-link>
</template>

<style scoped>
.back {
  color: inherit;
  padding-block: 19px;
  padding-right: 6px;
  overflow-wrap: anywhere;
  display: inline-block;
  min-width: 56px;
  margin-block: -19px;
  vertical-align: bottom;
}
</style>
