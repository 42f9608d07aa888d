<script setup lang="ts">
// A data sheet as it is printed, a figure a line; beside it what the figures reduce to, as a
// section through the film. A contradiction is drawn as lines that do not meet.
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job, type Sheet } from '../../data/book'
import { askJob } from '../../data/folded'
import { now as theTime } from '../../data/clock'
import { newId } from '../../data/ids'
import { useAsking } from '../../data/useAsking'
import { useDraft, without } from '../../data/useDraft'
import { useUndoKeys } from '../../data/useUndoKeys'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import UndoKeys from '../../parts/UndoKeys.vue'
import { fieldName, known, optionName, quantity, say, unitName } from '../../words/words'
import FilmPanel from './FilmPanel.vue'
import PackPicture from './PackPicture.vue'
import PrintedFiles from './PrintedFiles.vue'
import PrintedField from './PrintedField.vue'
import PrintedLines from './PrintedLines.vue'
import { today } from './today'

type Question = Schemas['AskQuestion']
type File = Schemas['SheetFile']

const NOTHING = {
  questions: [],
  next: '',
  left: 0,
  film: { implied: [], missing: [] },
  sheet: null,
  old: null,
} as unknown as Schemas['OpsSheetAskOut']
const props = defineProps<{ job: string; like: string; area?: string }>()
const book = useBook()
const router = useRouter()
const route = useRoute()

const opened = shallowRef<Job | null>(null)
const library = shallowRef<Sheet[]>([])
/** What the area that it is read for stands still without; null: all of the sheet is asked. */
const needs = shallowRef<string[] | null>(null)
/** Figures that were left for later and that the work stands still without now. */
const later = computed(() => (typeof route.query.ask === 'string' ? route.query.ask.split(',') : []))
const restShown = ref(false)
const like = computed(() => library.value.find((s) => s.id === props.like) ?? null)
const draft = useDraft(
  () => `sheet.${props.job}.${props.like}`,
  () => ({ id: newId() }),
)
useUndoKeys(draft)
/** The entry that a sheet of one's own was kept by. */
const entry = ref('')
void Promise.all([book.job(props.job, theTime()), askJob(props.job, 'sheet.library', {}), askNeeds()]).then(
  ([got, { sheets, entries }, first]) => {
    opened.value = got
    needs.value = first
    library.value = sheets
    entry.value = entries[props.like] ?? ''
  },
)
/** A sheet of one's own was misread, or there is another printing of it. */
const MEANT = ['correct', 'printing'] as const
const corrects = computed(() => !!entry.value && draft.typed.value.meant !== 'printing')
async function askNeeds(): Promise<string[] | null> {
  if (later.value.length) return later.value
  if (!props.area) return null
  const system = typeof route.query.system === 'string' ? route.query.system : ''
  const asked = askJob(props.job, 'sheet.needs', { area: props.area, system, sheet: props.like })
  return asked.then(({ needs }) => needs).catch(() => null) // no system takes it: all of it is asked
}
// A pack that is read for an area is a pack of some size.
watch([like, needs, draft.ready], ([sheet, first, ready]) => {
  if (sheet && first && ready && !later.value.length && !sheet.role && !draft.typed.value.packs)
    void draft.type('packs', '1')
})

// A sheet of one's own is gone on from with what it says; a sample gives the form alone.
watch([like, draft.ready], async ([sheet, ready], _before, onCleanup) => {
  let latest = true
  onCleanup(() => (latest = false))
  if (!sheet || sheet.sample || !ready || !(await draft.untouched())) return
  const { typed: all } = await call('sheet.typed', { sheet })
  const typed = later.value.length ? { ...without(all, ...later.value), wrong: say('sheet.later') } : all
  if (latest && (await draft.untouched())) await draft.replace({ ...typed, id: draft.typed.value.id ?? newId() })
  if (latest && later.value[0]) ask(later.value[0])
})

const files = computed<File[]>(() => JSON.parse(draft.typed.value.files ?? '[]') as File[])
const { asked, asking, error, questions, question, after, type, enter, answer, ask } = useAsking(draft, async () => {
  const { id = '' } = draft.typed.value
  const typed = without(draft.typed.value, 'id', 'files', 'meant', 'wrong')
  return like.value
    ? call('sheet.ask', {
        sample: '',
        like: like.value,
        id,
        typed,
        today: today(),
        rules: opened.value!.rules,
        corrects: corrects.value,
        ...(needs.value ? { needs: needs.value } : {}),
      })
    : NOTHING
})
watch(like, () => draft.load())

