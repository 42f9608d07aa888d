// Jobs and areas are found by name, put away and fetched back.
import { asCrewLead, beginArea, expect, test } from './house'

test('an area is found by name, put away, and fetched back', async ({ page, house }) => {
  await page.goto(house.url)
  await page
    .getByRole('link', { name: /Fennick/ })
    .first()
    .click()
  const rows = page.locator('a.area')
  await expect(rows.filter({ hasText: 'Flat roof' })).toHaveCount(1)
  const all = await rows.count() // other tests of this house measure rooms too
  await page.getByLabel('Find by name').fill('  ROOM shower ')
  await expect(rows).toHaveCount(2)
  await page.getByLabel('Find by name').fill('nothing of that name')
  await expect(page.getByText('Nothing here is called “nothing of that name”')).toBeVisible()
  await page.getByLabel('Find by name').fill('')

  await page.getByRole('button', { name: 'Put areas away' }).click()
  await page.locator('.line', { hasText: 'Flat roof' }).getByRole('button', { name: 'Put away' }).click()
  await asCrewLead(page)
  await expect(rows).toHaveCount(all - 1)
  await expect(page.getByText('Flat roof is put away')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rows).toHaveCount(all)
  await page.locator('.line', { hasText: 'Flat roof' }).getByRole('button', { name: 'Put away' }).click()
  await expect(rows).toHaveCount(all - 1)
  await page.getByRole('link', { name: 'Now' }).click()
  await expect(page.locator('.now-row').first()).toBeVisible()
  await expect(page.locator('.now-row', { hasText: 'Flat roof' })).toHaveCount(0)
  await page.goBack()
  await page.getByRole('button', { name: '1 put away' }).click()
  await page.getByRole('button', { name: 'Fetch back' }).click()
  await expect(rows).toHaveCount(all)
})

test('a job that was begun by mistake is put away and fetched back', async ({ page, house }) => {
  await beginArea(page, house, 'Begun by mistake', 'A room')
  await page.getByRole('link', { name: 'Back to Begun by mistake' }).click()
  await page.getByRole('button', { name: 'Put this job away' }).click()
  await expect(page.getByText('This job is put away')).toBeVisible()
  await page.getByText('All jobs', { exact: true }).click()
  await expect(page.getByRole('link', { name: /Fennick/ }).first()).toBeVisible()
  await expect(page.getByRole('link', { name: /Begun by mistake/ })).toHaveCount(0)
  await page.getByRole('button', { name: /put away/ }).click()
  await page.locator('.row', { hasText: 'Begun by mistake' }).getByRole('button', { name: 'Fetch back' }).click()
  await expect(page.getByRole('link', { name: /Begun by mistake/ })).toBeVisible()
})
