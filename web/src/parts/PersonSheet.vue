<script setup lang="ts">
// Asked at the first entry of a shift: names as large rows.
import { ref } from 'vue'
import { useBook, type AskingWho } from '../data/book'
import { newId } from '../data/ids'
import { say } from '../words/words'
import SideSheet from './SideSheet.vue'
import OneOf from './OneOf.vue'

const props = defineProps<{ asking: AskingWho }>()
const book = useBook()

const roles = ['lead', 'applicator', 'helper', 'inspector']
const adding = ref(props.asking.job.people.length === 0)
const name = ref('')
const role = ref('applicator')
const missing = ref(false)

async function add(): Promise<void> {
  missing.value = name.value.trim() === ''
  if (missing.value) return
  const person = newId()
  await book.keepName(person, name.value.trim())
  await book.record({
    kind: 'person.joined',
    jobId: props.asking.job.id,
    by: person,
    body: { person, role: say(`role.${role.value}`) },
  })
  props.asking.answer(person)
}
</script>

<template>
  <SideSheet :title="say('who.title')" @close="asking.answer(null)">
    <ul v-if="asking.job.people.length">
      <li v-for="person in asking.job.people" :key="person.id">
        <button class="row" @click="asking.answer(person.id)">
          <span class="grow">
            <h2 class="sub">{{ book.names[person.id] || person.role }}</h2>
            <span v-if="book.names[person.id]" class="small">{{ person.role }}</span>
          </span>
        </button>
      </li>
    </ul>
    <p v-else class="said">{{ say('who.none') }}</p>
    <button v-if="!adding" class="outline" @click="adding = true">{{ say('who.add') }}</button>
    <form v-else class="add" @submit.prevent="add">
      <v-text-field v-model="name" :label="say('who.name')" :error="!!missing" autocomplete="off" maxlength="80" />
      <p v-if="missing" class="said" role="alert">{{ say('who.name') }}: {{ say('fault.text.missing') }}</p>
      <OneOf
        v-slot="{ option }"
        class="roles"
        titled
        look="outline narrow"
        :options="roles"
        :picked="role"
        :label="say('who.role')"
        @pick="(each) => (role = each)"
      >
        {{ say(`role.${option}`) }}
      </OneOf>
      <button class="outline">{{ say('who.save') }}</button>
    </form>
  </SideSheet>
</template>

<style scoped>
.add {
  display: grid;
  gap: 18px;
}
.roles {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.roles :deep(p) {
  grid-column: 1 / -1;
}
</style>
