import { expect, type Page } from '@playwright/test'
import { mitre } from './house'

/** Lays what a step lays beside the film, material by material, as much as the plan asks for. */
export async function layWorks(page: Page): Promise<number> {
  let laid = 0
  await expect(page.getByRole('checkbox').first()).toBeVisible()
  const key = mitre(page, ' laid')
  while (await key.isVisible()) {
    const all = page.getByRole('button', { name: 'All', exact: true })
    if (await all.isVisible()) await all.click()
    else await page.getByRole('checkbox').first().click()
    const asked = page.getByText(/^[\d.]+ kg asked$/)
    if (await page.locator('.pad').isVisible()) {
      const kg = (await asked.isVisible()) ? (await asked.innerText()).match(/[\d.]+/)![0] : '1'
      await page.getByRole('textbox', { name: /^kg of/ }).fill(kg)
    }
    const said = await key.innerText()
    await key.click()
    await expect.poll(() => key.innerText({ timeout: 1000 }).catch(() => '')).not.toBe(said)
    laid++
  }
  return laid
}
