<script setup lang="ts">
// Devices that were paired, for who looks after the server: when they were seen, what they still hold,
// a code for the next one, and what was done.
import { computed, onMounted, ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { now } from '../../data/clock'
import { ask, faultsOf, Unreached } from '../../data/outbox'
import AppFrame from '../../parts/AppFrame.vue'
import OneOf from '../../parts/OneOf.vue'
import MitreButton from '../../parts/MitreButton.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import SideSheet from '../../parts/SideSheet.vue'
import TheLedge from '../../parts/TheLedge.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { say, sayFault } from '../../words/words'

const QUICK = 10_000
const isId = (text: string) => /^[0-9a-f]{8}-[0-9a-f-]{27}$/.test(text)
const book = useBook()
const known = shallowRef<Schemas['DevicesOutBody'] | null>(null)
const error = ref('')

/** Asks; what was refused is said, and gives nothing. */
async function asked<T>(path: string, options: RequestInit = {}): Promise<T | null> {
  error.value = ''
  try {
    const answer = await ask(path, QUICK, options)
    if (answer.ok) return (answer.status === 204 ? {} : await answer.json()) as T
    error.value = (await faultsOf(answer)).map(sayFault).join('. ')
  } catch (failed) {
    if (!(failed instanceof Unreached)) throw failed
    error.value = say('pair.unreached')
  }
  return null
}

async function load(): Promise<void> {
  known.value = (await asked<Schemas['DevicesOutBody']>('/api/devices')) ?? known.value
  const named = [...(known.value?.pins ?? []), ...(known.value?.audit ?? []).map(({ subject }) => subject)]
  // Roles and jobs are told by the jobs alone, and reading all of them takes its time.
  if (named.some((id) => isId(id) && !called.value.has(id))) jobs.value = await book.jobs(now())
}
onMounted(load)

const ROLES = ['crew', 'inspector', 'owner']
const pairing = ref(false)
const role = ref('')
const offer = shallowRef<Schemas['OfferOutBody'] | null>(null)
async function make(picked: string): Promise<void> {
  role.value = picked
  offer.value = await asked<Schemas['OfferOutBody']>('/api/pairings', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ role: picked }),
  })
}
async function close(): Promise<void> {
  pairing.value = false
  role.value = ''
  offer.value = null
  await load()
}

type Device = Schemas['ApiDeviceLine']
const revoking = shallowRef<Device | null>(null)
async function revoke(): Promise<void> {
  if (!revoking.value) return
  await asked(`/api/devices/${revoking.value.id}`, { method: 'DELETE' })
  revoking.value = null
  await load()
}

const jobs = shallowRef<Job[]>([])
/** names of jobs, people and devices, as far as they are known here, by id */
const called = computed(
  () =>
    new Map([
      ...jobs.value.map((job) => [job.id, job.name] as const),
      ...jobs.value.flatMap((job) => job.people.map(({ id, role }) => [id, role] as const)),
      ...Object.entries(book.names).filter(([, name]) => name),
      ...(known.value?.devices ?? []).map(({ id, name }) => [id, name] as const),
    ]),
)
/** who set four digits */
const people = computed(() =>
  (known.value?.pins ?? []).map((id) => ({ id, name: called.value.get(id) ?? say('devices.pins.somebody') })),
)
const forgotten = shallowRef<{ id: string; name: string } | null>(null)
async function dropPin(): Promise<void> {
  if (!forgotten.value) return
  await asked(`/api/people/${forgotten.value.id}/pin`, { method: 'DELETE' })
  forgotten.value = null
  await load()
}

function says(device: Device): string {
  if (device.revokedAt) return say('devices.revoked', { at: device.revokedAt })
  const parts = [say('devices.seen', { role: say(`device.role.${device.role}`), at: device.seenAt })]
  if (device.waiting) parts.push(say('devices.waiting', { n: device.waiting }))
  if (device.this) parts.push(say('devices.this'))
  return parts.join(' · ')
}
const trust = () => `${location.origin}/trust`
</script>

