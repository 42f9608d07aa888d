// A firm's own server: devices are paired over TLS by a one-time code, work without signal, are shut out
// and paired again, and nothing is lost or delivered twice.
import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { createHash, X509Certificate } from 'node:crypto'
import { chromium, type Browser, type BrowserContext, type Locator, type Page } from '@playwright/test'
import { asCrewLead, expect, mitre, sign, test as base, type House } from './house'

class Firm {
  url = ''
  private process: ChildProcess | undefined
  readonly database: string
  private readonly folder: string
  constructor(house: House) {
    this.folder = join(house.folder, 'certificates')
    this.database = readFileSync(join(house.folder, 'database.pid'), 'utf8').split('\n')[1]!
  }

  private args = (...args: string[]) => [...args, '--database', this.database]

  async start(): Promise<void> {
    const port = 20_000 + Math.floor(Math.random() * 20_000)
    const started = spawn(
      '../.build/dusha',
      this.args('serve', '--listen', `0.0.0.0:${port}`, '--certificates', this.folder),
    )
    this.process = started
    let log = ''
    started.stderr.on('data', (text: Buffer) => (log += String(text)))
    await new Promise<void>((resolve, reject) => {
      started.stdout.on('data', (text: Buffer) => {
        if (String(text).includes('Dusha is at')) resolve()
      })
      started.on('exit', () => reject(new Error(`the server ended: ${log}`)))
    })
    this.url = `https://localhost:${port}`
  }

  /** A browser that trusts this server, as one does that was told to trust its authority. */
  async browser(): Promise<Browser> {
    const shown = new X509Certificate(readFileSync(join(this.folder, 'server.crt')))
    const key = createHash('sha256')
      .update(shown.publicKey.export({ type: 'spki', format: 'der' }))
      .digest('base64')
    const { launchOptions = {} } = test.info().project.use
    const args = [...(launchOptions.args ?? []), `--ignore-certificate-errors-spki-list=${key}`]
    return chromium.launch({ ...launchOptions, args })
  }

  pair(role: string): string {
    const { stdout, stderr } = spawnSync('../.build/dusha', this.args('pair', '--role', role, '--address', this.url))
    const code = /^[2-9A-Z]{4}-[2-9A-Z]{4}$/m.exec(String(stdout))
    if (!code) throw new Error(`${String(stdout)} ${String(stderr)}`)
    return code[0]
  }

  /** What `verify` says of a job's bundle. */
  verify(job: string): string {
    const bundle = spawnSync('../.build/dusha', this.args('export', job), { maxBuffer: 1 << 28 }).stdout
    return String(spawnSync('../.build/dusha', ['verify'], { input: bundle }).stdout)
  }

  end(): void {
    this.process?.kill('SIGTERM')
  }
}

const test = base.extend<{ firm: Firm; complaints: string[] }>({
  firm: async ({ house }, use) => {
    const firm = new Firm(house)
    await expect(async () => firm.start()).toPass({ timeout: 20_000 })
    await use(firm)
    firm.end()
  },
  // a browser complains of each 401
  complaints: async ({}, use) => {
    await use([])
  },
})

async function device(browser: Browser, of: BrowserContext[]): Promise<Page> {
  const { viewport = null } = test.info().project.use
  const context = await browser.newContext({ viewport })
  of.push(context)
  return context.newPage()
}

async function pairBy(page: Page, name: string): Promise<void> {
  await page.getByLabel('What is this device called?').fill(name)
  await page.getByRole('button', { name: 'Pair', exact: true }).click()
  await expect(page.getByRole('link', { name: /Fennick Lake Hostel/ })).toBeVisible({ timeout: 30_000 })
}

