<script setup lang="ts">
// In and out by open formats, and copies of an area that is like others.
import { computed, ref } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useBook } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { newId } from '../../data/ids'
import { sayRefusal } from '../../data/refusal'
import { fileName, saveFile, svgText } from '../../data/files'
import SideSheet from '../../parts/SideSheet.vue'
import { say } from '../../words/words'
import { dayOf } from '../../words/zone'
import { useArea } from '../area/useArea'

const props = defineProps<{
  survey: Schemas['WetareaSurvey'] | null
  area: Schemas['WetareaArea'] | null
  svg: SVGSVGElement | undefined
  typed: Record<string, string>
  form: string
  editing: boolean
}>()
const emit = defineEmits<{ close: []; replace: [typed: Record<string, string>] }>()
const { look, job, area: areaId } = useArea()
const book = useBook()

const error = ref('')
const done = ref('')
const count = ref('1')
const pattern = ref('')
const canTakeOutline = computed(
  () => props.editing && ['room', 'deck', 'sunken', 'basin', 'box_tank'].includes(props.form),
)
/** The answers of the form, without the marks of the draft. */
const answers = computed(() =>
  Object.fromEntries(Object.entries(props.typed).filter(([id, text]) => text && id !== 'form' && !id.includes(' '))),
)

async function attempt(what: () => Promise<string>): Promise<void> {
  error.value = ''
  done.value = ''
  try {
    done.value = await what()
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  }
}

const takeOutline = (event: Event) =>
  attempt(async () => {
    const file = (event.target as HTMLInputElement).files?.[0]
    if (!file) return ''
    const format = file.name.toLowerCase().endsWith('.dxf') ? 'dxf' : 'csv'
    const { typed } = await call('survey.outline', { format, text: await file.text() })
    emit('replace', { ...props.typed, ...typed })
    return say('survey.imported')
  })

const mirror = () =>
  attempt(async () => {
    const turned = await call('survey.mirror', { form: props.form, typed: answers.value })
    emit('replace', { ...turned.typed, form: props.form })
    return say('survey.mirrored')
  })

const begun = (check: boolean): Schemas['LogbookBegun'] => ({
  from: areaId,
  form: props.form,
  typed: answers.value,
  check,
  ...(look.value.system ? { system: look.value.system.sheet, texture: look.value.system.texture } : {}),
})

const copy = () =>
  attempt(async () => {
    const opened = await book.job(job, theTime())
    const { names } = await call('area.names', {
      name: look.value.name,
      count: Number(count.value) || 0,
      taken: opened.areas.map((each) => each.name),
    })
    const by = await book.who(look.value.job)
    if (!by) return ''
    for (const name of names)
      await book.record({
        kind: 'area.opened',
        jobId: job,
        areaId: newId(),
        by,
        body: { name, begun: begun(true) },
      })
    return say('survey.copied', { n: names.length })
  })

const keepPattern = () =>
  attempt(async () => {
    const by = await book.who(look.value.job)
    if (!by) return ''
    const name = pattern.value.trim()
    await book.record({ kind: 'pattern.kept', jobId: job, by, body: { name, begun: begun(true) } })
    pattern.value = ''
    return say('survey.pattern.kept', { name })
  })

const nameOf = (ending: string) => fileName([dayOf(theTime()), look.value.job.name, look.value.name], ending)
const saveSvg = () => props.svg && saveFile(nameOf('svg'), 'image/svg+xml', svgText(props.svg, look.value.name))
const saveJson = () =>
  saveFile(
    nameOf('json'),
    'application/json',
    JSON.stringify(
      { format: 'dusha.survey/1', name: look.value.name, survey: props.survey, area: props.area },
      null,
      1,
    ),
  )
const saveCsv = () =>
  attempt(async () => {
    const { csv } = await call('survey.table', { survey: props.survey! })
    saveFile(nameOf('csv'), 'text/csv', csv)
    return ''
  })
const print = () => {
  emit('close')
  setTimeout(() => window.print(), 400) // once the sheet has slid away
}
</script>

<template>
  <SideSheet :title="say('survey.files')" @close="emit('close')">
    <p v-if="error" class="said" role="alert">{{ error }}</p>
    <p v-if="done" role="status">{{ done }}</p>
    <label v-if="canTakeOutline" class="field">
      <span>{{ say('survey.import') }}</span>
      <span class="small">{{ say('survey.import.line') }}</span>
      <input type="file" accept=".csv,.dxf,.txt" @change="takeOutline" />
    </label>
    <div class="list">
      <button class="outline" :disabled="!svg" @click="saveSvg">{{ say('survey.export.svg') }}</button>
      <button class="outline" :disabled="!survey" @click="saveJson">{{ say('survey.export.json') }}</button>
      <button class="outline" :disabled="!survey" @click="saveCsv">{{ say('survey.export.csv') }}</button>
      <button class="outline" :disabled="!svg" @click="print">{{ say('survey.print') }}</button>
      <button v-if="editing" class="outline" :disabled="!survey" @click="mirror">{{ say('survey.mirror') }}</button>
    </div>
    <section v-if="survey" class="list">
      <p class="small">{{ say('survey.copy.line') }}</p>
      <v-text-field
        v-model="count"
        :label="say('survey.copy.count')"
        inputmode="numeric"
        maxlength="3"
        autocomplete="off"
      />
      <button class="outline" @click="copy">{{ say('survey.copy') }}</button>
      <v-text-field v-model="pattern" :label="say('survey.pattern.name')" maxlength="80" autocomplete="off" />
      <button class="outline" :disabled="!pattern.trim()" @click="keepPattern">{{ say('survey.pattern') }}</button>
    </section>
  </SideSheet>
</template>

<style scoped>
.list {
  display: grid;
  gap: 12px;
}
</style>