/** What cannot wait, in the order in which a sheet is printed: the name, the figures, the pack. */
const first = computed(() =>
  needs.value
    ? questions.value.filter(
        (q) =>
          needs.value!.includes(q.id) || (!later.value.length && (q.id === 'name' || /^packs\.\d+\.size$/.test(q.id))),
      )
    : [],
)
const answered = computed(() => first.value.filter((q) => q.state === 'answered').length)

/** The others by what they are about, as the core groups them. */
const groups = computed(() => {
  const others = questions.value.filter((q) => !first.value.includes(q))
  const byGroup = Map.groupBy(others, (q) => {
    if (q.id.startsWith('packs')) return 'packs'
    if (q.id === 'film_from') return 'film_from'
    return typeof q.args?.group === 'string' ? q.args.group : 'name'
  })
  byGroup.delete('film_from')
  return [...byGroup].map(([name, list]) => ({ name, list }))
})
const filmFrom = computed(() => questions.value.find((q) => q.id === 'film_from'))
const packs = computed(() => questions.value.find((q) => q.id === 'packs'))
const open = computed(() => questions.value.filter((q) => q.state === 'missing').length)
const wrong = computed(() => questions.value.filter((q) => q.state === 'wrong').length)

const says = computed(() => (like.value?.sample ? (like.value.numbers[asking.value]?.says ?? '') : ''))
const optional = computed(() => question.value?.assumed || question.value?.state === 'answered')

function valueOf(q: Question): string {
  if (q.typed === '-') return say('sheet.not_stated')
  if (q.kind === 'choice') return q.typed ? optionName(q.typed, q.id) : q.assumed ? '' : '?'
  if (q.assumed) return ''
  return q.typed || '?'
}
/** What a printed figure comes to, where it is not printed in that unit. */
function reading(q: Question): string {
  if (q.kind !== 'stated' || q.state !== 'answered' || q.typed === '-' || !q.unit || !unitName(q.unit)) return ''
  const last = Number((q.typed.match(/[\d.,]+/g) ?? []).at(-1)?.replace(',', '.'))
  const bare = !/[^\d.,\s–-]/.test(q.typed)
  return bare || last !== q.value ? `= ${quantity(q.value, q.unit)}` : ''
}

async function addPack(): Promise<void> {
  const next = Number(packs.value?.args?.next ?? 1)
  await draft.type('packs', `${draft.typed.value.packs ?? ''} ${next}`.trim())
  ask(`packs.${next}.size`)
}
async function takeAway(item: string): Promise<void> {
  const number = item.split('.')[1]
  const left = (draft.typed.value.packs ?? '').split(' ').filter((n) => n !== number)
  await draft.type('packs', left.join(' '))
}

/** What has no answer is not printed. */
async function nothingMore(): Promise<void> {
  const rest = questions.value.filter((q) => q.state === 'missing' && (q.kind === 'stated' || q.kind === 'choice'))
  await draft.replace({ ...draft.typed.value, ...Object.fromEntries(rest.map((q) => [q.id, '-'])) })
  asking.value = questions.value.find((q) => q.state !== 'answered' && !rest.includes(q))?.id ?? ''
}

function skip(): void {
  asking.value = after(asking.value)
}

const keepFiles = (list: File[]) => draft.type('files', JSON.stringify(list))

