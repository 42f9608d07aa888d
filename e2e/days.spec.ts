// The plan of the days: the hostel's areas laid out, rain, a step dragged where it breaks its window, a plan accepted, the day card.
import { checkAxe } from './axe'
import { answerChoice, asCrewLead, expect, mitre, openHostel, test } from './house'
import type { Page } from '@playwright/test'

/** Opens the hostel and lets its crews work day and night, so that somebody is at work whatever the clock says. */
async function openAllDay(page: Page, url: string): Promise<string> {
  const job = await openHostel(page, url)
  await page.goto(`${job}/crews`)
  for (const name of ['Crew one', 'Crew two']) {
    const crew = page.locator('.list .row').filter({ hasText: name })
    await crew.click()
    await page.getByLabel('From', { exact: true }).fill('00:00')
    await page.getByLabel('To', { exact: true }).fill('23:59')
    await mitre(page, 'Keep the crew').click()
    if (name === 'Crew one') await asCrewLead(page)
    await expect(crew).toContainText('00:00–23:59')
  }
  return job
}

test('the hostel is laid out over two crews; a coat is dragged, held too late, and the plan accepted', async ({
  page,
  house,
}) => {
  test.setTimeout(120_000)
  const job = await openAllDay(page, house.url)
  await page.goto(`${job}/waits`)
  await page.getByRole('link', { name: 'Place the crews' }).click()

  // A proven plan; each step in words under the days that are drawn.
  const end = page.locator('.end')
  await expect(end).toContainText('All done')
  await expect(page.getByText('Proven: no other order ends sooner.')).toBeVisible()
  await expect(page.getByText('No system is chosen for it yet').first()).toBeVisible()
  const line = (title: string) => page.locator('.day .row').filter({ hasText: title })
  const coat = line('Lay the second coat').filter({ hasText: 'Shower room 2' })
  await coat.click()
  await expect(page.getByText('What holds its start')).toBeVisible()
  const shuts = page.locator('.panel').getByText(/Begin by/)
  await expect(shuts).toBeVisible()
  const before = await coat.locator('.time').innerText()

  // Dragged along its tide it stays where it was put down, and the rest gives way.
  const tap = page.locator('.flat [data-tap$=" coat_2"]').last()
  await tap.scrollIntoViewIfNeeded()
  const lay = (await tap.boundingBox())!
  await page.mouse.move(lay.x + lay.width / 2, lay.y + lay.height / 2)
  await page.mouse.down()
  await page.mouse.move(lay.x + lay.width / 2 + 50, lay.y + lay.height / 2, { steps: 4 })
  await page.mouse.up()
  const panel = page.locator('.panel')
  await expect(panel).toContainText(/Laid there by hand|A shift begins then|The crew is at/)
  await expect(page.getByRole('alert')).toHaveCount(0)
  await page.getByRole('button', { name: 'As early as it may' }).click()
  await expect(coat.locator('.time')).toHaveText(before)
  if (!(await panel.innerText()).includes('Shower room 2')) await coat.click()
  await expect(panel).toContainText('Shower room 2')

  // Held beyond the time by which it has to begin there is no plan, and it is said which time that is.
  const late = new Date(Date.now() + 3 * 24 * 3_600_000).toISOString().slice(0, 10)
  await page.getByLabel('Not before').fill(`${late}T20:00`)
  await page.getByRole('button', { name: 'Lay it there' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'there is no plan' }).first()).toBeVisible()
  await page.getByRole('button', { name: 'As early as it may' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)

  // What if: one more person changes nothing here; the days off worked bring it forward. Dropped, all is as it was.
  await coat.click()
  const whole = await end.innerText()
  await page.getByRole('button', { name: 'Work the days off' }).click()
  await expect(page.locator('.try')).toContainText(/instead of|The end stays/)
  await expect(mitre(page, 'Accept this plan')).toBeDisabled()
  await page.getByRole('button', { name: 'Drop it' }).click()
  await expect(end).toHaveText(whole)
  await page.getByRole('button', { name: /^Rain on/ }).click()
  await expect(page.locator('.try')).toContainText('Rain on')
  await page.getByRole('button', { name: 'Drop it' }).click()
  await page.getByRole('button', { name: 'What would bring it forward?' }).click()
  await expect(
    page
      .locator('.panel')
      .getByText(/sooner|None of what was tried helps/)
      .first(),
  ).toBeVisible()

  // A step takes as long as somebody says.
  await coat.click()
  await page.getByLabel('Minutes that it takes here').fill('45')
  await page.getByRole('button', { name: 'Say so' }).click()
  await expect(page.locator('.panel')).toContainText('as you said')
  await coat.click()

  // Accepted, it is what is held against; its papers can be taken along, and Now says it.
  await mitre(page, 'Accept this plan').click()
  await expect(page.getByText(/^Accepted plan:/)).toBeVisible()
  const card = page.getByRole('link', { name: 'Day card, Crew one' })
  await expect(async () => {
    const paper = await page.request.get(new URL((await card.getAttribute('href'))!, house.url).href)
    expect(paper.status()).toBe(200)
    expect((await paper.body()).subarray(0, 4).toString()).toBe('%PDF')
  }).toPass({ timeout: 20_000 })
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Calendar file' }).click()
  const file = await (await download).createReadStream()
  const text = await new Promise<string>((resolve) => {
    let all = ''
    file.on('data', (part) => (all += String(part)))
    file.on('end', () => resolve(all))
  })
  expect(text).toContain('BEGIN:VEVENT')
  expect(text.split('\r\n').every((each) => Buffer.byteLength(each) <= 75)).toBe(true)
  await checkAxe(page, 'the days')
  await page.getByRole('link', { name: 'Now' }).click()
  await expect(page.getByText(/^By the plan /).first()).toBeVisible()
})

