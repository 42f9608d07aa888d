<script setup lang="ts">
// What the system leaves to the site: it stands as its first choice until somebody decides.
import { computed } from 'vue'
import OptionRows from '../plan/OptionRows.vue'
import { useArea } from './useArea'

const props = defineProps<{ step?: string }>()
const { look, record } = useArea()
const options = computed(() =>
  (look.value.system?.options ?? []).filter((each) => !props.step || each.steps.includes(props.step)),
)
const decide = (option: string, choice: string) => record('decided', { option, choice }, { key: 'plan.decided' })
</script>

<template>
  <OptionRows
    :options="options"
    :chosen="Object.fromEntries(options.map((each) => [each.id, each.said ? each.chosen : '']))"
    @choose="decide"
  />
</template>
