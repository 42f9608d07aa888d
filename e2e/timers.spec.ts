// A timer is a due time worked out from an entry: right after a reload, several at once.
import { asCrewLead, expect, mitre, openShower, test } from './house'
import type { Page } from '@playwright/test'

async function startBucket(page: Page, surface: string, number: number, first: boolean): Promise<void> {
  await page.getByRole('tab', { name: 'Mix' }).click()
  await page.locator(`[data-tap="${surface}"]`).click()
  await page.getByLabel('Air °C').fill('20')
  await mitre(page, `Weigh bucket ${number}`).click()
  if (first) await asCrewLead(page)
  await mitre(page, 'Powder goes in').click()
  await mitre(page, 'Powder taken up').click()
}

test('two buckets run, and a reload in the middle loses no second', async ({ page, house }) => {
  await page.clock.install()
  await openShower(page, house)
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  await startBucket(page, 'floor', 5, true)
  await expect(page.getByRole('timer')).toHaveText(/^(4:00|3:5\d)$/)
  await page.clock.fastForward('01:00')
  await expect(page.getByRole('timer')).toHaveText(/^(3:00|2:[45]\d)$/)

  await page.reload()
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  await expect(page.getByRole('timer')).toHaveText(/^(3:00|2:[345]\d)$/)

  await startBucket(page, 'wall.b', 6, false)
  await expect(page.locator('.live .row')).toHaveText(/Bucket 5/) // beside the one in view
  await mitre(page, 'Mixed, let stand').click()
  await expect(page.getByText('Bucket 6: Let stand', { exact: true })).toBeVisible()
  await expect(page.locator('.live .row', { hasText: 'Bucket 5' })).toContainText('Mix')

  // Past the pot life of 55 min the bucket is late; only throwing away is left.
  await page.clock.fastForward('01:00:00')
  await expect(page.getByText('Past its use-by: throw it away. Never add water.')).toBeVisible()
  await expect(page.locator('.mitre')).toHaveCount(0)
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Throw away' }).click()
  await asCrewLead(page) // asked again after an hour's rest
  await expect(page.getByText(/^Bucket 6/)).toHaveCount(0)
  await expect(page.locator('.live .row')).toHaveText(/Bucket 5/)
})
