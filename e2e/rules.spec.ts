// Rules of one's own, the way of the water, feet and inches: answered wrong first, then right.
import { asCrewLead, beginArea, expect, mitre, openShower, test } from './house'

test('a changed rule says who says so, and plans follow it', async ({ page, house }) => {
  await beginArea(page, house, 'Own rules', 'Rule room')
  await page.getByRole('link', { name: 'Own rules' }).first().click()
  await page.getByRole('button', { name: /Local rules/ }).click()
  const sheet = page.getByRole('dialog')
  await sheet.getByRole('button', { name: 'Make your own Generic indoor' }).click()
  const keep = sheet.getByRole('button', { name: 'Keep and use' })
  await expect(keep).toBeDisabled()
  await sheet.getByLabel('Name of the profile').fill('Lake district')
  await sheet.getByLabel(/^Waste/).fill('200')
  await expect(sheet.getByRole('alert').first()).toContainText('Waste: 200 % is above the greatest, 100 %')
  await expect(keep).toBeDisabled()
  await sheet.getByLabel(/^Waste/).fill('12')
  await expect(sheet.getByRole('alert')).toHaveCount(0)
  await expect(keep).toBeDisabled() // nobody says so yet
  await sheet.getByLabel('Who says so').fill('Site agreement 7')
  await keep.click()
  await page.getByRole('button', { name: /Local rules/ }).click()
  await expect(sheet.locator('.profile', { hasText: 'Lake district' })).toContainText('In use')
  // Copied on, it shows what changed with its source.
  await sheet.getByRole('button', { name: 'Make your own Lake district' }).click()
  await expect(sheet.getByText('Site agreement 7')).toBeVisible()
  await sheet.getByRole('button', { name: 'Cancel' }).click()
  await sheet.getByRole('button', { name: 'Pick a profile Generic indoor' }).click()
  await page.getByRole('button', { name: /Local rules/ }).click()
  await expect(sheet.locator('.profile', { hasText: 'Generic indoor' })).toContainText('In use')
})

test('the way of the water is drawn, kept, and drawn anew', async ({ page, house }) => {
  await openShower(page, house)
  await page.locator('.stage').filter({ hasText: 'Survey' }).getByRole('button').click()
  await page.getByRole('button', { name: 'Base, leaks, past' }).click()
  await page.getByRole('button', { name: 'Way of the water' }).click()
  await page.locator('[data-tap="wall.a"]').click({ position: { x: 40, y: 60 } })
  await page.locator('[data-tap="floor"]').click({ position: { x: 60, y: 60 } })
  await page.locator('.left svg.net').focus()
  await mitre(page, 'Keep').click()
  await asCrewLead(page)
  await expect(page.getByRole('button', { name: 'Keep', exact: true })).toBeDisabled()
  await expect(page.locator('.left')).toContainText('Way of the water: from Wall A to Floor')
  await page.getByRole('button', { name: 'Clear the way' }).click()
  await expect(page.locator('.left')).not.toContainText('Way of the water')
  await page.getByRole('button', { name: 'Undo' }).click()
})

test('feet and inches are read, and what they are not is said', async ({ page, house }) => {
  await beginArea(page, house, 'Imperial', 'Foot room')
  await page.getByRole('radio', { name: 'ft, in' }).click()
  const field = page.getByRole('textbox', { name: 'Length along wall A' })
  for (const [typed, said] of [
    [`7' 1/0"`, 'Length: “7\' 1/0\"” is no length'],
    [`-7'`, `Length: -7' 0" is below the least`],
    ['seven feet', 'Length: “seven feet” is no length'],
  ] as const) {
    await field.fill(typed)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('alert')).toContainText(said)
    await expect(field).toHaveValue(typed)
  }
  await field.fill(`7' 10 1/2"`)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Width along wall B' })).toBeVisible()
  await page.getByRole('radio', { name: 'm, mm' }).click()
  await page.getByRole('button', { name: 'All numbers' }).click()
  await expect(page.locator('.row', { hasText: 'Length' }).first()).toContainText('2400.3 mm')
})
