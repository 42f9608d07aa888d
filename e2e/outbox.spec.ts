// The outbox on the real local copy: whatever the server answers, nothing is lost, nothing stops
// what is behind it, and what is only here can be saved and taken in elsewhere.
import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page, Route } from '@playwright/test'
import { asCrewLead, beginArea, expect, mitre, openShower, test, type House } from './house'

declare global {
  interface Window {
    /** the device has no room */
    full?: boolean
  }
}

interface Sent {
  entries: { id: string; kind: string; body: { name?: string } }[]
}

const jobOf = (page: Page) => /job\/([0-9a-f-]+)/.exec(page.url())![1]!

/** Opens the page; gives the id of a job that is not there yet. */
async function aJob(page: Page, house: House): Promise<string> {
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible()
  return randomUUID()
}

/** Puts entries into the outbox as the page does, each so long if it is asked. */
async function put(page: Page, job: string, names: string[], act = false, length = 0): Promise<string[]> {
  return page.evaluate(
    async ([job, names, act, length]) => {
      const open = indexedDB.open('dusha')
      await new Promise((resolve) => (open.onsuccess = resolve))
      const write = open.result.transaction('entries', 'readwrite').objectStore('entries')
      const time = Date.now().toString(16).padStart(12, '0')
      const ids = names.map((name, i) => {
        const random = String(Math.floor(Math.random() * 1e12)).padStart(12, '0')
        const id = `${time.slice(0, 8)}-${time.slice(8)}-7${String(i).padStart(3, '0')}-8000-${random}`
        const texts = Array.from({ length: length / 10_000 }, (_, n) => [`text${n}`, 'x'.repeat(10_000)])
        const begun = { form: 'rectangle', typed: Object.fromEntries(texts) as object, check: false }
        const of = length ? { kind: 'pattern.kept', body: { name, begun } } : { kind: 'job.renamed', body: { name } }
        const entry = { id, jobId: job, at: new Date().toISOString(), by: id, ...of }
        const bytes = JSON.stringify(entry)
        write.put({ id, jobId: job, areaId: '', bytes, state: 'waiting', notBefore: 0, faults: [] })
        return id
      })
      if (act)
        for (const id of ids)
          write.get(id).onsuccess = (e) => write.put({ ...(e.target as IDBRequest<object>).result, act: ids[0] })
      await new Promise((resolve) => (write.transaction.oncomplete = resolve))
      return ids
    },
    [job, names, act, length] as const,
  )
}

/** Another device keeps an entry. */
async function keepElsewhere(url: string, job: string, name: string): Promise<void> {
  const [id, by, at] = [randomUUID(), randomUUID(), new Date().toISOString()]
  const answer = await fetch(`${url}/api/jobs/${job}/entries`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ entries: [{ id, jobId: job, kind: 'job.renamed', at, by, body: { name } }] }),
  })
  expect(await answer.text()).toContain('"status":201')
}

/** How many entries of a job are on the device. */
const countOf = (page: Page, job: string) =>
  page.evaluate(async (job) => {
    const open = indexedDB.open('dusha')
    await new Promise((resolve) => (open.onsuccess = resolve))
    const count = open.result.transaction('entries').objectStore('entries').index('jobId').count(job)
    await new Promise((resolve) => (count.onsuccess = resolve))
    return count.result
  }, job)

const stateOf = (page: Page, id: string) =>
  page.evaluate(async (id) => {
    const open = indexedDB.open('dusha')
    await new Promise((resolve) => (open.onsuccess = resolve))
    const get = open.result.transaction('entries').objectStore('entries').get(id)
    await new Promise((resolve) => (get.onsuccess = resolve))
    return (get.result as { state: string } | undefined)?.state ?? 'none'
  }, id)

const onServer = async (url: string, job: string): Promise<string> =>
  (await fetch(`${url}/api/jobs/${job}/entries?after=0`)).text()

const refuse = (route: Route, status: number) =>
  route.fulfill({ status, contentType: 'application/problem+json', body: '{"faults":[]}' })

const sent = (route: Route) => JSON.parse(route.request().postData()!) as Sent
const posts = '**/api/jobs/*/entries'

