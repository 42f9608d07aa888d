// Each main view: nothing for axe to find in either theme, usable on a phone.
import type { Page } from '@playwright/test'
import { checkAxe } from './axe'
import { answer, asCrewLead, beginArea, expect, mitre, openShower, shower, test } from './house'

async function stage(page: Page, name: string): Promise<void> {
  await page.locator('.stage').filter({ hasText: name }).getByRole('button').click()
}

test('axe finds nothing in either theme', async ({ page, house }) => {
  // What single views show is looked at where their tests are; all of them with every size, in make layout.
  test.skip(!process.env.DUSHA_LAYOUT, 'with make layout')
  test.setTimeout(300_000)
  await page.goto(house.url)
  await expect(page.getByRole('link', { name: /Fennick/ }).first()).toBeVisible()
  expect(await page.evaluate(() => getComputedStyle(document.body).getPropertyValue('--v-theme-primary'))).not.toBe('')
  await checkAxe(page, 'jobs')
  await page.getByRole('button', { name: /New job/ }).click()
  await checkAxe(page, 'new job')
  await openShower(page, house)
  await checkAxe(page, 'hold')
  await page.getByRole('button', { name: 'Override the hold' }).click()
  await checkAxe(page, 'override')
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click()
  await stage(page, 'Survey')
  await checkAxe(page, 'survey')
  await page.getByRole('button', { name: 'Correct this' }).click()
  await page.locator('[data-tap="ask.length"]').click()
  await checkAxe(page, 'survey, asking')
  await page.getByRole('button', { name: 'All numbers' }).click()
  await page.getByRole('button', { name: 'Another shape' }).click()
  await checkAxe(page, 'shapes')
  await page.getByRole('radio', { name: /Rectangular room/ }).click()
  await page.getByRole('button', { name: 'Files and copies' }).click()
  await checkAxe(page, 'files')
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click()
  await page.getByRole('button', { name: 'Base, leaks, past' }).click()
  await checkAxe(page, 'base')
  await page.getByRole('button', { name: 'Back to the numbers' }).click()
  await stage(page, 'Plan')
  await checkAxe(page, 'plan')
  await page.getByRole('button', { name: /Kits of/ }).click()
  await checkAxe(page, 'explain')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await stage(page, 'Prepare')
  await page.locator('.each').first().click()
  await checkAxe(page, 'prepare')
  await stage(page, 'Detail')
  await page.locator('.each').first().click()
  await checkAxe(page, 'detail')
  await stage(page, 'Coat')
  await page.locator('.each').first().click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="wall.d"]').click()
  await checkAxe(page, 'film')
  await page.getByRole('tab', { name: 'Mix' }).click()
  await page.locator('[data-tap="wall.d"]').click()
  await page.getByLabel('Air °C').fill('20')
  await expect(mitre(page, 'Weigh bucket')).toBeVisible()
  await checkAxe(page, 'mix')
  await mitre(page, 'Weigh bucket').click()
  await checkAxe(page, 'who')
  await asCrewLead(page)
  await mitre(page, 'Powder goes in').click()
  await checkAxe(page, 'bucket')
  // No bucket is left standing for the tests that follow.
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Throw away' }).click()
  await page.getByRole('tab', { name: 'Lay' }).click()
  await checkAxe(page, 'lay')
  await page.getByRole('link', { name: 'Now' }).click()
  await expect(page.locator('.now-row').nth(5)).toBeVisible()
  await checkAxe(page, 'now')
  await page.getByRole('link', { name: 'Waits' }).click()
  await page.locator('.wait-row .head').first().click()
  await checkAxe(page, 'waits')
  await page.getByRole('link', { name: 'Fennick Lake Hostel' }).click()
  await page.getByRole('button', { name: /Local rules/ }).click()
  await page.getByRole('button', { name: 'Make your own Generic indoor' }).click()
  await checkAxe(page, 'rules')
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).click()
  await page
    .getByRole('link', { name: /Drying room/ })
    .first()
    .click()
  await stage(page, 'Water test')
  await expect(page.getByRole('heading', { name: 'Holds' })).toBeVisible()
  await checkAxe(page, 'signed test')
  await page.locator('.each').first().click()
  await checkAxe(page, 'test plan')
  await page.locator('.each').nth(1).click()
  await checkAxe(page, 'test')
  await page.locator('.flat svg').last().focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('.twin-line')).toContainText('water')
  await stage(page, 'Cure')
  await checkAxe(page, 'cure')
})

test('on a phone the band lies across the top and nothing scrolls sideways', async ({ page, house }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await openShower(page, house)
  const sideways = () => page.evaluate(() => document.documentElement.scrollWidth > innerWidth)
  expect(await sideways()).toBe(false)
  for (const number of [1, 2, 3, 4, 5]) {
    await page.getByRole('button', { name: 'Stages' }).click()
    await page
      .getByRole('dialog')
      .locator('.row')
      .nth(number - 1)
      .click()
    await expect(page.getByRole('dialog')).toHaveCount(0)
    expect(await sideways()).toBe(false)
  }
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  await page.getByRole('tab', { name: 'Read film' }).click()
  await page.locator('[data-tap="floor"]').click({ position: { x: 8, y: 8 } }) // beside the readings
  await page.getByRole('radio', { name: '1.2 mm' }).click()
  await expect(mitre(page, 'Keep')).toBeInViewport()
})

test('bad sizes are named while the drawing stays', async ({ page, house }) => {
  await beginArea(page, house, 'Odd sizes', 'Odd room')
  const field = page.getByRole('textbox')
  const say = page.getByRole('alert')
  for (const [typed, said] of [
    ['-2400', 'Length: -2400 mm is below the least, 300 mm'],
    ['2400 m', 'Length: 2400000 mm is above the greatest, 30000 mm'],
    ['1,500', 'Length: “1,500” may mean 1.500 mm or 1500 mm'],
    ['', 'Length: not measured yet'],
    ['2.4', 'Length: 2.4 mm is below the least, 300 mm: metres?'],
  ] as const) {
    await field.fill(typed)
    await page.keyboard.press('Enter')
    await expect(say).toContainText(said)
    await expect(field).toHaveValue(typed)
  }
  await page.getByRole('button', { name: 'I meant 2.4 m' }).click()
  for (const [question, text] of shower.slice(1, 6)) await answer(page, question, text)
  await page.locator('[data-tap="wall.c"]').click() // the doorway's wall, on the drawing
  await answer(page, 'Doorway from the left corner', '100')
  await expect(page.getByRole('heading', { name: 'Doorway width' })).toBeVisible()
  await field.fill('2500')
  await page.keyboard.press('Enter')
  await expect(say).toContainText('Doorway width: 2500 mm is wider than wall C, 2400 mm')
  await expect(page.locator('[data-tap="wall.c"]')).toBeVisible()
})