/** Takes the hand-over of the drying room back and signs it again on this device, by digits it asks for. */
async function signAnew(page: Page, firm: Firm, digits: (sheet: Locator) => Promise<void>): Promise<void> {
  const { job, area } = await page.evaluate(async () => {
    interface Entry {
      id: string
      areaId?: string
      by: string
      kind: string
      body: { name?: string }
    }
    const { jobs } = (await (await fetch('/api/jobs')).json()) as { jobs: { id: string }[] }
    for (const { id: job } of jobs) {
      const kept = (await (await fetch(`/api/jobs/${job}/entries`)).json()) as { entries: { bytes: string }[] }
      const entries = kept.entries.map(({ bytes }) => JSON.parse(bytes) as Entry)
      const area = entries.find((e) => e.kind === 'area.opened' && e.body.name === 'Drying room')?.areaId
      const old = entries.filter((e) => e.kind === 'signed' && e.areaId === area).at(-1)
      if (!area || !old) continue
      const back = {
        id: crypto.randomUUID(),
        jobId: job,
        areaId: area,
        kind: old.kind,
        at: new Date().toISOString(),
        by: old.by,
        corrects: old.id,
        reason: 'signed again',
        body: null,
      }
      await fetch(`/api/jobs/${job}/entries`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ entries: [back] }),
      })
      return { job, area }
    }
    throw new Error('no drying room')
  })
  await page.goto(`${firm.url}/job/${job}/area/${area}/hand_over`)
  await sign(page, 'Crew lead')
  const asked = page.getByRole('dialog', { name: 'Four digits of Crew lead' })
  const who = page.getByRole('dialog').getByRole('button', { name: 'Crew lead' })
  await expect(asked.getByLabel('Four digits').or(who)).toBeVisible()
  if (await who.isVisible()) await who.click()
  await digits(asked)
  await expect(page.getByText(/Signed by Crew lead/)).toBeVisible()
  const fits = /given on “Laptop of the office” \(owner\), and it fits its key/
  await expect.poll(() => firm.verify(job), { timeout: 30_000 }).toMatch(fits)
  await page.goto(firm.url)
}

