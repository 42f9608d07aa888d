// Cutting in the page: the largest tasks of the fixed set through the worker that the page itself
// uses, in slices as it asks for them. node bench/cut.mjs
import { execFileSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { open } from './house.mjs'

const STEPS = 2_000_000
const SLICE = 100_000
const set = JSON.parse(execFileSync('go', ['run', './bench', 'cutting-set'], { maxBuffer: 1 << 26 }))
const { url, browser, close } = await open()
const page = await browser.newPage()
await page.goto(url)
const script = readdirSync('web/dist/assets').find((name) => /^worker-.*\.js$/.test(name))
const solve = (bands) =>
  page.evaluate(
    async ({ script, bands, STEPS, SLICE }) => {
      window.cutter ??= new Worker(`/assets/${script}`, { type: 'module' })
      const call = (input) =>
        new Promise((resolve) => {
          const id = String(Math.random())
          const hear = ({ data }) => {
            if (data?.id !== id) return
            window.cutter.removeEventListener('message', hear)
            resolve(JSON.parse(data.value).out)
          }
          window.cutter.addEventListener('message', hear)
          const argumentList = ['cutting.bands', JSON.stringify(input)].map((value) => ({ type: 'RAW', value }))
          window.cutter.postMessage({ id, type: 'APPLY', path: ['call'], argumentList })
        })
      await call({ ...bands, steps: 0 }) // the core is there
      const begin = performance.now()
      let cut = await call({ ...bands, steps: 0 })
      const first = performance.now() - begin
      while (cut.from && cut.steps < STEPS) cut = await call({ ...bands, steps: SLICE, from: cut.from })
      return { first, all: performance.now() - begin, runs: bands.runs.length, rolls: cut.rolls, bound: cut.lower_bound_rolls }
    },
    { script, bands, STEPS, SLICE },
  )
console.log('Bands in the page, for orientation: first plan, then all steps')
for (const at of [10, 20, 30, 40, 49]) {
  const cut = await solve(set[at])
  console.log(`  ${cut.runs} runs: ${(cut.first / 1000).toFixed(2)} s, ${(cut.all / 1000).toFixed(2)} s; ${cut.rolls} rolls, bound ${cut.bound}`)
}
await close()
