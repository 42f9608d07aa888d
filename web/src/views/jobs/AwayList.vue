<script setup lang="ts">
// What was put away: out of sight, not gone. Each is fetched back by one tap.
import { ref } from 'vue'
import { say } from '../../words/words'

defineProps<{ away: { id: string; name: string }[] }>()
const emit = defineEmits<{ back: [id: string] }>()
const shown = ref(false)
</script>

<template>
  <section v-if="away.length" class="away">
    <button class="outline narrow" :aria-expanded="shown" @click="shown = !shown">
      {{ say('away.shown', { n: away.length }) }}
    </button>
    <ul v-if="shown">
      <li v-for="each in away" :key="each.id" class="row">
        <strong class="grow">{{ each.name }}</strong>
        <button class="outline narrow" @click="emit('back', each.id)">{{ say('away.back') }}</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.away {
  display: grid;
  gap: 8px;
  justify-items: start;
  padding: 16px 0;
}
ul {
  width: 100%;
}
</style>