test('a tablet is paired, works without signal, is shut out, paired again, and delivers once', async ({ firm }) => {
  test.setTimeout(180_000)
  const contexts: BrowserContext[] = []
  const browser = await firm.browser()
  const owner = await device(browser, contexts)
  await owner.goto(firm.url)
  await owner.getByRole('link', { name: 'Pair this device' }).first().click()
  await expect(owner.getByText('This server does not know this device yet.')).toBeVisible()
  await owner.getByLabel('Code').fill('2222-2222')
  await owner.getByLabel('What is this device called?').fill('Laptop of the office')
  await owner.getByRole('button', { name: 'Pair', exact: true }).click()
  await expect(owner.getByRole('alert')).toHaveText('Code: used, too old or mistyped. Ask for a new one')
  await owner.getByLabel('Code').fill(firm.pair('owner').toLowerCase())
  await pairBy(owner, 'Laptop of the office')

  // A signature given here carries the device's own; the bundle holds its key.
  await signAnew(owner, firm, async (pin) => {
    await pin.getByLabel('Four digits').fill('4711')
    await pin.getByLabel('The same again').fill('4712')
    await pin.getByRole('button', { name: 'Go on' }).click()
    await expect(pin.getByRole('alert')).toHaveText('They were not the same twice.')
    await pin.getByLabel('The same again').fill('4711')
    await pin.getByRole('button', { name: 'Go on' }).click()
  })

  // The owner shows a code; the tablet's camera follows its link.
  await owner.getByRole('link', { name: 'Devices' }).click()
  // Digits that were forgotten are taken away, by who looks after the server.
  await owner.locator('.person', { hasText: 'Crew lead' }).getByRole('button', { name: 'Forgotten' }).click()
  await owner.getByRole('button', { name: 'Take the digits away' }).click()
  await expect(owner.locator('.person')).toHaveCount(0)
  // This device still knows the old ones, asks for them, and learns that others are to be chosen. Without
  // the server it rests by itself after five wrong ones.
  await signAnew(owner, firm, async (pin) => {
    await pin.getByLabel('Four digits').fill('0815')
    await pin.getByRole('button', { name: 'Go on' }).click()
    await expect(pin.getByRole('alert')).toHaveText(/choose others/)
    for (const label of ['Four digits', 'The same again']) await pin.getByLabel(label).fill('0815')
    await pin.getByRole('button', { name: 'Go on' }).click()
  })
  await signAnew(owner, firm, async (pin) => {
    await contexts[0]!.setOffline(true)
    for (let tries = 0; tries < 5; tries++) {
      await pin.getByLabel('Four digits').fill('1111')
      await pin.getByRole('button', { name: 'Go on' }).click()
      await expect(pin.getByRole('alert')).toHaveText(/not the right ones/)
      await expect(pin.getByLabel('Four digits')).toHaveValue('')
    }
    await pin.getByLabel('Four digits').fill('0815')
    await pin.getByRole('button', { name: 'Go on' }).click()
    await expect(pin.getByRole('alert')).toHaveText(/too many wrong ones: wait until/)
    await contexts[0]!.setOffline(false)
    await owner.clock.install({ time: new Date(Date.now() + 61_000) })
    await pin.getByLabel('Four digits').fill('0815')
    await pin.getByRole('button', { name: 'Go on' }).click()
  })
  await owner.goto(`${firm.url}/devices`)
  await expect(owner.getByText(/^.*Four digits were taken away/).first()).toBeVisible()
  const offer = async (): Promise<string> => {
    await owner.getByRole('button', { name: 'Pair a device' }).click()
    await owner.getByRole('radio', { name: /crew/ }).click()
    const code = await owner.locator('.offer .code').innerText()
    await expect(owner.getByRole('img', { name: 'QR picture of the link' })).toBeVisible()
    await owner.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
    return code
  }
  const tablet = await device(browser, contexts)
  await tablet.goto(`${firm.url}/pair#${await offer()}`)
  await pairBy(tablet, 'Tablet of the van')
  await tablet.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await expect(tablet.getByRole('link', { name: /Shower room 1/ })).toBeVisible()
  await expect(tablet.getByRole('status').filter({ hasText: 'All sent' })).toBeVisible()

  await expect(tablet.locator('html[data-offline="ready"]')).toBeAttached()

  // In a basement it goes on, and is shut out meanwhile.
  await contexts[1]!.setOffline(true)
  await tablet.getByRole('button', { name: /Measure a wet area/ }).click()
  await tablet.getByLabel('Name of the wet area').fill('Boiler room')
  await tablet.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
  await asCrewLead(tablet)
  await expect(tablet.getByText(/kept here/)).toBeVisible({ timeout: 30_000 })
  await owner.reload()
  await owner.locator('.device', { hasText: 'Tablet of the van' }).getByRole('button').click()
  await owner.getByRole('dialog').getByRole('button', { name: 'Shut out', exact: true }).click()
  await expect(owner.locator('.device', { hasText: 'Tablet of the van' })).toContainText('shut out')

  // It comes back: it is told, and keeps what it has.
  await contexts[1]!.setOffline(false)
  await expect(tablet.getByRole('status').filter({ hasText: 'Not paired' })).toBeVisible({ timeout: 60_000 })
  const code = await offer()
  await tablet.getByRole('link', { name: 'Pair this device' }).click()
  await expect(tablet.getByText('This device was shut out.')).toBeVisible()
  await expect(tablet.getByText(/kept here\. They go out once it is paired/)).toBeVisible()
  await tablet.getByLabel('Code').fill(code)
  await pairBy(tablet, 'Tablet of the van, again')
  await expect(tablet.getByRole('status').filter({ hasText: 'All sent' })).toBeVisible({ timeout: 30_000 })

  // Once, for everyone.
  await owner.goto(firm.url)
  await owner.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await expect(owner.getByRole('link', { name: /Boiler room/ })).toHaveCount(1, { timeout: 30_000 })
  await owner.goto(`${firm.url}/devices`)
  await expect(owner.getByText(/Paired: crew Tablet of the van, again/)).toBeVisible()
  await browser.close()
})

