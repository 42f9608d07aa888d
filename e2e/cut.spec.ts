// Cutting: an L-shaped room from rolls, ticked off, one piece spoilt and cut again, on paper.
import { readFileSync } from 'node:fs'
import type { Page } from '@playwright/test'
import { checkAxe } from './axe'
import { asCrewLead, expect, mitre, openCut, test } from './house'

const piece = (page: Page, id: string) => page.locator(`.rolls [data-tap="${id}"]`)

test('an L-shaped room is cut, ticked off, one piece spoilt and cut again, and printed', async ({ page, house }) => {
  test.setTimeout(120_000)
  await openCut(page, house, 'Shower room 2')
  await expect(page.getByText('2 rolls, no join, longest rest 0.67 m')).toBeVisible({ timeout: 20_000 })
  await expect(
    page.getByText('No plan is better: fewest rolls, then fewest joins, then the longest rest.'),
  ).toBeVisible()
  await mitre(page, 'Keep this plan').click()
  await asCrewLead(page)

  // The longest piece comes first; ticked off it is bedded colour, and the next one follows.
  await expect(mitre(page, 'Piece 19 cut')).toContainText('then piece 33, 2.22 m')
  await expect(page.locator('.side')).toContainText('2.72 m × 120 mm')
  await mitre(page, 'Piece 19 cut').click()
  await expect(mitre(page, 'Piece 33 cut')).toBeVisible()
  await expect(page.locator('.t-roll_cut')).toHaveCount(1)
  await expect(page.locator('.net .s-number_next')).toHaveCount(1)

  // Touched on the roll it lights up on the net, touched on the net on the roll.
  await piece(page, 'band.floor_wall.b.1/1').click()
  await expect(page.locator('.side')).toContainText('Floor to wall B')
  await page.locator('.side [data-tap="band.floor_wall.c.1"]').click({ force: true })
  await expect(page.locator('.side')).toContainText('Floor to wall C')
  await expect(mitre(page, 'Piece 21 cut')).toBeVisible()

  // Spoilt asks once; the piece is cut again from what is left, else from a new roll.
  await piece(page, 'band.floor_wall.a.1/1').click()
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await expect(mitre(page, 'Cut it again')).toBeVisible()
  await page.getByRole('button', { name: 'It is good' }).click()
  await page.getByRole('button', { name: 'Spoilt' }).click()
  await mitre(page, 'Cut it again').click()
  await expect(page.locator('.t-roll_spoilt')).toHaveCount(1)
  await expect(page.getByText('Roll 3, 10.00 m, rest 7.28 m')).toBeVisible()
  await expect(page.locator('.side')).toContainText('cut again: the one before it was spoilt')
  await checkAxe(page, 'cut')
  await mitre(page, 'Piece 19 cut').click()

  // Undo takes the tick back, the keyboard walks the pieces.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('.t-roll_cut')).toHaveCount(0)
  await page.locator('.rolls svg').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('.rolls .twin-line')).toContainText('Piece 33, 2.22 m')
  await page.keyboard.press('Enter')
  await expect(mitre(page, 'Piece 33 cut')).toBeVisible()

  // Out: a table, the drawing, the card in large type.
  const saved = async (name: string) => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name }).click()])
    return readFileSync(await file.path(), 'utf8')
  }
  expect(await saved('As CSV')).toContain('1,No,10000,19,spoilt,0,2720,120,Floor to wall A,Band')
  expect(await saved('As SVG')).toContain('<svg')
  await expect(page.getByText('All sent')).toBeVisible({ timeout: 25_000 })
  const card = await page.request.get(
    house.url + (await page.getByRole('link', { name: 'Cut card' }).getAttribute('href'))!,
  )
  expect(card.headers()['content-type']).toBe('application/pdf')
  await page.emulateMedia({ media: 'print' })
  await expect(page.locator('.acts')).toBeHidden()
  await expect(page.locator('.t-roll_head').first()).toBeVisible()
  await page.emulateMedia({ media: 'screen' })

  // The bands know that they are cut, and are bedded in their order.
  await page.getByRole('link', { name: 'To the area' }).click()
  await expect(page.getByRole('heading', { name: 'Shower room 2' })).toBeVisible()
})

test('rests of one room are cut first in the next', async ({ page, house }) => {
  test.setTimeout(120_000)
  await openCut(page, house, 'Shower room 1')
  await mitre(page, 'Keep this plan').click({ timeout: 20_000 })
  await asCrewLead(page)
  for (let left = 10; left > 0; left--) {
    await mitre(page, /^Piece \S+ cut/).click()
    if (left > 1) await expect(page.locator('.t-roll_cut')).toHaveCount(11 - left)
  }
  await mitre(page, 'Keep the rests').click()
  await expect(page.getByText(/rests? kept/)).toBeVisible()
  // What one press kept is taken back by one press, and can be kept again.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText(/rests? kept/)).toHaveCount(0)
  await mitre(page, 'Keep the rests').click()
  await expect(page.getByText(/rests? kept/)).toBeVisible()
  await openCut(page, house, 'Drying room')
  await expect(page.getByText('Rests of earlier areas')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByText(/^Offcut of 1.90 m/)).toBeVisible({ timeout: 20_000 })
})
