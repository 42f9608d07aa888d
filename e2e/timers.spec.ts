// A timer is a due time worked out from an entry: right after a reload, several at once.
import { asCrewLead, expect, installClock, mitre, openShower, test } from './house'
import type { Page } from '@playwright/test'

declare global {
  interface Window {
    /** how often the screen was kept awake, and what keeps it so */
    locks?: number
    awake?: EventTarget & { released: boolean }
  }
}

const locks = (page: Page) => page.evaluate(() => window.locks!)

/** Starts a bucket for a surface and gives its number. */
async function startBucket(page: Page, surface: string, first: boolean): Promise<number> {
  await page.getByRole('tab', { name: 'Mix' }).click()
  await page.locator(`[data-tap="${surface}"]`).click()
  await page.getByLabel('Air °C').fill('20')
  const weigh = mitre(page, /Weigh bucket \d+/)
  const number = Number(/\d+/.exec(await weigh.innerText())![0])
  await weigh.click()
  if (first) await asCrewLead(page)
  await mitre(page, 'Powder goes in').click()
  await mitre(page, 'Powder taken up').click()
  return number
}

test('two buckets run, and a reload in the middle loses no second', async ({ page, house }) => {
  await installClock(page)
  await page.addInitScript(() => {
    window.locks = 0
    const request = () => {
      window.locks!++
      window.awake = Object.assign(new EventTarget(), {
        type: 'screen',
        released: false,
        release: () => Promise.resolve(),
      })
      return Promise.resolve(window.awake)
    }
    Object.defineProperty(navigator, 'wakeLock', { value: { request } })
  })
  await openShower(page, house)
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  const first = await startBucket(page, 'floor', true)
  await expect(page.getByRole('timer')).toHaveText(/^(4:00|3:5\d)$/)
  await page.clock.fastForward('01:00')
  await expect(page.getByRole('timer')).toHaveText(/^(3:00|2:[45]\d)$/)

  await page.reload() // and the coat is in view still
  await expect(page.getByRole('timer')).toHaveText(/^(3:00|2:[345]\d)$/)

  const second = await startBucket(page, 'wall.b', false)
  await expect(page.locator('.live .row')).toHaveText(new RegExp(`Bucket ${first}`)) // beside the one in view
  await mitre(page, 'Mixed, let stand').click()
  await expect(page.getByText(`Bucket ${second}: Let stand`, { exact: true })).toBeVisible()
  await expect(page.locator('.live .row', { hasText: `Bucket ${first}` })).toContainText('Mix')

  // Past the pot life of 55 min the bucket is late; only throwing away is left.
  await page.clock.fastForward('01:00:00')
  await expect(page.getByText('Past its use-by: throw it away. Never add water.')).toBeVisible()
  await expect(page.locator('.mitre')).toHaveCount(0)
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Keep it' }).click()
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await page.getByRole('button', { name: 'Throw away' }).click()
  await asCrewLead(page) // asked again after an hour's rest
  await expect(page.getByText(new RegExp(`^Bucket ${second}`))).toHaveCount(0)
  await expect(page.locator('.live .row')).toHaveText(new RegExp(`Bucket ${first}`))

  // An alarm rings wherever one is, and the screen is kept awake again after it was out of sight.
  const third = await startBucket(page, 'wall.c', false)
  await page.getByRole('link', { name: 'Now' }).click()
  await expect(page.locator('.now-row').first()).toBeVisible()
  expect(await locks(page)).toBeGreaterThan(0)
  const before = await locks(page)
  await page.evaluate(() => {
    window.awake!.released = true // the system took it while the page was out of sight
    window.awake!.dispatchEvent(new Event('release'))
    document.dispatchEvent(new Event('visibilitychange'))
  })
  await expect.poll(() => locks(page)).toBe(before + 1)
  await page.clock.fastForward('04:05')
  await expect(page.getByRole('alert')).toContainText(`Bucket ${third}`)
  await expect(page.getByRole('alert')).toContainText('mixed long enough')
  await page.getByRole('button', { name: 'Heard' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
})
