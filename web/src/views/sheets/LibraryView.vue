<script setup lang="ts">
// The data sheets of a job: what there is by what it is for, the one touched beside it with what it
// reduces to, its printings and its files.
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { call, type Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { useLatest } from '../../data/useLatest'
import { useBook, type Sheet } from '../../data/book'
import { found } from '../../data/finding'
import { now as theTime } from '../../data/clock'
import { saveFile } from '../../data/files'
import { sayRefusal } from '../../data/refusal'
import { version } from '../../data/sync'
import AppFrame from '../../parts/AppFrame.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { fieldName, optionName, say } from '../../words/words'
import FilmPanel from './FilmPanel.vue'
import PrintedFiles from './PrintedFiles.vue'
import SystemSheet from './SystemSheet.vue'
import TrialSheet from './TrialSheet.vue'
import { today } from './today'

type System = Schemas['SystemSystem']

const props = defineProps<{ job: string; sheet?: string }>()
const book = useBook()
const router = useRouter()
const elsewhere = shallowRef<{ id: string; name: string; sheets: Sheet[] }[]>([])
const error = ref('')
const said = ref('')
const find = ref('')
const trying = ref(false)

const asked = useLatest(
  () => [props.job, version.value],
  () => Promise.all([book.job(props.job, theTime()), book.sheets(props.job)]),
)
const opened = computed(() => asked.value?.[0] ?? null)
const sheets = computed(() => asked.value?.[1] ?? [])

const replaced = computed(() => new Set(sheets.value.map((s) => s.replaces).filter(Boolean)))
const shown = computed(() => sheets.value.find((s) => s.id === props.sheet) ?? null)
const role = (s: Sheet) => s.role || 'membrane'

/** By what they are for; own sheets stand before the samples, printings that were replaced are with their heirs. */
const groups = computed(() => {
  const list = sheets.value.filter(
    (s) =>
      !replaced.value.has(s.id) &&
      found(`${s.name} ${say(`product.${role(s)}`)} ${s.families?.join(' ') ?? ''}`, find.value),
  )
  return [...Map.groupBy(list, role)].map(([name, members]) => ({ name, members }))
})
/** The printings of the same product, the one in use first. */
const printings = computed(() => {
  const of = shown.value
  if (!of) return []
  const product = of.product || of.id
  return sheets.value.filter((s) => (s.product || s.id) === product).reverse()
})

const read = useLatest(
  () => shown.value,
  async () => {
    const sheet = shown.value
    if (!sheet || !opened.value) return null
    return { of: sheet.id, ...(await call('sheet.typed', { sheet, today: today(), rules: opened.value.rules })) }
  },
)
const typed = computed(() => (read.value?.of === shown.value?.id ? read.value : null))
const film = computed(() => typed.value?.film ?? null)
const old = computed(() => typed.value?.old ?? null)
const hasRate = computed(() => 'rate' in (typed.value?.typed ?? {}))

const printed = computed(() => {
  const s = shown.value
  if (!s) return []
  const numbers = Object.entries(s.numbers).map(([name, said]) => ({ name, says: said.says, trial: !!said.trial }))
  const choices = Object.entries(s.choices ?? {}).map(([name, picked]) => ({
    name,
    says: optionName(picked, name),
    trial: false,
  }))
  return [...numbers, ...choices].sort((a, b) => fieldName(a.name).localeCompare(fieldName(b.name)))
})

async function save(format: 'json' | 'csv', list: Sheet[]): Promise<void> {
  const { text } = await call('sheet.export', { format, sheets: list })
  const name = list.length === 1 ? list[0]!.name : (opened.value?.name ?? '')
  saveFile(`${say('sheet.file')} ${name}.${format}`, format === 'json' ? 'application/json' : 'text/csv', text)
}

async function takeOver(list: Sheet[]): Promise<void> {
  if (!list.length) {
    said.value = say('sheet.import.none')
    return
  }
  const by = await book.who(opened.value ?? (await book.job(props.job, theTime())))
  if (!by) return
  for (const sheet of list) await book.record({ kind: 'sheet.added', jobId: props.job, by, body: { sheet } })
  said.value = say('sheet.import.done', { n: list.length })
}

/** The systems of the job: its own, then those that ship. */
const systems = useLatest(
  () => version.value,
  async () => (await askJob(props.job, 'system.library', {})).systems,
)
const system = shallowRef<System | null>(null)
const listsSystems = ref(false)
const inUse = computed(() => {
  const all = systems.value ?? []
  return all.filter((each) => !all.some((later) => later.replaces === each.id) && found(each.name, find.value))
})
const before = computed(() => systems.value?.find((each) => each.id === system.value?.replaces))
async function takeOverSystems(list: System[]): Promise<void> {
  if (!list.length) {
    said.value = say('sheet.import.none')
    return
  }
  const by = await book.who(opened.value ?? (await book.job(props.job, theTime())))
  if (!by) return
  for (const each of list) await book.record({ kind: 'system.added', jobId: props.job, by, body: { system: each } })
  said.value = say('system.import.done', { n: list.length })
}
async function saveSystem(of: System): Promise<void> {
  const { text } = await call('system.export', { systems: [of] })
  saveFile(`${say('system.file')} ${of.name}.json`, 'application/json', text)
}

async function importFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  error.value = said.value = ''
  try {
    const MOST = 5
    // A larger file is refused by its size alone: it is not read.
    const text = file.size > MOST * 2 ** 20 ? '' : await file.text()
    if (!text) {
      error.value = say('fault.sheet.file_too_large', { value: Math.ceil(file.size / 2 ** 20), most: MOST })
      return
    }
    if (text.includes('"dusha.systems"')) {
      const { systems: list } = await call('system.import', { text, known: systems.value ?? [] })
      await takeOverSystems(list)
      return
    }
    const format = file.name.toLowerCase().endsWith('.csv') ? 'csv' : 'json'
    const { sheets: list } = await call('sheet.import', { format, text, known: sheets.value })
    await takeOver(list)
  } catch (refused) {
    error.value = sayRefusal(refused, '. ')
  } finally {
    input.value = ''
  }
}

