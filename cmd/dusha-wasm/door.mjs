// Calls the core through its WebAssembly door, for the test that the doors agree: reads
// lines of {"op", "in"} from standard input and prints the door's answer to each, or with
// "timed" how many ms it took.
// node door.mjs WASM_EXEC_JS CORE_WASM
import { readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'
import { pathToFileURL } from 'node:url'

const [, , glue, core] = process.argv
await import(pathToFileURL(glue).href)
const go = new globalThis.Go()
const ready = new Promise((resolve) => (globalThis.__coreReady = resolve))
const { instance } = await WebAssembly.instantiate(readFileSync(core), go.importObject)
void go.run(instance)
await ready
for await (const line of createInterface({ input: process.stdin })) {
  const { op, in: input, timed } = JSON.parse(line)
  const begin = performance.now()
  const said = globalThis.__core(op, input)
  const answer = (timed ? performance.now() - begin : said) + '\n'
  await new Promise((resolve) => process.stdout.write(answer, resolve)) // a pipe takes its time
}
process.exit(0)
