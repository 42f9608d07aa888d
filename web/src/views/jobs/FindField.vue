<script setup lang="ts">
// Finds in a list by name.
import { say } from '../../words/words'

const find = defineModel<string>({ required: true })
</script>

<template>
  <v-text-field
    v-model="find"
    :label="say('find.label')"
    type="search"
    autocomplete="off"
    maxlength="80"
    class="find"
  />
</template>

<style scoped>
.find {
  max-width: 520px;
  padding-bottom: 12px;
}
</style>
