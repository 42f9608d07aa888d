// The first load of the page: bytes over the wire by kind, and the time until the jobs can
// be touched, with an empty cache each time. node load.mjs
import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const { chromium } = createRequire(new URL('../web/package.json', import.meta.url))('@playwright/test')
const RUNS = 5
const folder = mkdtempSync(join(tmpdir(), 'dusha-load-'))
const server = spawn('.build/dusha', ['demo', '--folder', folder, '--listen', '127.0.0.1:0'])
const url = await new Promise((resolve, reject) => {
  server.stdout.on('data', (text) => {
    const found = /Dusha is at (\S+)/.exec(String(text))
    if (found) resolve(found[1])
  })
  server.on('exit', () => reject(new Error('the server ended')))
})
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
})
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
await browser.close()
server.kill('SIGTERM')
await new Promise((resolve) => server.once('exit', resolve))
rmSync(folder, { recursive: true, force: true })
// The core is fetched by a worker, whose traffic the page's session does not see.
const core = readdirSync('web/dist/assets').find((name) => name.endsWith('.wasm.gz'))
bytes['core (WebAssembly)'] = statSync(join('web/dist/assets', core)).size
times.sort((a, b) => a - b)
console.log('First load of the page, empty cache, over loopback')
for (const [kind, size] of Object.entries(bytes).sort((a, b) => b[1] - a[1])) console.log(`  ${kind}: ${(size / 1024).toFixed(0)} KiB`)
console.log(`  for orientation: jobs can be touched after ${(times[2] / 1000).toFixed(2)} s (${(times[0] / 1000).toFixed(2)} to ${(times[4] / 1000).toFixed(2)} s, ${RUNS} runs)`)
