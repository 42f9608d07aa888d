// With the server stopped, entering goes on; what is only on this device is said and is
// delivered once, when the server is back.
import { answer, asCrewLead, beginArea, expect, measureShower, mitre, openShower, shower, test } from './house'

test('the server stops in the middle and comes back', async ({ page, house, complaints }) => {
  await openShower(page, house)
  const jobUrl = page.url()
  const job = /job\/([0-9a-f-]+)/.exec(jobUrl)![1]!
  await expect(page.locator('html')).toHaveAttribute('data-offline', 'ready')
  const before = await countEntries(house.url, job)
  await house.stop()

  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  const spots = [
    { x: 13, y: 93 },
    { x: 68, y: 89 },
    { x: 195, y: 93 },
  ]
  for (const [i, position] of spots.entries()) {
    await page.locator('[data-tap="wall.a"]').click({ position })
    await page.getByRole('radio', { name: '1.2 mm' }).click()
    await mitre(page, 'Keep').click()
    if (i === 0) await asCrewLead(page)
    await expect(page.locator('.film', { hasText: 'Wall A' })).toContainText(`${7 + i} of`)
  }
  await expect(page.locator('.kept')).toContainText('No signal')
  await expect(page.locator('.kept')).toContainText('3 kept here')

  // It opens again from its cache with the server stopped, and nothing is lost.
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Shower room 1' })).toBeVisible()
  await expect(page.locator('.kept')).toContainText('3 kept here')
  await expect(page.locator('.film', { hasText: 'Wall A' })).toContainText('9 of')

  await house.start()
  await expect(page.locator('.kept')).toContainText('All sent', {
    timeout: 40_000,
  })
  expect(await countEntries(house.url, job)).toBe(before + 3)
  await page.reload()
  await expect(page.locator('.kept')).toContainText('All sent')
  expect(await countEntries(house.url, job)).toBe(before + 3)
  // Refused connections are what this test is about; nothing else may be said.
  expect(complaints.filter((line) => !line.includes('ERR_CONNECTION_REFUSED'))).toEqual([])
  complaints.length = 0
})

test('the core in the page stops and is begun anew, and nothing is lost', async ({ page, house }) => {
  await openShower(page, house)
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  const film = page.locator('.film', { hasText: 'Wall B' })
  const readings = async () => Number(/(\d+) of/.exec(await film.innerText())![1])
  const before = await readings()
  for (const [i, position] of [
    { x: 105, y: 60 },
    { x: 30, y: 80 },
  ].entries()) {
    // Whatever it is asked it breaks off, as it does where there is no memory left.
    for (const worker of page.workers())
      await worker.evaluate(() => {
        const stops = () => {
          throw new RangeError('no memory')
        }
        Object.assign(globalThis, { __core: stops, __coreLoad: stops, __coreChange: stops, __coreDrop: stops })
      })
    await page.locator('[data-tap="wall.b"]').click({ position })
    await page.getByRole('radio', { name: '1.2 mm' }).click()
    await mitre(page, 'Keep').click()
    if (i === 0) await asCrewLead(page)
    await expect(film).toContainText(`${before + 1 + i} of`)
  }
  await expect(page.locator('.kept')).toContainText('All sent')
})

async function countEntries(url: string, job: string): Promise<number> {
  const answer = (await (await fetch(`${url}/api/jobs/${job}/entries`)).json()) as { entries: { bytes: string }[] }
  const ids = answer.entries.map((entry) => (JSON.parse(entry.bytes) as { id: string }).id)
  expect(new Set(ids).size).toBe(ids.length)
  return ids.length
}

test('a half-typed survey survives a reload', async ({ page, house }) => {
  await beginArea(page, house, 'Reload job', 'Half measured')
  for (const [question, text] of shower.slice(0, 3)) await answer(page, question, text)
  await page.getByRole('textbox', { name: 'Membrane height, wall B' }).fill('20')
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Membrane height, wall B' })).toBeVisible()
  await expect(page.getByRole('textbox')).toHaveValue('20')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'All numbers' }).click()
  await expect(page.locator('.row', { hasText: 'Membrane height of wall A' })).toContainText('2100 mm')
})

