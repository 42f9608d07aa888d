// Every main view at every size: nothing lies over anything, nothing is cut, nothing is too small to touch.
// In the whole run four sizes; all of them, both themes and larger letters in make layout.
import { mkdirSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { asCrewLead, beginArea, expect, mitre, openCut, openShower, test } from './house'
import { findings } from './layout'
import { shipMadeUp, speakMadeUp } from './madeup'

const every = !!process.env.DUSHA_LAYOUT
const sizes: [width: number, height: number][] = every
  ? [
      [360, 740],
      [390, 844],
      [768, 1024],
      [820, 1180],
      [1024, 768],
      [1180, 820],
      [1280, 800],
      [1440, 900],
      [640, 400], // the desk, brought twice as near
    ]
  : [
      [390, 844],
      [768, 1024],
      [1024, 768],
      [1280, 800],
    ]
/** Larger letters, beside those as drawn. */
const letters = every ? [1, 1.125, 1.25] : [1]
/** Where pictures of every view at every size go, to be looked at beside each other. */
const sheets = process.env.DUSHA_SHEETS

/** Sizes at which a language two fifths longer is looked at besides. */
const longer = (width: number, height: number, scale: number) =>
  scale === 1 && width >= 390 && height >= 740 && (every || width === 768)

/** A screen as a person comes to it. */
async function check(page: Page, view: string): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' })
  const wrong: string[] = []
  for (const [width, height, scale] of sizes.flatMap(([w, h]) => letters.map((scale) => [w, h, scale] as const))) {
    if (scale > 1 && height < 700) continue // letters and a desk brought nearer are two ways to one thing
    await page.setViewportSize({ width, height })
    if (every)
      await page.evaluate((size) => {
        localStorage.setItem('letters', String(size))
        dispatchEvent(
          new StorageEvent('storage', { key: 'letters', newValue: String(size), storageArea: localStorage }),
        )
      }, scale)
    await page.waitForTimeout(350) // drawings follow
    await page.evaluate(() => document.fonts.ready)
    if (sheets) {
      mkdirSync(sheets, { recursive: true })
      await page.screenshot({
        path: `${sheets}/${view.replaceAll(/\W+/g, '-')}.${width}x${height}${scale > 1 ? `.${scale}` : ''}.png`,
      })
    }
    for (const { what, where } of await findings(page))
      wrong.push(`${width}×${height}${scale > 1 ? ` ×${scale}` : ''}: ${what}: ${where}`)
    if (longer(width, height, scale)) {
      await shipMadeUp(page.context())
      await speakMadeUp(page, true)
      await page.waitForTimeout(350)
      if (sheets)
        await page.screenshot({ path: `${sheets}/long-${view.replaceAll(/\W+/g, '-')}.${width}x${height}.png` })
      for (const { what, where } of await findings(page))
        wrong.push(`${width}×${height}, a longer language: ${what}: ${where}`)
      await speakMadeUp(page, false)
    }
    if (every) {
      // In the dark the boxes are the same but where a text is another one.
      await page.evaluate(() => document.querySelector<HTMLElement>('button.theme')?.click())
      await page.waitForTimeout(100)
      for (const { what, where } of await findings(page)) wrong.push(`${width}×${height}, dark: ${what}: ${where}`)
      await page.evaluate(() => document.querySelector<HTMLElement>('button.theme')?.click())
    }
  }
  expect.soft([...new Set(wrong)], view).toEqual([])
  await page.setViewportSize({ width: 1280, height: 800 })
}

/** By the spine, wherever it lies. */
async function stage(page: Page, name: string): Promise<void> {
  await page.locator('.stage').filter({ hasText: name }).getByRole('button').click()
}

test('jobs and what stands across areas', async ({ page, house }) => {
  test.setTimeout(700_000)
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Fennick/ }).first()).toBeVisible()
  await check(page, 'jobs')
  await page
    .getByRole('link', { name: /Fennick/ })
    .first()
    .click()
  await expect(page.getByRole('link', { name: /Shower room 1/ })).toBeVisible()
  await page.waitForURL(/\/job\//)
  const job = page.url()
  await check(page, 'job')
  await page.goto(`${job}/now`)
  await expect(page.locator('.now-row').first()).toBeVisible()
  await check(page, 'now')
  await page.goto(`${job}/waits`)
  await expect(page.locator('.wait-row').first()).toBeVisible()
  await page.locator('.wait-row .head').first().click()
  await check(page, 'waits')
  await page.goto(`${job}/days`)
  await expect(page.locator('.end')).toBeVisible()
  await check(page, 'days')
  await page.locator('.day .row').nth(1).click()
  await expect(page.getByText('What holds its start')).toBeVisible()
  await check(page, 'days, a step')
  await page.goto(`${job}/crews`)
  await expect(page.locator('.list .row').first()).toBeVisible()
  await check(page, 'crews')
  await page.locator('.list .row').first().click()
  await expect(page.getByLabel('People', { exact: true })).toBeVisible()
  await check(page, 'crews, one')
  await page.goto(`${job}/crews`)
  await page.getByRole('button', { name: /No day is read|^\w{3} \d/ }).click()
  await page.getByRole('button', { name: 'One more stretch of rain' }).click()
  await check(page, 'crews, weather')
  await page.goto(`${job}/materials`)
  await expect(page.locator('[data-tap^="membrane."]').first()).toBeVisible()
  await check(page, 'materials')
  await page.goto(`${job}/sheets`)
  await expect(page.locator('.row').nth(3)).toBeVisible()
  await check(page, 'sheets')
  await page.goto(`${job}/sheet/sample.flexible_cementitious`)
  await expect(page.getByLabel('Name on the pack')).toBeVisible()
  await check(page, 'sheet')
  const laundry = await page.goto(job).then(() => page.locator('a.area', { hasText: 'Laundry' }).getAttribute('href'))
  await page.goto(`${job}/sheet/sample.flexible_cementitious/${laundry!.split('/').at(-1)}`)
  await expect(page.getByText(/The rest can wait: \d+/)).toBeVisible()
  await check(page, 'sheet, for an area')
  await page.goto(`${job}/system/sample.system.flexible_cementitious`)
  await page.locator('.layer').first().click()
  await check(page, 'system')
  await page.getByRole('button', { name: 'Try it on an area' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'Layers' })).toBeVisible()
  await check(page, 'system, tried')
  await page.goto(`${house.url}/devices`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await check(page, 'devices')
})