/** Pairs a new device with a firm. */
async function paired(browser: Browser, firm: Firm, role: string, name: string, clock?: Date): Promise<Page> {
  const page = await device(browser, [])
  if (clock) await page.clock.install({ time: clock })
  await page.goto(`${firm.url}/pair#${firm.pair(role)}`)
  await pairBy(page, name)
  return page
}

const hostel = async (page: Page): Promise<string> => {
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await expect(page).toHaveURL(/\/job\//)
  await expect(page.getByRole('link', { name: /Shower room 1/ })).toBeVisible()
  return /job\/([0-9a-f-]+)/.exec(page.url())![1]!
}

interface Kept {
  id: string
  receivedAt: string
  bytes: string
}

const keptOf = (page: Page, job: string) =>
  page.evaluate(
    async (job) => ((await (await fetch(`/api/jobs/${job}/entries`)).json()) as { entries: Kept[] }).entries,
    job,
  )

/** Begins an area from the list of a job. */
async function areaNamed(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: /Measure a wet area/ }).click()
  await page.getByLabel('Name of the wet area').fill(name)
  await page.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
}

const DAY = 86_400_000

test('a clock that is a year off, and a week in a basement', async ({ firm }) => {
  test.setTimeout(180_000)
  const browser = await firm.browser()
  // A year ahead: it is paired, learns what time it is, and what it keeps is of now.
  const wrong = await paired(browser, firm, 'crew', 'Phone with a wrong clock', new Date(Date.now() + 365 * DAY))
  const job = await hostel(wrong)
  await areaNamed(wrong, 'Attic shower')
  await asCrewLead(wrong)
  const found = async () => (await keptOf(wrong, job)).find(({ bytes }) => bytes.includes('Attic shower'))
  await expect.poll(found, { timeout: 30_000 }).toBeTruthy()
  const attic = (await found())!
  // It says its own time and what has to be added to have the server's.
  const said = JSON.parse(attic.bytes) as { at: string; clockOffset: number }
  const off = Date.parse(said.at) + said.clockOffset - Date.parse(attic.receivedAt)
  expect(Math.abs(off)).toBeLessThan(60_000)
  await wrong.context().close()

  // A tablet goes down into a basement, and comes up after seven days.
  const tablet = await device(browser, [])
  // A server of those days would have said their time.
  await tablet.addInitScript(() => {
    const got = Object.getOwnPropertyDescriptor(Headers.prototype, 'get')!.value as typeof Headers.prototype.get
    Headers.prototype.get = function (name) {
      return name === 'Dusha-Time' ? null : got.call(this, name)
    }
  })
  await tablet.clock.install()
  await tablet.goto(`${firm.url}/pair#${firm.pair('crew')}`)
  await pairBy(tablet, 'Tablet of the basement')
  await hostel(tablet)
  await expect(tablet.locator('html[data-offline="ready"]')).toBeAttached()
  const before = (await keptOf(tablet, job)).length
  await tablet.context().setOffline(true)
  const names = ['Day one', 'Day three', 'Day six']
  for (const [i, name] of names.entries()) {
    if (i) await tablet.clock.fastForward(2 * DAY)
    await areaNamed(tablet, name)
    await asCrewLead(tablet) // another shift, each time
    await expect(tablet.getByRole('heading', { name })).toBeVisible()
    await tablet.goto(`${firm.url}/job/${job}`)
    await tablet.getByRole('link', { name: /Cellar wall/ }).click()
    await tablet.locator('.stage').filter({ hasText: 'Survey' }).getByRole('button').click()
    await tablet.getByRole('button', { name: 'Base, leaks, past' }).click()
    const dot = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
    await tablet
      .getByLabel('Add a photo')
      .setInputFiles({ name: 'wall.png', mimeType: 'image/png', buffer: Buffer.from(dot, 'base64') })
    await expect(tablet.getByRole('img', { name: `Photo ${i + 1}` })).toBeVisible()
    await mitre(tablet, 'Keep').click()
    await expect(tablet.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled()
    await tablet.goto(`${firm.url}/job/${job}`) // opened again from what is kept here
    await expect(tablet.getByRole('link', { name })).toBeVisible({ timeout: 30_000 })
  }
  await tablet.clock.fastForward(3 * DAY)
  const photos: number[] = []
  tablet.on('response', (r) => {
    if (r.url().includes('/photos/') && r.request().method() === 'PUT') photos.push(r.status())
  })
  await tablet.context().setOffline(false)
  await expect(tablet.getByRole('status').filter({ hasText: 'All sent' })).toBeVisible({ timeout: 60_000 })
  expect(photos).toEqual([204, 204, 204])
  interface Said {
    at: string
    id: string
    kind: string
    by: string
    areaId: string
  }
  const came = (await keptOf(tablet, job)).map(({ bytes }) => JSON.parse(bytes) as Said)
  const own = came.slice(before)
  expect(own.map(({ kind }) => kind)).toEqual(names.flatMap(() => ['area.opened', 'history']))
  expect(own.map(({ at }) => at)).toEqual(own.map(({ at }) => at).sort())
  expect(Date.parse(own[5]!.at) - Date.parse(own[0]!.at)).toBeGreaterThan(3 * DAY)
  expect(new Set(came.map(({ id }) => id)).size).toBe(came.length)
  // Other tests share this house: what was noted of days to come is taken back.
  for (const { id, kind, by, areaId, at } of own.filter(({ kind }) => kind === 'history'))
    await tablet.evaluate(
      async ([job, back]) => {
        const answer = await fetch(`/api/jobs/${job}/entries`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ entries: [{ id: crypto.randomUUID(), jobId: job, ...back }] }),
        })
        if (!(await answer.text()).includes('"status":201')) throw new Error('not kept')
      },
      [job, { areaId, kind, at, by, corrects: id, reason: 'test', body: null }] as const,
    )
  await browser.close()
})

