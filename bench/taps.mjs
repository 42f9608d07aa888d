// A tap in the built page on a job of 2,000 entries of all kinds over 40 surfaces: from the touch of
// "Keep" under a comb reading to the frame in which the count of readings has moved; what there is to buy
// of the made-up job; a system in hand; and how long a reload takes with no server. node bench/taps.mjs
import { execFileSync } from 'node:child_process'
import { open } from './house.mjs'

const TAPS = 15
const job = JSON.parse(execFileSync('go', ['run', './bench', 'mixed-job'], { maxBuffer: 1 << 28 }))
const { url, browser, close } = await open()
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
const page = await context.newPage()
page.setDefaultTimeout(20_000)
const median = (list) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)]

// What there is to buy of the made-up job, from the touch to the drawn shelf.
await page.goto(url)
const demo = await page.locator('a.row[href^="/job/"]').first().getAttribute('href')
const buying = []
for (let i = 0; i < 5; i++) {
  await page.goto(`${url}${demo}`)
  await page.locator('a[href$="/materials"]').first().waitFor()
  await page.evaluate(() => {
    document
      .querySelector('a[href$="/materials"]')
      .addEventListener('click', () => (window.tapped = performance.now()), { capture: true, once: true })
    window.painted = new Promise((resolve, reject) => {
      setTimeout(() => reject(new Error('no shelf')), 15_000)
      const look = () =>
        document.querySelector('.flat .tap')
          ? requestAnimationFrame(() => resolve(performance.now() - window.tapped))
          : requestAnimationFrame(look)
      look()
    })
  })
  await page.locator('a[href$="/materials"]').first().click()
  buying.push(await page.evaluate(() => window.painted))
}
console.log(
  `Materials of the made-up job, from the touch to the shelf (limit: 500 ms)\n  ${median(buying).toFixed(0)} ms (${Math.min(...buying).toFixed(0)} to ${Math.max(...buying).toFixed(0)} ms)`,
)

// A system in hand, from the touch of another number of coats to the redrawn section.
await page.goto(`${url}${demo}/system/sample.system.flexible_cementitious`)
await page.locator('.layer.film').first().waitFor()
await page
  .locator('.layer', { hasText: /^Membrane\s*whole field/ })
  .first()
  .click()
const drawn = []
for (let i = 0; i < TAPS; i++) {
  const coats = i % 2 ? 2 : 3
  drawn.push(
    await page.evaluate(
      (coats) =>
        new Promise((resolve, reject) => {
          setTimeout(() => reject(new Error('no section')), 15_000)
          const body = document.querySelector('.layer.chosen .body')
          const key = [...document.querySelectorAll('.side [role=radio]')].find(
            (e) => e.textContent.trim() === String(coats),
          )
          const began = performance.now()
          key.click()
          const look = () =>
            body.style.getPropertyValue('--coats').trim() === String(coats)
              ? requestAnimationFrame(() => resolve(performance.now() - began))
              : requestAnimationFrame(look)
          look()
        }),
      coats,
    ),
  )
}
console.log(
  `A system in hand, from the touch to the redrawn section (limit: 100 ms)\n  ${median(drawn).toFixed(0)} ms (${Math.min(...drawn).toFixed(0)} to ${Math.max(...drawn).toFixed(0)} ms)`,
)

// A reload without a server: everything is here.
await page.goto(url)
await page.evaluate(() => navigator.serviceWorker.ready)
await page.waitForTimeout(3000)
await page.reload()
await page.locator('a.row').first().waitFor()
await context.setOffline(true)
const reloads = []
for (let i = 0; i < 5; i++) {
  const begin = performance.now()
  await page.reload()
  await page.locator('a.row').first().waitFor()
  reloads.push(performance.now() - begin)
}
console.log(
  `A reload without a server until the jobs can be touched (limit: 0.7 s)\n  ${(median(reloads) / 1000).toFixed(2)} s (${(Math.min(...reloads) / 1000).toFixed(2)} to ${(Math.max(...reloads) / 1000).toFixed(2)} s)`,
)
await context.setOffline(false)

// A tap on a job of many entries.
for (let i = 0; i < job.entries.length; i += 200) {
  const batch = job.entries.slice(i, i + 200)
  const answer = await fetch(`${url}/api/jobs/${job.id}/entries`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ entries: batch }),
  })
  if (!answer.ok) throw new Error(`${answer.status}: ${await answer.text()}`)
}
await page.goto(`${url}/job/${job.id}/area/${job.area}/${job.stage}`)
await page
  .getByRole('button', { name: /Lay the second coat/ })
  .or(page.getByRole('tab', { name: /Lay the second coat/ }))
  .first()
  .click()
await page.getByRole('tab', { name: 'Read film' }).click()
const times = []
for (let i = 0; i < TAPS; i++) {
  const floor = page.locator('[data-tap="floor"]')
  await floor.focus()
  await page.keyboard.press('Enter')
  await page.locator('[data-tooth="4"]').click()
  await page.evaluate(() => {
    const keep = document.querySelector('.mitre')
    // Readings that lie on each other are one mark, whose words begin with how many they are.
    const counted = () =>
      [...document.querySelectorAll('[data-tap^="reading."]')].reduce(
        (sum, mark) => sum + (parseInt(mark.getAttribute('aria-label')) || 1),
        0,
      )
    const before = counted()
    window.tapped = 0
    keep.addEventListener('click', () => (window.tapped = performance.now()), { capture: true, once: true })
    window.painted = new Promise((resolve, reject) => {
      setTimeout(() => reject(new Error('no new reading')), 15_000)
      const look = () => {
        if (counted() > before) requestAnimationFrame(() => resolve(performance.now() - window.tapped))
        else requestAnimationFrame(look)
      }
      look()
    })
  })
  await page.locator('.mitre').click()
  if (i === 0) {
    await page.getByText('Crew lead', { exact: true }).click()
  }
  const took = await page.evaluate(() => window.painted)
  if (i > 0) times.push(took)
}
console.log(`Tap to new look on ${job.entries.length} entries (limit: 100 ms where 256 MiB are hashed in 0.78 s)`)
console.log(
  `  ${median(times).toFixed(0)} ms (${Math.min(...times).toFixed(0)} to ${Math.max(...times).toFixed(0)} ms, ${times.length} taps)`,
)

await close()
