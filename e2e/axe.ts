// What axe finds on a view, in both themes.
import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

export async function checkAxe(page: Page, view: string): Promise<void> {
  await page.emulateMedia({ reducedMotion: 'reduce' }) // sheets have slid in
  const look = async (theme: string, axe: AxeBuilder) => {
    const { violations } = await axe.analyze()
    const found = violations.map((v) => `${v.id}: ${v.nodes.map((node) => node.target.join(' ')).join(', ')}`)
    expect(found, `${view}, ${theme}`).toEqual([])
  }
  const turn = async (theme: RegExp) => {
    await page.locator('button.theme').dispatchEvent('click') // a sheet may lie over it
    await expect(page.locator('html')).toHaveClass(theme)
  }
  // Contrast takes the longest by far: it is held with all sizes, in make layout.
  if (!process.env.DUSHA_LAYOUT) return look('light', new AxeBuilder({ page }).disableRules(['color-contrast']))
  await look('light', new AxeBuilder({ page }))
  // The markup is the same in both themes: in the dark one only colours can differ.
  await turn(/dark/)
  await look('dark', new AxeBuilder({ page }).withRules(['color-contrast']))
  await turn(/^(?!.*dark)/)
}