test('whatever the server answers, nothing stops what is behind it', async ({ page, house, complaints }) => {
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible()

  await test.step('an entry the server fails on stops none behind it, and goes when it can', async () => {
    const job = randomUUID()
    let failing = true
    await page.route(posts, (route) => {
      if (route.request().method() !== 'POST') return route.continue()
      const poisoned = sent(route).entries.some((entry) => entry.body.name === 'Poison')
      return poisoned && failing ? refuse(route, 500) : route.continue()
    })
    const [before, poison, behind] = await put(page, job, ['Before', 'Poison', 'Behind'])
    for (const id of [before, behind]) await expect.poll(() => stateOf(page, id!), { timeout: 20_000 }).toBe('sent')
    expect(await stateOf(page, poison!)).toBe('waiting')
    failing = false
    await expect.poll(() => stateOf(page, poison!), { timeout: 30_000 }).toBe('sent')
    await page.unroute(posts)
  })

  await test.step('a batch that is too large goes in halves, and one job stops no other', async () => {
    const job = randomUUID()
    const other = randomUUID()
    const sizes: number[] = []
    await page.route(posts, (route) => {
      if (route.request().method() !== 'POST') return route.continue()
      if (route.request().url().includes(other)) return refuse(route, 503)
      sizes.push(sent(route).entries.length)
      return sizes.at(-1)! > 3 ? refuse(route, 413) : route.continue()
    })
    const [stuck] = await put(page, other, ['Of the other job'])
    const ids = await put(page, job, ['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H'])
    for (const id of ids) await expect.poll(() => stateOf(page, id), { timeout: 20_000 }).toBe('sent')
    expect(Math.max(...sizes)).toBe(8)
    expect(sizes).toContain(4)
    expect(await stateOf(page, stuck!)).toBe('waiting')
    await page.unroute(posts)
    await expect.poll(() => stateOf(page, stuck!), { timeout: 40_000 }).toBe('sent')
  })

  await test.step('what is refused by itself is set aside, also where it is too large alone', async () => {
    const job = randomUUID()
    await page.route(posts, (route) => {
      if (route.request().method() !== 'POST') return route.continue()
      return sent(route).entries.some((entry) => entry.body.name === 'Huge') ? refuse(route, 413) : route.continue()
    })
    const [huge, fine] = await put(page, job, ['Huge', 'Another'])
    await expect.poll(() => stateOf(page, huge!), { timeout: 20_000 }).toBe('aside')
    await expect.poll(() => stateOf(page, fine!), { timeout: 20_000 }).toBe('sent')
    await expect(page.getByRole('button', { name: '1 set aside' })).toBeVisible()
    await page.unroute(posts)
  })

  await test.step('nine megabytes go in batches that the server takes', async () => {
    const job = randomUUID()
    const sizes: number[] = []
    await page.route(posts, (route) => {
      if (route.request().method() === 'POST') sizes.push(route.request().postDataBuffer()!.length)
      return route.continue()
    })
    const ids = await put(
      page,
      job,
      Array.from({ length: 90 }, (_, i) => `Note ${i}`),
      false,
      100_000,
    )
    await expect.poll(() => stateOf(page, ids.at(-1)!), { timeout: 60_000 }).toBe('sent')
    for (const id of ids) expect(await stateOf(page, id)).toBe('sent')
    expect(sizes.reduce((sum, size) => sum + size, 0)).toBeGreaterThan(9_000_000)
    expect(Math.max(...sizes)).toBeLessThan(1.2 * 1024 * 1024)
    await page.unroute(posts)
  })

  await test.step('a job that never gets an answer holds up no other, nor what others kept', async () => {
    const [hung, fine, theirs] = [randomUUID(), randomUUID(), randomUUID()]
    const held: Route[] = []
    await page.route(`**/api/jobs/${hung}/entries`, (route) => void held.push(route))
    const [stuck] = await put(page, hung, ['Hangs'])
    await expect.poll(() => held.length, { timeout: 20_000 }).toBe(1)
    const [id] = await put(page, fine, ['Goes'])
    await expect.poll(() => stateOf(page, id!), { timeout: 20_000 }).toBe('sent')
    await keepElsewhere(house.url, theirs, 'Kept by another')
    await expect.poll(() => countOf(page, theirs), { timeout: 20_000 }).toBe(1)
    expect(await stateOf(page, stuck!)).toBe('waiting')
    await held[0]!.continue()
    await page.unroute(`**/api/jobs/${hung}/entries`)
    await expect.poll(() => stateOf(page, stuck!), { timeout: 30_000 }).toBe('sent')
  })

  await test.step('401 sets nothing aside, 403 each entry that may not', async () => {
    const job = randomUUID()
    let status = 401
    await page.route(posts, (route) =>
      status && route.request().method() === 'POST' ? refuse(route, status) : route.continue(),
    )
    const ids = await put(page, job, ['Shut', 'Shut too'])
    await page.waitForTimeout(3500)
    for (const id of ids) expect(await stateOf(page, id)).toBe('waiting')
    status = 0
    for (const id of ids) await expect.poll(() => stateOf(page, id), { timeout: 40_000 }).toBe('sent')
    status = 403
    const barred = await put(page, job, ['Barred', 'Barred too'])
    for (const id of barred) await expect.poll(() => stateOf(page, id), { timeout: 20_000 }).toBe('aside')
    await page.unroute(posts)
  })

  await test.step('the entries of one press are one delivery', async () => {
    const job = randomUUID()
    const batches: string[][] = []
    await page.route(posts, (route) => {
      if (route.request().method() === 'POST') batches.push(sent(route).entries.map((entry) => entry.id))
      return route.continue()
    })
    const single = await put(
      page,
      job,
      Array.from({ length: 98 }, (_, i) => `Before ${i}`),
    )
    const act = await put(page, job, ['One', 'Two', 'Three'], true)
    for (const id of [single.at(-1)!, ...act])
      await expect.poll(() => stateOf(page, id), { timeout: 20_000 }).toBe('sent')
    expect(batches.find((batch) => batch.includes(act[0]!))).toEqual(expect.arrayContaining(act))
    await page.unroute(posts)
  })

  await test.step('what this device delivered itself it does not fetch back', async () => {
    const job = randomUUID()
    await expect(page.locator('.kept')).toContainText('All sent')
    let fetched = 0
    await page.route(`**/api/jobs/${job}/entries?after=*`, (route) => {
      fetched++
      return route.continue()
    })
    const [id] = await put(page, job, ['Another'])
    await expect.poll(() => stateOf(page, id!), { timeout: 20_000 }).toBe('sent')
    await page.waitForTimeout(4000)
    expect(fetched).toBe(0)
  })
  complaints.length = 0 // the refusals are what this test is about
})

