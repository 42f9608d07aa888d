// A firm's own server: devices are paired over TLS by a one-time code, work without signal, are shut out
// and paired again, and nothing is lost or delivered twice.
import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { createHash, X509Certificate } from 'node:crypto'
import { chromium, type Browser, type BrowserContext, type Page } from '@playwright/test'
import { asCrewLead, expect, sign, test as base, type House } from './house'

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

/** Takes the hand-over of the drying room back and signs it again on this device. */
async function signAnew(page: Page, firm: Firm): Promise<void> {
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
  await asCrewLead(page)
  // Four digits are chosen at the first signature.
  const pin = page.getByRole('dialog', { name: 'Four digits of Crew lead' })
  await pin.getByLabel('Four digits').fill('4711')
  await pin.getByLabel('The same again').fill('4712')
  await pin.getByRole('button', { name: 'Go on' }).click()
  await expect(pin.getByRole('alert')).toHaveText('They were not the same twice.')
  await pin.getByLabel('The same again').fill('4711')
  await pin.getByRole('button', { name: 'Go on' }).click()
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
  await signAnew(owner, firm)

  // The owner shows a code; the tablet's camera follows its link.
  await owner.getByRole('link', { name: 'Devices' }).click()
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
