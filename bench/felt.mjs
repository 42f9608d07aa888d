// How a page feels: from the touch that leads to a view until its frame stands and until its content does, on the
// made-up job, as the machine is and with its page slowed four times. node bench/felt.mjs
import { open } from './house.mjs'

const RUNS = 7
const { url, browser, close } = await open()
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
const page = await context.newPage()
page.setDefaultTimeout(20_000)
const cdp = await context.newCDPSession(page)
const median = (list) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)]

await page.goto(url)
await page.locator('a.row[href^="/job/"]').first().waitFor()
const job = await page.locator('a.row[href^="/job/"]').first().getAttribute('href')
await page.goto(url + job)
const area = await page.locator('a.area', { hasText: 'Shower room 1' }).getAttribute('href')
const cut = area.replace('/area/', '/cut/')

/** From where, what is touched, and what of the view's content is waited for. */
const views = [
  ['Jobs', job, 'a[href="/"]', 'a.row[href^="/job/"] svg path'],
  ['A job', '/', `a[href="${job}"]`, 'a.area svg path'],
  ['Now', job, 'a[href$="/now"]', '.now-row, .hung li'],
  ['Waits', `${job}/now`, 'a[href$="/waits"]', '.wait-row'],
  ['To buy', job, 'a[href$="/materials"]', '.flat .tap'],
  ['Sheets', job, 'a[href$="/sheets"]', '.row'],
  ['An area', job, `a.area[href="${area}"]`, '.split [data-tap]'],
  ['Survey', area, '.stage:nth-child(1) button', '.stage.shown:nth-child(1)', '.split [data-tap]'],
  ['Plan', area, '.stage:nth-child(2) button', '.figure'],
  ['Detail', area, '.stage:nth-child(4) button', '.stage.shown:nth-child(4)', '.split [data-tap]'],
  ['Cut', area, `a[href="${cut}"]`, '.rolls [data-tap], .rolls svg path'],
]

async function measure([, , press, ...contents]) {
  await page.locator(press).first().waitFor({ state: 'attached' })
  await page.waitForTimeout(300)
  await page.evaluate(
    ([press, contents]) => {
      const stage = () => document.querySelector('.stage.shown')?.textContent ?? ''
      const before = location.pathname + stage()
      const target = document.querySelector(press)
      window.felt = new Promise((resolve, reject) => {
        setTimeout(() => reject(new Error(`nothing came of ${press}`)), 15_000)
        target.addEventListener(
          'click',
          () => {
            const tapped = performance.now()
            let frame = 0
            const look = () => {
              const there = location.pathname + stage() !== before && document.querySelector('.frame h1')
              if (there && !frame) frame = performance.now() - tapped
              if (there && contents.every((each) => document.querySelector(each)))
                requestAnimationFrame(() => resolve({ frame, content: performance.now() - tapped }))
              else requestAnimationFrame(look)
            }
            look()
          },
          { capture: true, once: true },
        )
      })
      target.click()
    },
    [press, contents],
  )
  return page.evaluate(() => window.felt)
}

for (const [slowed, most] of [
  [1, 500],
  [4, 1500],
]) {
  console.log(
    `From a touch to the frame and to the content of a view${slowed > 1 ? `, the page slowed ${slowed} times` : ''} (limits: 100 and ${most} ms where 256 MiB are hashed in 0.78 s)`,
  )
  for (const view of views) {
    const frames = []
    const contents = []
    for (let run = 0; run < RUNS; run++) {
      await page.goto(url + view[1])
      await page.waitForLoadState('networkidle')
      await page.waitForTimeout(400)
      await cdp.send('Emulation.setCPUThrottlingRate', { rate: slowed })
      const took = await measure(view)
      await cdp.send('Emulation.setCPUThrottlingRate', { rate: 1 })
      frames.push(took.frame)
      contents.push(took.content)
    }
    const over = median(contents) > most || median(frames) > 100 * slowed ? '  over' : ''
    console.log(
      `  ${view[0].padEnd(8)} ${median(frames).toFixed(0)} ms, ${median(contents).toFixed(0)} ms (${Math.min(...contents).toFixed(0)} to ${Math.max(...contents).toFixed(0)})${over}`,
    )
  }
}
await close()
