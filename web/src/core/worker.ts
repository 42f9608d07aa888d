// The WebAssembly door, in a worker: text in and text out. It keeps jobs folded, and begins the core anew
// where it stopped.
import './wasm_exec.js'
import { expose } from 'comlink'
import wasmUrl from './core.wasm?url'

declare global {
  var __core: (op: string, input: string) => string
  var __coreLoad: (job: string, entries: string) => string
  var __coreChange: (job: string, added: string, gone: string) => string
  var __coreDrop: (job: string) => string
  var __coreReady: () => void
}

async function start(): Promise<void> {
  const go = new Go()
  const ready = new Promise<void>((resolve) => {
    globalThis.__coreReady = resolve
  })
  const { instance } = await WebAssembly.instantiateStreaming(fetch(wasmUrl), go.importObject)
  void go.run(instance) // never resolves: the core stays
  await ready
}

/** What a core that stopped has answered. */
const STOPPED = JSON.stringify({ faults: [{ field: 'operation', key: 'core.stopped' }] })

let running: Promise<void> | undefined = start()

/** Asks the core, begun where it is not; one that stopped in it is begun anew, and keeps no job. */
async function ask(door: () => unknown): Promise<string> {
  const core = (running ??= start())
  try {
    await core
    const answer = door()
    if (typeof answer === 'string') return answer
  } catch (stopped) {
    console.warn(stopped)
  }
  if (running === core) running = undefined
  return STOPPED
}

const door = {
  ready: () => running?.catch(() => undefined), // whoever asks is told
  call: (op: string, input: string) => ask(() => globalThis.__core(op, input)),
  load: (job: string, entries: string) => ask(() => globalThis.__coreLoad(job, entries)),
  change: (job: string, added: string, gone: string) => ask(() => globalThis.__coreChange(job, added, gone)),
  drop: (job: string) => ask(() => globalThis.__coreDrop(job)),
}

export type Door = typeof door

expose(door)
