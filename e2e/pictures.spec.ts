// Takes the pictures of docs/screenshots from the demo: make pictures.
import type { Page } from '@playwright/test'
import { asCrewLead, expect, fillSheet, mitre, openCut, openShower, test } from './house'

test.skip(!process.env.DUSHA_PICTURES, 'pictures are taken by hand')

async function picture(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(900)
  await page.screenshot({ path: `../docs/screenshots/${name}.png` })
}

const stage = (page: Page, name: string) => page.locator('.stage').filter({ hasText: name }).getByRole('button').click()

test('light, at a tablet’s size', async ({ page, house }) => {
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Fennick/ })).toBeVisible()
  await picture(page, 'jobs')
  await openShower(page, house)
  await picture(page, 'hold')
  await page.getByRole('link', { name: 'Now' }).click()
  await expect(page.locator('.now-row').nth(5)).toBeVisible()
  await picture(page, 'now')
  await page.goto(page.url().replace(/now$/, 'days'))
  await expect(page.locator('.end')).toBeVisible()
  await page.locator('.day .row').filter({ hasText: 'Lay the second coat' }).first().click()
  await page.locator('.list').evaluate((list) => list.scrollTo(0, 0))
  await picture(page, 'days')
  await page.goBack()
  await expect(page.locator('.now-row').first()).toBeVisible()
  await page.getByRole('link', { name: 'Fennick Lake Hostel' }).click()
  await page
    .getByRole('link', { name: /Drying room/ })
    .first()
    .click()
  await stage(page, 'Water test')
  await page.locator('.each').nth(1).click()
  await picture(page, 'test')
  await openShower(page, house)
  await stage(page, 'Survey')
  await page.getByRole('button', { name: 'Correct this' }).click()
  await page.locator('[data-tap="ask.walls.b.height"]').click()
  await picture(page, 'survey')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await stage(page, 'Detail')
  await page.locator('.each').first().click()
  await picture(page, 'detail')
  await stage(page, 'Coat')
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Mix' }).click()
  for (const wall of ['wall.a', 'wall.d', 'floor']) await page.locator(`[data-tap="${wall}"]`).click()
  await page.getByLabel('Air °C').fill('17')
  await page.getByLabel('Bucket L').fill('45')
  await page.getByLabel('Crew m²/h').fill('18')
  await mitre(page, 'Weigh bucket').click()
  await asCrewLead(page)
  await mitre(page, 'Powder goes in').click()
  await mitre(page, 'Powder taken up').click()
  await picture(page, 'bucket')
})

test('from sheet to shelf', async ({ page, house }) => {
  await openShower(page, house)
  const job = page.url().slice(0, page.url().indexOf('/area/'))
  await page.goto(`${job}/sheet/sample.flexible_cementitious`)
  await fillSheet(page, [
    ['Name on the pack', 'Flexible slurry, as delivered'],
    ['Sheet date', '3/2026'],
    ['Part A', '25'],
    ['Part B', '43'],
    ['Density, ready to use', '1.65 kg/L'],
    ['Kit, all parts', '20.4 kg'],
    ['Rate as printed', '1.5–1.6 kg/m²'],
    ['Number of coats', '2'],
    ['Wet film of one coat', '1.2 mm'],
    ['Cured film over wet', '82 %'],
  ])
  await page.locator('.list .figure', { hasText: 'Rate as printed' }).click()
  await picture(page, 'sheet')
  await page.goto(`${job}/materials`)
  await page.locator('[data-tap^="membrane."]').click()
  await picture(page, 'materials')
  await page.goto(job)
  await page
    .getByRole('link', { name: /Laundry/ })
    .first()
    .click()
  await page.getByRole('button', { name: /^All \d+/ }).click()
  await page.getByRole('radio', { name: /^Two-part rapid/ }).click()
  await expect(page.getByText('Picked')).toBeVisible()
  await picture(page, 'choice')
})

test('cutting', async ({ page, house }) => {
  await openCut(page, house, 'Shower room 2')
  await mitre(page, 'Keep this plan').click({ timeout: 20_000 })
  await asCrewLead(page)
  for (const name of ['Piece 19 cut', 'Piece 33 cut', 'Piece 27 cut']) await mitre(page, name).click()
  await picture(page, 'cut')
})

test('other shapes', async ({ page, house }) => {
  const open = async (name: RegExp) => {
    await page.goto(house.url)
    await page.getByRole('link', { name: /Fennick Lake Hostel/ }).click()
    await page.getByRole('link', { name }).first().click()
    await stage(page, 'Survey')
  }
  await open(/Plunge pool/)
  await picture(page, 'pool')
  await open(/Cellar wall/)
  await page.getByRole('button', { name: 'Base, leaks, past' }).click()
  await picture(page, 'cellar')
  await page.goto(page.url().replace(/\/area\/.*/, '/system/sample.system.flexible_cementitious'))
  await page.locator('.layer', { hasText: 'whole field' }).nth(1).click()
  await picture(page, 'system')
})

test('dark', async ({ page, house }) => {
  await page.emulateMedia({ colorScheme: 'dark' })
  await openShower(page, house)
  await page.getByRole('link', { name: 'Waits' }).click()
  await page.locator('.wait-row .head').first().click()
  await picture(page, 'waits.dark')
  await openShower(page, house)
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="wall.d"]').click()
  await page.getByRole('radio', { name: '0.9 mm' }).click()
  await picture(page, 'film.dark')
})

test('on a phone', async ({ page, house }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await openShower(page, house)
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="floor"]').click({ position: { x: 8, y: 8 } })
  await page.getByRole('radio', { name: '0.9 mm' }).click()
  await picture(page, 'film.phone')
})

test('on an upright tablet', async ({ page, house }) => {
  await page.setViewportSize({ width: 820, height: 1180 })
  await openShower(page, house)
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="wall.d"]').click({ position: { x: 8, y: 8 } })
  await page.getByRole('radio', { name: '1.2 mm' }).click()
  await picture(page, 'film.tablet')
})