test('a refused entry is set aside, named, and blocks none behind it', async ({ page, house, complaints }) => {
  await openShower(page, house)
  const job = /job\/([0-9a-f-]+)/.exec(page.url())![1]!
  // An older page could have made an entry that this server refuses.
  const id = '01900000-0000-7000-8000-00000000aaaa'
  await page.evaluate(
    async ([id, job]) => {
      const open = indexedDB.open('dusha')
      await new Promise((resolve) => (open.onsuccess = resolve))
      const bytes = JSON.stringify({
        id,
        jobId: job,
        kind: 'reed',
        at: new Date().toISOString(),
        by: id,
        body: {},
      })
      const put = open.result.transaction('entries', 'readwrite').objectStore('entries').put({
        id,
        jobId: job,
        areaId: '',
        bytes,
        state: 'waiting',
        notBefore: 0,
        faults: [],
      })
      await new Promise((resolve) => (put.onsuccess = resolve))
    },
    [id, job] as const,
  )
  await expect(page.getByRole('button', { name: '1 set aside' })).toBeVisible({
    timeout: 15_000,
  })
  await page.locator('.each', { hasText: 'Lay the first coat' }).click()
  await page.locator('[data-tap="wall.b"]').click()
  await page.getByRole('radio', { name: '1.2 mm' }).click()
  await mitre(page, 'Keep').click()
  await asCrewLead(page)
  await expect(page.locator('.kept')).toContainText('1 kept here')
  await expect(page.locator('.kept')).toContainText('All sent', {
    timeout: 20_000,
  })

  await page.getByRole('button', { name: '1 set aside' }).click()
  await expect(page.getByRole('dialog')).toContainText('Kind of entry: “reed” is no kind of entry')
  await page.getByRole('button', { name: 'Send again' }).click()
  await expect(page.getByRole('alert')).toContainText('“reed” is no kind of entry')
  await page.getByRole('button', { name: 'Take out' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await expect(page.getByRole('button', { name: /set aside/ })).toHaveCount(0)
  expect(complaints).toEqual([])
})

test('two devices change one survey: both are kept and a person chooses', async ({ page, house, browser }) => {
  await beginArea(page, house, 'Two devices', 'Shared room')
  await measureShower(page)
  await expect(page.locator('.kept')).toContainText('All sent', { timeout: 20_000 })
  const other = await (await browser.newContext()).newPage()
  await other.goto(page.url())
  await other.locator('.stage').first().getByRole('button').click()
  await page.locator('.stage').first().getByRole('button').click()
  for (const [device, height] of [
    [page, '1900'],
    [other, '2000'],
  ] as const) {
    await device.getByRole('button', { name: 'Correct this' }).click()
    await device.locator('[data-tap="ask.walls.b.height"]').click()
    await device.getByRole('textbox').fill(height)
    await device.keyboard.press('Enter')
    await expect(device.getByRole('heading', { name: 'Everything is measured' })).toBeVisible()
  }
  await mitre(page, 'Keep the survey').click()
  await mitre(other, 'Keep the survey').click()
  await other.getByRole('dialog').getByRole('button', { name: /Robin/ }).click()
  await page.getByRole('button', { name: 'Two versions' }).click({ timeout: 30_000 })
  await expect(page.getByRole('dialog').locator('.row')).toHaveCount(2)
  await page.getByRole('dialog').getByRole('button', { name: /Keep/ }).first().click()
  await expect(page.getByRole('button', { name: 'Two versions' })).toHaveCount(0)
  await page.locator('.stage').first().getByRole('button').click()
  await expect(page.locator('.row', { hasText: 'Membrane height of wall B' })).toContainText('1900 mm')
  await other.context().close()
})