/** Puts a name or a photo into its own store, to be delivered. */
const putInto = (page: Page, store: 'names' | 'photos', id: string, job: string) =>
  page.evaluate(
    async ([store, id, job]) => {
      const open = indexedDB.open('dusha')
      await new Promise((resolve) => (open.onsuccess = resolve))
      const canvas = new OffscreenCanvas(8, 8)
      canvas.getContext('2d')!.fillRect(0, 0, 8, 8)
      const jpeg = await canvas.convertToBlob({ type: 'image/jpeg' })
      const write = open.result.transaction(store, 'readwrite').objectStore(store)
      write.put(store === 'names' ? { id, name: `Name ${id}`, waiting: 1 } : { id, jobId: job, jpeg, waiting: 1 })
      await new Promise((resolve) => (write.transaction.oncomplete = resolve))
    },
    [store, id, job] as const,
  )

const waitingOf = (page: Page, store: 'names' | 'photos', id: string) =>
  page.evaluate(
    async ([store, id]) => {
      const open = indexedDB.open('dusha')
      await new Promise((resolve) => (open.onsuccess = resolve))
      const get = open.result.transaction(store).objectStore(store).get(id)
      await new Promise((resolve) => (get.onsuccess = resolve))
      return (get.result as { waiting: number }).waiting
    },
    [store, id] as const,
  )

test('names and photos have each their own outcome', async ({ page, house, complaints }) => {
  test.setTimeout(180_000)
  const job = await aJob(page, house)
  const [first] = await put(page, job, ['The job of the photos'])
  await expect.poll(() => stateOf(page, first!), { timeout: 20_000 }).toBe('sent')
  const stores = ['names', 'photos'] as const
  const paths = { names: '**/api/people/*', photos: '**/api/jobs/*/photos/*' }

  for (const store of stores) {
    await test.step(`${store} go again after 500 and 401, and are set aside by 409 and 413`, async () => {
      const answers = new Map<string, number>()
      await page.route(paths[store], (route) => {
        const status = answers.get(route.request().url().split('/').at(-1)!)
        return status ? refuse(route, status) : route.continue()
      })
      const ids = new Map([500, 401, 409, 413, 0].map((status) => [status, randomUUID()] as const))
      for (const [status, id] of ids) answers.set(id, status)
      for (const id of ids.values()) await putInto(page, store, id, job)
      await expect.poll(() => waitingOf(page, store, ids.get(0)!), { timeout: 20_000 }).toBe(0)
      for (const status of [409, 413])
        await expect.poll(() => waitingOf(page, store, ids.get(status)!), { timeout: 20_000 }).toBe(2)
      for (const status of [500, 401]) expect(await waitingOf(page, store, ids.get(status)!)).toBe(1)
      answers.clear()
      for (const status of [500, 401])
        await expect.poll(() => waitingOf(page, store, ids.get(status)!), { timeout: 40_000 }).toBe(0)
      await page.locator('.kept').click()
      await expect(page.getByRole('dialog')).toContainText(store === 'names' ? ids.get(409)! : 'A photo')
      await page.keyboard.press('Escape')
      await page.unroute(paths[store])
    })
  }

  await test.step('a photo that hangs holds up no entry', async () => {
    const held: Route[] = []
    await page.route(paths.photos, (route) => void held.push(route))
    const photo = randomUUID()
    await putInto(page, 'photos', photo, job)
    await expect.poll(() => held.length, { timeout: 20_000 }).toBe(1)
    const [id] = await put(page, job, ['Behind the photo'])
    await expect.poll(() => stateOf(page, id!), { timeout: 15_000 }).toBe('sent')
    await held[0]!.continue()
    await page.unroute(paths.photos)
    await expect.poll(() => waitingOf(page, 'photos', photo), { timeout: 20_000 }).toBe(0)
  })
  complaints.length = 0 // the refusals are what this test is about
})