/** Sheets of one's own from the other jobs on this tablet. */
async function lookElsewhere(): Promise<void> {
  const others = (await book.jobs(theTime())).filter((job) => job.id !== props.job)
  const own = others.map(async ({ id, name }) => ({
    id,
    name,
    sheets: (await book.sheets(id)).filter((s) => !s.sample),
  }))
  elsewhere.value = (await Promise.all(own)).filter((job) => job.sheets.length)
  if (!elsewhere.value.length) said.value = say('sheet.elsewhere.none')
}
async function bring(sheet: Sheet): Promise<void> {
  await takeOver(sheets.value.some((s) => s.id === sheet.id) ? [] : [sheet])
  elsewhere.value = []
}

const open = (id: string) => router.push(`/job/${props.job}/sheets/${id}`)
const edit = (id: string) => router.push(`/job/${props.job}/sheet/${id}`)
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine :job="props.job" /></template>
    <template #title
      ><h1>{{ say('library.title') }}</h1></template
    >
    <template #line>{{ opened?.name }}</template>
    <TwoSides :phone="shown ? 'side-alone' : 'list-first'">
      <v-text-field v-model="find" :label="say('library.find')" type="search" autocomplete="off" />
      <p v-if="said" class="said" role="status">{{ said }}</p>
      <section v-for="other in elsewhere" :key="other.id">
        <h2 class="sub">{{ other.name }}</h2>
        <button v-for="s in other.sheets" :key="s.id" class="row" @click="bring(s)">
          <span class="grow">{{ s.name }}</span>
          <strong>{{ say('sheet.bring') }}</strong>
        </button>
      </section>
      <LoadingLine v-if="!opened" />
      <p v-else-if="!groups.length" class="said">{{ say('library.none') }}</p>
      <section v-for="group in groups" :key="group.name">
        <h2 class="sub">{{ say(`product.${group.name}`) }}</h2>
        <ul>
          <li v-for="s in group.members" :key="s.id">
            <button
              class="row"
              :aria-current="s.id === props.sheet"
              :class="{ here: s.id === props.sheet }"
              @click="open(s.id)"
            >
              <span class="grow">
                <strong>{{ s.name }}</strong>
                <span class="small revision">{{ s.revision }}</span>
              </span>
              <span v-if="s.sample" class="sample">{{ say('sample.short') }}</span>
            </button>
          </li>
        </ul>
      </section>
      <section v-if="inUse.length">
        <h2 class="sub">{{ say('system.title') }}</h2>
        <button class="row" :aria-expanded="listsSystems" @click="listsSystems = !listsSystems">
          <span class="grow">{{ say('system.count', { n: inUse.length }) }}</span>
          <strong>{{ listsSystems ? say('close') : say('system.show') }}</strong>
        </button>
        <router-link v-if="listsSystems" class="row" :to="`/job/${props.job}/system/blank`">
          <strong class="grow">{{ say('editor.blank.open') }}</strong>
        </router-link>
        <ul v-if="listsSystems">
          <li v-for="each in inUse" :key="each.id">
            <button class="row" @click="system = each">
              <span class="grow">
                <strong>{{ each.name }}</strong>
                <span class="small revision">{{ each.revision }}</span>
              </span>
              <span v-if="each.sample" class="sample">{{ say('sample.short') }}</span>
            </button>
          </li>
        </ul>
      </section>
      <template #side>
        <template v-if="shown">
          <div>
            <h2>{{ shown.name }}</h2>
            <p class="small">
              {{
                [
                  shown.chemistry ? say(`chemistry.${shown.chemistry}`) : say(`product.${role(shown)}`),
                  shown.revision,
                  shown.printed,
                  shown.language,
                ]
                  .filter(Boolean)
                  .join(' · ')
              }}
            </p>
            <p v-if="shown.families?.length" class="small">
              {{ say('sheet.families', { families: shown.families.join(', ') }) }}
            </p>
            <span v-if="shown.sample" class="sample">{{ say('sample') }}</span>
          </div>
          <p v-if="old" class="said">{{ say('sheet.old', { days: old.days }) }}</p>
          <div class="acts">
            <button class="outline narrow" @click="edit(shown.id)">
              {{ shown.sample ? say('plan.fill') : say('sheet.next_printing') }}
            </button>
            <button v-if="hasRate" class="outline narrow" @click="trying = true">
              {{ say('trial.title') }}
            </button>
            <a
              class="outline narrow"
              :href="`/api/jobs/${props.job}/sheets/${shown.id}/sheet.pdf`"
              target="_blank"
              rel="noopener"
              >{{ say('editor.pdf') }}</a
            >
            <button class="outline narrow" @click="save('json', [shown])">{{ say('sheet.out.json') }}</button>
            <button class="outline narrow" @click="save('csv', [shown])">{{ say('sheet.out.csv') }}</button>
          </div>
          <FilmPanel v-if="film && role(shown) === 'membrane'" :film="film" />
          <section v-if="printings.length > 1">
            <h2 class="sub">{{ say('sheet.printings') }}</h2>
            <button
              v-for="p in printings"
              :key="p.id"
              class="row"
              :aria-current="p.id === shown.id"
              @click="open(p.id)"
            >
              <span class="grow"
                >{{ p.revision }}
                <span class="small">{{ [p.printed, p.language].filter(Boolean).join(' · ') }}</span></span
              >
              <strong>{{ replaced.has(p.id) ? say('sheet.replaced') : say('sheet.in_use') }}</strong>
            </button>
          </section>
          <PrintedFiles v-if="shown.files?.length" :job="props.job" :files="shown.files" fixed />
          <section>
            <h2 class="sub">{{ say('sheet.as_printed') }}</h2>
            <p v-for="line in printed" :key="line.name" class="line">
              <span class="grow">{{ fieldName(line.name) }}</span>
              <strong>{{ line.says }}</strong>
              <span v-if="line.trial" class="small">{{ say('trial.from') }}</span>
            </p>
          </section>
        </template>
        <p v-else-if="opened" class="said">{{ say('library.pick') }}</p>
      </template>
    </TwoSides>
    <TrialSheet v-if="trying && shown && opened" :job="opened" :sheet="shown" @close="trying = false" />
    <template #ledge>
      <TheLedge :error="error">
        <template #facts>{{
          say('library.count', {
            n: sheets.filter((s) => !s.sample).length,
            samples: sheets.filter((s) => s.sample).length,
          })
        }}</template>
        <template #outline>
          <router-link :to="shown ? `/job/${props.job}/sheets` : `/job/${props.job}`" class="outline">{{
            shown ? say('library.back') : say('job.up')
          }}</router-link>
          <button class="outline" @click="lookElsewhere">{{ say('sheet.elsewhere') }}</button>
          <button
            class="outline"
            @click="save('json', sheets.filter((s) => !s.sample).length ? sheets.filter((s) => !s.sample) : sheets)"
          >
            {{ say('library.out') }}
          </button>
        </template>
        <template #mitre>
          <MitreButton
            :label="say('sheet.import')"
            :line="say('sheet.import.line')"
            @click="($refs.picked as HTMLInputElement).click()"
          />
          <input
            ref="picked"
            type="file"
            accept=".json,.csv"
            class="visually-hidden"
            tabindex="-1"
            :aria-label="say('sheet.import')"
            @change="importFile"
          />
        </template>
      </TheLedge>
    </template>
    <SystemSheet
      v-if="system"
      :job="props.job"
      :system="system"
      :before="before"
      @close="system = null"
      @save="saveSystem(system)"
    />
  </AppFrame>
</template>

<style scoped>
.revision {
  margin-inline-start: 8px;
}
.here {
  background: var(--sunk);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.line {
  display: flex;
  gap: 12px;
  padding: 6px 0;
  border-bottom: 1.5px solid var(--line);
}
.line .grow {
  flex: 1;
}
</style>
