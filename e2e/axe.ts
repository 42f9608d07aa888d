// What axe finds on a view, in the theme it is in.
import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

export async function checkAxe(page: Page, view: string): Promise<void> {
  await page.waitForTimeout(400) // sheets have slid in
  const axe = new AxeBuilder({ page })
  // The markup is the same in both themes: in the dark one only colours can differ.
  if (await page.evaluate(() => matchMedia('(prefers-color-scheme: dark)').matches)) axe.withRules(['color-contrast'])
  const { violations } = await axe.analyze()
  const found = violations.map((v) => `${v.id}: ${v.nodes.map((node) => node.target.join(' ')).join(', ')}`)
  expect(found, view).toEqual([])
}
