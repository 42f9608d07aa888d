// Called away in the middle: Esc, Back, a reload. What was typed is there again, in every view that takes typing.
import type { Locator, Page } from '@playwright/test'
import { expect, openHostel, openShower, test, type House } from './house'

/** By the spine, wherever it lies. */
const stage = (page: Page, name: string) => page.locator('.stage').filter({ hasText: name }).getByRole('button').click()

interface View {
  name: string
  open: (page: Page, house: House, job: string) => Promise<void>
  field: (page: Page) => Locator
  typed: string
  /** What is typed into lies in a sheet, which Esc closes; opened again it says the same. */
  sheet?: (page: Page) => Promise<void>
}

const views: View[] = [
  {
    name: 'a new job',
    open: async (page, house) => void (await page.goto(house.url)),
    sheet: (page) => page.getByRole('button', { name: /New job/ }).click(),
    field: (page) => page.getByLabel('Name of the job'),
    typed: 'Half a name',
  },
  {
    name: 'a new wet area',
    open: async (page, _house, job) => void (await page.goto(job)),
    sheet: (page) => page.getByRole('button', { name: /Measure a wet area/ }).click(),
    field: (page) => page.getByLabel('Name of the wet area'),
    typed: 'Half a roo',
  },
  {
    name: 'a survey that is corrected',
    open: async (page, house) => {
      await openShower(page, house)
      await stage(page, 'Survey')
    },
    sheet: async (page) => {
      await expect(async () => {
        const correct = page.getByRole('button', { name: 'Correct this' })
        if (await correct.isVisible()) await correct.click({ timeout: 1000 })
        await page.locator('[data-tap="ask.walls.b.height"]').click({ timeout: 1000 })
        await expect(page.locator('.pad input')).toBeVisible({ timeout: 1000 })
      }).toPass()
    },
    field: (page) => page.locator('.pad input'),
    typed: '1987',
  },
  {
    name: 'a bucket to mix',
    open: async (page, house) => {
      await openShower(page, house)
      await stage(page, 'Coat')
      await page.locator('.each').first().click()
      await page.getByRole('tab', { name: 'Mix' }).click()
    },
    field: (page) => page.getByLabel('Air °C'),
    typed: '17.5',
  },
  {
    name: 'a hold to accept',
    open: (page, house) => openShower(page, house),
    field: (page) => page.getByLabel('Note'),
    typed: 'Half a sentence',
  },
  {
    name: 'a reason',
    open: (page, house) => openShower(page, house),
    sheet: (page) => page.getByRole('button', { name: 'Override the hold' }).click(),
    field: (page) => page.getByLabel('Reason'),
    typed: 'Half a reason',
  },
  {
    name: 'a climate that is read',
    open: async (page, _house, job) => {
      await page.goto(job)
      await page
        .getByRole('link', { name: /Shower room 2/ })
        .first()
        .click()
    },
    sheet: (page) => page.getByRole('button', { name: 'Read the climate' }).first().click(),
    field: (page) => page.getByLabel('Base °C'),
    typed: '16.4',
  },
  {
    name: 'a data sheet',
    open: async (page, _house, job) => void (await page.goto(`${job}/sheet/sample.flexible_cementitious`)),
    sheet: (page) => page.locator('.row', { hasText: 'Name on the pack' }).first().click(),
    field: (page) => page.getByLabel('Name on the pack'),
    typed: 'Half a pack',
  },
  {
    name: 'a crew',
    open: async (page, _house, job) => void (await page.goto(`${job}/crews`)),
    sheet: (page) => page.locator('.list .row', { hasText: 'Crew one' }).click(),
    field: (page) => page.getByLabel('Name', { exact: true }),
    typed: 'Half a crew',
  },
]

test('what was typed is there again after Esc, Back and a reload, in every view', async ({ page, house }) => {
  test.skip(!process.env.DUSHA_LAYOUT, 'with make layout')
  test.setTimeout(240_000)
  const job = await openHostel(page, house.url)
  for (const view of views)
    await test.step(view.name, async () => {
      await view.open(page, house, job)
      await view.sheet?.(page)
      await view.field(page).fill(view.typed)
      const at = page.url()

      await page.keyboard.press('Escape')
      await expect(page).toHaveURL(at) // nobody is sent away
      if (view.sheet && !(await view.field(page).isVisible())) await view.sheet(page)
      await expect(view.field(page)).toHaveValue(view.typed)

      await page.reload()
      await view.sheet?.(page)
      await expect(view.field(page)).toHaveValue(view.typed)

      if (view.sheet) await page.keyboard.press('Escape')
      await page.goBack()
      await expect(page).not.toHaveURL(at)
      await page.goForward()
      await expect(page).toHaveURL(at)
      await view.sheet?.(page)
      await expect(view.field(page)).toHaveValue(view.typed)
    })
})

test('Back closes what lies on top, touched or not, and only then leaves the view', async ({ page, house }) => {
  await openShower(page, house)
  const at = page.url()
  for (const touched of [false, true]) {
    await page.getByRole('button', { name: 'Override the hold' }).click()
    const sheet = page.locator('.side-sheet')
    await expect(sheet).toBeVisible()
    if (touched) await sheet.getByLabel('Reason').click()
    await page.goBack()
    await expect(sheet).toHaveCount(0)
    await expect(page).toHaveURL(at)
  }
  await page.goBack()
  await expect(page).not.toHaveURL(at)
})