test('rain is read day by day, a coat is laid in two stretches, and what was supposed is kept', async ({
  page,
  house,
}) => {
  test.setTimeout(120_000)
  const job = await openAllDay(page, house.url)
  await page.goto(job)
  await page.locator('a.area', { hasText: 'Flat roof' }).click()
  await page.waitForURL(/\/area\//)
  const roof = page.url()
  await page.goto(`${roof}/plan`)
  await page.getByRole('radio', { name: /^Resin and mat, wet on wet/ }).click()
  await answerChoice(page)
  await mitre(page, 'Accept the plan').click()
  await expect(page.getByText('Kept: Plan accepted')).toBeVisible()

  // Nobody read the weather: the first steps are laid out as if it stayed dry, and the plan says so; their waits cannot be told.
  await page.goto(`${job}/days`)
  // What is cut for it meanwhile is cut indoors.
  const ofRoof = page.locator('.day .row').filter({ hasText: 'Flat roof', hasNotText: 'Cut ' })
  await ofRoof.first().click()
  const panel = page.locator('.panel')
  await expect(panel).toContainText('Nobody read the weather of that day')

  // Read day by day: rain today and tomorrow, dry after. A warmest below its coldest is named, and nothing is lost.
  await page.goto(`${job}/crews`)
  await page.locator('.list .row').filter({ hasText: 'No day is read' }).click()
  const days = page.getByRole('radiogroup', { name: 'Day' }).getByRole('radio')
  const dates: string[] = []
  for (let day = 0; day < 4; day++) {
    await days.nth(day).click()
    dates.push((await days.nth(day).innerText()).trim())
    await page.getByLabel('Coldest').fill('12')
    await page.getByLabel('Warmest').fill(day ? '19' : '9')
    await page.getByLabel('Humidity').fill('60')
    await page.getByLabel('Strongest wind').fill('3')
    await page.getByLabel('Read from').fill('the weather service')
    if (day < 2) {
      await page.getByRole('button', { name: 'One more stretch of rain' }).click()
      await page.getByLabel('From', { exact: true }).fill('00:00')
      await page.getByLabel('To', { exact: true }).fill('23:59')
    }
    const keep = page.getByRole('button', { name: 'Keep this day' })
    await keep.click()
    if (!day) {
      await expect(page.getByRole('alert')).toContainText('below its coldest')
      await expect(page.getByLabel('Warmest')).toHaveValue('9')
      await page.getByLabel('Warmest').fill('19')
      await keep.click()
    }
    await expect(page.locator('.list')).toContainText(dates[day]!)
  }
  await checkAxe(page, 'weather ahead')
  await page.goto(`${job}/days`)
  await expect(ofRoof.first()).toBeVisible()
  for (const date of dates.slice(0, 2)) {
    const day = page.locator('.day').filter({ has: page.getByRole('heading', { name: date }) })
    await expect(day.locator('.row').filter({ hasText: 'Flat roof', hasNotText: 'Cut ' })).toHaveCount(0)
  }
  await ofRoof.first().click()
  await expect(panel).toContainText(/Weather, or an inspector’s hours, keep it off|A shift begins then/)
  await expect(panel).not.toContainText('Nobody read the weather of that day')
  await ofRoof.first().click()

  // A coat in two stretches: supposed, then kept, and so it stays.
  const coat = page.locator('.day .row').filter({ hasText: 'Shower room 2' }).filter({ hasText: 'Lay the second coat' })
  await coat.click()
  await panel.getByRole('button', { name: 'In two stretches' }).click()
  await expect(coat).toHaveCount(2)
  await expect(coat.first()).toContainText('1 of 2')
  await coat.first().click()
  const split = page.locator('.try').filter({ hasText: 'in two stretches' })
  await split.getByRole('button', { name: 'Keep it' }).click()
  await expect(split).toHaveCount(0)
  await expect(coat).toHaveCount(2)
  await page.reload()
  await expect(coat).toHaveCount(2)
  await mitre(page, 'Accept this plan').click()
  await expect(page.getByText(/^Accepted plan:/)).toBeVisible()
})

test('who works when is set by keys: a shift that ends before it begins is named, a day off is kept', async ({
  page,
  house,
}) => {
  const job = await openHostel(page, house.url)
  await page.goto(`${job}/crews`)
  const crew = page.locator('.list .row').filter({ hasText: 'Crew one' })
  await crew.focus()
  await page.keyboard.press('Enter')
  await page.getByLabel('People', { exact: true }).fill('3')
  await page.getByLabel('From', { exact: true }).first().fill('06:00')
  const to = page.getByLabel('To', { exact: true }).first()
  await to.fill('05:00')
  const keep = mitre(page, 'Keep the crew')
  await keep.focus()
  await page.keyboard.press('Enter')
  await asCrewLead(page)
  await expect(page.getByRole('alert')).toContainText('06:00 to 05:00 ends before it begins')
  await expect(to).toHaveValue('05:00') // nothing that was typed is lost
  await to.fill('12:00')
  await keep.focus()
  await page.keyboard.press('Enter')
  await expect(keep).toHaveCount(0) // it is kept, and its form shut
  await expect(crew).toContainText('3 people')
  await crew.click()
  const day = new Date(Date.now() + 24 * 3_600_000).toISOString().slice(0, 10)
  await page.getByLabel('Day', { exact: true }).fill(day)
  await page.getByRole('button', { name: 'Off', exact: true }).click()
  await expect(page.getByText(`${day}: off`)).toBeVisible()
  await checkAxe(page, 'crews')
})

test('a phone shows the days of who is at work', async ({ page, house }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${await openHostel(page, house.url)}/days`)
  const lines = page.locator('.day .row')
  await expect(lines).not.toHaveCount(0)
  const whose = (name: string) => page.getByRole('radio', { name })
  await expect(whose('All crews')).toBeChecked()
  await page.getByRole('button', { name: /At work/ }).click()
  await asCrewLead(page)
  await expect(whose('Crew one')).toBeChecked()
  await expect(lines.filter({ hasText: 'Crew two' })).toHaveCount(0)
  await expect(lines.filter({ hasText: 'Crew one' })).not.toHaveCount(0)
  await whose('All crews').click()
  await page.reload()
  await expect(whose('All crews')).toBeChecked() // what was picked last on this device
})
