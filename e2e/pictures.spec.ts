// Takes the pictures of docs/screenshots from the demo: make pictures.
import type { Page } from '@playwright/test'
import { asCrewLead, expect, mitre, openShower, test } from './house'

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
  await stage(page, 'Survey')
  await page.getByRole('button', { name: 'Correct this' }).click()
  await page.locator('[data-tap="ask.walls.b.height"]').click()
  await picture(page, 'survey')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await stage(page, 'Plan')
  await picture(page, 'plan')
  await page.getByRole('button', { name: /Mixed material in all/ }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Coats and bedding/ })
    .click()
  await picture(page, 'explain')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
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
  await picture(page, 'mix')
  await mitre(page, 'Weigh bucket').click()
  await asCrewLead(page)
  await mitre(page, 'Powder goes in').click()
  await mitre(page, 'Powder taken up').click()
  await picture(page, 'bucket')
})

test('dark', async ({ page, house }) => {
  await page.emulateMedia({ colorScheme: 'dark' })
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
  await page.locator('[data-tap="floor"]').click()
  await page.getByRole('radio', { name: '0.9 mm' }).click()
  await picture(page, 'film.phone')
})
