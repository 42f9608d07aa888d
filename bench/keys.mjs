// Typing a survey: 50 keystrokes at human pace on an area of 40 surfaces, in the built page.
// For each the script time on the page's main thread and the time from the key to the painted
// net; every keystroke has to be answered. node bench/keys.mjs
import { open } from './house.mjs'

const KEYS = 50
const PACE = 180 // ms between keys: a quick hand on a pad
const { url, browser, close } = await open()
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(url)
await page.getByRole('button', { name: /New job/ }).click()
await page.getByLabel('Name of the job').fill('Keys')
await page.getByRole('button', { name: 'Begin job' }).click()
await page.getByLabel('Name', { exact: true }).fill('Robin')
await page.getByRole('button', { name: 'Add', exact: true }).click()
await page.getByRole('button', { name: /Measure a wet area/ }).click()
await page.getByLabel('Name of the wet area').fill('Hall')
await page.getByRole('dialog').getByRole('button', { name: 'Measure a wet area' }).click()
await page.getByRole('radio', { name: /Any other room/ }).click()
await page.getByRole('radio', { name: 'Corner points' }).click()
// 9 bays: 40 walls and the floor.
const points = []
for (let i = 0; i < 9; i++) points.push([i * 2000, 0], [i * 2000 + 1000, 0], [i * 2000 + 1000, 900], [i * 2000 + 2000, 900])
points.push([18000, 0], [19500, 0], [19500, 4000], [0, 4000])
await page.locator('textarea').fill(points.map((p) => p.join(' ')).join('; '))
await page.getByRole('button', { name: 'Enter' }).click().catch(() => {})
await page.locator('.mitre').click().catch(() => {})
await page.getByRole('heading', { name: 'Membrane height, all walls' }).waitFor()
const input = page.locator('.pad input')
await input.fill('2100')
await page.waitForTimeout(1500)
const surfaces = await page.locator('.left [data-tap^="wall."], .left [data-tap="floor"]').count()
if (surfaces < 40) throw new Error(`only ${surfaces} surfaces are drawn`)

// Times each key to the frame in which the net that follows from it was painted.
await page.evaluate(() => {
  const svg = document.querySelector('.left svg.net')
  window.keys = []
  let pending = []
  document.querySelector('.pad input').addEventListener('input', () => pending.push(performance.now()), true)
  new MutationObserver(() => {
    const due = pending
    pending = []
    if (due.length) requestAnimationFrame(() => setTimeout(() => due.forEach((at) => window.keys.push(performance.now() - at))))
  }).observe(svg, { subtree: true, childList: true, attributes: true, characterData: true })
})
const cdp = await page.context().newCDPSession(page)
await cdp.send('Performance.enable')
const script = async () => (await cdp.send('Performance.getMetrics')).metrics.find((m) => m.name === 'ScriptDuration').value * 1000
const scripts = []
await input.focus()
for (let i = 0; i < KEYS; i++) {
  const before = await script()
  await page.keyboard.press(i % 2 ? 'Backspace' : String((i * 7) % 10))
  await page.waitForTimeout(PACE)
  scripts.push((await script()) - before)
}
await page.waitForTimeout(1000)
const painted = await page.evaluate(() => window.keys)
await close()
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]
const quartile = (list, q) => [...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * q)]
const line = (name, list, most) =>
  console.log(`  ${name}: median ${median(list).toFixed(1)} ms (${quartile(list, 0.25).toFixed(1)} to ${quartile(list, 0.75).toFixed(1)}), asked ${most} ms at most`)
console.log(`Typing on an area of ${surfaces} surfaces, ${KEYS} keystrokes ${PACE} ms apart`)
line('script on the main thread', scripts, 16)
line('from the key to the painted net', painted, 100)
console.log(`  keystrokes answered: ${painted.length} of ${KEYS}`)