test('a device that is full says so and loses nothing that was typed', async ({ page, house, complaints }) => {
  await page.addInitScript(() => {
    const { value: put } = Object.getOwnPropertyDescriptor(IDBObjectStore.prototype, 'put')! as {
      value: (...what: unknown[]) => IDBRequest<IDBValidKey>
    }
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...what) {
      if (window.full) throw new DOMException('no room', 'QuotaExceededError')
      return put.apply(this, what)
    }
  })
  const fill = (full: boolean) => page.evaluate((full) => (window.full = full), full)
  await beginArea(page, house, 'Full device', 'Bath of the full device')
  await page.getByRole('textbox', { name: 'Length along wall A' }).fill('2400')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Width along wall B' })).toBeVisible()
  await page.route(posts, (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()))
  const [waits] = await put(page, jobOf(page), ['Renamed while there was room'])
  await fill(true)
  await page.getByRole('textbox', { name: 'Width along wall B' }).fill('1810')
  await expect(page.locator('.kept')).toContainText('Device is full')
  // What waits can still be taken off it.
  await page.locator('.kept').click()
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save what is only here' }).click()
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain('Renamed while there was room')
  await page.keyboard.press('Escape')
  await page.reload() // closed while it was full: what was typed is in the small store
  await expect(page.getByRole('textbox', { name: 'Width along wall B' })).toHaveValue('1810')
  await page.getByRole('textbox', { name: 'Width along wall B' }).fill('1820')
  await page.keyboard.press('Enter')
  await expect(page.locator('.kept')).not.toContainText('Device is full')
  await page.unroute(posts)
  await expect.poll(() => stateOf(page, waits!), { timeout: 40_000 }).toBe('sent')
  complaints.length = 0
})

test('two devices with one installation id both deliver, and see each other', async ({ house, browser }) => {
  const job = randomUUID()
  const id = randomUUID()
  const devices = await Promise.all(
    [0, 1].map(async () => {
      const context = await browser.newContext()
      await context.addInitScript((id) => localStorage.setItem('installation', id), id)
      const page = await context.newPage()
      await page.goto(house.url)
      await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible()
      return page
    }),
  )
  await Promise.all(devices.map((page, i) => put(page, job, [`First by ${i}`, `Second by ${i}`])))
  for (const page of devices) await expect.poll(() => countOf(page, job), { timeout: 30_000 }).toBe(4)
  const note = readFileSync(join(house.folder, 'database.pid'), 'utf8').split('\n')[1]!
  const bundle = execFileSync('../.build/dusha', ['export', job, '--database', note])
  expect(execFileSync('../.build/dusha', ['verify'], { input: bundle }).toString()).toContain('4 entries')
  for (const page of devices) await page.context().close()
})

test('what is only here is saved as a file and taken in on another device', async ({
  page,
  house,
  browser,
  complaints,
}) => {
  const job = await aJob(page, house)
  await page.route(posts, (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()))
  const ids = await put(page, job, ['Only on the tablet that dies', 'Another'], true)
  await page.locator('.kept').click()
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save what is only here' }).click()
  const file = await (await saved).path()
  expect(readFileSync(file, 'utf8')).toContain('Only on the tablet that dies')

  const other = await browser.newContext()
  const there = await other.newPage()
  await there.goto(house.url)
  await expect(there.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible()
  await there.locator('.kept').click()
  const choose = there.getByLabel('Take in such a file')
  await choose.setInputFiles({ name: 'wrong.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') })
  await expect(there.getByRole('dialog')).toContainText('That is no such file')
  await choose.setInputFiles(file)
  await expect(there.getByRole('dialog')).toContainText('2 taken in.')
  await expect.poll(() => onServer(house.url, job), { timeout: 20_000 }).toContain('Only on the tablet that dies')
  await other.close()
  // The first device finds it there, once.
  await page.unroute(posts)
  for (const id of ids) await expect.poll(() => stateOf(page, id), { timeout: 40_000 }).toBe('sent')
  expect((await onServer(house.url, job)).split('Only on the tablet that dies').length).toBe(2)
  complaints.length = 0
})

