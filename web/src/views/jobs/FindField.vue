<script setup lang="ts">
// Finds in a list by name.
import { say } from '../../words/words'

const find = defineModel<string>({ required: true })
</script>

<template>
  <label class="field find">
    <span>{{ say('find.label') }}</span>
    <input v-model="find" type="search" autocomplete="off" maxlength="80" />
  </label>
</template>

<style scoped>
.find {
  max-width: 520px;
  padding-bottom: 12px;
}
</style>
