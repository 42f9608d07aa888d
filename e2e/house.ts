// A freshly started demo with its own private database, for the tests of a worker.
import { test as base, expect, type Page } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export class House {
  url = ''
  private process: ChildProcess | undefined
  readonly folder = mkdtempSync(join(tmpdir(), 'dusha-e2e-'))

  /** Starts the server, the second time on the address of the first. */
  async start(): Promise<void> {
    const listen = this.url ? new URL(this.url).host : '127.0.0.1:0'
    const started = spawn('../.build/dusha', ['demo', '--folder', this.folder, '--listen', listen])
    this.process = started
    let log = ''
    this.url = await new Promise((resolve, reject) => {
      started.stdout.on('data', (text: Buffer) => {
        const found = /Dusha is at (\S+)/.exec(String(text))
        if (found) resolve(found[1]!)
      })
      started.stderr.on('data', (text: Buffer) => (log += String(text)))
      started.on('exit', () => reject(new Error(`the server ended: ${log}`)))
    })
    for (let tries = 0; tries < 100; tries++) {
      if (await fetch(`${this.url}/api/health`).catch(() => null)) return
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }

  async stop(): Promise<void> {
    const running = this.process
    if (!running || running.exitCode !== null) return
    const ended = new Promise((resolve) => running.once('exit', resolve))
    running.kill('SIGTERM')
    await ended
  }

  async end(): Promise<void> {
    await this.stop()
    rmSync(this.folder, { recursive: true, force: true })
  }
}

interface Fixtures {
  /** Errors of the page's console and script; a test that stops the server clears it. */
  complaints: string[]
}

export const test = base.extend<Fixtures, { house: House }>({
  house: [
    async ({}, use) => {
      const house = new House()
      await house.start()
      await use(house)
      await house.end()
    },
    { scope: 'worker' },
  ],
  complaints: [
    async ({ page }, use) => {
      const complaints: string[] = []
      page.on('pageerror', (error) => complaints.push(error.message))
      page.on('console', (message) => {
        if (message.type() === 'error') complaints.push(message.text())
      })
      await use(complaints)
      expect(complaints, 'the page complained').toEqual([])
      // A key without words is drawn in such brackets.
      expect(await page.locator('body').innerText()).not.toContain('⟦')
    },
    { auto: true },
  ],
})

export { expect }

/** Lets a test move the page's clock: the server says nothing of its own. */
export async function installClock(page: Page): Promise<void> {
  await page.context().route('**/api/jobs', async (route) => {
    const answer = await route.fetch().catch(() => null) // the house is shut while the page still asks
    if (!answer) return route.abort().catch(() => undefined)
    const headers = { ...answer.headers() }
    delete headers['dusha-time']
    await route.fulfill({ response: answer, headers }).catch(() => undefined) // the page went elsewhere and wants no answer
  })
  await page.clock.install()
}

/** Opens the demo's shower room. */
export async function openShower(page: Page, house: House): Promise<void> {
  await page.goto(house.url)
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  // The list may move while it fills. It has such a heading too: the spine stands in the area alone.
  await expect(async () => {
    await page.getByRole('link', { name: /Shower room 1/ }).click({ timeout: 2000 })
    await expect(page.locator('.stage').first()).toBeAttached({ timeout: 4000 })
  }).toPass({ timeout: 25_000 })
  await expect(page.getByRole('heading', { name: 'Shower room 1' })).toBeVisible()
}

/** Opens what is cut for an area of the hostel. */
export async function openCut(page: Page, house: House, area: string): Promise<void> {
  await page.goto(house.url)
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  const link = page.locator(`a[href*="/area/"]`, { hasText: area }).first()
  await expect(link).toBeVisible()
  const to = (await link.getAttribute('href'))!
  await page.goto(house.url + to.replace('/area/', '/cut/'))
  await expect(page.getByRole('heading', { name: 'Cut', exact: true })).toBeVisible()
}

/** Begins a job with one person and a wet area in it. */
export async function beginArea(
  page: Page,
  house: House,
  job: string,
  area: string,
  shape: string | RegExp = /Rectangular room/,
): Promise<void> {
  await page.goto(house.url)
  await page.getByRole('button', { name: /New job/ }).click()
  await page.getByLabel('Name of the job').fill(job)
  await page.getByRole('button', { name: 'Begin job' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Robin of the test')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await page.getByRole('button', { name: /Measure a wet area/ }).click()
  await page.getByLabel('Name of the wet area').fill(area)
  await page.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
  await expect(page.getByRole('heading', { name: area })).toBeVisible()
  await page.getByRole('radio', { name: shape }).click()
}

/** Answers of a shower room in the order they are asked. */
export const shower: [question: string, answer: string][] = [
  ['Length along wall A', '2400'],
  ['Width along wall B', '1800'],
  ['Membrane height, wall A', '2100'],
  ['Membrane height, wall B', '2100'],
  ['Membrane height, wall C', '300'],
  ['Membrane height, wall D', '2100'],
  ['Wall with the doorway', 'Wall C'],
  ['Doorway from the left corner', '750'],
  ['Doorway width', '900'],
  ['Doorway height', '2000'],
  ['Water stop height', '20'],
  ['Drain from wall D', '1200'],
  ['Drain from wall A', '400'],
  ['Drain, across', '110'],
  ['How many pipes?', '2'],
  ['Pipe 1: where?', 'Wall A'],
  ['Pipe 1 from the left corner', '1120'],
  ['Pipe 1 above the floor', '1100'],
  ['Pipe 1, across', '22'],
  ['Pipe 2: where?', 'Wall A'],
  ['Pipe 2 from the left corner', '1280'],
  ['Pipe 2 above the floor', '1100'],
  ['Pipe 2, across', '22'],
]

/** Answers one question, as asked. */
export async function answer(page: Page, question: string, text: string): Promise<void> {
  await expect(page.getByRole('heading', { name: question })).toBeVisible()
  if (text.startsWith('Wall ')) {
    await page.getByRole('radio', { name: text }).click()
    return
  }
  await page.getByRole('textbox', { name: question }).fill(text)
  await page.keyboard.press('Enter')
}

/** Says what the base is, everywhere: old sound concrete. */
async function sayBase(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Add a patch of base' }).click()
  await page.getByRole('radio', { name: 'Everywhere' }).click()
  await page.getByRole('radio', { name: 'Concrete' }).click()
  await answer(page, 'Base 1: age', '400')
  await page.getByRole('radio', { name: 'Sound', exact: true }).click()
}

/** Takes the answers that are offered beside the survey, and says how warm the base is. */
/** Opens the made-up job; gives its address. */
export async function openHostel(page: Page, url: string): Promise<string> {
  await page.goto(url)
  await page
    .getByRole('link', { name: /Fennick/ })
    .first()
    .click()
  await page.waitForURL(/\/job\//)
  return page.url()
}

export async function answerChoice(page: Page): Promise<void> {
  await page
    .getByRole('button', { name: /Change/ })
    .first()
    .click()
  await page.getByLabel('Base while it cures').fill('18')
  await page.getByRole('button', { name: 'All as offered' }).click()
  await page.getByRole('button', { name: /Close/ }).first().click()
}

export async function measureShower(page: Page): Promise<void> {
  for (const [question, text] of shower) await answer(page, question, text)
  await sayBase(page)
  await mitre(page, 'Keep the survey').click()
  await expect(page.locator('.stage.shown')).toContainText('Plan') // it is kept
}

/** Says who is at work, when the page asks at the first entry of a shift. */
export const asCrewLead = (page: Page) => page.getByRole('dialog').getByRole('button', { name: 'Crew lead' }).click()

/** Reads air and base where the page asks for it. */
export async function readClimate(
  page: Page,
  read: { base: string; air?: string; humidity?: string; coldest?: string; warmest?: string; dampest?: string },
): Promise<void> {
  await page.getByRole('button', { name: 'Read the climate' }).first().click()
  const sheet = page.getByRole('dialog', { name: 'Read the climate' })
  const { base, air = base, humidity = '60', coldest, warmest, dampest } = read
  await sheet.getByLabel('Base °C').fill(base)
  await sheet.getByLabel('Air °C').fill(air)
  await sheet.getByLabel('Humidity %').fill(humidity)
  if (coldest) await sheet.getByLabel('Coldest °C').fill(coldest)
  if (warmest) await sheet.getByLabel('Warmest °C').fill(warmest)
  if (dampest) await sheet.getByLabel('Dampest %').fill(dampest)
  await sheet.getByRole('button', { name: 'Keep' }).click()
  await expect(sheet).toHaveCount(0)
}

/** Goes on all the same, by name and reason. */
export async function goOnByName(page: Page, reason: string, person: string): Promise<void> {
  await page.getByRole('button', { name: 'Record anyway' }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByLabel('Reason').fill(reason)
  await sheet.getByRole('radio', { name: person }).first().click()
  await sheet.getByRole('button', { name: 'Override', exact: true }).click()
  await expect(sheet).toHaveCount(0)
}

/** The mitre button of the screen. */
export const mitre = (page: Page, name: string | RegExp) => page.locator('.mitre').filter({ hasText: name })

/** Goes to what can be done now, and to what an area wants there. */
export async function goOn(page: Page, area: string): Promise<void> {
  await page.getByRole('link', { name: 'Now' }).click()
  await page.locator('.now-row', { hasText: area }).locator('.go').click()
}

/** Types figures of a sheet as they are printed, each by its name in the list. */
export async function fillSheet(page: Page, figures: readonly [figure: string, printed: string][]): Promise<void> {
  for (const [figure, printed] of figures) {
    await page.locator('.list .figure', { hasText: figure }).first().click()
    await expect(page.locator('.ask h2')).toContainText(figure)
    const choice = page.locator('.ask').getByRole('radio', { name: printed, exact: true })
    if (await choice.count()) await choice.click()
    else {
      await page.locator('.printed input').fill(printed)
      await page.keyboard.press('Enter')
    }
    await expect(page.locator('.list .figure', { hasText: figure }).first()).toContainText(printed)
  }
}

/** Signs a hold by a drawn line. */
export async function sign(page: Page, person: string): Promise<void> {
  await page.getByRole('radio', { name: person }).first().click()
  const field = (await page.locator('.sign svg').boundingBox())!
  await page.mouse.move(field.x + 30, field.y + field.height / 2)
  await page.mouse.down()
  await page.mouse.move(field.x + 90, field.y + 20, { steps: 4 })
  await page.mouse.move(field.x + 150, field.y + field.height - 20, { steps: 4 })
  await page.mouse.up()
  await mitre(page, 'Sign').click()
}