test('a second tab on one survey is told, and takes it over', async ({ page, house, context }) => {
  await beginArea(page, house, 'Two tabs job', 'Twice open')
  await page.getByRole('textbox', { name: 'Length along wall A' }).fill('2400')
  await page.keyboard.press('Enter')
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(second.getByText('open in another tab')).toBeVisible()
  await second.getByRole('button', { name: 'Go on here' }).click()
  await expect(second.getByText('open in another tab')).toHaveCount(0)
  await expect(page.getByText('open in another tab')).toBeVisible()
  await second.close()
  await page.getByRole('button', { name: 'Go on here' }).click()
  await expect(page.getByText('open in another tab')).toHaveCount(0)
})

test('a device half an hour slow keeps the right time, also after a reload without a signal', async ({
  page,
  house,
  complaints,
}) => {
  await page.addInitScript(() => {
    const real = Date.now
    const slow = 30 * 60_000
    const Plain = Date
    Date = new Proxy(Plain, {
      construct: (target, args: []) => (args.length ? new target(...args) : new target(real() - slow)),
      get: (target, name) => (name === 'now' ? () => real() - slow : (Reflect.get(target, name) as unknown)),
    })
  })
  await openShower(page, house)
  const shown = async () => {
    const text = await page.locator('.clock time').innerText()
    const [hours, minutes] = text.split(':').map(Number)
    return hours! * 60 + minutes!
  }
  const right = () => new Date().getUTCHours() * 60 + new Date().getUTCMinutes()
  await expect.poll(async () => Math.abs((await shown()) - right()), { timeout: 15_000 }).toBeLessThan(2)
  await page.route('**/api/**', (route) => route.abort())
  await page.reload()
  await expect(page.locator('.clock time')).toBeVisible()
  expect(Math.abs((await shown()) - right())).toBeLessThan(2)
  await page.unroute('**/api/**')
  // An entry says by how much its time has to be corrected.
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  await page.locator('[data-tap="wall.a"]').click({ position: { x: 26, y: 84 } })
  await page.getByRole('radio', { name: '1.2 mm' }).click()
  const job = jobOf(page)
  await mitre(page, 'Keep').click()
  await asCrewLead(page)
  await expect.poll(() => onServer(house.url, job), { timeout: 40_000 }).toMatch(/clockOffset\\":1(79|80)/)
  complaints.length = 0 // the signal was cut
})

test('a server restored from a backup gets back what it lacks, once', async ({ house, browser }) => {
  const job = randomUUID()
  const note = readFileSync(join(house.folder, 'database.pid'), 'utf8').split('\n')[1]!
  const dusha = (...args: string[]) => execFileSync('../.build/dusha', [...args, '--database', note])
  const devices = await Promise.all(
    ['One', 'Two', 'Three'].map(async (name) => {
      const page = await (await browser.newContext()).newPage()
      await page.goto(house.url)
      // Three at once read and compile the core for the first time.
      await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible({ timeout: 45_000 })
      return { name, page }
    }),
  )
  const deliver = async (what: string) => {
    for (const { name, page } of devices) {
      const [id] = await put(page, job, [`${what} by ${name}`])
      await expect.poll(() => stateOf(page, id!), { timeout: 20_000 }).toBe('sent')
    }
  }
  await deliver('Before the backup')
  const file = join(mkdtempSync(join(tmpdir(), 'dusha-backup-')), 'dusha.backup')
  dusha('backup', file)
  await deliver('After the backup')
  const socket = /unix\(([^)]+)\)/.exec(note)![1]!
  execFileSync('mariadb', [
    '--no-defaults',
    `--socket=${socket}`,
    '-u',
    'root',
    '-e',
    'DROP DATABASE dusha; CREATE DATABASE dusha',
  ])
  dusha('migrate')
  dusha('restore', file)
  await expect
    .poll(async () => ((await onServer(house.url, job)).match(/After the backup by \w+/g) ?? []).sort(), {
      timeout: 60_000,
    })
    .toEqual(['After the backup by One', 'After the backup by Three', 'After the backup by Two'])
  expect((await onServer(house.url, job)).match(/Before the backup by \w+/g)).toHaveLength(3)
  for (const { page } of devices) await page.context().close()
})
