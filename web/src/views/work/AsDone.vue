<script setup lang="ts">
// How it was laid, for who wants it kept: strokes, the face under it, colour and tool.
import { ref } from 'vue'
import OneOf from '../../parts/OneOf.vue'
import { optionName, say } from '../../words/words'
import { faces, strokes } from './asDone'

const props = defineProps<{ typed: Record<string, string> }>()
const emit = defineEmits<{ type: [id: string, text: string] }>()
const shown = ref(false)

const choices = { strokes, face: faces } as const
const pick = (id: 'strokes' | 'face', option: string) => emit('type', id, props.typed[id] === option ? '' : option)
</script>

<template>
  <section>
    <button class="row" :aria-expanded="shown" @click="shown = !shown">
      <span class="grow">{{ say('work.how') }}</span>
    </button>
    <template v-if="shown">
      <OneOf
        v-for="(options, id) in choices"
        :key="id"
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="options"
        :picked="typed[id] as (typeof options)[number]"
        :label="say(`work.how.${id}`)"
        @pick="(option: string) => pick(id, option)"
      >
        {{ optionName(option) }}
      </OneOf>
      <v-text-field
        v-for="id in ['colour', 'tool']"
        :key="id"
        :label="say(`work.how.${id}`)"
        :model-value="typed[id] ?? ''"
        maxlength="80"
        autocomplete="off"
        @update:model-value="emit('type', id, $event)"
      />
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}
</style>