async function keep(): Promise<unknown> {
  const sheet = asked.value?.sheet
  if (!sheet || !opened.value) return
  const reason = draft.typed.value.wrong?.trim() ?? ''
  if (corrects.value && !reason) {
    error.value = `${say('sheet.meant.why')}: ${say('fault.text.missing')}`
    return
  }
  const by = await book.who(opened.value)
  if (!by) return
  const mends = corrects.value ? { corrects: entry.value, reason } : {}
  const body = { sheet: { ...sheet, files: [...(sheet.files ?? []), ...files.value] } }
  await book.record({ kind: 'sheet.added', jobId: props.job, by, body, ...mends, say: { key: 'sheet.kept' } })
  await draft.drop()
  if (later.value.length) return router.back()
  await router.replace(
    props.area
      ? { path: `/job/${props.job}/area/${props.area}/plan`, query: sheet.role ? {} : { picked: sheet.id } }
      : `/job/${props.job}/sheets/${sheet.id}`,
  )
}
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>
        {{ say(like?.sample ? 'sheet.title' : corrects ? 'sheet.meant.correct' : 'sheet.title.next') }}
      </h1></template
    >
    <template #line>{{ like ? `${say(`product.${like.role || 'membrane'}`)} · ${like.name}` : opened?.name }}</template>
    <TwoSides width="460px" phone="side-first">
      <div class="both">
        <UndoKeys :draft="draft" />
      </div>
      <p class="small">
        {{
          say(
            later.length
              ? 'sheet.line.later'
              : first.length
                ? 'sheet.line.first'
                : like?.sample || corrects
                  ? 'sheet.line'
                  : 'sheet.line.next',
          )
        }}
      </p>
      <template v-if="entry && !later.length">
        <OneOf
          v-slot="{ option }"
          look="row"
          :options="MEANT"
          :picked="corrects ? 'correct' : 'printing'"
          :label="say('sheet.meant')"
          @pick="(meant: string) => draft.type('meant', meant)"
        >
          <span>
            <strong>{{ say(`sheet.meant.${option}`) }}</strong>
            <span class="small line">{{ say(`sheet.meant.${option}.line`) }}</span>
          </span>
        </OneOf>
        <v-text-field
          v-if="corrects"
          :model-value="draft.typed.value.wrong ?? ''"
          :label="say('sheet.meant.why')"
          maxlength="200"
          autocomplete="off"
          @update:model-value="(text: string) => draft.type('wrong', text)"
        />
      </template>
      <p v-if="asked?.old" class="said">{{ say('sheet.old', { days: asked.old.days }) }}</p>
      <section v-if="first.length">
        <h2 class="sub">{{ say('sheet.first', { n: answered, of: first.length }) }}</h2>
        <PrintedLines
          :questions="first"
          :asking="asking"
          :value-of="valueOf"
          :reading="reading"
          @ask="ask"
          @away="takeAway"
        />
      </section>
      <button v-if="first.length" class="row" :aria-expanded="restShown" @click="restShown = !restShown">
        <span class="grow">{{ say('sheet.rest', { n: questions.length - first.length }) }}</span>
      </button>
      <section v-for="group in first.length && !restShown ? [] : groups" :key="group.name">
        <h2 class="sub">{{ say(`sheet.group.${group.name}`) }}</h2>
        <PrintedLines
          :questions="group.list.filter((q) => q.id !== 'packs')"
          :asking="asking"
          :value-of="valueOf"
          :reading="reading"
          @ask="ask"
          @away="takeAway"
        />
        <button v-if="group.name === 'packs'" class="outline narrow" @click="addPack">
          {{ say('ask.packs.add') }}
        </button>
      </section>
      <PrintedFiles :job="props.job" :files="files" @files="keepFiles" />
      <template #side>
        <div v-if="question" class="ask">
          <h2>{{ fieldName(question.id) }}</h2>
          <p v-if="known(`sheet.${question.id}.line`)" class="small">{{ say(`sheet.${question.id}.line`) }}</p>
          <p v-if="says" class="small">{{ say('sheet.says', { says }) }}</p>
          <PrintedField
            :question="question"
            :text="draft.typed.value[question.id] ?? ''"
            :wrong="!!error"
            @type="type"
            @enter="enter"
            @answer="answer"
          />
          <div class="both">
            <button
              v-if="question.kind === 'stated' || question.kind === 'choice'"
              class="outline narrow"
              @click="answer('-')"
            >
              {{ say('sheet.not_stated') }}
            </button>
            <button v-if="optional" class="outline narrow" @click="skip">{{ say('sheet.next') }}</button>
          </div>
        </div>
        <p v-else class="said">{{ say('sheet.all') }}</p>
        <PackPicture :job="props.job" :files="[...files, ...(like?.sample ? [] : (like?.files ?? []))]" />
        <FilmPanel
          v-if="asked && like && !like.role && (!first.length || asked.film.implied.length)"
          :film="asked.film"
          :pick="filmFrom"
          @pick="(from) => draft.type('film_from', from)"
        />
      </template>
    </TwoSides>
    <template #ledge>
      <TheLedge :error="error">
        <template #facts>{{
          wrong ? say('sheet.wrong', { n: wrong }) : open ? say('sheet.open', { n: open }) : say('sheet.complete')
        }}</template>
        <template #outline>
          <button class="outline" @click="router.back()">{{ say('cancel') }}</button>
          <button v-if="open > 3 && draft.typed.value.name" class="outline" @click="nothingMore">
            {{ say('sheet.nothing_more') }}
          </button>
        </template>
        <template #mitre>
          <MitreButton
            v-if="asked?.sheet"
            :label="say(corrects ? 'sheet.meant.correct' : 'sheet.save')"
            @click="keep"
          />
          <MitreButton v-else :label="say('survey.enter')" @click="enter" />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.ask {
  display: grid;
  gap: 12px;
}
.line {
  display: block;
}
.both {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
</style>