<template>
  <AppFrame>
    <template #spine><PlainSpine /></template>
    <template #title
      ><h1>{{ say('devices.title') }}</h1></template
    >
    <template #line>{{ say('devices.line') }}</template>
    <div class="page scroll">
      <p v-if="error" class="said" role="alert">{{ error }}</p>
      <LoadingLine v-if="!known && !error" />
      <template v-if="known">
        <p v-if="!known.devices.length">{{ say('devices.none') }}</p>
        <ul>
          <li v-for="device in known.devices" :key="device.id" class="row device" :class="{ out: device.revokedAt }">
            <span class="grow">
              <strong>{{ device.name }}</strong>
              <span class="small line">{{ says(device) }}</span>
            </span>
            <button v-if="!device.revokedAt && !device.this" class="outline narrow" @click="revoking = device">
              {{ say('devices.revoke') }}<span class="visually-hidden">, {{ device.name }}</span>
            </button>
          </li>
        </ul>
        <template v-if="people.length">
          <h2 class="sub">{{ say('devices.pins') }}</h2>
          <ul>
            <li v-for="person in people" :key="person.id" class="row person">
              <strong class="grow">{{ person.name }}</strong>
              <button class="outline narrow" @click="forgotten = person">
                {{ say('devices.pins.forgotten') }}<span class="visually-hidden">, {{ person.name }}</span>
              </button>
            </li>
          </ul>
        </template>
        <h2 class="sub">{{ say('devices.audit') }}</h2>
        <ul>
          <li v-for="(each, i) in known.audit" :key="i" class="small">
            {{ say('when', { at: each.at }) }} ·
            {{ say(`audit.${each.what}`, { subject: called.get(each.subject) ?? each.subject }) }}
          </li>
        </ul>
      </template>
    </div>
    <SideSheet v-if="pairing" :title="say('devices.pair')" @close="close">
      <OneOf v-slot="{ option }" look="row" :options="ROLES" :picked="role" :label="say('devices.pair')" @pick="make">
        <span class="grow">
          <strong>{{ say(`device.role.${option}`) }}</strong>
          <span class="small line">{{ say(`device.role.${option}.line`) }}</span>
        </span>
      </OneOf>
      <p v-if="error" class="said" role="alert">{{ error }}</p>
      <div v-if="offer" class="offer" role="status">
        <strong class="mono code">{{ offer.code }}</strong>
        <p class="small">{{ say('devices.pair.line', { role: say(`device.role.${role}`), until: offer.until }) }}</p>
        <svg :viewBox="`0 0 ${offer.modules} ${offer.modules}`" role="img" :aria-label="say('devices.pair.picture')">
          <rect width="100%" height="100%" fill="#fff" />
          <path :d="offer.picture" fill="#000" />
        </svg>
        <p>{{ say('devices.pair.scan', { link: offer.link.split('#')[0] }) }}</p>
        <p class="small">{{ say('devices.pair.trust', { link: trust() }) }}</p>
      </div>
    </SideSheet>
    <SideSheet v-if="revoking" :title="`${say('devices.revoke')}: ${revoking.name}`" @close="revoking = null">
      <p>{{ say('devices.revoke.line') }}</p>
      <p v-if="revoking.waiting">{{ say('devices.waiting', { n: revoking.waiting }) }}</p>
      <template #action>
        <button class="outline" @click="revoking = null">{{ say('cancel') }}</button>
        <button class="outline" @click="revoke">{{ say('devices.revoke') }}</button>
      </template>
    </SideSheet>
    <SideSheet
      v-if="forgotten"
      :title="`${say('devices.pins.forgotten')}: ${forgotten.name}`"
      @close="forgotten = null"
    >
      <p>{{ say('devices.pins.line') }}</p>
      <template #action>
        <button class="outline" @click="forgotten = null">{{ say('cancel') }}</button>
        <button class="outline" @click="dropPin">{{ say('devices.pins.drop') }}</button>
      </template>
    </SideSheet>
    <template #ledge>
      <TheLedge>
        <template #mitre>
          <MitreButton v-if="!pairing" :label="say('devices.pair')" @click="pairing = true" />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.page {
  height: 100%;
  padding: 12px 24px;
  display: grid;
  align-content: start;
  gap: 10px;
}
.line {
  display: block;
}
.device.out strong {
  text-decoration: line-through;
  color: var(--ink2);
}
.offer {
  display: grid;
  gap: 10px;
  justify-items: start;
  padding-top: 16px;
}
.code {
  font-size: 40px;
  letter-spacing: 0.06em;
}
.offer svg {
  width: min(100%, 320px);
}
</style>
