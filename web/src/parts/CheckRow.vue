<script setup lang="ts">
// One line to confirm, as a row for gloves.
defineProps<{ label: string; checked: boolean; disabled?: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
</script>

<template>
  <v-checkbox-btn
    class="row check-row"
    :class="{ chosen: checked }"
    :model-value="checked"
    :label="label"
    :disabled="disabled"
    @update:model-value="emit('toggle')"
  />
</template>
