<script setup lang="ts">
// What stands may follow another system than what lies.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'

const props = defineProps<{ options: readonly Schemas['ChoiceOption'][]; floor: string; walls: string }>()
const emit = defineEmits<{ take: [system: string] }>()
const open = ref(false)
const picked = ref('')

const others = computed(() => [
  '',
  ...new Set(props.options.filter((o) => o.system !== props.floor).map((o) => o.system)),
])
const nameOf = (system: string) => props.options.find((o) => o.system === system)?.of ?? say('plan.walls.same')

function choose(): void {
  picked.value = props.walls
  open.value = true
}
function take(): void {
  emit('take', picked.value)
  open.value = false
}
</script>

<template>
  <section>
    <button class="row" @click="choose">
      <span class="grow">
        <span class="small">{{ say('plan.walls') }}</span>
        <strong class="name">{{ nameOf(walls) }}</strong>
      </span>
      <strong>{{ say('with.change') }}</strong>
    </button>
    <SideSheet v-if="open" :title="say('plan.walls')" @close="open = false">
      <p class="small">{{ say('plan.walls.line') }}</p>
      <OneOf
        v-slot="{ option }"
        look="row"
        :options="others"
        :picked="picked"
        :label="say('plan.walls')"
        @pick="(id) => (picked = id)"
      >
        <strong>{{ nameOf(option) }}</strong>
      </OneOf>
      <template #action>
        <MitreButton :label="say('plan.walls.take')" @click="take" />
      </template>
    </SideSheet>
  </section>
</template>

<style scoped>
.name {
  display: block;
}
</style>
