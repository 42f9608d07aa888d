// A system taken in hand: a way, coats, a layer laid in, a step of one's own; taken back, kept, and planned by.
import { beginArea, expect, measureShower, mitre, answerChoice, test } from './house'

test('a sample is changed by hand, kept as a revision, and planned by', async ({ page, house }) => {
  test.setTimeout(120_000)
  await beginArea(page, house, 'Own way', 'First shower')
  const area = page.url()
  await measureShower(page)
  const job = area.slice(0, area.indexOf('/area/'))
  await page.goto(`${job}/sheets`)
  await page
    .getByRole('button', { name: /systems/ })
    .first()
    .click()
  await page.locator('.row', { hasText: 'Two-part flexible cementitious' }).last().click()
  await page.getByRole('link', { name: 'Take it in hand' }).click()
  await expect(page.getByRole('heading', { name: 'Build-up' })).toBeVisible()
  const changes = page.locator('footer.ledge')
  const row = (name: string | RegExp) => page.locator('.list .row').filter({ hasText: name }).first()

  // A way, with its reason beside it; taken back and done again.
  await row('State of the base').click()
  await page.getByRole('radio', { name: /Soaked/ }).click()
  await expect(changes).toContainText('1 change')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(changes).toContainText('0 changes')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(row('State of the base')).toContainText(/Soaked/)

  // A third coat: its step and its hold stand in the order.
  await row(/^Membrane\s*whole field/).click()
  await page.getByRole('radiogroup', { name: 'Coats' }).getByRole('radio', { name: '3' }).click()
  await expect(row(/third coat/i)).toBeVisible()

  // Something laid in between; a figure of one's own without its reason is asked back.
  await page.getByRole('button', { name: 'Lay something in' }).click()
  await page.getByRole('radio', { name: 'Grip coat' }).click()
  await expect(row(/^Grip coat/)).toBeVisible()
  await row(/^Membrane\s*whole field/).click()
  await page.getByLabel('Figure of one').fill('1.4')
  await page.getByRole('button', { name: 'Lay it so' }).click()
  await expect(page.getByRole('alert')).toContainText(/not filled in yet/)
  await page.getByRole('button', { name: 'Undo' }).click()

  // A hold is left out by name and reason alone.
  await row('Accept the second coat').click()
  await page.getByRole('button', { name: 'Leave it out' }).click()
  await expect(page.getByRole('alert')).toContainText(/reason/i)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByLabel('A step of one').fill('The owner looks')
  await page.getByRole('button', { name: /Put it before/ }).click()
  await expect(row('The owner looks')).toBeVisible()
  await mitre(page, 'Keep as a revision').click()

  // It stands among the systems of the job, and an area may be planned by it.
  await expect(page).toHaveURL(/\/sheets$/)
  await page.goto(area.replace(/\/survey$/, ''))
  await page.getByRole('button', { name: /All \d+ systems/ }).click()
  await page
    .getByRole('radio', { name: /^Two-part flexible cementitious/ })
    .nth(1)
    .click()
  await answerChoice(page)
  await expect(page.getByText(/Coat 3 · /).first()).toBeAttached()
})
