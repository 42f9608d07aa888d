// The first load of the page: bytes over the wire by kind, and the time until the jobs can
// be touched, with an empty cache each time. node load.mjs
import { readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { open } from './house.mjs'

const RUNS = 5
const { url, browser, close } = await open()
const times = []
let bytes = {}
for (let run = 0; run < RUNS; run++) {
  const context = await browser.newContext({ serviceWorkers: 'block' })
  const page = await context.newPage()
  const cdp = await context.newCDPSession(page)
  await cdp.send('Network.enable')
  const kinds = new Map()
  bytes = {}
  cdp.on('Network.responseReceived', ({ requestId, response, type }) => {
    kinds.set(requestId, response.url.includes('/api/') ? 'api' : type.toLowerCase())
  })
  cdp.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const kind = kinds.get(requestId) ?? 'other'
    bytes[kind] = (bytes[kind] ?? 0) + encodedDataLength
  })
  const begin = performance.now()
  await page.goto(url)
  await page.locator('a.row').first().waitFor()
  times.push(performance.now() - begin)
  await page.waitForLoadState('networkidle').catch(() => {})
  await context.close()
}
await close()
// The core is fetched by a worker, whose traffic the page's session does not see.
const core = readdirSync('web/dist/assets').find((name) => name.endsWith('.wasm.br'))
bytes['core (WebAssembly)'] = statSync(join('web/dist/assets', core)).size
times.sort((a, b) => a - b)
console.log('First load of the page, empty cache, over loopback')
for (const [kind, size] of Object.entries(bytes).sort((a, b) => b[1] - a[1])) console.log(`  ${kind}: ${(size / 1024).toFixed(0)} KiB`)
console.log(`  for orientation: jobs can be touched after ${(times[2] / 1000).toFixed(2)} s (${(times[0] / 1000).toFixed(2)} to ${(times[4] / 1000).toFixed(2)} s, ${RUNS} runs)`)