test('an area, stage by stage', async ({ page, house }) => {
  test.setTimeout(700_000)
  await openShower(page, house)
  await check(page, 'hold')
  await stage(page, 'Survey')
  await check(page, 'survey, kept')
  await page.getByRole('button', { name: 'Correct this' }).click()
  await page.locator('[data-tap="ask.walls.b.height"]').click()
  await check(page, 'survey, asking')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await stage(page, 'Plan')
  await check(page, 'plan')
  await page.getByRole('button', { name: /Mixed material in all/ }).click()
  await check(page, 'explain')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await stage(page, 'Prepare')
  await page.locator('.each').first().click()
  await check(page, 'prepare')
  await stage(page, 'Detail')
  await page.locator('.each').first().click()
  await check(page, 'detail')
  await stage(page, 'Coat')
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="wall.d"]').click()
  await check(page, 'film')
  await page.getByRole('button', { name: 'What is what' }).click()
  await expect(page.getByRole('dialog')).toContainText('Film reading')
  await check(page, 'legend')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await page.getByRole('tab', { name: 'Lay' }).click()
  await page.locator('[data-tap="wall.d"]').click()
  await check(page, 'lay')
  await page.getByRole('tab', { name: 'Mix' }).click()
  await check(page, 'mix')
  await page.getByLabel('Air °C').fill('17')
  await mitre(page, 'Weigh bucket').click()
  await asCrewLead(page)
  await expect(mitre(page, 'Powder goes in')).toBeVisible()
  await check(page, 'bucket')
})

test('waiting and the water test', async ({ page, house }) => {
  test.setTimeout(700_000)
  await page.goto(house.url)
  await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
  await page
    .getByRole('link', { name: /Drying room/ })
    .first()
    .click()
  await stage(page, 'Cure')
  await check(page, 'cure')
  await stage(page, 'Water test')
  await page.locator('.each').first().click()
  await check(page, 'test, planned')
  await page.getByRole('button', { name: 'Plan again' }).click()
  await check(page, 'test, asking')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.locator('.each').nth(1).click()
  await check(page, 'test')
  await page.locator('.each').last().click()
  await check(page, 'sign')
  await openCut(page, house, 'Shower room 2')
  await expect(page.locator('.mitre').first()).toBeVisible() // its plan, which another test may have kept
  await check(page, 'cut')
})

test('names that are long, and names in another direction', async ({ page, house }) => {
  test.setTimeout(700_000)
  const name = `${'Lakeside '.repeat(8)}annex`.slice(0, 80)
  await page.goto(house.url)
  await page.getByRole('button', { name: /New job/ }).click()
  // What is too long is said so, and nothing of it is cut away.
  await page.getByLabel('Name of the job').fill('x'.repeat(200))
  await page.getByRole('button', { name: 'Begin job' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Robin of the test')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('80')
  await expect(page.getByLabel('Name of the job')).toHaveValue('x'.repeat(200))
  await page.getByLabel('Name of the job').fill(name)
  await page.getByRole('button', { name: 'Begin job' }).dblclick()
  await page.getByLabel('Name', { exact: true }).fill('Robin of the test')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('annex')
  await page.getByRole('button', { name: /Measure a wet area/ }).click()
  await page
    .getByLabel('Name of the wet area')
    .fill('\u05de\u05e7\u05dc\u05d7\u05ea \u05dc\u05d9\u05d3 \u05d4\u05d0\u05d2\u05dd 2')
  await page.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
  await page.getByRole('radio', { name: /Rectangular room/ }).click()
  await check(page, 'names, survey')
  await page.getByRole('link', { name: /^Back to Lakeside/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('annex')
  await check(page, 'names, job')
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Lakeside Lakeside/ })).toHaveCount(1) // two taps, one job
  await check(page, 'names, jobs')
})

test('a beginning', async ({ page, house }) => {
  test.setTimeout(700_000)
  await beginArea(page, house, 'Lake annex 7', 'A first room', /Any other room/)
  await check(page, 'survey, first question')
  await page.getByRole('button', { name: 'Another shape' }).click()
  await check(page, 'shapes')
})