test('what others keep is seen within two seconds, and moves nothing that is being typed', async ({ firm }) => {
  test.setTimeout(120_000)
  const browser = await firm.browser()
  const owner = await paired(browser, firm, 'owner', 'Laptop of the office')
  const tablet = await paired(browser, firm, 'crew', 'Tablet of the van')
  const job = await hostel(tablet)
  await tablet.getByRole('button', { name: /Measure a wet area/ }).click()
  const field = tablet.getByLabel('Name of the wet area')
  await field.fill('Half typed')
  await field.press('ArrowLeft')
  let place = await field.boundingBox()
  await expect(async () => {
    const before = place
    place = await field.boundingBox() // the sheet has come to rest
    expect(place).toEqual(before)
  }).toPass()
  const took: number[] = []
  for (const name of ['Room of another 1', 'Room of another 2', 'Room of another 3']) {
    await owner.evaluate(
      async ([job, name]) => {
        const entry = {
          id: crypto.randomUUID(),
          jobId: job,
          areaId: crypto.randomUUID(),
          kind: 'area.opened',
          at: new Date().toISOString(),
          by: crypto.randomUUID(),
          body: { name },
        }
        const answer = await fetch(`/api/jobs/${job}/entries`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ entries: [entry] }),
        })
        if (!(await answer.text()).includes('"status":201')) throw new Error('not kept')
      },
      [job, name] as const,
    )
    const kept = Date.now()
    await tablet.getByRole('link', { name, includeHidden: true }).waitFor({ state: 'attached' })
    took.push(Date.now() - kept)
  }
  expect(took.sort((a, b) => a - b)[1], `ms: ${took.join(', ')}`).toBeLessThan(2000)
  await expect(field).toBeFocused()
  await tablet.keyboard.type('!')
  await expect(field).toHaveValue('Half type!d')
  expect(await field.boundingBox()).toEqual(place)
  await browser.close()
})
